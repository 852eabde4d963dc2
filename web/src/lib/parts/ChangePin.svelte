<script lang="ts">
  import { api, ask, Refused } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import { session } from '$lib/session.svelte'
  import Dialog from '$lib/ui/Dialog.svelte'
  import PinField from './PinField.svelte'

  let { open = $bindable() }: { open: boolean } = $props()
  let pin = $state('')
  let newPin = $state('')
  let errors = $state<Record<string, string[]>>({})

  async function change(event: SubmitEvent) {
    event.preventDefault()
    errors = {}
    try {
      await ask(api.PUT('/api/session/pin', { body: { pin, newPin } }))
      await session.load()
      open = false
      notices.add('Your PIN is changed. Every other device is signed out.')
    } catch (error) {
      errors = error instanceof Refused ? error.fields : { pin: [String(error)] }
    }
    pin = newPin = ''
  }

  async function everywhere() {
    if (await notices.attempt(() => ask(api.POST('/api/session/everywhere')))) await session.load()
  }
</script>

<Dialog bind:open title="Your PIN">
  <form onsubmit={change} novalidate>
    <PinField bind:pin label="Your PIN as it is" error={errors.pin?.[0]} autofocus />
    <PinField bind:pin={newPin} label="The new one, 4 to 12 digits" error={errors.newPin?.[0]} fresh />
    <button class="lead w-full">Change it</button>
  </form>
  <button class="bare mt-2" onclick={everywhere}>Sign me out on every device</button>
</Dialog>
