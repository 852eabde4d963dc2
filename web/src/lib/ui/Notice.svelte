<script lang="ts">
  import type { Snippet } from 'svelte'
  import Mark, { type MarkOf } from './Mark.svelte'

  /** A band that says one thing: straw waits, blue is done, red fails or warns of harm. */
  type Props = { tone: 'waits' | 'done' | 'fails' | 'caution'; children: Snippet; acts?: Snippet }
  let { tone, children, acts }: Props = $props()
  const LOOKS = {
    waits: ['--straw-ground', '--straw'],
    done: ['--done-ground', '--blue'],
    fails: ['--caution-ground', '--caution'],
    caution: ['--caution-ground', '--caution'],
  } as const
  const MARKS: Record<Props['tone'], MarkOf> = {
    waits: 'next',
    done: 'clean',
    fails: 'fault',
    caution: 'caution',
  }
</script>

<div
  class="flex flex-wrap items-center gap-x-4 gap-y-1 border-l-8 px-4 py-2"
  style:background="var({LOOKS[tone][0]})"
  style:border-color="var({LOOKS[tone][1]})"
>
  <span class="flex min-w-0 grow items-baseline gap-3"
    ><Mark of={MARKS[tone]} /><span class="min-w-0">{@render children()}</span></span
  >
  {#if acts}<span class="flex flex-wrap gap-2">{@render acts()}</span>{/if}
</div>
