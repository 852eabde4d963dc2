<script lang="ts">
  import { digits, FLOW, GAS_VOLUME, lengthText, MM_PER_INCH as INCH, quantityText } from '$lib/units.svelte'
  import { api, ask, type Schema } from '$lib/api/client'
  import LengthField from './LengthField.svelte'
  import { live } from './live'
  import NumberField from './NumberField.svelte'
  import Row from './Row.svelte'
  import ShopCard from './ShopCard.svelte'
  import { cardValues } from './values.svelte'

  let { formulas }: { formulas: Schema['Formula'][] } = $props()
  const values = cardValues('purge', {
    insideDiameterMm: 6.065 * INCH,
    lengthMm: 24 * INCH,
    volumeChanges: 5,
    flowFt3PerH: 20,
  })
  const answer = live(
    'purge',
    () => values,
    () =>
      ask(
        api.POST('/api/calc/purge', {
          body: {
            insideDiameterMm: values.insideDiameterMm,
            lengthMm: values.lengthMm,
            volumeChanges: values.volumeChanges,
            flowLPerMin: values.flowFt3PerH * FLOW.in.per,
          },
        }),
      ),
  )
</script>

<ShopCard id="purge" {formulas} {values} error={answer.error}>
  {#snippet fields()}
    <LengthField label="Inside diameter" bind:mm={values.insideDiameterMm} />
    <LengthField label="Purged length" bind:mm={values.lengthMm} />
    <NumberField label="Volume changes (4 to 6)" bind:value={values.volumeChanges} />
    <NumberField
      label="Flow"
      of={FLOW}
      bind:value={
        () => values.flowFt3PerH * FLOW.in.per, (lPerMin) => (values.flowFt3PerH = lPerMin / FLOW.in.per)
      }
    />
  {/snippet}
  {#snippet drawing()}
    <svg
      viewBox="0 0 150 50"
      class="w-full"
      role="img"
      aria-label="Pipe with taped ends and joint, gas in at one end"
    >
      <rect x="22" y="10" width="106" height="30" fill="var(--done-ground)" stroke="var(--ink)" />
      <line x1="75" y1="6" x2="75" y2="44" stroke="var(--ink)" stroke-dasharray="2 2" />
      {#each [18, 70, 124] as x (x)}<rect
          {x}
          y="7"
          width={x === 70 ? 10 : 6}
          height="36"
          fill="var(--straw)"
          fill-opacity="0.7"
        />{/each}
      <path d="M2,32 H18 M13,28 L18,32 L13,36" fill="none" stroke="var(--blue)" stroke-width="2" />
      <path d="M130,16 H146 M141,12 L146,16 L141,20" fill="none" stroke="var(--blue)" stroke-width="2" />
    </svg>
  {/snippet}
  {#snippet result()}
    {#if answer.data}
      <Row name="Volume">{quantityText(answer.data.volumeL, GAS_VOLUME)}</Row>
      <Row name="Wait before the root">{digits(answer.data.minutes)} min</Row>
    {/if}
    <p class="border-t py-1 text-sm">
      Untape only as much as will be welded next, about {lengthText(2 * INCH)}.
    </p>
    <p class="text-sm text-(--caution)">
      Argon displaces air in a closed space: below 19.5 % oxygen do not enter.
    </p>
  {/snippet}
</ShopCard>
