<script lang="ts">
  /** A rod, torch or gun on its way: pushed, its tip points ahead; dragged, back at the bead. */
  type Props = { travel: 'push' | 'drag'; min: number; max: number; goes: 'along' | 'up' | 'down' }
  let { travel, min, max, goes }: Props = $props()

  const LENGTH = 62
  const FOOT = { x: 66, y: 78 }
  // Drawn a little steeper than it is read: five degrees are not seen at arm's length.
  const SHOWN = 1.6
  const degrees = $derived(Math.max(4, ((min + max) / 2) * SHOWN))
  const lean = $derived((degrees * Math.PI) / 180)
  const side = $derived(travel === 'push' ? -1 : 1)
  const top = $derived({ x: FOOT.x + side * LENGTH * Math.sin(lean), y: FOOT.y - LENGTH * Math.cos(lean) })
  const turned = $derived(
    goes === 'up' ? 'rotate(-90 60 54)' : goes === 'down' ? 'rotate(90 60 54)' : undefined,
  )
</script>

<svg viewBox="0 0 120 108" class="h-full w-full" aria-hidden="true">
  <g transform={turned}>
    <rect x="8" y="82" width="104" height="14" fill="var(--steel)" />
    <path d="M8 82H112" stroke="var(--ink)" stroke-width="2" />
    <path d="M10 82Q14 74 22 76T36 76T50 76T{FOOT.x} 79V82Z" fill="var(--bronze)" />
    <path d="M{FOOT.x} {FOOT.y}V12" stroke="var(--soft)" stroke-width="2" stroke-dasharray="5 4" />
    <path
      d="M{FOOT.x} {FOOT.y}L{top.x} {top.y}"
      stroke="var(--ink)"
      stroke-width="7"
      stroke-linecap="round"
    />
    <circle cx={FOOT.x} cy={FOOT.y} r="6" fill="var(--straw)" />
    <path
      d="M82 60H106M98 53L106 60L98 67"
      fill="none"
      stroke="var(--blue)"
      stroke-width="3.5"
      stroke-linecap="round"
      stroke-linejoin="round"
    />
  </g>
</svg>
