<script lang="ts">
  import { dueQuery } from '$lib/queries'
  import SittingRows from '$lib/sittings/SittingRows.svelte'
  import Fold from '$lib/ui/Fold.svelte'
  import Mark from '$lib/ui/Mark.svelte'
  import { shortDay } from '$lib/weeks'
  import { codeName } from '$lib/words'

  const due = dueQuery()
  const sittings = $derived(due.data?.sittings ?? [])
  const ending = $derived(due.data?.ending ?? [])
  const lab = $derived(due.data?.lab ?? [])
</script>

{#if sittings.length}
  <section class="mt-4 border-l-4 border-(--straw) pl-3" aria-labelledby="sittings-due">
    <h2 id="sittings-due" class="text-xl">Sittings</h2>
    <SittingRows rows={sittings} />
  </section>
{/if}
{#if lab.length}
  <section class="mt-4 border-l-4 border-(--straw) pl-3" aria-labelledby="lab-due">
    <h2 id="lab-due" class="text-xl">Back from a laboratory</h2>
    <ul>
      {#each lab as one (one.couponId + one.returnedAt)}
        <li>
          <a class="flex min-h-12 flex-wrap items-center gap-x-3 border-t" href="/coupons/{one.couponId}">
            <Mark of="next" />
            <b class="stamp">{one.stamp}</b>
            <span class="min-w-0 break-words">{one.student}</span>
            <span class="ml-auto text-(--soft)"
              >{one.specimens}
              {one.specimens === 1 ? 'specimen' : 'specimens'} from {one.laboratory}: {one.hasReport
                ? 'look, and take it over'
                : 'a report to read'}</span
            >
          </a>
        </li>
      {/each}
    </ul>
  </section>
{/if}
{#if ending.length}
  <div class="mt-3 border-t">
    <Fold
      name="Qualifications that end within 60 days"
      value={String(ending.length)}
      open={ending.length < 4}
    >
      <ul>
        {#each ending as one (`${one.held.id} ${one.held.process}`)}
          <li>
            <a
              class="flex min-h-12 flex-wrap items-center gap-x-3 border-t"
              href="/students/{one.studentId}/holds"
            >
              <Mark of="next" />
              <b class="min-w-0 break-words">{one.studentName}</b>
              <span
                >{one.held.process} by {codeName(one.held.code)}, until {shortDay(
                  one.held.keeping.endsOn,
                )}</span
              >
              <span class="ml-auto text-(--soft)"
                >{one.open
                  ? 'a coupon waits to be signed for'
                  : 'one short coupon of the process keeps it'}</span
              >
            </a>
          </li>
        {/each}
      </ul>
    </Fold>
  </div>
{/if}
