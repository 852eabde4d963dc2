import { createQuery } from '@tanstack/svelte-query'
import { api, ask } from '$lib/api/client'
import { likes } from '$lib/likes.svelte'

// The feed tells of changes as they come; this is for the passing of time and a feed that is blocked on the way.
const SHOP_FLOOR_REFRESH_MS = 60_000

export const floorQuery = () =>
  createQuery(() => ({
    queryKey: ['floor'],
    queryFn: () => ask(api.GET('/api/floor')),
    refetchInterval: SHOP_FLOOR_REFRESH_MS,
  }))

const BACKUPS_REFRESH_MS = 10 * 60_000

/** How safe the school is; only the lead may ask. */
export const backupsQuery = (mayAsk: () => boolean) =>
  createQuery(() => ({
    queryKey: ['school', 'backups'],
    enabled: mayAsk(),
    queryFn: () => ask(api.GET('/api/school/backups')),
    staleTime: 60_000,
    refetchInterval: BACKUPS_REFRESH_MS,
  }))

/** Every booth with what keeps it from taking a coupon of a test, or a drill of it. */
export const boothOffersQuery = (of: () => { testId: string; drillId: string | null } | null) =>
  createQuery(() => ({
    queryKey: ['floor', 'booths-for', of()],
    enabled: of() != null,
    queryFn: () =>
      ask(
        api.GET('/api/floor/booths-for/{testId}', {
          params: { path: { testId: of()!.testId }, query: { drillId: of()!.drillId ?? undefined } },
        }),
      ),
  }))

export const couponQuery = (couponId: () => string) =>
  createQuery(() => ({
    queryKey: ['coupon', couponId()],
    queryFn: () => ask(api.GET('/api/coupons/{couponId}', { params: { path: { couponId: couponId() } } })),
  }))

/** What the coach says of a coupon, in the language of whoever is signed in. */
export const coachQuery = (couponId: () => string) =>
  createQuery(() => ({
    queryKey: ['coupon', couponId(), 'coach', likes.language],
    queryFn: () =>
      ask(
        api.GET('/api/coupons/{couponId}/coach', {
          params: { path: { couponId: couponId() }, query: { language: likes.language } },
        }),
      ),
  }))

/** What arc loggers measured of the beads of a coupon. */
export const arcsQuery = (couponId: () => string) =>
  createQuery(() => ({
    queryKey: ['coupon', couponId(), 'arcs'],
    queryFn: () =>
      ask(api.GET('/api/coupons/{couponId}/arcs', { params: { path: { couponId: couponId() } } })),
  }))

/** What laboratories have of a coupon, and had. */
export const labQuery = (couponId: () => string) =>
  createQuery(() => ({
    queryKey: ['coupon', couponId(), 'lab'],
    queryFn: () =>
      ask(api.GET('/api/coupons/{couponId}/lab', { params: { path: { couponId: couponId() } } })),
  }))

export const studentQuery = (id: () => string) =>
  createQuery(() => ({
    queryKey: ['student', id()],
    queryFn: () => ask(api.GET('/api/students/{id}', { params: { path: { id: id() } } })),
  }))

export const groundsQuery = (studentId: () => string, testId: () => string) =>
  createQuery(() => ({
    queryKey: ['grounds', studentId(), testId()],
    queryFn: () =>
      ask(
        api.GET('/api/students/{studentId}/tests/{testId}/grounds', {
          params: { path: { studentId: studentId(), testId: testId() } },
        }),
      ),
  }))

export const testsQuery = () =>
  createQuery(() => ({ queryKey: ['tests'], queryFn: () => ask(api.GET('/api/tests')), staleTime: Infinity }))

/** The table of the standards, which does not change. */
export const pipeSizesQuery = () =>
  createQuery(() => ({
    queryKey: ['pipe-sizes'],
    queryFn: () => ask(api.GET('/api/pipe-sizes')),
    staleTime: Infinity,
  }))

export const profilesQuery = () =>
  createQuery(() => ({ queryKey: ['profiles'], queryFn: () => ask(api.GET('/api/profiles')) }))

/** How a profile is called, by its id. */
export function profileNames() {
  const profiles = profilesQuery()
  return (id: string) => profiles.data?.find((one) => one.id === id)?.name ?? id
}

export const findingKindsQuery = () =>
  createQuery(() => ({
    queryKey: ['finding-kinds'],
    queryFn: () => ask(api.GET('/api/finding-kinds')),
    staleTime: Infinity,
  }))

export const classesQuery = () =>
  createQuery(() => ({ queryKey: ['classes'], queryFn: () => ask(api.GET('/api/classes')) }))

export const readinessQuery = (studentId: () => string, testId: () => string) =>
  createQuery(() => ({
    queryKey: ['readiness', studentId(), testId()],
    queryFn: () =>
      ask(
        api.GET('/api/students/{studentId}/tests/{testId}/readiness', {
          params: { path: { studentId: studentId(), testId: testId() } },
        }),
      ),
  }))

