<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import Mark from '$lib/ui/Mark.svelte'
  import { shortDay } from '$lib/weeks'
  import { sittingState, turnName } from './words'

  /** Narrow: it stands in a column, and everything goes one under the other. */
  let {
    rows,
    withName = true,
    narrow = false,
  }: { rows: Schema['SittingRow'][]; withName?: boolean; narrow?: boolean } = $props()
</script>

<ul>
  {#each rows as row (row.id)}
    {@const state = sittingState(row.state)}
    <li class="border-t first:border-t-0">
      <a
        class="grid min-h-14 grid-cols-[1.8rem_minmax(0,1fr)] items-center gap-x-3 py-1.5 {narrow
          ? ''
          : 'md:grid-cols-[1.8rem_11rem_minmax(0,1fr)_14rem]'}"
        href="/sittings/{row.id}"
      >
        <Mark of={state.of} label={state.name} />
        <span class="leading-tight"
          ><b>{shortDay(row.day)}</b>, {row.periodName.toLowerCase()}<span class="block text-sm text-(--soft)"
            >{state.name}{row.turn === 'first' ? '' : `, ${turnName(row.turn).toLowerCase()}`}</span
          ></span
        >
        <span class="min-w-0 leading-tight {narrow ? 'col-start-2' : 'max-md:col-start-2'}"
          >{#if withName}<b class="block break-words">{row.studentName}</b>{/if}<span class="number text-lg"
            >{row.testId}</span
          > <span class="text-(--soft)">{row.title}</span></span
        >
        <span class="text-sm leading-tight text-(--soft) {narrow ? 'col-start-2' : 'max-md:col-start-2'}"
          >{row.booth ? `Booth ${row.booth}` : 'No booth yet'}{row.inspector
            ? `, ${row.inspector}`
            : ''}{row.why ? `. ${row.why}` : ''}{row.certificateId ? '. Certified' : ''}</span
        >
      </a>
    </li>
  {/each}
</ul>
