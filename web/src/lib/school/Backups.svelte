<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { backupsQuery } from '$lib/queries'
  import { session } from '$lib/session.svelte'
  import Mark from '$lib/ui/Mark.svelte'
  import { moment } from '$lib/days'

  const client = useQueryClient()
  const backups = backupsQuery(() => session.isLead)
  let making = $state(false)

  async function make() {
    making = true
    await notices.attempt(async () => {
      const view = await ask(api.POST('/api/school/backups'))
      client.setQueryData(['school', 'backups'], view)
      if (!view.first.failure) notices.add('Backed up, opened again and checked.')
    })
    making = false
  }

  const size = (bytes: number) =>
    bytes < 1024 * 1024 ? `${Math.ceil(bytes / 1024)} kB` : `${(bytes / 1024 / 1024).toFixed(1)} MB`
</script>

{#snippet place(name: string, of: Schema['BackupPlace'])}
  <div class="border-t py-3">
    <h3 class="eyebrow">{name}</h3>
    <p class="text-lg font-semibold">
      <Mark of={of.failure || of.isLate ? 'fault' : of.lastAt ? 'clean' : 'next'} />
      {of.lastAt ? moment(of.lastAt, session.timeZone) : 'None yet'}
    </p>
    <p class="number text-sm break-all text-(--soft)">{of.folder}</p>
    {#if of.failure}<p class="font-semibold text-(--caution)" role="alert">{of.failure}</p>{/if}
    {#if of.isLate && of.lastAt}<p class="font-semibold text-(--caution)">
        More than two days without a backup here.
      </p>{/if}
  </div>
{/snippet}

{#if !session.isLead}
  <p>The lead instructor looks after the backups.</p>
{:else if !backups.data}
  <Waiting error={backups.error} retry={() => backups.refetch()} what="The backups" />
{:else}
  <section class="sheet max-w-3xl p-4" aria-label="Backups">
    <p class="mb-3">
      {backups.data.byItself
        ? 'Every night, or as soon as the machine is on again, the whole school is backed up, opened again and checked. Seven days, four weeks and twelve months stay.'
        : 'The school is not backed up by itself: that is switched off on the machine. A backup is made when you ask for one.'}
    </p>
    {@render place('On this machine', backups.data.first)}
    {#if backups.data.second}
      {@render place('In the second folder', backups.data.second)}
    {:else}
      <div class="border-t py-3">
        <h3 class="eyebrow">In a second folder</h3>
        <p>
          None is named. A disk that fails takes the school and its backups along: name a stick or a share in
          <span class="number">GRADUS_BACKUP_COPY</span> on the machine.
        </p>
      </div>
    {/if}
    {#if !backups.data.hasKeys}
      <p class="border-t py-3 text-(--soft)">
        The keys are not in these backups: after one is put back everybody signs in again, and later records
        are signed by a new key.
      </p>
    {/if}
    <button class="lead" disabled={making} onclick={make}>{making ? 'Backing up…' : 'Back up now'}</button>
  </section>
  {#if backups.data.kept.length}
    <table class="ledger mt-4 max-w-3xl" aria-label="Backups on this machine">
      <thead
        ><tr
          ><th scope="col">Made</th><th scope="col">File</th><th scope="col" class="text-right">Size</th></tr
        ></thead
      >
      <tbody>
        {#each backups.data.kept as one (one.name)}
          <tr>
            <td class="whitespace-nowrap">{moment(one.madeAt, session.timeZone)}</td>
            <td class="number break-all">{one.name}{one.byItself ? '' : ' (by hand)'}</td>
            <td class="number text-right whitespace-nowrap">{size(one.bytes)}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    <p class="mt-2 max-w-3xl text-sm text-(--soft)">
      Photos lie beside them once, whatever the number of backups. One is put back on the machine itself:
      <span class="number">gradus restore FILE</span>.
    </p>
  {/if}
{/if}
