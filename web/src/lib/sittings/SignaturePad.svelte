<script lang="ts">
  /** A signature as strokes: an SVG path in a field of 600 by 200. */
  let { path = $bindable() }: { path: string } = $props()
  const [WIDTH, HEIGHT] = [600, 200]
  const MOST = 19_000
  let drawing = false

  function at(event: PointerEvent): string {
    const box = (event.currentTarget as SVGElement).getBoundingClientRect()
    const clamp = (value: number, most: number) => Math.min(most, Math.max(0, value))
    const x = clamp(((event.clientX - box.left) / box.width) * WIDTH, WIDTH)
    const y = clamp(((event.clientY - box.top) / box.height) * HEIGHT, HEIGHT)
    return `${Math.round(x)} ${Math.round(y)}`
  }
  function begin(event: PointerEvent) {
    drawing = true
    ;(event.currentTarget as SVGElement).setPointerCapture(event.pointerId)
    path += `${path ? ' ' : ''}M${at(event)}`
  }
  function go(event: PointerEvent) {
    if (drawing && path.length < MOST) path += ` L${at(event)}`
  }
</script>

<svg
  viewBox="0 0 {WIDTH} {HEIGHT}"
  class="block w-full touch-none border-2 border-(--steel-edge) bg-white"
  role="img"
  aria-label={path ? 'Signature, written' : 'Sign here with a finger'}
  onpointerdown={begin}
  onpointermove={go}
  onpointerup={() => (drawing = false)}
  onpointercancel={() => (drawing = false)}
>
  <path d="M20 165H580" stroke="#999" stroke-width="1.5" />
  <path
    d={path || 'M0 0'}
    fill="none"
    stroke="#000"
    stroke-width="3.5"
    stroke-linecap="round"
    stroke-linejoin="round"
  />
</svg>
<button type="button" class="bare" disabled={!path} onclick={() => (path = '')}>Sign again</button>
