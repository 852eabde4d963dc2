// @vitest-environment jsdom
import { expect, it } from 'vitest'
import type { Schema } from '$lib/api/client'
import { limitText, sourceText } from './limits'

const reason = (change: Partial<Schema['LimitReason']>): Schema['LimitReason'] => ({
  finding: 0,
  measure: 'depthMm',
  measured: 1.190625,
  limit: 0.79375,
  outcome: 'reject',
  rule: 'Undercut not deeper than 1/32 in.',
  source: 'AWS D1.1',
  fromMemory: true,
  noLimit: false,
  inside: false,
  warns: false,
  ...change,
})

it('says size and limit the way the shop does', () => {
  expect(limitText(reason({}))).toBe('Depth 3/64 in; the limit is 1/32 in.')
})

it('names the measure that is missing', () => {
  expect(limitText(reason({ outcome: 'cannot-judge', measured: null }))).toMatch(/^Depth not measured yet/)
})

it('gives the rule itself where nothing at all is allowed, or nothing is limited', () => {
  expect(limitText(reason({ limit: 0 }))).toBe('Undercut not deeper than 1/32 in.')
  expect(limitText(reason({ measure: null, limit: null, rule: 'No limit.' }))).toBe('No limit.')
})

it('asks to check what was written from memory', () => {
  expect(sourceText(reason({}))).toMatch(/check against your edition/)
  expect(sourceText(reason({ fromMemory: false }))).toBe('AWS D1.1')
})
