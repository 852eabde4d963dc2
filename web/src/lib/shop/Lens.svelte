<script lang="ts">
  import { api, ask, type Schema } from '$lib/api/client'
  import Choice from './Choice.svelte'
  import { live } from './live'
  import NumberField from './NumberField.svelte'
  import { inUnits } from '$lib/units.svelte'
  import Row from './Row.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  const PROCESSES: { id: Schema['Process']; name: string }[] = [
    { id: 'smaw', name: 'SMAW' },
    { id: 'gtaw', name: 'GTAW' },
    { id: 'gmaw', name: 'GMAW' },
    { id: 'fcawG', name: 'FCAW-G' },
    { id: 'fcawS', name: 'FCAW-S' },
  ]
  const SHADES = [7, 8, 9, 10, 11, 12, 13, 14]
  const values = cardValues('lens', { process: 'smaw' as Schema['Process'], amps: 120 })
  const answer = live(
    'lens',
    () => values,
    () => ask(api.POST('/api/calc/lens', { body: { ...values } })),
  )
</script>

<ShopCard id="lens" {formulas} {values} error={answer.error}>
  {#snippet fields()}
    <Choice label="Process" options={PROCESSES} bind:value={values.process} />
    <NumberField label="Amps" unit="A" bind:value={values.amps} />
  {/snippet}
  {#snippet drawing()}
    <svg viewBox="0 0 160 44" class="w-full" role="img" aria-label="Shades 7 to 14">
      {#each SHADES as shade, index (shade)}
        {@const good = answer.data && shade >= answer.data.least}
        <rect
          x={index * 20 + 1}
          y="4"
          width="18"
          height="24"
          fill="rgb({120 - index * 14} {135 - index * 14} {110 - index * 13})"
          stroke={shade === answer.data?.suggested ? 'var(--bronze)' : 'var(--ink)'}
          stroke-width={shade === answer.data?.suggested ? 4 : 0.8}
        />
        {#if !good}<path
            d="M{index * 20 + 3},6 l14,20 m0,-20 l-14,20"
            stroke="#fff"
            stroke-width="1.6"
          />{/if}
        <text x={index * 20 + 10} y="41" text-anchor="middle" class="number" font-size="11" fill="var(--ink)"
          >{shade}</text
        >
      {/each}
    </svg>
  {/snippet}
  {#snippet result()}
    {#if answer.data}
      <Row name="Never under">{answer.data.least}</Row>
      <Row name="Start from">{answer.data.suggested ?? answer.data.least}</Row>
      {#each answer.data.cautions as caution (caution)}
        <p class="border-t py-1 text-sm text-(--caution)">{inUnits(caution)}</p>
      {/each}
      {#each answer.data.others as other (other.work)}
        <Row name={inUnits(other.work)}
          >{other.least === other.suggested ? other.least : `${other.least} to ${other.suggested}`}</Row
        >
      {/each}
    {/if}
  {/snippet}
</ShopCard>
