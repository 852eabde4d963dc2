/** Lengths that are typed and not read yet. Whoever saves waits for them, so that the last one typed is not lost. */
class Reading {
  private readonly pending = new Set<Promise<unknown>>()

  add(read: Promise<unknown>) {
    this.pending.add(read)
    void read.finally(() => this.pending.delete(read))
  }

  /** Settles when all of them are read. */
  async settled() {
    await Promise.allSettled(this.pending)
  }
}

export const reading = new Reading()
