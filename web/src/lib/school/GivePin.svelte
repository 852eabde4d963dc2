<script lang="ts">
  import { Refused } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import PinField from '$lib/parts/PinField.svelte'
  import Dialog from '$lib/ui/Dialog.svelte'

  type Named = { id: string; name: string }
  /** `give` gives the PIN; afterwards `to` is nobody. */
  let { to = $bindable(), give }: { to: Named | null; give: (to: Named, pin: string) => Promise<unknown> } =
    $props()
  let pin = $state('')
  let error = $state('')

  async function submit(event: SubmitEvent) {
    event.preventDefault()
    if (!to) return
    const { name } = to
    error = ''
    try {
      await give(to, pin)
      notices.add(`${name} has a new PIN, and is signed out everywhere.`)
      to = null
    } catch (problem) {
      if (problem instanceof Refused && problem.fields.pin) error = problem.message
      else notices.add(problem instanceof Error ? problem.message : 'Something went wrong.', 'caution')
    }
    pin = ''
  }
</script>

<Dialog
  bind:open={
    () => to !== null,
    (value) => {
      if (!value) to = null
    }
  }
  title="A new PIN for {to?.name ?? ''}"
>
  <form novalidate onsubmit={submit}>
    <PinField bind:pin label="4 to 12 digits" {error} fresh autofocus />
    <button class="lead w-full">Give it</button>
  </form>
</Dialog>
