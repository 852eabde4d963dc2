<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { goto } from '$app/navigation'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { changed } from '$lib/changed'
  import { notices } from '$lib/notices.svelte'
  import { signing } from '$lib/signing.svelte'

  type Props = {
    sitting: Schema['SittingView']
    /** The record that is corrected; null for the first. */
    replaces?: Schema['CertificateView'] | null
  }
  let { sitting, replaces = null }: Props = $props()
  const client = useQueryClient()
  const FROM: Record<string, string> = { heat: 'material', fillerLot: 'filler' }
  const marked = (key: string) =>
    sitting.points.find((point) => point.id === FROM[key])?.text ??
    replaces?.record.fields.find((one) => one.key === key)?.actual ??
    ''
  let said = $state<Record<string, string>>({})
  let procedure = $state<string | null>(null)
  let witness = $state<string | null>(null)
  let route = $state<string | null>(null)
  let because = $state('')
  const id = newId()

  async function certify(event: SubmitEvent) {
    event.preventDefault()
    const signed = await signing.attempt(
      `${sitting.row.studentName}, ${sitting.row.testId} by ${sitting.codeName}: certified.`,
      (header) =>
        ask(
          api.PUT('/api/certificates/{id}', {
            params: { path: { id }, header },
            body: {
              sittingId: sitting.row.id,
              said: Object.fromEntries(
                sitting.asked
                  .map(({ key }) => [key, (said[key] ?? marked(key)).trim()] as const)
                  .filter(([, value]) => value !== ''),
              ),
              procedure,
              route,
              witness,
              evaluator: null,
              replaces: replaces?.id ?? null,
              because: because.trim() || null,
            },
          }),
        ),
    )
    if (!signed) return
    notices.add('Certified.')
    await changed(client, 'holds')
    await goto(`/certificates/${id}`)
  }
</script>

<form class="flex flex-col gap-2" onsubmit={certify}>
  {#if replaces}
    <label
      ><span class="eyebrow block">Why it is corrected</span><input
        class="field w-full"
        maxlength="500"
        required
        bind:value={because}
      /></label
    >
  {/if}
  {#each sitting.asked as field (field.key)}
    <label
      ><span class="eyebrow block">{field.label}</span><input
        class="field w-full"
        maxlength="300"
        value={said[field.key] ?? marked(field.key)}
        oninput={(event) => (said[field.key] = event.currentTarget.value)}
      /></label
    >
  {/each}
  <label
    ><span class="eyebrow block">Procedure (WPS and revision)</span><input
      class="field w-full"
      maxlength="200"
      value={procedure ?? replaces?.record.procedure ?? sitting.procedure ?? ''}
      oninput={(event) => (procedure = event.currentTarget.value)}
    /></label
  >
  <label
    ><span class="eyebrow block">Inspector or witness on the record</span><input
      class="field w-full"
      maxlength="100"
      value={witness ?? replaces?.record.witness ?? sitting.row.inspector ?? ''}
      oninput={(event) => (witness = event.currentTarget.value)}
    /></label
  >
  {#if sitting.routes.length}
    <label
      ><span class="eyebrow block">Renewed by</span><select class="field w-full" bind:value={route}>
        <option value={null}>The shortest route</option>
        {#each sitting.routes as one (one.id)}<option value={one.id}>{one.id}: {one.rule}</option>{/each}
      </select></label
    >
  {/if}
  <button class="lead self-start">{replaces ? 'Certify the correction' : 'Certify'}</button>
</form>
