<script lang="ts">
  import { SvelteSet } from 'svelte/reactivity'
  import type { Schema } from '$lib/api/client'
  import { inUnits } from '$lib/units.svelte'
  import { say } from './say'

  /** What is asked before the arc. A yes is said only by a tap; a no says what to mend, and holds the coach until it is. */
  type Props = {
    asks: Schema['PreflightAsk'][]
    onanswer: (no: string[]) => void
    open?: boolean
  }
  let { asks, onanswer, open = $bindable(false) }: Props = $props()
  const yes = new SvelteSet<string>()
  const no = new SvelteSet<string>()
  function answer(id: string, isYes: boolean) {
    yes.delete(id)
    no.delete(id)
    ;(isYes ? yes : no).add(id)
    if (yes.size + no.size === asks.length) onanswer([...no])
  }
</script>

<details class="sheet border-l-4 border-(--straw)" bind:open>
  <summary class="flex min-h-[52px] cursor-pointer items-center gap-3 px-3">
    <strong>{say('before_arc')}</strong>
    <span class="text-(--soft)">{say('questions', { count: asks.length })}</span>
  </summary>
  <ul class="px-3">
    {#each asks as one (one.id)}
      <li class="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-(--line) py-2">
        <p class="min-w-[14rem] flex-1 leading-snug">
          {inUnits(one.ask)}
          {#if no.has(one.id)}<strong class="block">{inUnits(one.mend)}</strong><span class="text-(--soft)"
              >{inUnits(one.why)}</span
            >{/if}
        </p>
        <span class="flex gap-1.5">
          <button
            class="plate"
            aria-pressed={yes.has(one.id)}
            aria-label="{say('yes')}: {one.ask}"
            onclick={() => answer(one.id, true)}>{say('yes')}</button
          >
          <button
            class="plate"
            aria-pressed={no.has(one.id)}
            aria-label="{say('no')}: {one.ask}"
            onclick={() => answer(one.id, false)}>{say('no')}</button
          >
        </span>
      </li>
    {/each}
  </ul>
  <div class="p-3 pt-1">
    <button class="plate w-full" onclick={() => onanswer([...no])}>{say('all_yes')}</button>
  </div>
</details>
