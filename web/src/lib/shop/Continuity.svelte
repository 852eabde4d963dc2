<script lang="ts">
  import { session } from '$lib/session.svelte'
  import { todayIn } from '$lib/weeks'
  import { createQuery } from '@tanstack/svelte-query'
  import { api, ask, type Schema } from '$lib/api/client'
  import { codeName, QUALIFYING, type QualifyingCode as Code } from '$lib/words'
  import Choice from './Choice.svelte'
  import { live } from './live'
  import Row from './Row.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  const CODES: { id: Code; name: string }[] = QUALIFYING.map((id) => ({
    id,
    name: codeName(id),
  }))
  const codes = createQuery(() => ({
    queryKey: ['codes'],
    queryFn: () => ask(api.GET('/api/codes')),
    staleTime: Infinity,
  }))
  const retest = $derived(codes.data?.find((one) => one.code === values.code)?.retest)
  const today = todayIn(session.timeZone)
  const values = cardValues('continuity', {
    code: 'aws-d1.1' as Code,
    qualifiedOn: today,
    lastUsedOn: today,
    route: '3',
  })
  const answer = live(
    'continuity',
    () => values,
    () =>
      ask(
        api.POST('/api/calc/continuity', {
          body: {
            code: values.code,
            qualifiedOn: values.qualifiedOn || null,
            lastUsedOn: values.lastUsedOn || null,
            renewalYears: values.code === 'iso-9606-1' ? Number(values.route) : null,
          },
        }),
      ),
  )
  const day = (text: string) =>
    new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeZone: 'UTC' }).format(new Date(text))
</script>

<ShopCard id="continuity" {formulas} {values} error={answer.error}>
  {#snippet fields()}
    <Choice label="Code" options={CODES} bind:value={values.code} />
    {#if values.code === 'iso-9606-1'}
      <Choice
        label="Renewed every"
        options={[
          { id: '2', name: '2 years' },
          { id: '3', name: '3 years' },
        ]}
        bind:value={values.route}
      />
    {/if}
    <label class="block">
      <span class="eyebrow block">Test passed on</span>
      <input type="date" class="field number w-full text-lg" bind:value={values.qualifiedOn} />
    </label>
    <label class="block">
      <span class="eyebrow block">Process last used on</span>
      <input type="date" class="field number w-full text-lg" bind:value={values.lastUsedOn} />
    </label>
  {/snippet}
  {#snippet result()}
    {#if answer.data}
      <Row name="Use it again by">{day(answer.data.useBy)}</Row>
      {#if answer.data.renewBy}<Row name="Renew by">{day(answer.data.renewBy)}</Row>{/if}
      <Row name="Holds until">{day(answer.data.endsOn)}</Row>
      <p class="border-t py-1 text-sm text-(--soft)">{answer.data.rule} {answer.data.source}.</p>
      {#if retest}<p class="border-t py-1 text-sm">
          After a failed test. {retest.rule} <span class="text-(--soft)">{retest.source}.</span>
        </p>{/if}
    {/if}
  {/snippet}
</ShopCard>
