<script lang="ts">
  import { notices } from '$lib/notices.svelte'
</script>

<div class="fixed right-4 bottom-4 z-50 flex max-w-md flex-col gap-2" role="status" aria-live="polite">
  {#each notices.list as notice (notice.id)}
    <div
      class="flex items-center gap-3 border-l-4 bg-(--ink) px-4 py-1.5 text-(--page) shadow-lg"
      style:border-left-color={notice.tone === 'caution' ? 'var(--caution)' : 'var(--straw)'}
    >
      <span class="grow"
        >{#if notice.tone === 'caution'}<strong>Not done. </strong>{/if}{notice.text}</span
      >
      {#if notice.undo}
        <button
          class="tap border-(--page) bg-transparent text-(--page)"
          onclick={() => {
            notices.drop(notice.id)
            notices.attempt(notice.undo!)
          }}>Undo</button
        >
      {/if}
      <button
        class="tap border-transparent bg-transparent text-(--page)"
        aria-label="Put away"
        onclick={() => notices.drop(notice.id)}>✕</button
      >
    </div>
  {/each}
</div>
