import { newId, type Schema } from '$lib/api/client'
import { notices } from '$lib/notices.svelte'
import { spaced } from '$lib/words'
import { write } from '$lib/outbox.svelte'

/** What is noted with a pass beside its settings. Places: clock positions on pipe, mm from the start on plate. */
export type PassExtras = {
  belowFlushMm: number | null
  interpassC: number | null
  startAt: string | null
  stopAt: string | null
  measured: Partial<Schema['RunMeasures']>
}
export const NO_EXTRAS: PassExtras = {
  belowFlushMm: null,
  interpassC: null,
  startAt: null,
  stopAt: null,
  measured: {},
}

/** One of several runs that make a bead together. */
export type Run = { startAt: string; stopAt: string; side: Schema['PipeSide'] | null }

/** A bead that was just logged takes no second tap for so long: a double tap or a held key is one pass. */
export const DEAD_MS = 700

const tapped = new Map<string, number>()

/** False when the very same thing was told a moment ago: a double tap on a button is one tap. */
export function isFirstTap(couponId: string, kind: string, body: unknown): boolean {
  const key = JSON.stringify([couponId, kind, body])
  const [now, before] = [Date.now(), tapped.get(key) ?? 0]
  tapped.set(key, now)
  return now - before > DEAD_MS
}

/** How a pass is run, of a card or of a pass that was laid. */
const settingsOf = ({
  process,
  electrodeClass,
  diameterMm,
  polarity,
  amps,
  volts,
  wireFeedMmPerMin,
  gas,
  technique,
  progression,
  hand,
}: Schema['PassCard'] | Schema['PassView']) => ({
  process,
  electrodeClass,
  diameterMm,
  polarity,
  amps,
  volts,
  wireFeedMmPerMin,
  gas,
  technique,
  progression,
  hand,
})

async function recordPass(couponId: string, body: Schema['RecordPass']): Promise<string> {
  const id = newId()
  await write(couponId, 'PUT', 'passes', id, body, `${body.beadKey}, ${body.amps} A`)
  return id
}

/** Logs a bead with the settings of a card; answers the id of the pass. */
export function logPass(
  couponId: string,
  beadKey: string,
  card: Schema['PassCard'],
  extras: PassExtras = NO_EXTRAS,
  run: Run | null = null,
): Promise<string> {
  const said = Object.values(extras.measured).some((value) => value != null)
  return recordPass(couponId, {
    beadKey,
    ...settingsOf(card),
    ...extras,
    ...(run ? { ...run, part: true } : {}),
    measured: said ? (extras.measured as Schema['RunMeasures']) : null,
  })
}

/** Lays a pass again that was taken back, as it was. */
export function layAgain(couponId: string, beadKey: string, run: Schema['PassView']): Promise<string> {
  const { interpassC, belowFlushMm, startAt, stopAt, part, side, measured } = run
  return recordPass(couponId, {
    beadKey,
    ...settingsOf(run),
    interpassC,
    belowFlushMm,
    startAt,
    stopAt,
    part,
    side,
    measured,
  })
}

export const takeBackPass = (couponId: string, id: string) =>
  write(couponId, 'DELETE', 'passes', id, null, 'a pass taken back')

/** Records anything else that happened; answers the id of the event. */
export async function recordEvent(
  couponId: string,
  kind: Schema['BenchEventKind'],
  body: Partial<Schema['BenchEventBody']>,
): Promise<string> {
  const id = newId()
  await write(couponId, 'PUT', 'events', id, { kind, body }, spaced(kind))
  return id
}

export const takeBackEvent = (couponId: string, id: string) =>
  write(couponId, 'DELETE', 'events', id, null, 'an event taken back')

/** Records an event from a button, once for a double tap, with its undo in the notice. */
export async function tellEvent(
  couponId: string,
  kind: Schema['BenchEventKind'],
  body: Partial<Schema['BenchEventBody']>,
  says: string,
  changed: () => Promise<unknown>,
) {
  if (!isFirstTap(couponId, kind, body)) return
  await notices.attempt(async () => {
    const event = await recordEvent(couponId, kind, body)
    notices.add(says, 'done', async () => {
      await takeBackEvent(couponId, event)
      await changed()
    })
    await changed()
  })
}
