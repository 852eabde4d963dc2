import type Modal from 'flowbite-svelte/Modal.svelte'

/** Flowbite's dialog. No view shows one at first: it comes with the first that is opened, or before, once a tablet has nothing else to do. */
class LateModal {
  Part = $state.raw<typeof Modal | null>(null)

  async load() {
    this.Part ??= (await import('flowbite-svelte/Modal.svelte')).default
  }
}

export const modal = new LateModal()
