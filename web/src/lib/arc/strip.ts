import type { Schema } from '$lib/api/client'

/** A path through values, from the left edge to the right; it breaks where nothing was received. */
export function lineOf(values: (number | null)[], width: number, y: (value: number) => number): string {
  let path = ''
  let pen = false
  values.forEach((value, at) => {
    if (value == null) {
      pen = false
      return
    }
    const x = (at / Math.max(1, values.length - 1)) * width
    path += `${pen ? 'L' : 'M'}${x.toFixed(1)} ${y(value).toFixed(1)}`
    pen = true
  })
  return path
}

/** The area between the least and the most of each point, in one piece for each stretch without a gap. */
export function bandOf(
  least: (number | null)[],
  most: (number | null)[],
  width: number,
  y: (value: number) => number,
): string {
  let path = ''
  const x = (at: number) => ((at / Math.max(1, least.length - 1)) * width).toFixed(1)
  for (let from = 0; from < least.length; from++) {
    if (least[from] == null) continue
    let to = from
    while (to + 1 < least.length && least[to + 1] != null) to++
    const over = Array.from({ length: to - from + 1 }, (_, step) => from + step)
    path += `M${over.map((at) => `${x(at)} ${y(most[at]!).toFixed(1)}`).join('L')}L${over
      .toReversed()
      .map((at) => `${x(at)} ${y(least[at]!).toFixed(1)}`)
      .join('L')}Z`
    from = to
  }
  return path
}

/** The scales of a strip: volts up to what an arc can have, amps up to a little over the most. */
export function scalesOf(points: Schema['TracePoints']): { volts: number; amps: number } {
  const most = Math.max(0, ...points.amps.map((one) => one ?? 0))
  return { volts: 45, amps: Math.max(50, Math.ceil((most * 1.1) / 50) * 50) }
}

/** A step of seconds that leaves room for its label: few ticks, at round times. */
export const tickOf = (seconds: number): number =>
  [5, 10, 15, 30, 60, 120, 300, 600].find((step) => seconds / step <= 7) ?? 900
