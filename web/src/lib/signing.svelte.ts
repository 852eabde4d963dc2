import { Refused } from '$lib/api/client'
import { notices } from '$lib/notices.svelte'

type Signed = (header: { 'Gradus-Pin': string }) => Promise<unknown>

/** A signature that is being asked for: the PIN of whoever is signed in. */
class Signing {
  /** What is signed, in words; null while nothing is. */
  what = $state<string | null>(null)
  error = $state('')
  busy = $state(false)
  private act: Signed | null = null
  private settle: { done: (signed: boolean) => void; failed: (error: unknown) => void } | null = null

  /**
   * Asks for the PIN and does what is signed with it. False when it was given up.
   * @throws what the server refuses for another reason than the PIN.
   */
  sign(what: string, act: Signed): Promise<boolean> {
    this.settle?.done(false)
    this.act = act
    this.what = what
    this.error = ''
    return new Promise((done, failed) => (this.settle = { done, failed }))
  }

  /** Signs, and tells in its own words what the server refuses. True when it was signed. */
  async attempt(what: string, act: Signed): Promise<boolean> {
    let signed = false
    await notices.attempt(async () => void (signed = await this.sign(what, act)))
    return signed
  }

  async give(pin: string) {
    if (!this.act || this.busy) return
    this.busy = true
    this.error = ''
    try {
      await this.act({ 'Gradus-Pin': pin })
      this.end((settle) => settle.done(true))
    } catch (error) {
      if (error instanceof Refused && error.fields.pin) this.error = error.message
      else this.end((settle) => settle.failed(error))
    } finally {
      this.busy = false
    }
  }

  giveUp() {
    this.end((settle) => settle.done(false))
  }

  private end(tell: (settle: NonNullable<Signing['settle']>) => void) {
    const settle = this.settle
    this.what = this.act = this.settle = null
    if (settle) tell(settle)
  }
}

export const signing = new Signing()
