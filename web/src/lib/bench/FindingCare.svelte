<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { repairName, repairs } from '$lib/words'

  type Props = {
    finding: Schema['FindingView']
    grinder: Schema['GrinderRule']
    asTest: boolean
    closed: boolean
    oncause: (causeId: string) => void
    onrepair: (action: Schema['RepairAction']) => void
  }
  let { finding, grinder, asTest, closed, oncause, onrepair }: Props = $props()

  const GRINDING: Schema['RepairAction'][] = ['grind', 'taper', 'cutOutAndRegap']
  const forbidden = (action: Schema['RepairAction']) =>
    asTest &&
    ((GRINDING.includes(action) && (grinder === 'none' || grinder === 'fileOnly')) ||
      (action === 'file' && grinder === 'none'))
</script>

{#if finding.causes.length}
  <p class="eyebrow mt-1">Why, most likely first</p>
  <ul class="flex flex-col gap-1">
    {#each finding.causes as cause (cause.id)}
      <li>
        <button
          class="tap w-full flex-col items-start gap-0 px-3 text-left"
          aria-pressed={finding.chosenCause === cause.id}
          disabled={closed}
          onclick={() => oncause(cause.id)}
        >
          <span>{cause.cause}</span>
          {#if cause.grounds.length}<span class="text-sm font-normal">{cause.grounds.join(' ')}</span>{/if}
          <span class="text-sm font-normal opacity-85">{cause.cure}</span>
        </button>
      </li>
    {/each}
  </ul>
{/if}
<p class="eyebrow mt-1">
  Done about it{finding.repairs.length
    ? `: ${finding.repairs.map((one) => repairName(one.action).toLowerCase()).join(', ')}`
    : ''}
</p>
{#if !closed}
  <div class="flex flex-wrap gap-1">
    {#each repairs as action (action)}
      <button
        class="tap px-2 text-sm"
        aria-label="{repairName(action)}{forbidden(action) ? ', which this sitting forbids' : ''}"
        class:line-through={forbidden(action)}
        onclick={() => onrepair(action)}>{repairName(action)}</button
      >
    {/each}
  </div>
{/if}
