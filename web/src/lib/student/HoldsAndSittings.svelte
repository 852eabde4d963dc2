<script lang="ts">
  import HeldList from '$lib/holds/HeldList.svelte'
  import { holdsQuery, studentSittingsQuery } from '$lib/queries'
  import SittingRows from '$lib/sittings/SittingRows.svelte'

  let { studentId }: { studentId: string } = $props()
  const holds = holdsQuery(() => studentId)
  const sittings = studentSittingsQuery(() => studentId)
  const held = $derived(holds.data?.held ?? [])
  const open = $derived(sittings.data?.open ?? [])
</script>

<div class="mb-3 grid gap-x-8 gap-y-3 {open.length ? 'md:grid-cols-2' : ''}">
  <section class="border-t-2 border-(--steel-edge) pt-1.5" aria-labelledby="holds">
    <div class="flex items-baseline gap-3">
      <h2 id="holds" class="text-lg">Holds</h2>
      <a class="bare ml-auto min-h-0 py-0" href="/students/{studentId}/holds"
        >{held.length ? 'Proof, log, papers' : 'Enter a paper from elsewhere'}</a
      >
    </div>
    {#if held.length}<HeldList {held} />
    {:else if holds.data}<p class="py-1 text-(--soft)">No qualification yet.</p>{/if}
  </section>
  {#if open.length}
    <section class="border-t-2 border-(--steel-edge) pt-1.5" aria-labelledby="booked">
      <h2 id="booked" class="text-lg">Booked</h2>
      <SittingRows rows={open} withName={false} narrow />
    </section>
  {/if}
</div>
