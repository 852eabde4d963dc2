import { createQuery } from '@tanstack/svelte-query'
import { api, ask } from '$lib/api/client'

const SHOP_FLOOR_REFRESH_MS = 15_000

export const floorQuery = () =>
  createQuery(() => ({
    queryKey: ['floor'],
    queryFn: () => ask(api.GET('/api/floor')),
    refetchInterval: SHOP_FLOOR_REFRESH_MS,
  }))

export const couponQuery = (couponId: () => string) =>
  createQuery(() => ({
    queryKey: ['coupon', couponId()],
    queryFn: () => ask(api.GET('/api/coupons/{couponId}', { params: { path: { couponId: couponId() } } })),
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

export const readyQuery = () =>
  createQuery(() => ({ queryKey: ['ready'], queryFn: () => ask(api.GET('/api/ready')) }))

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
