import { api, ask, newId, type Schema } from '$lib/api/client'

/** Logs a bead with the settings of a card; answers the id of the pass. */
export async function logPass(couponId: string, beadKey: string, card: Schema['PassCard']): Promise<string> {
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
      },
    }),
  )
  return id
}

export const takeBackPass = (couponId: string, id: string) =>
  ask(api.DELETE('/api/coupons/{couponId}/passes/{id}', { params: { path: { couponId, id } } }))
