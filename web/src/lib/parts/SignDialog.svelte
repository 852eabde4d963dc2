<script lang="ts">
  import { session } from '$lib/session.svelte'
  import { signing } from '$lib/signing.svelte'
  import Dialog from '$lib/ui/Dialog.svelte'
  import PinField from './PinField.svelte'

  let pin = $state('')
  $effect(() => {
    if (signing.what !== null) pin = ''
  })
</script>

<Dialog
  bind:open={
    () => signing.what !== null,
    (value) => {
      if (!value) signing.giveUp()
    }
  }
  title="Your signature"
>
  <form
    onsubmit={(event) => {
      event.preventDefault()
      void signing.give(pin).then(() => (pin = ''))
    }}
  >
    <p class="text-lg [overflow-wrap:anywhere]">{signing.what}</p>
    <p class="mt-1 mb-3 text-(--soft)">You sign as {session.view?.person?.name}.</p>
    <PinField bind:pin label="Your PIN" error={signing.error} autofocus />
    <button class="lead mt-2 w-full text-lg" disabled={signing.busy || pin === ''}>Sign</button>
  </form>
</Dialog>
