<script lang="ts">
  import { backupsQuery } from '$lib/queries'
  import { session } from '$lib/session.svelte'
  import Notice from '$lib/ui/Notice.svelte'

  /** The lead is told on every page when the school is not safe. */
  const backups = backupsQuery(() => session.isLead && !session.expired)
  const places = $derived(backups.data ? [backups.data.first, backups.data.second] : [])
  const says = $derived(
    backups.data?.first.isLate
      ? backups.data.first.lastAt
        ? 'The school has not been backed up for two days.'
        : 'The school could not be backed up.'
      : backups.data?.second?.isLate
        ? backups.data.second.lastAt
          ? 'For two days no backup has reached the second folder.'
          : 'No backup has reached the second folder yet.'
        : null,
  )
  const why = $derived(places.find((one) => one?.isLate)?.failure)
</script>

{#if says && session.isLead}
  <div class="mt-2 print:hidden" role="status">
    <Notice tone="fails"
      ><strong>{says}</strong>
      {why ?? ''}
      {#snippet acts()}<a class="plate" href="/school?part=backups">Backups</a>{/snippet}</Notice
    >
  </div>
{/if}
