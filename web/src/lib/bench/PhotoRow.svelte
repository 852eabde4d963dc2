<script lang="ts">
  import { newId, type Schema } from '$lib/api/client'
  import { moment } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import { write } from '$lib/outbox.svelte'
  import { session } from '$lib/session.svelte'

  let { coupon, onchanged }: { coupon: Schema['CouponView']; onchanged: () => Promise<unknown> } = $props()
  let busy = $state(false)

  async function take(event: Event, missing?: string) {
    const input = event.currentTarget as HTMLInputElement
    const file = input.files?.[0]
    if (!file) return
    busy = true
    await notices.attempt(async () => {
      const id = missing ?? newId()
      await write(coupon.id, 'PUT', 'photos', id, null, 'a photo', file)
      notices.add('Photo kept.', 'done', async () => {
        await write(coupon.id, 'DELETE', 'photos', id, null, 'a photo taken back')
        await onchanged()
      })
      await onchanged()
    })
    busy = false
    input.value = ''
  }
</script>

<section class="border-t pt-2" aria-label="Photos">
  <div class="flex flex-wrap items-center gap-2">
    {#each coupon.photos as photo (photo.id)}
      {#if photo.missing}
        <label class="plate h-20 border-dashed text-(--caution)" class:opacity-60={busy}>
          Its file is missing: add this photo again
          <input
            type="file"
            accept="image/jpeg,image/png,image/webp"
            class="sr-only"
            disabled={busy}
            onchange={(event) => take(event, photo.id)}
          />
        </label>
      {:else}
        <a href="/api/coupons/{coupon.id}/photos/{photo.id}" target="_blank" rel="noopener">
          <img
            class="h-20 border border-(--line)"
            src="/api/coupons/{coupon.id}/photos/{photo.id}/thumbnail"
            alt="Photo by {photo.recordedBy}, {moment(photo.recordedAt, session.timeZone)}"
          />
        </a>
      {/if}
    {/each}
    <label class="plate" class:opacity-60={busy}>
      {busy ? 'Sending…' : 'Photo'}
      <input
        type="file"
        accept="image/jpeg,image/png,image/webp"
        capture="environment"
        class="sr-only"
        disabled={busy}
        onchange={(event) => take(event)}
      />
    </label>
  </div>
</section>
