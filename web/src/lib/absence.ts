import { api, ask, newId } from '$lib/api/client'

/** Keeps that a student is away on a day, or comes after all. A period of the day, or null for all of it. */
export const setAway = (studentId: string, day: string, period: number | null, away: boolean) =>
  away
    ? ask(
        api.PUT('/api/absences/{id}', {
          params: { path: { id: newId() } },
          body: { studentId, day, period },
        }),
      )
    : ask(api.DELETE('/api/absences/{studentId}/{day}', { params: { path: { studentId, day } } }))
