import { describe, expect, it } from 'vitest'
import { roughly } from './times'

describe('a span as a person says it', () => {
  it.each([
    [120, '2 minutes'],
    [20, '1 minute'],
    [3600, '60 minutes'],
    [7200, '2 hours'],
    [47 * 3600, '47 hours'],
    [48 * 3600, '2 days'],
    [400 * 86400, '400 days'],
  ])('%d s is %s', (seconds, says) => expect(roughly(seconds)).toBe(says))
})
