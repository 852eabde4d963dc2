<script lang="ts">
  import { flushSync } from 'svelte'
  import type { Schema } from '$lib/api/client'
  import JointSection from '$lib/drawings/JointSection.svelte'
  import { degreesText, inUnits, lengthText, MASS, MM_PER_INCH, quantityText, units } from '$lib/units.svelte'
  import { codeName, processName, QUALIFYING, stageName, techniqueName, variableName } from '$lib/words'
  import Fold from '$lib/ui/Fold.svelte'
  import CoversMyWeld from './CoversMyWeld.svelte'
  import {
    toleranceText,
    kindsText,
    fitUpMeasureName,
    metalName,
    rangeText,
    rulesText,
    settingsText,
    specimenText,
  } from './text'

  type Props = {
    view: Schema['TestView']
    chosen: Record<string, string>
    onchoose: (group: string, option: string) => void
  }
  let { view, chosen, onchoose }: Props = $props()

  const test = $derived(view.test)
  const joint = $derived(test.joint)
  const isFillet = $derived(joint.form === 'teeFillet' || joint.form === 'lapFillet')
  /** The codes that take such a coupon; the others are named once. */
  const taking = $derived(QUALIFYING.filter((code) => view.qualifies.some((one) => one.code === code)))
  const parts = $derived([
    ...Map.groupBy(
      view.qualifies,
      (one) =>
        `${one.test.position} ${one.test.process} F${one.test.fNumber}${one.test.progression === 'none' ? '' : ` ${one.test.progression}`}`,
    ),
  ])
  /** Where each code says so, once for all parts of the test. */
  const clauses = $derived(
    taking.map((code) => ({
      code,
      all: [
        ...new Map(
          view.qualifies
            .filter((one) => one.code === code)
            .flatMap((one) => one.clauses)
            .map((one) => [`${one.variable} ${one.source}`, one]),
        ).values(),
      ],
    })),
  )
  /** To the sixteenth, or the half millimetre: nobody runs a bead closer. */
  const capBead = $derived.by(() => {
    const mm = view.sections[0]?.section.capBeadMm
    const step = units.unit === 'in' ? MM_PER_INCH / 16 : 0.5
    return mm ? Math.round(mm / step) * step : null
  })
  const fillStop = $derived(view.sections[0]?.section.fillBelowFlushMm ?? 0)
  const minutes = (value: number) => `${Math.round(value)} min`
  const passName = (pass: Schema['PassPlan']) =>
    `${stageName(pass.stage)}${pass.half ? `, ${test.halves.find((half) => half.id === pass.half)?.name.toLowerCase()}` : ''}`
  const jointLine = $derived(
    [
      joint.pipe ? `NPS ${joint.pipe.nps} Sch ${joint.pipe.schedule}` : null,
      `${joint.pipe ? 'wall' : ''} ${lengthText(joint.thicknessMm)}`.trim(),
      metalName(test.baseMetal),
      isFillet
        ? `leg ${lengthText(joint.legMm ?? 0)}`
        : joint.form === 'plug'
          ? `hole ${lengthText(joint.rootOpeningMm)}`
          : joint.form === 'squareButt'
            ? 'square edges'
            : joint.form === 'branch'
              ? `branch of its own size, bevel ${joint.bevelDegA}°`
              : joint.form === 'singleJ'
                ? `J, ${joint.bevelDegA}° each`
                : joint.bevelDegB === 0
                  ? `one bevel of ${joint.bevelDegA}°`
                  : `${joint.bevelDegA + joint.bevelDegB}° included`,
      isFillet || joint.form === 'plug' ? null : `gap ${lengthText(joint.rootOpeningMm)}`,
      joint.ringMm ? `a ring ${lengthText(joint.ringMm)} off` : null,
      joint.form !== 'squareButt' && joint.rootFaceMm > 0 ? `face ${lengthText(joint.rootFaceMm)}` : null,
      joint.form === 'plug'
        ? `on plate ${lengthText(joint.backing.thicknessMm ?? 0)}`
        : joint.backing.kind === 'strip'
          ? `strip ${lengthText(joint.backing.thicknessMm ?? 0)} × ${lengthText(joint.backing.widthMm ?? 0)}`
          : joint.backing.kind === 'gas'
            ? 'purged'
            : joint.insert
              ? joint.insert.shape.toLowerCase()
              : isFillet
                ? null
                : 'open root',
    ]
      .filter(Boolean)
      .join(', '),
  )
  const rows = $derived<{ name: string; of: (one: Schema['Qualified']) => string }[]>([
    ...(test.weld === 'groove'
      ? [
          { name: 'Groove, plate', of: (one: Schema['Qualified']) => one.plateGroove.join(' ') || '–' },
          {
            name: joint.form === 'branch' ? 'Branch' : 'Groove, pipe',
            of: (one: Schema['Qualified']) => one.pipeGroove.join(' ') || '–',
          },
        ]
      : []),
    ...(test.weld === 'plug' || test.weld === 'tack'
      ? [
          {
            name: test.weld === 'plug' ? 'Plugs and slots' : 'Tacks',
            of: (one: Schema['Qualified']) => one.own?.positions.join(' ') ?? '–',
          },
        ]
      : [{ name: 'Fillet', of: (one: Schema['Qualified']) => one.fillet.join(' ') || '–' }]),
    { name: 'Thickness', of: (one) => rangeText(one.thicknessMm) },
    { name: 'Outside diameter', of: (one) => rangeText(one.outsideDiameterMm) },
    ...(test.weld === 'groove'
      ? [
          {
            name: 'Backing',
            of: (one: Schema['Qualified']) => (one.withoutBacking ? 'with and without' : 'with only'),
          },
        ]
      : []),
    { name: 'F-numbers', of: (one) => one.fNumbers.map((number) => `F${number}`).join(' ') },
    { name: 'Run', of: (one) => one.progressions.join(', ') || '–' },
  ])

  const tackLine = $derived(
    test.fitUp.tacks.minCount === test.fitUp.tacks.maxCount
      ? `${test.fitUp.tacks.minCount}`
      : `${test.fitUp.tacks.minCount} to ${test.fitUp.tacks.maxCount}`,
  )
  // What a fold holds, so that it need not be opened to be read.
  const takesLine = $derived(
    [
      ...view.budget.fillers.map((one) =>
        one.rods
          ? `${one.rods} × ${one.classification}`
          : `${quantityText(one.usedKg, MASS)} ${one.classification}`,
      ),
      `${minutes(view.budget.boothMinutes ?? 0)} in the booth`,
    ].join(', '),
  )
  const own = $derived(view.qualifies.find((one) => one.code === view.profile.id) ?? view.qualifies[0])
  const qualifiesLine = $derived(
    !own
      ? 'nothing by the codes here'
      : `${codeName(own.code)}: ${rangeText(own.qualified.thicknessMm)}${taking.length > 1 ? `, and ${taking.length - 1} codes more` : ''}`,
  )
  const fitLine = $derived(
    [
      ...test.fitUp.tolerances
        .filter((one) => one.measure === 'rootOpeningMm')
        .map((one) => `${test.weld === 'plug' ? 'hole' : 'gap'} ${toleranceText(one)}`),
      `${tackLine} tacks`,
    ].join(', '),
  )
  const underLine = $derived(
    `${kindsText(test.specimens.map((one) => one.kind)) || 'no specimen'}, ${test.rules.holdPoints.length} hold ${test.rules.holdPoints.length === 1 ? 'point' : 'points'}`,
  )
  let folds = $state({ takes: false, qualifies: false, fit: false, under: false, cautions: false })
  const SHUT = { takes: false, qualifies: false, fit: false, under: false, cautions: false }
  let kept = SHUT
  // On paper nothing can be opened.
  function onbeforeprint() {
    kept = { ...folds }
    flushSync(() => (folds = { takes: true, qualifies: true, fit: true, under: true, cautions: true }))
  }
  const onafterprint = () => (folds = kept)

  const holdTitles = (points: unknown[]) => points.map((point) => (point as { title: string }).title)
