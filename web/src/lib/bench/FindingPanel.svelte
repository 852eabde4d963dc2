<script lang="ts">
  import { untrack } from 'svelte'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { write } from '$lib/outbox.svelte'
  import SizeChips from '$lib/parts/SizeChips.svelte'
  import VerdictMark from '$lib/parts/VerdictMark.svelte'
  import { findingKindsQuery } from '$lib/queries'
  import { recordEvent, takeBackEvent } from '$lib/recording'
  import { lengthText } from '$lib/units.svelte'
  import { measureName, stageName } from '$lib/words'
  import { limitText, sourceText } from './limits'
  import { startsAndStops } from './places'

  type Props = {
    coupon: Schema['CouponView']
    place: { clock: string | null; fromStartMm: number | null }
    bead: Schema['BeadView'] | null
    /** The finding that is put right; null for a new one. */
    correcting: Schema['FindingView'] | null
    onsaved: () => void
  }
  let { coupon, place = $bindable(), bead, correcting, onsaved }: Props = $props()

  type LengthMeasure = 'depthMm' | 'heightMm' | 'lengthMm' | 'diameterMm' | 'widthMm'
  const SMALL = { sixtyFourths: [1, 2, 3, 4, 6, 8, 10], tenths: [2, 4, 5, 8, 10, 16, 20, 30] }
  const LONG = { sixtyFourths: [8, 16, 32, 64, 96, 128], tenths: [30, 60, 130, 250, 380, 500] }

  const kinds = findingKindsQuery()
  let chosenStage = $state<Schema['Stage'] | null>(null)
  let kind = $state<Schema['DiscontinuityKind'] | null>(null)
  let sizes = $state<Partial<Record<LengthMeasure, number | null>>>({})
  let count = $state<number | null>(null)
  let verdict = $state<Schema['VerdictAnswer'] | null>(null)
  let busy = $state(false)
  let id = newId()

  $effect(() => {
    const said = correcting
    // Begins from what was said; what is chosen since is not gone back on.
    if (said) untrack(() => begin(said))
  })

  function begin(said: Schema['FindingView']) {
    const { depthMm, heightMm, lengthMm, diameterMm, widthMm } = said
    kind = said.kind
    chosenStage = said.stage
    sizes = { depthMm, heightMm, lengthMm, diameterMm, widthMm }
    count = said.count ?? null
    judge()
  }

  const lastLaid = $derived([...coupon.beads].reverse().find((one) => one.runs.length)?.stage)
  const stage = $derived(chosenStage ?? lastLaid ?? bead?.stage ?? coupon.test.stages[0]!)
  const offered = $derived((kinds.data ?? []).filter((one) => one.stages.includes(stage)))
  const entry = $derived(kinds.data?.find((one) => one.kind === kind))
  const isPipe = $derived(coupon.test.product === 'pipe')
  const placed = $derived(isPipe ? place.clock != null : place.fromStartMm != null)
  const ends = $derived(startsAndStops(coupon))
  const deciding = $derived(verdict?.reasons[0] ?? verdict?.passed[0])

  function choose(next: Schema['DiscontinuityKind']) {
    kind = next
    sizes = {}
    count = null
    judge()
  }

  const measures = () => ({
    depthMm: sizes.depthMm ?? null,
    heightMm: sizes.heightMm ?? null,
    lengthMm: sizes.lengthMm ?? null,
    diameterMm: sizes.diameterMm ?? null,
    widthMm: sizes.widthMm ?? null,
    count,
  })

  async function judge() {
    if (!kind) return
    const asked = JSON.stringify([kind, measures()])
    const { profileId: profile, product, thicknessMm, joint } = coupon.test
    const openRoot = joint.backing.kind === 'none' || joint.backing.kind === 'gas'
    try {
      const answer = await ask(
        api.POST('/api/judge/visual', {
          body: { profile, product, thicknessMm, openRoot, findings: [{ kind, stage, ...measures() }] },
        }),
      )
      if (asked === JSON.stringify([kind, measures()])) verdict = answer
    } catch {
      verdict = null // The bench still records it; the verdict comes with the answer of the server.
    }
  }

  function size(measure: string, mm: number | null) {
    sizes = { ...sizes, [measure]: mm }
    judge()
  }

  async function save() {
    if (!kind) return
    busy = true
    const done = await notices.attempt(async () => {
      if (correcting) {
        const event = await recordEvent(coupon.id, 'findingCorrected', {
          findingId: correcting.id,
          finding: {
            kind,
            stage,
            clock: isPipe ? place.clock : null,
            fromStartMm: isPipe ? null : place.fromStartMm,
            ...measures(),
          },
        })
        notices.add(`${entry?.name} put right.`, 'done', async () => {
          await takeBackEvent(coupon.id, event)
          onsaved()
        })
        return
      }
      const findingId = id
      await write(
        coupon.id,
        'PUT',
        'findings',
        findingId,
        {
          passId:
            coupon.beads.findLast((one) => one.stage === stage && one.runs.length)?.runs.at(-1)?.id ?? null,
          kind,
          stage,
          clock: isPipe ? place.clock : null,
          fromStartMm: isPipe ? null : place.fromStartMm,
          ...measures(),
        },
        entry?.name ?? 'a finding',
      )
      notices.add(`${entry?.name} recorded.`, 'done', async () => {
        await write(coupon.id, 'DELETE', 'findings', findingId, null, 'a finding taken back')
        onsaved()
      })
    })
    busy = false
    if (done) {
      id = newId()
      kind = null
      verdict = null
      onsaved()
    }
  }
