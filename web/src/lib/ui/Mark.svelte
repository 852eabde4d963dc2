<script lang="ts" module>
  export type MarkOf = 'laid' | 'done' | 'next' | 'open' | 'clean' | 'fault' | 'caution' | 'out' | 'kept'
</script>

<script lang="ts">
  // Every state has a shape of its own beside its colour.
  let { of, label }: { of: MarkOf; label?: string } = $props()
  const BEAD = 'M1 15V8Q1 3 6 2.4Q12 1.4 18 2.4Q23 3 23 8V15Z'
</script>

<svg
  viewBox="0 0 24 16"
  class="inline-block h-4 w-6 shrink-0"
  role={label ? 'img' : undefined}
  aria-label={label}
  aria-hidden={label ? undefined : 'true'}
>
  {#if of === 'laid'}
    <path d={BEAD} fill="var(--bronze)" />
  {:else if of === 'done'}
    <path d={BEAD} fill="var(--blue)" />
  {:else if of === 'next'}
    <path d={BEAD} fill="var(--straw)" stroke="var(--ink)" stroke-width="2" stroke-dasharray="3 2" />
  {:else if of === 'open'}
    <path d={BEAD} fill="none" stroke="var(--cold)" stroke-width="1.3" stroke-dasharray="2.5 2" />
  {:else if of === 'clean'}
    <path d="M5 8.5L10 13L20 2.5" fill="none" stroke="var(--blue)" stroke-width="2.6" />
  {:else if of === 'fault'}
    <path d="M2 2H8L12 8L16 2H22V15H2Z" fill="var(--caution)" />
  {:else if of === 'caution'}
    <path
      d="M12 1.2L21 14.8H3Z"
      fill="none"
      stroke="var(--caution)"
      stroke-width="1.8"
      stroke-linejoin="round"
    />
    <path d="M12 5.5V10M12 11.6V13.2" stroke="var(--caution)" stroke-width="1.9" />
  {:else if of === 'kept'}
    <path
      d="M4 9V14.5H20V9M12 11V1.5M7.5 5.5L12 1.2L16.5 5.5"
      fill="none"
      stroke="var(--straw-ink)"
      stroke-width="2"
    />
  {:else}
    <path d="M6 2L18 14M18 2L6 14" stroke="currentColor" stroke-width="2.4" />
  {/if}
</svg>
