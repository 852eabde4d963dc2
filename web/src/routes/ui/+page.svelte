<script lang="ts">
  import FaultGlyph from '$lib/drawings/FaultGlyph.svelte'
  import ChanceBand from '$lib/parts/ChanceBand.svelte'
  import Dialog from '$lib/ui/Dialog.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { session } from '$lib/session.svelte'
  import Fold from '$lib/ui/Fold.svelte'
  import LimitRuler from '$lib/ui/LimitRuler.svelte'
  import Mark from '$lib/ui/Mark.svelte'
  import Menu from '$lib/ui/Menu.svelte'
  import Notice from '$lib/ui/Notice.svelte'
  import Tabs from '$lib/ui/Tabs.svelte'
  import WaitClock from '$lib/ui/WaitClock.svelte'

  // The parts of the interface in all their states: docs/design.md in front of one's eyes. In the demo school only.
  const MARKS = ['laid', 'next', 'open', 'clean', 'fault', 'caution', 'out', 'kept'] as const
  const COLOURS = [
    'page',
    'sheet',
    'plate',
    'ink',
    'soft',
    'cold',
    'straw',
    'straw-ink',
    'bronze',
    'blue',
    'caution',
  ]
  const TABS = [
    { id: 'root', name: 'Root' },
    { id: 'fill', name: 'Fill' },
    { id: 'cap', name: 'Cap' },
  ] as const
  let tab = $state<(typeof TABS)[number]['id']>('fill')
  let depth = $state<number | null>(1.190625)
  let toe = $state('upper')
  let asked = $state(false)
  const since = new Date(Date.now() - 4 * 60_000).toISOString()
</script>

<svelte:head><title>Parts · Gradus</title></svelte:head>

