<script lang="ts">
  import { foot } from '$lib/ui/foot.svelte'
  import { notices } from '$lib/notices.svelte'
</script>

<!-- One line at the foot, side by side, so that it never lies on the button that is tapped next; the page scrolls clear of it. -->
<div
  class="pointer-events-none fixed inset-x-0 z-50 flex flex-row-reverse items-end gap-2 px-2 pb-1"
  style:bottom="{foot.px}px"
  role="status"
  aria-live="polite"
>
  {#each [...notices.list].reverse() as notice, index (notice.id)}
    <div
      class="pointer-events-auto items-center gap-3 border-l-4 bg-(--ink) px-3 py-0.5 text-(--page) shadow-lg {index ===
      0
        ? 'flex'
        : 'hidden xl:flex'}"
      style:border-left-color={notice.tone === 'caution' ? 'var(--caution)' : 'var(--straw)'}
    >
      <span class="grow"
        >{#if notice.tone === 'caution'}<strong>Not done. </strong>{/if}{notice.text}</span
      >
      {#if notice.undo}
        <button
          class="bare px-2 text-(--page)"
          onclick={() => {
            notices.drop(notice.id)
            notices.attempt(notice.undo!)
          }}>Undo</button
        >
      {/if}
      <button
        class="min-h-[48px] min-w-[48px] text-(--page)"
        aria-label="Put away"
        onclick={() => notices.drop(notice.id)}>✕</button
      >
    </div>
  {/each}
</div>
