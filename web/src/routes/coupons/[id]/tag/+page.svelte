<script lang="ts">
  import { page } from '$app/state'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { couponQuery } from '$lib/queries'

  const id = $derived(page.params.id!)
  const query = couponQuery(() => id)
  const coupon = $derived(query.data)
</script>

<svelte:head><title>{coupon ? `${coupon.stamp} · Tag` : 'Tag'} · Gradus</title></svelte:head>

{#if !coupon}
  <Waiting error={query.error} retry={() => query.refetch()} what="The tag" />
{:else}
  <div class="flex gap-2 pt-3 pb-3 print:hidden">
    <a class="plate" href="/coupons/{id}">Back to the coupon</a>
    <button class="lead" onclick={() => window.print()}>Print the tag</button>
  </div>
  <section
    class="tag flex items-center gap-6 border-2 border-black bg-white p-5 text-black"
    aria-label="Tag of the coupon"
  >
    <img
      src="/api/coupons/{id}/tag.svg"
      alt="QR code that opens coupon {coupon.stamp}"
      class="h-40 w-40 shrink-0"
    />
    <div class="min-w-0">
      <p class="stamp text-6xl">{coupon.stamp}</p>
      <p class="text-2xl font-bold break-words">{coupon.student.name}</p>
      <p class="text-lg">
        <span class="number text-2xl">{coupon.test.id}</span>
        {coupon.test.title}, {coupon.test.position}
      </p>
      <p>{coupon.asTest ? 'As under test' : 'Coached'}{coupon.booth ? `, booth ${coupon.booth}` : ''}</p>
      <p class="mt-1 text-sm">Strike the stamp into both members, clear of the weld and the specimens.</p>
    </div>
  </section>
{/if}

<style>
  .tag {
    max-width: 148mm; /* A6 across: two on A4, two on Letter */
  }
</style>
