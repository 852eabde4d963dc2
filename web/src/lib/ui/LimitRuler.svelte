<script lang="ts">
  import Len from '$lib/parts/Len.svelte'
  import TypedLength from '$lib/parts/TypedLength.svelte'
  import { lengthText, MM_PER_INCH, units } from '$lib/units.svelte'

  type Props = {
    label: string
    /** Chosen length in mm. */
    value: number | null | undefined
    /** The limit in mm, drawn where it lies; null where there is none. */
    limit: number | null
    onpick: (mm: number | null) => void
  }
  let { label, value, limit, onpick }: Props = $props()

  const STEPS = 8
  // Sixty-fourths or half millimetres, wider where the limit would lie off the ruler.
  const finest = $derived(units.unit === 'in' ? MM_PER_INCH / 64 : 0.5)
  const step = $derived(
    [1, 2, 4, 8, 16].find((many) => limit == null || limit <= many * finest * (STEPS - 2)) ?? 16,
  )
  const sizes = $derived(Array.from({ length: STEPS }, (_, index) => (index + 1) * step * finest))
  const at = $derived(limit == null ? null : Math.min(STEPS, Math.max(0, limit / (step * finest))))
  const same = (mm: number) => value != null && Math.abs(mm - value) < 0.01
  // Dragged, the value follows the finger; a tap is the button's own.
  const DRAG_PX = 6
  let ruler: HTMLElement
  let from: number | null = null
  function drag(event: PointerEvent) {
    if (
      from == null ||
      (Math.abs(event.clientX - from) < DRAG_PX && !ruler.hasPointerCapture(event.pointerId))
    )
      return
    ruler.setPointerCapture(event.pointerId) // the button under it gets no click then
    const box = ruler.getBoundingClientRect()
    const place = Math.floor(((event.clientX - box.left) / box.width) * STEPS)
    const mm = sizes[Math.min(STEPS - 1, Math.max(0, place))]!
    if (!same(mm)) onpick(mm)
  }
  const fails = (mm: number) => limit != null && mm > limit + 1e-6
</script>

<div role="group" aria-label={label}>
  <p class="flex w-full items-center gap-3 pb-1">
    <span class="text-lg font-bold">{label}</span>
    <span class="number text-xl"
      >{#if value != null}<Len mm={value} />{/if}</span
    >
    {#if limit != null}<span class="ml-auto text-sm text-(--soft)"
        >the limit is {limit === 0 ? 'none at all' : lengthText(limit)}</span
      >{/if}
    <span class={limit == null ? 'ml-auto' : ''}><TypedLength {label} onread={onpick} /></span>
  </p>
  <div class="relative">
    <!-- svelte-ignore a11y_no_static_element_interactions -->
    <div
      class="grid touch-pan-y"
      bind:this={ruler}
      onpointerdown={(event) => (from = event.clientX)}
      onpointermove={drag}
      onpointerup={() => (from = null)}
      onpointercancel={() => (from = null)}
      style:grid-template-columns="repeat({STEPS}, minmax(0, 1fr))"
    >
      {#each sizes as mm (mm)}
        <button
          type="button"
          class="cell number"
          class:fails={fails(mm)}
          aria-pressed={same(mm)}
          aria-label="{label} {lengthText(mm)}"
          onclick={() => onpick(same(mm) ? null : mm)}><Len {mm} label={false} /></button
        >
      {/each}
    </div>
    {#if at != null}<span class="limit" style:left="{(at / STEPS) * 100}%" aria-hidden="true"></span>{/if}
  </div>
</div>

<style>
  .cell {
    position: relative;
    min-height: 60px;
    padding-top: 14px;
    border-block: 1.5px solid var(--ink);
    background: linear-gradient(var(--done-ground), var(--done-ground)) 0 0 / 100% 14px no-repeat var(--sheet);
    font-size: 1.25rem;
  }
  .cell:first-child {
    border-left: 1.5px solid var(--ink);
  }
  .cell:last-child {
    border-right: 1.5px solid var(--ink);
  }
  .cell::after {
    position: absolute;
    top: 14px;
    left: 50%;
    height: 8px;
    border-left: 1.5px solid var(--ink);
    content: '';
  }
  .cell.fails {
    background:
      repeating-linear-gradient(135deg, var(--caution) 0 1px, transparent 1px 6px) 0 0 / 100% 14px no-repeat,
      var(--sheet);
  }
  .cell[aria-pressed='true'] {
    background: var(--ink);
    color: var(--page);
  }
  .limit {
    position: absolute;
    top: -6px;
    bottom: -2px;
    border-left: 3px solid var(--ink);
    translate: -1.5px 0;
    pointer-events: none;
  }
</style>
