<script lang="ts">
  import Dialog from '$lib/ui/Dialog.svelte'

  type Props = {
    open: boolean
    title: string
    /** Reasons that are usual; a tap is enough. */
    usual: string[]
    label: string
    act: string
    onsay: (reason: string) => void
  }
  let { open = $bindable(), title, usual, label, act, onsay }: Props = $props()
  let text = $state('')

  function say(reason: string) {
    open = false
    text = ''
    onsay(reason)
  }
</script>

<Dialog bind:open {title} size="sm">
  <div class="flex flex-col gap-2">
    <div class="flex flex-wrap gap-1.5">
      {#each usual as reason (reason)}
        <button class="plate" onclick={() => say(reason)}>{reason}</button>
      {/each}
    </div>
    <form
      class="flex gap-2"
      onsubmit={(event) => {
        event.preventDefault()
        if (text.trim()) say(text.trim())
      }}
    >
      <input
        class="field min-w-0 grow"
        aria-label={label}
        placeholder={label}
        maxlength="500"
        bind:value={text}
      />
      <button class="plate" disabled={text.trim() === ''}>{act}</button>
    </form>
  </div>
</Dialog>
