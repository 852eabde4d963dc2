type Point = { x: number; y: number }

/** How large a number is drawn at most, in mm of the section... */
const MOST = 2.1
/** ...and at least: under it is not read any more. */
const LEAST = 0.55
// Barlow Condensed 600: a figure is 0.45 of its size wide and 0.7 high.
const WIDE = 0.47
const HIGH = 0.72
/** So much of the room in a bead does its number take. */
const ROOM = 0.86

/** The centre of area of an outline. */
export function centreOf(points: readonly Point[]): Point {
  let [area, x, y] = [0, 0, 0]
  points.forEach((one, index) => {
    const two = points[(index + 1) % points.length]!
    const cross = one.x * two.y - two.x * one.y
    area += cross
    x += (one.x + two.x) * cross
    y += (one.y + two.y) * cross
  })
  return { x: x / (3 * area), y: y / (3 * area) }
}

/** From where to where an outline reaches on a line through it; the stretch that holds `near`, else the nearest. */
function chord(
  points: readonly Point[],
  along: 'x' | 'y',
  at: number,
  near: number,
): [number, number] | null {
  const across = along === 'x' ? 'y' : 'x'
  const cuts = points
    .flatMap((one, index) => {
      const two = points[(index + 1) % points.length]!
      const [from, to] = [one[across] - at, two[across] - at]
      return from * to < 0 || (from === 0 && to !== 0)
        ? [one[along] + ((two[along] - one[along]) * from) / (from - to)]
        : []
    })
    .toSorted((a, b) => a - b)
  const pairs = cuts.slice(0, -1).map((cut, index): [number, number] => [cut, cuts[index + 1]!])
  const stretches = pairs.filter((_, index) => index % 2 === 0)
  const away = ([from, to]: [number, number]) => Math.max(0, from - near, near - to)
  return stretches.toSorted((a, b) => away(a) - away(b))[0] ?? null
}

/** Where the number of a bead stands and how large, so that it touches no line of its outline; null where there is no room. */
export function numberPlace(points: readonly Point[], figures: number): (Point & { size: number }) | null {
  const centre = centreOf(points)
  const upright = chord(points, 'y', centre.x, centre.y)
  if (!upright) return null
  const y = (upright[0] + upright[1]) / 2
  // A bead is bowed: what counts is the room at the edges of the number, not in its middle.
  let size = Math.min(MOST, ((upright[1] - upright[0]) * ROOM) / HIGH)
  for (; size >= LEAST; size *= 0.94) {
    const [halfWide, halfHigh] = [(size * WIDE * figures) / 2 / ROOM, (size * HIGH) / 2 / ROOM]
    const holds = [y - halfHigh, y, y + halfHigh].every((level) => {
      const room = chord(points, 'x', level, centre.x)
      return room && room[0] <= centre.x - halfWide && room[1] >= centre.x + halfWide
    })
    if (holds) return { x: centre.x, y, size }
  }
  return null
}
