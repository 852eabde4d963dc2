<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import Mark from '$lib/ui/Mark.svelte'
  import { dayAndYear } from '$lib/weeks'
  import { codeName } from '$lib/words'
  import { holdKind } from './words'

  let { held }: { held: Schema['Held'][] } = $props()
</script>

<ul>
  {#each held as one (`${one.id} ${one.process}`)}
    {@const kind = holdKind(one.keeping.kind)}
    <li class="border-t first:border-t-0">
      <a class="grid min-h-14 grid-cols-[1.8rem_1fr] items-center gap-x-3 py-1" href="/certificates/{one.id}">
        <Mark of={kind.of} label={kind.name} />
        <span class="min-w-0 leading-tight"
          ><b>{one.process}</b> by {codeName(one.code)}
          <span class="text-(--soft)"
            >{one.testId ? `${one.testId}, ` : ''}{one.positions.join(', ')}{one.outside
              ? ', from outside'
              : ''}</span
          >
          <span class="block {one.keeping.kind === 'holds' ? 'text-(--soft)' : 'font-semibold'}"
            >{one.keeping.kind === 'ended' ? 'Ended' : 'Holds until'}
            {dayAndYear(one.keeping.endsOn)}; {one.keeping.renewBy === one.keeping.endsOn &&
            one.keeping.useBy !== one.keeping.endsOn
              ? 'then renewed by its route'
              : `last used ${dayAndYear(one.keeping.lastUsedOn)}`}</span
          ></span
        >
      </a>
    </li>
  {/each}
</ul>
