<script lang="ts">
  import Waiting from '$lib/parts/Waiting.svelte'
  import { sittingsQuery } from '$lib/queries'
  import SittingRows from '$lib/sittings/SittingRows.svelte'
  import Fold from '$lib/ui/Fold.svelte'

  const sittings = sittingsQuery()
  const open = $derived(sittings.data?.open ?? [])
  const due = $derived(open.filter((one) => one.state === 'waiting' || one.state === 'today'))
  const coming = $derived(open.filter((one) => one.state === 'booked'))
</script>

<svelte:head><title>Sittings · Gradus</title></svelte:head>

{#if !sittings.data}
  <Waiting error={sittings.error} retry={() => sittings.refetch()} what="The sittings" />
{:else}
  <div class="flex flex-wrap items-baseline gap-x-4 pt-3 pb-2">
    <h1 class="text-3xl">Sittings</h1>
    <p class="text-(--soft)">A sitting is booked from a student's decision.</p>
    <a class="bare ml-auto" href="/certificates">Who holds what</a>
  </div>
  {#if due.length}
    <section class="sheet mb-3 border-l-4 border-(--straw) px-4 py-2" aria-labelledby="due">
      <h2 id="due" class="text-xl">Today, and wanting a result</h2>
      <SittingRows rows={due} />
    </section>
  {/if}
  <section class="sheet px-4 py-2" aria-labelledby="coming">
    <h2 id="coming" class="text-xl">To come</h2>
    {#if coming.length}<SittingRows rows={coming} />{:else}
      <p class="py-3 text-(--soft)">
        None is booked. Under <a class="bare min-h-0 py-0" href="/ready">Ready</a> stands who is ready to sit.
      </p>
    {/if}
  </section>
  <div class="mt-3 border-t">
    <Fold name="Done" value={String(sittings.data.done.length)} open={open.length === 0}>
      {#if sittings.data.done.length}<SittingRows rows={sittings.data.done} />{:else}
        <p class="py-2 text-(--soft)">None yet.</p>
      {/if}
    </Fold>
  </div>
{/if}
