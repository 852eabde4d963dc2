<script lang="ts">
  import Modal from 'flowbite-svelte/Modal.svelte'

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

<Modal bind:open {title} size="sm">
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
        class="h-12 min-w-0 grow border-[1.5px] border-(--steel-edge) bg-(--page) px-2"
        aria-label={label}
        placeholder={label}
        maxlength="500"
        bind:value={text}
      />
      <button class="plate" disabled={text.trim() === ''}>{act}</button>
    </form>
  </div>
</Modal>
