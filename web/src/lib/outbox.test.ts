// @vitest-environment jsdom
import { expect, it } from 'vitest'
import { sentence } from './outbox.svelte'

it.each([
  [0, 0, null, true, true, null],
  [
    0,
    0,
    null,
    false,
    true,
    'No network. What you log now is kept on this tablet, and goes to the server by itself.',
  ],
  [
    1,
    0,
    'unreachable',
    true,
    true,
    '1 entry waits on this tablet; it goes to the server by itself when it is reached again.',
  ],
  [
    3,
    0,
    null,
    false,
    true,
    '3 entries wait on this tablet; they go to the server by themselves when it is reached again.',
  ],
  [2, 0, 'signedOut', true, true, '2 entries wait on this tablet until somebody signs in.'],
  [
    2,
    1,
    { says: 'The disk is full: this was not saved.' },
    true,
    true,
    '2 entries wait on this tablet. The disk is full: this was not saved.',
  ],
  [0, 1, null, true, true, '1 entry was refused by the server and waits here to be settled.'],
  [
    0,
    0,
    null,
    false,
    false,
    'This browser keeps no data of its own: what is not sent is lost with the page.',
  ],
  [1, 0, null, true, true, null], // on its way, for a moment
] as const)(
  'says what is true of %i waiting and %i refused',
  (waiting, refused, holdup, online, isKept, says) =>
    expect(sentence(waiting, refused, holdup, online, isKept)).toBe(says),
)
