<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { percent } from '$lib/words'
  import AdviceMark from './AdviceMark.svelte'
  import BandLine from './BandLine.svelte'
  import WaySpark from './WaySpark.svelte'

  let { rows }: { rows: Schema['ReadyRow'][] } = $props()
  const NAMES: Record<Schema['ReadyGroup'], string> = {
    decide: 'Decide now',
    practise: 'Practise first',
    notYet: 'Not yet',
    toSit: 'To sit',
    passed: 'Passed',
  }
  const groups = $derived([...Map.groupBy(rows, (row) => row.group)])
</script>

<div class="ready">
  <div class="cells heads" aria-hidden="true">
    <span>Student</span><span>Target</span><span class="text-right">Chance</span><span>to pass</span>
    <span><b class="dot"></b> clean <b class="square"></b> fault</span><span></span><span
      >Advice, and why</span
    ><span></span>
  </div>
  {#each groups as [group, own] (group)}
    <section aria-labelledby="group-{group}">
      <h2 id="group-{group}">
        {NAMES[group]} <span class="number block text-3xl text-(--soft)">{own.length}</span>
      </h2>
      <ul>
        {#each own as row (`${row.studentId} ${row.testId}`)}
          <li>
            <a
              class="cells row"
              href="/students/{row.studentId}/decide/{row.testId}"
              aria-label="{row.studentName}, {row.testId}: {row.says}. {row.why}"
            >
              <span class="name">{row.studentName}</span>
              <span class="target"
                ><b class="number text-lg">{row.testId}</b>
                <span class="text-(--soft)">{row.testShort}</span></span
              >
              <span class="number chance"
                >{#if row.tooLittleToTell}<span class="text-(--soft)">?</span>{:else}{percent(
                    row.passing.mean,
                  )}{/if}</span
              >
              <span class="band"
                ><BandLine passing={row.passing} bar={row.bar} unclear={row.tooLittleToTell} /></span
              >
              <span class="spark"
                >{#if row.way.length}<WaySpark way={row.way} />{/if}</span
              >
              <span class="mark"><AdviceMark kind={row.advised} takeBack={row.takeBack} /></span>
              <span class="advice"
                ><strong class="block">{row.says}</strong><span class="block text-sm text-(--soft)"
                  >{row.why}</span
                ></span
              >
              <svg viewBox="0 0 10 16" class="w-2.5 max-md:hidden" fill="none" aria-hidden="true"
                ><path d="M1.5 1.5L8 8L1.5 14.5" stroke="var(--soft)" stroke-width="2" /></svg
              >
            </a>
          </li>
        {/each}
      </ul>
    </section>
  {/each}
</div>

<style>
  .ready {
    --group: 6.4rem;
  }
  .cells {
    display: grid;
    grid-template-columns:
      minmax(8rem, 1fr) 7.6rem 3.4rem minmax(7rem, 1.1fr) 8.6rem 1.7rem minmax(15rem, 2.3fr)
      1rem;
    align-items: center;
    column-gap: 0.65rem;
  }
  .heads {
    padding: 0.1rem 0.4rem;
    margin-left: var(--group);
    color: var(--soft);
    font-size: var(--text-sm);
    font-weight: 600;
  }
  .dot {
    display: inline-block;
    width: 9px;
    height: 9px;
    border-radius: 9px;
    background: var(--blue);
  }
  .square {
    display: inline-block;
    width: 10px;
    height: 10px;
    margin-left: 0.6rem;
    border: 2px solid var(--caution);
  }
  section {
    display: grid;
    grid-template-columns: var(--group) 1fr;
    border-top: 2px solid var(--steel-edge);
  }
  h2 {
    padding-top: 0.45rem;
    font-size: 1.06rem;
    line-height: 1.2;
  }
  li + li {
    border-top: 1px solid var(--line);
  }
  .row {
    min-height: 46px;
    padding: 0.1rem 0.4rem;
    line-height: 1.22;
  }
  .row:hover {
    background: var(--sheet);
  }
  .name {
    font-weight: 700;
  }
  .chance {
    font-size: 1.5rem;
    text-align: right;
    white-space: nowrap;
  }
  @media (max-width: 63.99rem) {
    .ready {
      --group: 0rem;
    }
    section {
      display: block;
    }
    h2 {
      display: flex;
      align-items: baseline;
      gap: 0.6rem;
      padding-bottom: 0.2rem;
    }
    .cells {
      grid-template-columns: minmax(7rem, 1fr) 3.4rem 7rem 1.7rem minmax(0, 2fr);
      grid-template-areas: 'name chance band mark advice' 'target chance band mark advice';
      align-content: center;
    }
    .name {
      grid-area: name;
      align-self: end;
    }
    .target {
      grid-area: target;
      align-self: start;
    }
    .chance {
      grid-area: chance;
    }
    .band {
      grid-area: band;
    }
    .mark {
      grid-area: mark;
    }
    .advice {
      grid-area: advice;
    }
    .heads,
    .spark,
    .cells > svg {
      display: none;
    }
  }
  @media (max-width: 39.99rem) {
    .cells {
      grid-template-columns: 1.7rem 1fr auto;
      grid-template-areas: 'name name chance' 'target target band' 'mark advice advice';
    }
    .band {
      width: 7rem;
    }
  }
</style>