export const readyQuery = (all: () => boolean) =>
  createQuery(() => ({
    queryKey: ['ready', all()],
    queryFn: () => ask(api.GET('/api/ready', { params: { query: { all: all() } } })),
  }))

export const recordQuery = () =>
  createQuery(() => ({ queryKey: ['results'], queryFn: () => ask(api.GET('/api/results')) }))

export const policyQuery = (testId: () => string) =>
  createQuery(() => ({
    queryKey: ['policy', testId()],
    queryFn: () => ask(api.GET('/api/policies/{testId}', { params: { path: { testId: testId() } } })),
  }))

export const patternsQuery = (studentId: () => string) =>
  createQuery(() => ({
    queryKey: ['learn', 'student', studentId()],
    queryFn: () =>
      ask(api.GET('/api/learn/students/{studentId}', { params: { path: { studentId: studentId() } } })),
  }))

export const weekQuery = (monday: () => string) =>
  createQuery(() => ({
    queryKey: ['week', monday()],
    queryFn: () => ask(api.GET('/api/weeks/{monday}', { params: { path: { monday: monday() } } })),
  }))

export const cutListQuery = (monday: () => string) =>
  createQuery(() => ({
    queryKey: ['cutlist', monday()],
    queryFn: () => ask(api.GET('/api/weeks/{monday}/cutlist', { params: { path: { monday: monday() } } })),
  }))

export const boothCardsQuery = (monday: () => string) =>
  createQuery(() => ({
    queryKey: ['week', 'cards', monday()],
    queryFn: () => ask(api.GET('/api/weeks/{monday}/cards', { params: { path: { monday: monday() } } })),
  }))

export const stockQuery = () =>
  createQuery(() => ({ queryKey: ['stock'], queryFn: () => ask(api.GET('/api/stock')) }))

export const setupQuery = () =>
  createQuery(() => ({ queryKey: ['setup'], queryFn: () => ask(api.GET('/api/plan/setup')) }))

export const stepsQuery = () =>
  createQuery(() => ({ queryKey: ['steps'], queryFn: () => ask(api.GET('/api/steps')) }))

export const wayQuery = (studentId: () => string) =>
  createQuery(() => ({
    queryKey: ['way', studentId()],
    queryFn: () =>
      ask(api.GET('/api/students/{studentId}/way', { params: { path: { studentId: studentId() } } })),
    enabled: studentId() !== '',
  }))

export const reachedQuery = (studentId: () => string, testId: () => string) =>
  createQuery(() => ({
    queryKey: ['readiness', studentId(), testId(), 'reached'],
    queryFn: ({ signal }) =>
      ask(
        api.GET('/api/students/{studentId}/tests/{testId}/reached', {
          params: { path: { studentId: studentId(), testId: testId() } },
          signal,
        }),
      ),
  }))

export const testQuery = (id: () => string) =>
  createQuery(() => ({
    queryKey: ['test', id(), null, []],
    queryFn: () =>
      ask(api.GET('/api/tests/{id}', { params: { path: { id: id() }, query: { variants: [] } } })),
    enabled: id() !== '',
  }))

export const sittingsQuery = () =>
  createQuery(() => ({ queryKey: ['sittings'], queryFn: () => ask(api.GET('/api/sittings')) }))

export const sittingQuery = (id: () => string) =>
  createQuery(() => ({
    queryKey: ['sitting', id()],
    queryFn: () => ask(api.GET('/api/sittings/{id}', { params: { path: { id: id() } } })),
  }))

export const holdsQuery = (studentId: () => string) =>
  createQuery(() => ({
    queryKey: ['holds', studentId()],
    queryFn: () =>
      ask(api.GET('/api/students/{studentId}/holds', { params: { path: { studentId: studentId() } } })),
  }))

export const certificateQuery = (id: () => string) =>
  createQuery(() => ({
    queryKey: ['certificate', id()],
    queryFn: () => ask(api.GET('/api/certificates/{id}', { params: { path: { id: id() } } })),
  }))

export const boardQuery = () =>
  createQuery(() => ({ queryKey: ['board'], queryFn: () => ask(api.GET('/api/certificates/board')) }))

/** What is due beside the coupons: sittings, and what ends soon. */
export const dueQuery = () =>
  createQuery(() => ({
    queryKey: ['due'],
    queryFn: () => ask(api.GET('/api/floor/due')),
    refetchInterval: SHOP_FLOOR_REFRESH_MS,
  }))

export const peopleQuery = () =>
  createQuery(() => ({ queryKey: ['people'], queryFn: () => ask(api.GET('/api/people')) }))

export const studentSittingsQuery = (studentId: () => string) =>
  createQuery(() => ({
    queryKey: ['sittings', studentId()],
    queryFn: () =>
      ask(api.GET('/api/students/{studentId}/sittings', { params: { path: { studentId: studentId() } } })),
  }))
