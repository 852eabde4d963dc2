<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { chanceSentence, percent } from '$lib/words'

  let { chance, slim = false }: { chance: Schema['ChanceView']; slim?: boolean } = $props()
  const known = $derived(!chance.tooLittleToTell)
</script>

<!-- The band is where the truth lies with 90 %, the notch is the best guess; a dashed band says too little to tell. -->
<div class="flex items-center gap-3" role="img" aria-label={chanceSentence(chance)}>
  <span class="number w-20 shrink-0 text-right whitespace-nowrap {slim ? 'text-2xl' : 'text-4xl'}">
    {#if known}{percent(chance.mean)}{:else}<span class="text-(--soft)">?</span>{/if}
  </span>
  <svg viewBox="0 0 200 22" class="h-6 w-full min-w-24" preserveAspectRatio="none" aria-hidden="true">
    <rect x="0" y="8" width="200" height="6" fill="var(--line)" />
    {#if chance.coupons > 0}
      <rect
        x={chance.lower * 200}
        y="3"
        width={Math.max(2, (chance.upper - chance.lower) * 200)}
        height="16"
        fill={known ? 'var(--blue)' : 'none'}
        fill-opacity={known ? 0.32 : 0}
        stroke={known ? 'var(--blue)' : 'var(--cold)'}
        stroke-dasharray={known ? undefined : '5 4'}
        vector-effect="non-scaling-stroke"
      />
      {#if known}<rect x={chance.mean * 200 - 1.5} y="0" width="3" height="22" fill="var(--ink)" />{/if}
    {/if}
  </svg>
</div>
