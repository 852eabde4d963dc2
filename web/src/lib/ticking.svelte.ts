const SECOND_MS = 1000

/** The time, a second at a time, for whatever counts on the page. */
class Ticking {
  now = $state(Date.now())

  constructor() {
    setInterval(() => (this.now = Date.now()), SECOND_MS)
  }
}

export const ticking = new Ticking()

/** `4:05` from milliseconds; over an hour `1:02:03`; under zero with its sign. */
export function clockText(ms: number): string {
  const seconds = Math.round(Math.abs(ms) / SECOND_MS)
  const [h, m, s] = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60]
  const two = (value: number) => String(value).padStart(2, '0')
  return `${ms < 0 && seconds > 0 ? '−' : ''}${h > 0 ? `${h}:${two(m)}` : m}:${two(s)}`
}

let sounded: AudioContext | null = null

/** Two short tones. A browser that has not been touched yet keeps silent; the page shows it as well. */
export function sound() {
  try {
    sounded ??= new AudioContext()
    for (const at of [0, 0.3]) {
      const tone = sounded.createOscillator()
      const volume = sounded.createGain()
      tone.frequency.value = 880
      volume.gain.value = 0.15
      tone.connect(volume).connect(sounded.destination)
      tone.start(sounded.currentTime + at)
      tone.stop(sounded.currentTime + at + 0.18)
    }
  } catch {
    // No sound on this device: what is due is shown all the same.
  }
}
