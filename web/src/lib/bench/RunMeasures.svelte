<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import Fold from '$lib/ui/Fold.svelte'
  import { FLOW, lengthText, units } from '$lib/units.svelte'
  import { askChoice } from '$lib/words'

  type Measured = Partial<Schema['RunMeasures']>
  let {
    coupon,
    bead,
    measured = $bindable(),
  }: { coupon: Schema['CouponView']; bead: Schema['BeadView']; measured: Measured } = $props()

  const asked = $derived(coupon.asks.filter((ask) => bead.asks.includes(ask.id)))
  const places = $derived(
    coupon.test.product === 'pipe' ? coupon.test.fitUp.points : ['start', 'middle', 'end'],
  )
  const said = $derived(Object.values(measured).filter((value) => value != null).length)
  const values = $derived(measured as Record<string, unknown>)

  function set(id: string, value: unknown) {
    measured = { ...measured, [id]: values[id] === value ? null : value }
  }
  function text(ask: Schema['Ask'], value: number) {
    if (ask.unit === 'length') return value === 0 ? 'closed' : lengthText(value)
    if (ask.unit === 'flow')
      return units.unit === 'in'
        ? `${Math.round(value / FLOW.in.per)} ${FLOW.in.unit}`
        : `${value.toFixed(1)} ${FLOW.mm.unit}`
    if (ask.unit === 'cup') return String(value)
    if (ask.unit === 'rods') return String(value).replace('.5', '½').replace(/^0/, '')
    if (ask.unit === 'hours') return value >= 8 ? 'over 4 h' : `to ${value} h`
    if (ask.unit === 'percent') return value < 0.1 ? 'under 0.1' : value <= 1 ? 'to 1' : 'over 1'
    return `${value} s`
  }
  const levelText = (mm: number) => (mm < 0 ? 'proud' : mm === 0 ? 'flush' : lengthText(mm))
  const levelAt = (at: string) => measured.levels?.find((one) => one.at === at)?.belowFlushMm
  function level(at: string, mm: number) {
    const others = (measured.levels ?? []).filter((one) => one.at !== at)
    const next = levelAt(at) === mm ? others : [...others, { at, belowFlushMm: mm }]
    measured = { ...measured, levels: next.length ? next : null }
  }
</script>

{#if asked.length}
  <Fold name="Measured of this run" value={said ? `${said} said` : 'nothing yet'}>
    {#each asked as ask (ask.id)}
      {#if ask.unit === 'levels'}
        {#each places as at (at)}
          <div class="mb-1 flex flex-wrap items-center gap-1" role="group" aria-label="Below flush at {at}">
            <span class="eyebrow w-32">{ask.name} at {at}</span>
            {#each ask.chips ?? [] as mm (mm)}
              <button
                class="plate number px-2"
                aria-pressed={levelAt(at) === mm}
                aria-label="{levelText(mm)} at {at}"
                onclick={() => level(at, mm)}>{levelText(mm)}</button
              >
            {/each}
          </div>
        {/each}
      {:else}
        <div class="mb-1 flex flex-wrap items-center gap-1" role="group" aria-label={ask.name}>
          <span class="eyebrow w-32">{ask.name}</span>
          {#each ask.unit === 'yesNo' ? [true, false] : [] as yes (yes)}
            <button class="plate px-2" aria-pressed={values[ask.id] === yes} onclick={() => set(ask.id, yes)}
              >{yes ? 'passed' : 'stuck'}</button
            >
          {/each}
          {#each ask.choices ?? [] as choice (choice)}
            <button
              class="plate px-2"
              aria-pressed={values[ask.id] === choice}
              onclick={() => set(ask.id, choice)}>{askChoice(choice)}</button
            >
          {/each}
          {#each ask.chips ?? [] as value (value)}
            <button
              class="plate number px-2"
              aria-pressed={values[ask.id] === value}
              onclick={() => set(ask.id, value)}>{text(ask, value)}</button
            >
          {/each}
        </div>
      {/if}
    {/each}
  </Fold>
{/if}
