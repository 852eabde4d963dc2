/** How an axis of every chart looks; a colour is asked for by its name in the style sheet. */
export const axisOf = (colour: (name: string) => string) => ({
  stroke: colour('--soft'),
  grid: { stroke: colour('--line'), width: 1 },
})

/** The ticks of an axis of shares, 0 to 1. */
export const inPercent = (_: unknown, ticks: number[]) => ticks.map((tick) => `${Math.round(tick * 100)} %`)
