<script lang="ts">
  import Modal from 'flowbite-svelte/Modal.svelte'
  import { goto } from '$app/navigation'
  import { floorQuery } from '$lib/queries'

  let { open = $bindable() }: { open: boolean } = $props()
  let text = $state('')
  const floor = floorQuery()
  const SHOWN = 8

  const hits = $derived(
    (floor.data?.students ?? [])
      .flatMap((student) => [
        {
          key: student.id,
          href: `/students/${student.id}`,
          name: student.name,
          more: `${student.className}, ${student.targetTestId}`,
        },
        ...(student.open
          ? [
              {
                key: student.open.id,
                href: `/coupons/${student.open.id}`,
                name: student.open.stamp,
                more: `coupon of ${student.name}, ${student.open.testId}`,
              },
            ]
          : []),
      ])
      .filter((hit) => `${hit.name} ${hit.more}`.toLowerCase().includes(text.trim().toLowerCase()))
      .slice(0, SHOWN),
  )

  function go(href: string) {
    open = false
    text = ''
    goto(href)
  }
</script>

<Modal bind:open title="Find" size="sm">
  <form
    onsubmit={(event) => {
      event.preventDefault()
      if (hits[0]) go(hits[0].href)
    }}
  >
    <!-- svelte-ignore a11y_autofocus -->
    <input
      class="h-12 w-full border-[1.5px] border-(--steel-edge) bg-(--page) px-3 text-lg"
      placeholder="A name, a stamp, a test"
      aria-label="Find a student, a coupon stamp or a test"
      bind:value={text}
      autofocus
    />
  </form>
  <ul class="mt-2">
    {#each hits as hit (hit.key)}
      <li>
        <button class="plate w-full justify-between" onclick={() => go(hit.href)}>
          <span>{hit.name}</span><span class="text-(--soft)">{hit.more}</span>
        </button>
      </li>
    {:else}
      <li class="p-3 text-(--soft)">Nothing by that name on the floor.</li>
    {/each}
  </ul>
</Modal>