</script>

<svelte:window {onbeforeprint} {onafterprint} />

<p class="text-(--soft)">
  {test.positions.join(', ')}; {jointLine}. Judged by
  <a class="underline underline-offset-4" href="/library/limits/{view.profile.id}">{view.profile.name}</a
  >{view.profile.limitsEntered ? '' : ', which cannot judge until the school enters its limits'}.
</p>

<div class="mt-3 grid gap-4 xl:grid-cols-[1fr_1.35fr]">
  <div class="flex min-w-0 flex-col gap-4">
    <section class="sheet min-w-0 p-3" aria-label="Planned section">
      {#each view.sections as one (one.half)}
        {#if one.half}<p class="eyebrow">{test.halves.find((half) => half.id === one.half)?.name}</p>{/if}
        <JointSection section={one.section} />
      {/each}
      <p class="text-sm text-(--soft)">
        Beads {test.weld === 'plug'
          ? 'in a spiral from the wall of the hole'
          : view.sections[0]?.section.order === 'bottomUp'
            ? 'from the bottom up; the left member is the lower one'
            : 'from side to side'}{fillStop > 0
          ? `; the fill stops ${lengthText(fillStop)} below flush`
          : ''}.
      </p>
    </section>
  </div>

  <section class="sheet min-w-0 p-3" aria-label="Passes">
    <h2 class="text-lg">Passes</h2>
    <ul>
      {#each test.passes as pass, index (index)}
        <li class="border-t py-2">
          <div class="flex flex-wrap items-baseline gap-x-3">
            <strong class="text-lg">{passName(pass)}</strong>
            <span
              >{processName(pass.process)}
              <span class="number text-lg">{pass.filler.classification}</span>
              {inUnits(`${pass.filler.diameterText} in`)}, {pass.polarity.toUpperCase()}{pass.gas
                ? `, ${pass.gas}`
                : ''}</span
            >
            <span class="ml-auto whitespace-nowrap"
              ><span class="number text-lg">{pass.layers.join(' – ')}</span>
              {pass.layers.length > 1 || pass.layers[0]! > 1 ? 'beads' : 'bead'}, {techniqueName(
                pass.technique,
              ).toLowerCase()}{pass.progression === 'none' ? '' : `, ${pass.progression}`}</span
            >
          </div>
          <p class="number text-lg">{settingsText(pass.settings).join('  ·  ')}</p>
          {#if pass.stage === 'cap' && capBead && pass.layers.at(-1)! > 1}
            <p class="text-sm">Each bead about {lengthText(capBead)} wide, half over half.</p>
          {/if}
          {#if pass.note}<p class="text-sm text-(--soft)">{inUnits(pass.note)}</p>{/if}
        </li>
      {/each}
    </ul>
    {#if test.temperatures}
      <p class="border-t pt-2">
        {test.temperatures.preheatMinC
          ? `Preheat ${degreesText(test.temperatures.preheatMinC)} at least. `
          : ''}
        {test.temperatures.interpassMaxC
          ? `Between passes ${degreesText(test.temperatures.interpassMaxC)} at most. `
          : ''}
        <span class="text-sm text-(--soft)">{test.temperatures.source}</span>
      </p>
    {/if}
    {#if test.variants.length}
      <h2 class="mt-3 border-t pt-2 text-lg">Where schools differ</h2>
      <div class="mt-1 grid gap-2 sm:grid-cols-2">
        {#each test.variants as group (group.id)}
          <fieldset>
            <legend class="eyebrow">{group.name}</legend>
            <div class="flex flex-wrap gap-1">
              {#each group.options as option, index (option.id)}
                <button
                  class="plate px-2 text-sm"
                  aria-pressed={chosen[group.id]
                    ? chosen[group.id] === option.id
                    : option.position
                      ? test.positions.length === 1 && test.positions[0] === option.position
                      : index === 0}
                  onclick={() => onchoose(group.id, option.id)}>{inUnits(option.name)}</button
                >
              {/each}
            </div>
          </fieldset>
        {/each}
      </div>
    {/if}
  </section>
</div>

<div class="sheet mt-4 px-3">
  <Fold name="What a coupon takes" value={takesLine} bind:open={folds.takes}>
    <table class="ledger">
      <tbody>
        {#each view.budget.fillers as filler (filler.classification + filler.diameterText + filler.process)}
          <tr>
            <th class="py-0.5 font-normal">{filler.classification} {inUnits(`${filler.diameterText} in`)}</th>
            <td class="number text-right text-lg">
              {filler.rods ? `${filler.rods} rods` : quantityText(filler.usedKg, MASS)}
            </td>
          </tr>
        {/each}
        {#each [['Shielding gas', view.budget.shieldingGasL, 'L'], ['Purge gas', view.budget.purgeGasL, 'L']] as const as [name, value, unit] (name)}
          {#if value > 0}
            <tr
              ><th class="py-0.5 font-normal">{name}</th><td class="number text-right text-lg"
                >{Math.round(value)} {unit}</td
              ></tr
            >
          {/if}
        {/each}
        {#each [['Fit-up', view.budget.fitUpMinutes], ['Purge', view.budget.purgeMinutes], ['Arc', view.budget.arcMinutes], ['Cleaning', view.budget.cleaningMinutes], ['Cooling', view.budget.coolingMinutes], ['Looking', view.budget.inspectionMinutes]] as const as [name, value] (name)}
          {#if value > 0}
            <tr
              ><th class="py-0.5 font-normal">{name}</th><td class="number text-right text-lg"
                >{minutes(value)}</td
              ></tr
            >
          {/if}
        {/each}
        <tr class="border-t-2 border-(--steel-edge)"
          ><th class="py-0.5">In the booth</th><td class="number text-right text-xl"
            >{minutes(view.budget.boothMinutes ?? 0)}</td
          ></tr
        >
      </tbody>
    </table>
    <p class="text-sm text-(--soft)">
      Typical; cutting and breaking {minutes(view.budget.cutAndBendMinutes)}
      more, outside the booth.
    </p>
  </Fold>
  <Fold name="What it qualifies" value={qualifiesLine} bind:open={folds.qualifies}>
    {#if view.qualifies.length === 0}
      <p>
        {test.kind === 'drill'
          ? 'A drill: it qualifies nothing by itself.'
          : 'None of the codes here takes such a coupon: the school’s own code decides.'}
      </p>
    {:else}
      <div class="grid gap-y-3 overflow-x-auto">
        {#each parts as [name, ones] (name)}
          <table class="ledger table-fixed">
            <caption class="number text-left text-lg">{name}</caption>
            <thead>
              <tr class="text-sm text-(--soft)"
                ><th class="w-36 font-normal">&nbsp;</th>{#each taking as code (code)}<th>{codeName(code)}</th
                  >{/each}</tr
              >
            </thead>
            <tbody>
              {#each rows as row (row.name)}
                <tr class="border-t align-top">
                  <th class="py-0.5 pr-2 text-sm font-normal text-(--soft)">{row.name}</th>
                  {#each taking as code (code)}
                    {@const one = ones.find((other) => other.code === code)}
                    <td class="number py-0.5 pr-2 text-base break-words"
                      >{one ? row.of(one.qualified) : '–'}</td
                    >
                  {/each}
                </tr>
              {/each}
            </tbody>
          </table>
        {/each}
      </div>
      <p class="mt-1 text-sm text-(--soft)">
        Not a coupon of {QUALIFYING.filter((code) => !taking.includes(code))
          .map(codeName)
          .join(', ')}.
      </p>
      <CoversMyWeld qualifies={view.qualifies} />
      <div class="mt-2">
        <Fold name="Where the codes say so" value="from memory: check against your edition">
          {#each clauses as { code, all } (code)}
            <p class="eyebrow mt-1">{codeName(code)}</p>
            {#if all.length}
              <ul class="text-sm">
                {#each all as one (one.variable + one.source)}
                  <li>
                    <strong>{variableName(one.variable)}</strong>: {inUnits(one.source)}{one.confidence ==
                    null
                      ? ''
                      : `, ${one.confidence} % sure`}
                  </li>
                {/each}
              </ul>
            {:else}
              <p class="text-sm">It takes no such coupon.</p>
            {/if}
          {/each}
        </Fold>
      </div>
    {/if}
  </Fold>
  <Fold name="Fit-up" value={fitLine} bind:open={folds.fit}>
    <table class="ledger">
      <tbody>
        {#each test.fitUp.tolerances as tolerance (tolerance.measure)}
          <tr class="border-t" title={tolerance.source}>
            <th class="py-1 pr-2 font-normal">{fitUpMeasureName(tolerance.measure)}</th>
            <td class="number text-right text-lg">
              {toleranceText(tolerance)}
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
    <p class="border-t pt-1 text-sm">
      {tackLine} tacks. {test.fitUp.tacks.where}
    </p>
    <ul class="mt-1 list-disc pl-5 text-sm">
      {#each test.fitUp.questions as question (question.id)}<li>{inUnits(question.text)}</li>{/each}
    </ul>
    {#if joint.fixture}
      <p class="eyebrow mt-2">{joint.fixture.description}</p>
      <ol class="list-decimal pl-5 text-sm">
        {#each joint.fixture.setUpSteps as step (step)}<li>{step}</li>{/each}
      </ol>
    {/if}
  </Fold>
  <Fold name="Under test" value={underLine} bind:open={folds.under}>
    <ul class="list-disc pl-5">
      {#each rulesText(test.rules) as line (line)}<li>{line}</li>{/each}
    </ul>
    <p class="eyebrow mt-2">Hold points</p>
    <p>{holdTitles(test.rules.holdPoints).join('; ') || 'none'}</p>
    <p class="eyebrow mt-2">Specimens</p>
    <p>{test.specimens.map(specimenText).join('; ') || 'none'}</p>
    {#if view.cuts.length}
      <Fold name="What each code cuts" value="from memory">
        <ul class="text-sm">
          {#each view.cuts as cut (cut.code)}
            <li class="border-t py-1">
              <strong>{codeName(cut.code)}</strong>: {kindsText(cut.kinds)}{cut.instead
                ? `, or ${kindsText(cut.instead)}`
                : ''}{cut.film ? ', or film' : ''}{cut.leastLengthMm
                ? `; ${lengthText(cut.leastLengthMm)} long at least`
                : ''}{cut.fits ? '' : ', more than this coupon has'}. {inUnits(cut.note ?? '')}
              <span class="block text-(--soft)">{inUnits(cut.source)}, {cut.confidence} % sure</span>
            </li>
          {/each}
        </ul>
      </Fold>
    {/if}
    <p class="eyebrow mt-2">Drills</p>
    <p>{test.drills.map((drill) => drill.name).join('; ') || 'none'}</p>
  </Fold>
  <Fold name="Cautions" value="{view.cautions.length}, each with its step" bind:open={folds.cautions}>
    <ul class="grid gap-x-6 md:grid-cols-2">
      {#each view.cautions as { text } (text)}
        <li class="font-semibold text-(--caution)">{inUnits(text)}</li>
      {/each}
    </ul>
    <p class="text-sm">Local codes, the governing edition and a qualified inspector decide.</p>
  </Fold>
</div>
