<script lang="ts">
  import { useQueryClient } from '@tanstack/svelte-query'
  import { goto } from '$app/navigation'
  import { api, ask, newId, type Schema } from '$lib/api/client'
  import { changed } from '$lib/changed'
  import TypedLength from '$lib/parts/TypedLength.svelte'
  import { session } from '$lib/session.svelte'
  import { signing } from '$lib/signing.svelte'
  import { lengthText } from '$lib/units.svelte'
  import { todayIn } from '$lib/weeks'
  import { codeName, QUALIFYING } from '$lib/words'

  let { studentId, name }: { studentId: string; name: string } = $props()
  const client = useQueryClient()
  const PROCESSES = ['SMAW', 'GTAW', 'GMAW', 'GMAW-S', 'FCAW-G', 'FCAW-S']
  const POSITIONS = { groove: ['1G', '2G', '3G', '4G', '5G', '6G'], fillet: ['1F', '2F', '3F', '4F', '5F'] }
  const BACKED: [string, string][] = [
    ['none', 'Open root'],
    ['steel', 'Backing'],
    ['gas', 'Gas'],
    ['insert', 'Insert'],
    ['backWelded', 'Both sides, gouged'],
  ]
  let it = $state<Schema['OutsideRequest']>({
    code: 'aws-d1.1',
    paper: '',
    title: '',
    process: 'SMAW',
    product: 'plate',
    weld: 'groove',
    position: '3G',
    progression: 'uphill',
    thicknessMm: null,
    outsideDiameterMm: null,
    backing: 'none',
    fNumber: 4,
    fillerGroup: null,
    covering: null,
    testedOn: '',
    lastUsedOn: null,
    route: null,
  })
  const today = todayIn(session.timeZone)
  const byGroup = $derived(it.code === 'iso-9606-1' || it.code === 'api-1104')
  const id = newId()

  async function enter(event: SubmitEvent) {
    event.preventDefault()
    const body = {
      ...it,
      outsideDiameterMm: it.product === 'pipe' ? it.outsideDiameterMm : null,
      fillerGroup: byGroup ? it.fillerGroup || null : null,
      covering: it.code === 'iso-9606-1' && it.process === 'SMAW' ? it.covering || null : null,
      lastUsedOn: it.lastUsedOn || null,
    }
    const signed = await signing.attempt(
      `${name}: the paper of ${it.paper}, as you have read it.`,
      (header) =>
        ask(
          api.PUT('/api/students/{studentId}/outside/{id}', {
            params: { path: { studentId, id }, header },
            body,
          }),
        ),
    )
    if (!signed) return
    await changed(client, 'holds')
    await goto(`/certificates/${id}`)
  }
</script>

{#snippet choice(label: string, key: keyof Schema['OutsideRequest'], options: [string, string][])}
  <label
    ><span class="eyebrow block">{label}</span><select class="field w-full" bind:value={it[key]}>
      {#each options as [value, text] (value)}<option {value}>{text}</option>{/each}
    </select></label
  >
{/snippet}
{#snippet length(label: string, key: 'thicknessMm' | 'outsideDiameterMm')}
  <div>
    <span class="eyebrow block">{label}</span>
    <span class="flex items-center gap-2"
      ><TypedLength {label} onread={(mm) => (it[key] = mm)} /><b
        >{it[key] ? lengthText(it[key]!) : 'not said yet'}</b
      ></span
    >
  </div>
{/snippet}

<form class="grid gap-2 sm:grid-cols-2" onsubmit={enter}>
  <label class="sm:col-span-2"
    ><span class="eyebrow block">Who issued it, and its number</span><input
      class="field w-full"
      maxlength="200"
      required
      bind:value={it.paper}
    /></label
  >
  <label class="sm:col-span-2"
    ><span class="eyebrow block">What was tested</span><input
      class="field w-full"
      maxlength="200"
      required
      placeholder="Plate, vertical"
      bind:value={it.title}
    /></label
  >
  {@render choice(
    'Code',
    'code',
    QUALIFYING.map((code): [string, string] => [code, codeName(code)]),
  )}
  {@render choice(
    'Process',
    'process',
    PROCESSES.map((one): [string, string] => [one, one]),
  )}
  {@render choice('Product', 'product', [
    ['plate', 'Plate'],
    ['pipe', 'Pipe'],
  ])}
  {@render choice('Weld', 'weld', [
    ['groove', 'Groove'],
    ['fillet', 'Fillet'],
  ])}
  {@render choice(
    'Position',
    'position',
    POSITIONS[it.weld === 'fillet' ? 'fillet' : 'groove'].map((one): [string, string] => [one, one]),
  )}
  {@render choice('Progression', 'progression', [
    ['none', 'Not vertical'],
    ['uphill', 'Uphill'],
    ['downhill', 'Downhill'],
  ])}
  {@render length('Thickness, or deposit', 'thicknessMm')}
  {#if it.product === 'pipe'}{@render length('Outside diameter', 'outsideDiameterMm')}{/if}
  {@render choice('Behind the root', 'backing', BACKED)}
  <label
    ><span class="eyebrow block">F-number, where it has one</span><input
      type="number"
      class="field w-full"
      min="1"
      max="72"
      bind:value={it.fNumber}
    /></label
  >
  {#if byGroup}
    <label
      ><span class="eyebrow block">Filler group</span><input
        class="field w-full"
        maxlength="20"
        placeholder={it.code === 'iso-9606-1' ? 'FM1' : '3'}
        bind:value={it.fillerGroup}
      /></label
    >
  {/if}
  {#if it.code === 'iso-9606-1'}
    {#if it.process === 'SMAW'}<label
        ><span class="eyebrow block">Covering</span><input
          class="field w-full"
          maxlength="4"
          bind:value={it.covering}
        /></label
      >{/if}
    <label
      ><span class="eyebrow block">Renewed by</span><select class="field w-full" bind:value={it.route}>
        <option value={null}>The shortest route</option>
        {#each ['9.3a', '9.3b', '9.3c'] as one (one)}<option value={one}>{one}</option>{/each}
      </select></label
    >
  {/if}
  <label
    ><span class="eyebrow block">Tested on</span><input
      type="date"
      class="field w-full"
      max={today}
      required
      bind:value={it.testedOn}
    /></label
  >
  <label
    ><span class="eyebrow block">Last use that it confirms</span><input
      type="date"
      class="field w-full"
      min={it.testedOn}
      max={today}
      bind:value={it.lastUsedOn}
    /></label
  >
  <button class="lead justify-self-start sm:col-span-2">Enter it</button>
  <p class="text-sm text-(--soft) sm:col-span-2">
    A scan is added on the record. What it covers is worked out by the rules kept here; the paper itself and
    its issuer decide.
  </p>
</form>
