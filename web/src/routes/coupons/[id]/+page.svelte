<script lang="ts">
  import { page } from '$app/state'
  import Bench from '$lib/bench/Bench.svelte'
  import { session } from '$lib/session.svelte'

  // A student in the booth reads what is next; the whole coupon is a tap away.
  const inBooth = $derived(session.isStudent && !page.url.searchParams.has('whole'))
</script>

<!-- Of each coupon its own: nothing that was set on one is logged on the next. -->
{#key page.params.id}
  {#if inBooth}
    {#await import('$lib/coach/BoothPage.svelte') then { default: BoothPage }}<BoothPage
        id={page.params.id!}
      />{/await}
  {:else}
    <Bench id={page.params.id!} />
  {/if}
{/key}
