<script lang="ts">
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask } from '$lib/api/client'
  import { moment } from '$lib/days'
  import { session } from '$lib/session.svelte'
  import Notice from '$lib/ui/Notice.svelte'
  import { roughly } from '$lib/times'

  const EVERY_MS = 10 * 60_000
  /** The lead is told when times on the record may be wrong. */
  const clock = createQuery(() => ({
    queryKey: ['school', 'clock'],
    enabled: session.isLead && !session.expired,
    queryFn: () => ask(api.GET('/api/school/clock')),
    staleTime: 60_000,
    refetchInterval: EVERY_MS,
  }))
  const jump = $derived(clock.data?.jump)
</script>

{#if clock.data && (jump || clock.data.isBehind) && session.isLead}
  <div class="mt-2 print:hidden" role="status">
    <Notice tone="fails">
      <strong
        >{jump
          ? `The clock of the machine ${jump.seconds > 0 ? 'went forward' : 'went back'} by ${roughly(Math.abs(jump.seconds))}.`
          : 'The clock of the machine is behind.'}</strong
      >
      {jump
        ? `Noticed ${moment(jump.noticedAt, session.timeZone)}${jump.seconds > 0 ? '; a machine that slept looks the same' : ''}.`
        : 'Something on the record is from a moment that it has not reached.'}
      Times that are recorded now may be wrong: set the clock right on the machine.
    </Notice>
  </div>
{/if}
