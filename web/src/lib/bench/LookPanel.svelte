<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { bareText, chips } from '$lib/units.svelte'
  import type { Tell } from './coupon-words'
  import FilletLook from './FilletLook.svelte'
  import { heightAt, heightText, isFillet, LOOK_SIDES, lookPlaces, type LookSide } from './look'
  import SpecimenPanel from './SpecimenPanel.svelte'

  type Props = {
    coupon: Schema['CouponView']
    /** What is measured, and where: as it is chosen on the drawing. */
    side: LookSide
    point: string
    /** Moves on to what is not measured yet. */
    onnext: (side: LookSide, point: string) => void
    specimen: number | null
    ontell: Tell
  }
  let { coupon, side, point, onnext, specimen = $bindable(), ontell }: Props = $props()

  const HEIGHTS = { sixtyFourths: [-4, -2, 0, 2, 4, 6, 8, 10], tenths: [-16, -8, 0, 8, 16, 24, 32, 40] }
  const places = $derived(lookPlaces(coupon))
  const name = $derived(LOOK_SIDES.find((one) => one.id === side)!.name)
  const known = $derived(heightAt(coupon, side, point))
  const counted = $derived(
    LOOK_SIDES.map(
      (one) =>
        `${one.name.toLowerCase()} ${places.filter((at) => heightAt(coupon, one.id, at) !== undefined).length}`,
    ).join('; '),
  )

  function measured(mm: number) {
    const body = LOOK_SIDES.find((one) => one.id === side)!.body
    ontell('measured', { ...body, at: point, heightMm: mm }, `${name} at ${point}: ${heightText(mm)}.`)
    // From place to place on one side, then the next side.
    const order = LOOK_SIDES.flatMap((one) => places.map((at) => ({ side: one.id, at })))
    const here = order.findIndex((one) => one.side === side && one.at === point)
    const open = [...order.slice(here + 1), ...order.slice(0, here)].find(
      (one) => heightAt(coupon, one.side, one.at) === undefined,
    )
    if (open) onnext(open.side, open.at)
  }
</script>

{#if isFillet(coupon)}
  <FilletLook {coupon} {point} onnext={(at) => onnext(side, at)} {ontell} />
{:else}
  <section class="border-t pt-2" aria-label="Face and root">
    <p class="flex flex-wrap items-baseline gap-x-3">
      <strong class="text-lg">{name} at {point}</strong>
      <span class="text-(--soft)">{known === undefined ? 'not measured' : heightText(known)}</span>
    </p>
    <div class="flex flex-wrap gap-1.5 py-1" role="group" aria-label="What is measured">
      {#each LOOK_SIDES as one (one.id)}
        <button class="plate px-3" aria-pressed={side === one.id} onclick={() => onnext(one.id, point)}
          >{one.name}</button
        >
      {/each}
    </div>
    <div class="grid grid-cols-4 gap-1.5" role="group" aria-label="{name} at {point}, over flush">
      {#each chips(HEIGHTS.sixtyFourths, HEIGHTS.tenths) as mm (mm)}
        <button
          class="plate number px-2 text-xl"
          aria-label="{name} at {point}: {heightText(mm)}"
          onclick={() => measured(mm)}
          >{mm === 0 ? 'flush' : mm < 0 ? `−${bareText(-mm)}` : bareText(mm)}</button
        >
      {/each}
    </div>
    <p class="mt-1 text-sm text-(--soft)">Measured of {places.length} places: {counted}.</p>
  </section>
{/if}

{#if coupon.test.specimens.length}<SpecimenPanel {coupon} bind:chosen={specimen} {ontell} />{/if}