{#if !session.view?.school?.isDemo}
  <Waiting
    error={new Error('The parts are shown in the demo school only.')}
    retry={() => location.reload()}
    what="This page"
  />
{:else}
  <h1 class="pt-3 text-3xl">Parts</h1>
  <div class="grid gap-x-10 gap-y-6 pt-3 lg:grid-cols-2">
    <section>
      <h2 class="border-b pb-1 text-xl">Type</h2>
      <p class="text-[60px] leading-tight font-bold">Test now</p>
      <p class="text-[2.4rem] leading-tight font-bold">Fill 3b</p>
      <p class="text-3xl font-bold">Page</p>
      <p class="text-xl font-bold">Head</p>
      <p>Words of the body. <span class="text-sm text-(--soft)">Beside them, the least.</span></p>
      <p class="number text-[2.6rem]">107 A</p>
      <p><span class="number text-2xl">87 % 4:12</span> <span class="stamp">AARAR</span></p>
    </section>
    <section>
      <h2 class="border-b pb-1 text-xl">Colour roles</h2>
      <ul class="grid grid-cols-2 gap-1 pt-2">
        {#each COLOURS as name (name)}
          <li class="flex items-center gap-3">
            <span class="h-7 w-12 border border-(--steel-edge)" style:background="var(--{name})"></span>{name}
          </li>
        {/each}
      </ul>
    </section>
    <section>
      <h2 class="border-b pb-1 text-xl">Three ranks</h2>
      <div class="flex flex-wrap items-center gap-4 pt-3">
        <button class="lead">Log 3b clean</button>
        <button class="plate">Add a finding</button>
        <button class="bare">Add a student</button>
      </div>
      <div class="flex flex-wrap items-center gap-4 pt-3">
        <button class="lead" disabled>Not yet</button>
        <button class="plate" disabled>Not yet</button>
        <button class="bare" disabled>Not yet</button>
      </div>
    </section>
    <section>
      <h2 class="border-b pb-1 text-xl">Choice, fold, menu, tabs</h2>
      <div class="flex flex-wrap gap-2 pt-3" role="group" aria-label="Toe">
        {#each ['lower', 'upper'] as one (one)}
          <button class="plate" aria-pressed={toe === one} onclick={() => (toe = one)}>{one} toe</button>
        {/each}
        <Menu>
          {#snippet button()}More{/snippet}
          <button class="bare px-2" data-closes>Put right</button>
        </Menu>
      </div>
      <Fold name="Timers" value="cools 1:10">What is folded.</Fold>
      <Tabs
        label="Stages"
        tabs={TABS}
        chosen={tab}
        onchoose={(id) => (tab = id)}
        states={{ root: 'done', fill: 'here', cap: 'open' }}
      />
    </section>
    <section>
      <h2 class="border-b pb-1 text-xl">Marks</h2>
      <ul class="grid grid-cols-2 gap-2 pt-3">
        {#each MARKS as of (of)}<li class="flex items-center gap-3"><Mark {of} />{of}</li>{/each}
        <li><WaitClock {since} /></li>
        <li class="flex items-center gap-2"><FaultGlyph kind="undercut" />a fault in small</li>
      </ul>
    </section>
    <section>
      <h2 class="border-b pb-1 text-xl">Notices</h2>
      <div class="grid gap-2 pt-3">
        <Notice tone="waits">
          Before this pass: <strong>root</strong>
          {#snippet acts()}<button class="plate">Seen, go on</button>{/snippet}
        </Notice>
        <Notice tone="done">3b logged clean, 107 A</Notice>
        <Notice tone="fails">Not saved: 3b is laid already.</Notice>
        <Notice tone="caution">Clear lens down before the grinder starts.</Notice>
      </div>
    </section>
    <section>
      <h2 class="border-b pb-1 text-xl">Fields</h2>
      <div class="grid gap-3 pt-3">
        <LimitRuler label="Depth" value={depth} limit={0.79375} onpick={(mm) => (depth = mm)} />
        <label class="grid gap-1"
          ><span class="eyebrow">Name</span><input class="field" value="Emeka Strand" /></label
        >
        <label class="grid gap-1"
          ><span class="eyebrow">Gap</span><input
            class="field number"
            value="3//32"
            aria-invalid="true"
          /><span class="text-sm text-(--caution)">'3//32' is not a length.</span></label
        >
        <label class="grid gap-1"
          ><span class="eyebrow">Class</span><select class="field"
            ><option>Day class</option><option>Evening class</option></select
          ></label
        >
        <input class="field" placeholder="A note for next time" aria-label="Note" />
        <input class="field" value="Set by the test" aria-label="Rod" disabled />
      </div>
    </section>
    <section>
      <h2 class="border-b pb-1 text-xl">Rows and tables</h2>
      <ul>
        <li class="row"><Mark of="clean" /><strong class="grow">Ines Halvorsen</strong><span>R3</span></li>
        <li class="row"><Mark of="open" /><strong class="grow">Tobias Okoro</strong><span>P8</span></li>
      </ul>
      <table class="ledger mt-3">
        <thead><tr><th>Stock</th><th>Takes</th></tr></thead>
        <tbody>
          <tr><td>E7018 1/8 in</td><td class="number">4.3 lb</td></tr>
          <tr><td>Grinding discs</td><td class="number">9</td></tr>
        </tbody>
      </table>
    </section>
    <section>
      <h2 class="border-b pb-1 text-xl">Dialog</h2>
      <div class="flex gap-4 pt-3">
        <button class="plate" onclick={() => (asked = true)}>Ask</button>
      </div>
      <Dialog bind:open={asked} title="Why is it opened again?" size="sm">
        <div class="flex flex-wrap gap-2">
          <button class="plate" onclick={() => (asked = false)}>Closed by mistake</button>
          <button class="plate" onclick={() => (asked = false)}>A finding was wrong</button>
        </div>
      </Dialog>
    </section>
    <section>
      <h2 class="border-b pb-1 text-xl">States</h2>
      <p class="flex items-center gap-2 pt-3 font-semibold text-(--straw-ink)">
        <Mark of="kept" />Kept here: 2 to send
      </p>
      <div class="pt-3">
        <ChanceBand
          chance={{
            mean: 0.5,
            lower: 0.1,
            upper: 0.9,
            tooLittleToTell: true,
            coupons: 1,
            cleanCoupons: 1,
            effectiveCoupons: 1,
          }}
        />
      </div>
      <p class="pt-3">
        Empty: no coupon yet, nothing to go on. <button class="bare">Start the first</button>
      </p>
      <div class="h-24 overflow-hidden"><Waiting error={null} retry={() => {}} what="Booth 6" /></div>
      <Waiting error={new Error('The server does not answer.')} retry={() => {}} what="Booth 6" />
    </section>
  </div>
{/if}
