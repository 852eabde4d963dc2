<script lang="ts">
  import { clockText, ticking } from '$lib/ticking.svelte'

  let { since, small = false }: { since: string; small?: boolean } = $props()
  const FULL_MS = 10 * 60_000
  const ms = $derived(Math.max(0, ticking.now - new Date(since).getTime()))
  // Fills in ten minutes and stays full.
  const angle = $derived(Math.min(1, ms / FULL_MS) * 2 * Math.PI)
  const edge = $derived(`${12 + 8.5 * Math.sin(angle)} ${12 - 8.5 * Math.cos(angle)}`)
</script>

<span class="inline-flex items-center gap-2 whitespace-nowrap">
  <svg viewBox="0 0 24 24" class={small ? 'w-5' : 'w-8'} aria-hidden="true">
    <circle cx="12" cy="12" r="10.5" fill="var(--sheet)" stroke="var(--ink)" stroke-width="2" />
    {#if ms >= FULL_MS}
      <circle cx="12" cy="12" r="8.5" fill="var(--bronze)" />
    {:else}
      <path d="M12 12V3.5A8.5 8.5 0 {angle > Math.PI ? 1 : 0} 1 {edge}Z" fill="var(--bronze)" />
    {/if}
  </svg>
  <span class="number {small ? 'text-xl' : 'text-2xl'}">{clockText(ms)}</span>
</span>
