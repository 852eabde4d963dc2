<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import SizeChips from '$lib/parts/SizeChips.svelte'
  import { lengthText } from '$lib/units.svelte'
  import type { Tell } from './coupon-words'
  import { filletAt, lookPlaces } from './look'

  type Props = {
    coupon: Schema['CouponView']
    /** Where it is measured, as it is chosen on the drawing. */
    point: string
    onnext: (point: string) => void
    ontell: Tell
  }
  let { coupon, point, onnext, ontell }: Props = $props()

  type Size = 'legAMm' | 'legBMm' | 'throatMm' | 'faceWidthMm' | 'convexityMm'
  const LEG = { sixtyFourths: [16, 18, 20, 22, 24, 28], tenths: [60, 70, 75, 80, 90, 100] }
  const SIZES: { id: Size; name: string; sixtyFourths: number[]; tenths: number[] }[] = [
    { id: 'legAMm', name: 'Leg, left', ...LEG },
    { id: 'legBMm', name: 'Leg, right', ...LEG },
    { id: 'throatMm', name: 'Throat', sixtyFourths: [12, 14, 16, 18, 20], tenths: [40, 50, 55, 60, 70] },
    {
      id: 'faceWidthMm',
      name: 'Face, wide',
      sixtyFourths: [20, 24, 28, 32, 48],
      tenths: [80, 100, 120, 140],
    },
    {
      id: 'convexityMm',
      name: 'Bulge of the face',
      sixtyFourths: [0, 2, 4, 6, 8],
      tenths: [0, 8, 16, 24, 32],
    },
  ]

  let sizes = $state<Partial<Record<Size, number | null>>>({})
  const places = $derived(lookPlaces(coupon))
  const known = $derived(filletAt(coupon, point))
  const given = $derived(SIZES.some((one) => one.id !== 'faceWidthMm' && sizes[one.id] != null))
  const done = $derived(places.filter((at) => filletAt(coupon, at)).length)

  function keep() {
    const fillet = Object.fromEntries(SIZES.map((one) => [one.id, sizes[one.id] ?? null]))
    const said = SIZES.filter((one) => sizes[one.id] != null).map(
      (one) => `${one.name.toLowerCase()} ${lengthText(sizes[one.id]!)}`,
    )
    ontell('measured', { side: 'face', at: point, fillet }, `Fillet at ${point}: ${said.join(', ')}.`)
    sizes = {}
    const open = places.find((at) => at !== point && !filletAt(coupon, at))
    if (open) onnext(open)
  }
</script>

<section class="border-t pt-2" aria-label="Legs and face">
  <p class="flex flex-wrap items-baseline gap-x-3">
    <strong class="text-lg">Fillet at {point}</strong>
    <span class="text-(--soft)">
      {#if coupon.test.joint.legMm != null}leg asked {lengthText(coupon.test.joint.legMm)}{/if}{known
        ? '; measured'
        : '; not measured'}
    </span>
  </p>
  <div class="flex flex-wrap gap-1.5 py-1" role="group" aria-label="Where it is measured">
    {#each places as at (at)}
      <button class="plate px-3 capitalize" aria-pressed={at === point} onclick={() => onnext(at)}
        >{at}</button
      >
    {/each}
  </div>
  <div class="grid gap-2">
    {#each SIZES as { id, name, sixtyFourths, tenths } (id)}
      <SizeChips
        label={name}
        value={sizes[id]}
        {sixtyFourths}
        {tenths}
        onpick={(mm) => (sizes = { ...sizes, [id]: mm })}
      />
    {/each}
  </div>
  <button class="lead mt-2" disabled={!given} onclick={keep}>Keep the fillet at {point}</button>
  <p class="mt-1 text-sm text-(--soft)">Measured at {done} of {places.length} places.</p>
</section>