</script>

{#if coupon.closedAt}
  <p class="text-lg">The coupon is closed. Open it again to add a finding.</p>
{:else}
  <div class="flex flex-col gap-3">
    <div class="flex flex-wrap items-center gap-1.5" role="group" aria-label="Stage">
      <span class="eyebrow mr-1">Stage</span>
      {#each coupon.test.stages as one (one)}
        <button class="plate" aria-pressed={stage === one} onclick={() => (chosenStage = one)}
          >{stageName(one)}</button
        >
      {/each}
    </div>
    <div class="flex flex-wrap gap-1.5" role="group" aria-label="What was found">
      {#each offered as one (one.kind)}
        <button class="plate px-2" aria-pressed={kind === one.kind} onclick={() => choose(one.kind)}>
          <span
            >{one.name}{#if one.shopName}<span class="block text-sm font-normal opacity-80"
                >{one.shopName}</span
              >{/if}</span
          >
        </button>
      {/each}
    </div>
    <p class="text-lg" class:font-semibold={placed}>
      {placed
        ? `At ${isPipe ? `${place.clock} o'clock` : `${lengthText(place.fromStartMm!)} from the start`}`
        : `Where? Tap the ${isPipe ? 'ring' : 'strip'}.`}
    </p>
    {#if ends.length}
      <div class="flex flex-wrap gap-1.5" role="group" aria-label="At a start or stop">
        {#each ends as end (end.id)}
          <button
            class="plate px-2 text-sm"
            aria-pressed={end.clock === place.clock && end.fromStartMm === place.fromStartMm}
            onclick={() => (place = { clock: end.clock, fromStartMm: end.fromStartMm })}>{end.name}</button
          >
        {/each}
      </div>
    {/if}
    {#each entry?.measures ?? [] as measure (measure)}
      {#if measure === 'count'}
        <div class="flex flex-wrap items-center gap-1.5" role="group" aria-label="How many">
          <span class="eyebrow mr-1">How many</span>
          {#each [1, 2, 3, 5, 10] as one (one)}
            <button
              class="plate number"
              aria-pressed={count === one}
              onclick={() => {
                count = one
                judge()
              }}>{one}</button
            >
          {/each}
        </div>
      {:else}
        <SizeChips
          label={measureName(measure)}
          value={sizes[measure as LengthMeasure]}
          {...measure === 'lengthMm' || measure === 'widthMm' ? LONG : SMALL}
          onpick={(mm) => size(measure, mm)}
        />
      {/if}
    {/each}
    {#if deciding && verdict}
      <div
        class="border-l-4 px-3 py-1"
        style:border-left-color={verdict.verdict === 'reject' ? 'var(--caution)' : 'var(--blue)'}
        role="status"
      >
        <VerdictMark kind={verdict.verdict} big />
        <p class="text-lg">{limitText(deciding)}</p>
        <p class="text-sm text-(--soft)">{sourceText(deciding)}</p>
      </div>
    {/if}
    <button class="lead text-lg" disabled={!kind || !placed || busy} onclick={save}
      >{correcting ? 'Put it right' : 'Record the finding'}</button
    >
  </div>
{/if}
