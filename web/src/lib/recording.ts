import { api, ask, newId, type Schema } from '$lib/api/client'

/** Logs a bead with the settings of a card; answers the id of the pass. */
export async function logPass(
  couponId: string,
  beadKey: string,
  card: Schema['PassCard'],
  extras: { belowFlushMm: number | null; interpassC: number | null } = {
    belowFlushMm: null,
    interpassC: null,
  },
): Promise<string> {
  const id = newId()
  const {
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
  } = card
  await ask(
    api.PUT('/api/coupons/{couponId}/passes/{id}', {
      params: { path: { couponId, id } },
      body: {
        beadKey,
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
        ...extras,
        startAt: null,
        stopAt: null,
      },
    }),
  )
  return id
}

export const takeBackPass = (couponId: string, id: string) =>
  ask(api.DELETE('/api/coupons/{couponId}/passes/{id}', { params: { path: { couponId, id } } }))

/** Records anything else that happened; answers the id of the event. */
export async function recordEvent(
  couponId: string,
  kind: Schema['BenchEventKind'],
  body: Partial<Schema['BenchEventBody']>,
): Promise<string> {
  const id = newId()
  await ask(
    api.PUT('/api/coupons/{couponId}/events/{id}', {
      params: { path: { couponId, id } },
      body: { kind, body: body as Schema['BenchEventBody'] },
    }),
  )
  return id
}

export const takeBackEvent = (couponId: string, id: string) =>
  ask(api.DELETE('/api/coupons/{couponId}/events/{id}', { params: { path: { couponId, id } } }))
