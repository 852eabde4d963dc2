<script lang="ts">
  import { api, ask, type Schema } from '$lib/api/client'
  import Choice from '$lib/shop/Choice.svelte'
  import LengthField from '$lib/shop/LengthField.svelte'
  import { live } from '$lib/shop/live'
  import NumberField from '$lib/shop/NumberField.svelte'
  import { inUnits, MM_PER_INCH } from '$lib/units.svelte'
  import { codeName, QUALIFYING, variableName, type QualifyingCode } from '$lib/words'
  import {
    climbs,
    keepJob,
    positionsOf,
    PROCESSES,
    PRODUCTS,
    ROOTS,
    RUNS,
    WELDS,
    type AskedWeld,
  } from './weld'

  /** What passing the test counts as, by code. */
  let { qualifies }: { qualifies: Schema['QualifiedBy'][] } = $props()

  type Asked = Omit<AskedWeld, 'thicknessMinMm' | 'thicknessMaxMm'> & {
    code: QualifyingCode
    thicknessMm: number
  }

  const codes = $derived(QUALIFYING.filter((code) => qualifies.some((one) => one.code === code)))
  const first = $derived(qualifies[0]!.test)
  let said = $state<Partial<Asked>>({})
  const asked = $derived<Asked>({
    code: codes[0]!,
    product: first.product === 'pipe' ? 'pipe' : 'plate',
    weld: first.weld === 'groove' ? 'groove' : 'fillet',
    position: 'V',
    thicknessMm: 0.5 * MM_PER_INCH,
    diameterMm: 6.625 * MM_PER_INCH,
    backing: first.backing ? 'yes' : 'no',
    process: first.process,
    fNumber: first.fNumber,
    progression: first.progression === 'downhill' ? 'downhill' : 'uphill',
    ...said,
  })
  const positions = $derived(positionsOf(asked.code))
  const position = $derived(positions.includes(asked.position) ? asked.position : positions[0]!)
  const own = $derived(qualifies.filter((one) => one.code === asked.code))
  const answer = live(
    'covers',
    () => ({ asked, position, own }),
    () =>
      ask(
        api.POST('/api/covered', {
          body: {
            code: asked.code,
            tests: own.map(({ test }) => ({
              product: test.product,
              weld: test.weld,
              position: test.position,
              thicknessMm: test.thicknessMm,
              outsideDiameterMm: test.outsideDiameterMm,
              backing: test.backing ? ('steel' as const) : ('none' as const),
              process: test.process,
              fNumber: test.fNumber,
              progression: test.progression === 'none' ? null : test.progression,
              layers: test.layers,
            })),
            asks: {
              product: asked.product,
              weld: asked.weld,
              position,
              thicknessMm: asked.thicknessMm,
              outsideDiameterMm: asked.product === 'pipe' ? asked.diameterMm : null,
              backing:
                asked.weld === 'groove' && asked.backing === 'yes' ? ('steel' as const) : ('none' as const),
              process: asked.process,
              fNumber: asked.fNumber,
              progression: climbs(position) ? asked.progression : null,
            },
          },
        }),
      ),
  )
  const by = $derived(own[answer.data?.by[0] ?? -1]?.test)
  const change = (next: Partial<Asked>) => (said = { ...said, ...next })
  const valueText = (value: unknown) => (value == null || value === '' ? 'left open' : inUnits(`${value}`))

  /** Takes the question to the finder: which test of the library would do. */
  function carry() {
    const { code, thicknessMm, ...weld } = asked
    keepJob({
      code,
      aim: 'fewest',
      welds: [{ ...weld, position, thicknessMinMm: thicknessMm, thicknessMaxMm: thicknessMm }],
    })
  }
</script>

<section class="mt-3 border-t pt-3" aria-label="Would it cover my weld?">
  <h3 class="text-lg">Would it cover my weld?</h3>
  <div class="mt-1 grid items-start gap-3 sm:grid-cols-2 lg:grid-cols-4">
    <Choice
      label="Code"
      options={codes.map((id) => ({ id, name: codeName(id) }))}
      bind:value={() => asked.code, (code) => change({ code })}
    />
    <Choice
      label="On"
      options={PRODUCTS}
      bind:value={() => asked.product, (product) => change({ product })}
    />
    <Choice label="Weld" options={WELDS} bind:value={() => asked.weld, (weld) => change({ weld })} />
    {#if asked.weld === 'groove'}
      <Choice
        label="Root"
        options={ROOTS}
        bind:value={() => asked.backing, (backing) => change({ backing })}
      />
    {/if}
    <label>
      <span class="eyebrow block">Position</span>
      <select
        class="field number w-full text-lg"
        value={position}
        onchange={(event) => change({ position: event.currentTarget.value })}
      >
        {#each positions as one (one)}<option>{one}</option>{/each}
      </select>
    </label>
    <label>
      <span class="eyebrow block">Process</span>
      <select
        class="field w-full"
        value={asked.process}
        onchange={(event) => change({ process: event.currentTarget.value })}
      >
        {#each PROCESSES as one (one)}<option>{one}</option>{/each}
      </select>
    </label>
    <LengthField
      label="Thickness"
      bind:mm={() => asked.thicknessMm, (thicknessMm) => change({ thicknessMm })}
    />
    {#if asked.product === 'pipe'}
      <LengthField
        label="Outside diameter"
        bind:mm={() => asked.diameterMm, (diameterMm) => change({ diameterMm })}
      />
    {/if}
    <NumberField
      label="F-number of the filler"
      bind:value={() => asked.fNumber, (fNumber) => change({ fNumber })}
    />
    {#if climbs(position)}
      <Choice
        label="Run"
        options={RUNS}
        bind:value={() => asked.progression, (progression) => change({ progression })}
      />
    {/if}
  </div>
  <div class="mt-2 border-l-4 pl-3" aria-live="polite" style:border-left-color="var(--straw)">
    {#if answer.error}
      <p role="alert">{answer.error.message}</p>
    {:else if answer.data?.covered}
      <p class="text-lg font-semibold">
        Yes{by ? `, by ${by.position} ${by.process} F${by.fNumber}` : ''}.
      </p>
    {:else if answer.data}
      <p class="text-lg font-semibold">No.</p>
      <ul>
        {#each answer.data.why as one, index (index)}
          <li class="border-t py-0.5">
            <strong>{variableName(one.variable)}</strong>: asked {valueText(one.asked)}; it gives {valueText(
              one.qualified,
            )}.
            <span class="text-sm text-(--soft)">{one.clause}{one.fromMemory ? '; from memory' : ''}</span>
          </li>
        {/each}
      </ul>
      <a class="plate mt-1 inline-flex" href="/library/job" onclick={carry}>Which test would do?</a>
    {/if}
  </div>
</section>
