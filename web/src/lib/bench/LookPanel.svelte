<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import type { Tell } from './coupon-words'
  import { bareText, chips, lengthText } from '$lib/units.svelte'

  import SpecimenPanel from './SpecimenPanel.svelte'

  type Props = {
    coupon: Schema['CouponView']
    ontell: Tell
  }
  let { coupon, ontell }: Props = $props()

  const HEIGHTS = { sixtyFourths: [-4, -2, 0, 2, 4, 6, 8, 10], tenths: [-16, -8, 0, 8, 16, 24, 32, 40] }
  const places = $derived(
    coupon.test.product === 'pipe' ? coupon.test.fitUp.points : ['start', 'middle', 'end'],
  )
  const SIDES: { id: Schema['JointSide']; name: string }[] = [
    { id: 'face', name: 'Face' },
    { id: 'root', name: 'Root' },
  ]
  let side = $state<Schema['JointSide']>('face')
  let place = $state<string | null>(null)
  // The root is looked at from both sides: each member's edge by itself.
  let member = $state<Schema['JointMember']>('a')

  const from = $derived(side === 'root' ? member : null)
  const at = $derived(place ?? places.find((one) => !heightOf(side, one, from)) ?? places[0]!)
  const done = (which: Schema['JointSide'], from: Schema['JointMember'] | null) =>
    places.filter((one) => heightOf(which, one, from)).length

  function heightOf(which: Schema['JointSide'], where: string, by: Schema['JointMember'] | null) {
    return coupon.life.measures.findLast(
      (one) => one.body.side === which && one.body.at === where && (one.body.member ?? null) === by,
    )
  }
  const signed = (mm: number) => (mm < 0 ? `${lengthText(-mm)} below` : lengthText(mm))
</script>

<section class="border-t pt-2" aria-label="Face and root">
  <div class="flex flex-wrap items-center gap-1.5">
    {#each SIDES as one (one.id)}
      <button class="plate px-2" aria-pressed={side === one.id} onclick={() => (side = one.id)}
        >{one.name}</button
      >
    {/each}
    {#if side === 'root'}
      {#each [['a', 'from the left'], ['b', 'from the right']] as [Schema['JointMember'], string][] as [one, name] (one)}
        <button class="plate px-2" aria-pressed={member === one} onclick={() => (member = one)}>{name}</button
        >
      {/each}
    {/if}
    <span class="eyebrow">at</span>
    {#each places as one (one)}
      {@const known = heightOf(side, one, from)}
      <button class="plate px-2" aria-pressed={at === one} onclick={() => (place = one)}
        >{one}{#if known}<span class="number">{signed(known.body.heightMm ?? 0)}</span>{/if}</button
      >
    {/each}
  </div>
  <div class="mt-1 flex flex-wrap gap-1" role="group" aria-label="{side} at {at}, over flush">
    {#each chips(HEIGHTS.sixtyFourths, HEIGHTS.tenths) as mm (mm)}
      <button
        class="plate number px-2 text-lg"
        aria-label="{side} at {at}: {mm === 0 ? 'flush' : signed(mm)}"
        onclick={() => {
          ontell(
            'measured',
            { side, at, heightMm: mm, member: from },
            `${side === 'face' ? 'Face' : 'Root'} at ${at}: ${mm === 0 ? 'flush' : signed(mm)}.`,
          )
          place = null
        }}>{mm === 0 ? 'flush' : mm < 0 ? `−${bareText(-mm)}` : bareText(mm)}</button
      >
    {/each}
  </div>
  <p class="mt-1 text-sm text-(--soft)">
    {`Measured of ${places.length}: face at ${done('face', null)}; root from the left at ${done('root', 'a')}, from the right at ${done('root', 'b')}.`}
  </p>
</section>

{#if coupon.test.specimens.length}<SpecimenPanel {coupon} {ontell} />{/if}
