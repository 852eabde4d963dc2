<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { goto } from '$app/navigation'
  import { page } from '$app/state'
  import { api, ask, type Schema } from '$lib/api/client'
  import { moment } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import ShippedOffer from '$lib/library/ShippedOffer.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { findingKindsQuery } from '$lib/queries'
  import { session } from '$lib/session.svelte'
  import LengthField from '$lib/shop/LengthField.svelte'
  import { reading } from '$lib/shop/reading'
  import NumberField from '$lib/shop/NumberField.svelte'
  import { exactText, inUnits, lengthText, units } from '$lib/units.svelte'
  import { measureName, stageName } from '$lib/words'

  type Profile = Schema['AcceptanceProfile']
  type Rule = Schema['AcceptanceRule']

  const client = useQueryClient()
  const id = $derived(page.params.id!)
  const kinds = findingKindsQuery()
  const query = createQuery(() => ({
    queryKey: ['profile', id],
    queryFn: () => ask(api.GET('/api/profiles/{id}', { params: { path: { id } } })),
  }))
  const isLead = $derived(session.isLead)
  let draft = $state<Profile | null>(null)
  let basedOnVersion = $state<number | null>(null)
  let why = $state('')
  let busy = $state(false)
  const shown = $derived(draft ?? query.data?.profile)

  const kindName = (kind: Schema['DiscontinuityKind']) =>
    kinds.data?.find((one) => one.kind === kind)?.name ?? kind
  const MEASURES: Schema['FindingMeasure'][] = [
    'depthMm',
    'heightMm',
    'lengthMm',
    'diameterMm',
    'widthMm',
    'count',
  ]

  const SAYS: Record<Schema['RuleVerdict'], string> = {
    limit: 'a limit',
    warn: 'a warning over it',
    noLimit: 'no limit',
    elsewhere: 'something else decides',
    inside: 'inside: bend, break or film decides',
  }

  function say(rule: Rule, says: Schema['RuleVerdict']) {
    rule.says = says
    const isLimit = says === 'limit' || says === 'warn'
    if (isLimit && !rule.limit.length && !rule.steps?.length)
      rule.limit = [{ base: 0, perThickness: 0, perWidth: 0 }]
    if (!isLimit) Object.assign(rule, { limit: [], steps: null })
  }

  function limitText(rule: Rule): string {
    if (rule.says && rule.says !== 'limit' && rule.says !== 'warn') return SAYS[rule.says]
    if (rule.steps?.length)
      return rule.steps
        .map(
          (step) =>
            `${lengthText(step.maxMm)}${step.faceToMm == null ? ' from there' : ` to a width of ${lengthText(step.faceToMm)}`}`,
        )
        .join(', ')
    if (rule.together?.shareOfWeld)
      return `together ${Math.round(rule.together.shareOfWeld * 1000) / 10} % of the weld`
    if (rule.measure === 'count' && rule.limit.every((term) => term.base === 0)) return 'none'
    return rule.limit
      .map((term) =>
        [
          term.base > 0 || (!term.perThickness && !term.perWidth)
            ? rule.measure === 'count'
              ? `${term.base}`
              : `${exactText(term.base)} ${units.unit}`
            : null,
          term.perThickness ? `${term.perThickness} × thickness` : null,
          term.perWidth ? `${term.perWidth} × width` : null,
        ]
          .filter(Boolean)
          .join(' + '),
      )
      .join(', or ')
  }

  function scopeText(rule: Rule): string {
    const when = rule.when
    if (!when) return ''
    return [
      when.weld ?? null,
      when.openRoot == null ? null : when.openRoot ? 'open root' : 'backed',
      when.inside == null ? null : when.inside ? 'in a covered layer' : 'open to the surface',
      when.broken == null ? null : when.broken ? 'broken afterwards' : 'not broken afterwards',
      when.stage == null ? null : stageName(when.stage).toLowerCase(),
      when.products?.join(', ') ?? null,
      when.thicknessOverMm == null ? null : `over ${lengthText(when.thicknessOverMm)}`,
      when.thicknessToMm == null ? null : `up to ${lengthText(when.thicknessToMm)}`,
    ]
      .filter(Boolean)
      .join('; ')
  }

  function begin() {
    if (!query.data) return
    const from = structuredClone($state.snapshot(query.data.profile)) as Profile
    const copying = query.data.shipped
    draft = copying
      ? {
          ...from,
          id: `${from.id}-school`,
          name: `${from.name}, our limits`,
          basedOn: from.id,
          limitsEntered: true,
        }
      : from
    basedOnVersion = copying ? null : from.version
    why = ''
  }

  function addRule() {
    draft!.visual.push({
      kinds: ['undercut'],
      measure: 'depthMm',
      limit: [{ base: 0.8, perThickness: 0, perWidth: 0 }],
      rule: 'Undercut, by our own copy.',
      source: 'The school',
      fromMemory: false,
      when: null,
      says: 'limit',
      keepsThickness: false,
    })
  }

  async function save() {
    if (!draft) return
    busy = true
    await reading.settled()
    const saving = $state.snapshot(draft) as Profile
    await notices.attempt(async () => {
      const saved = await ask(
        api.PUT('/api/profiles/{id}', {
          params: { path: { id: saving.id } },
          body: { profile: saving, basedOnVersion, why },
        }),
      )
      draft = null
      await client.invalidateQueries({ queryKey: ['profile'] })
      await client.invalidateQueries({ queryKey: ['profiles'] })
      notices.add(`${saving.name} saved as version ${saved.version}. Give it to a test under Edit.`)
      await goto(`/library/limits/${saving.id}`)
    })
    busy = false
  }
</script>

<svelte:head><title>{shown?.name ?? 'Limits'} · Library · Gradus</title></svelte:head>

{#if !shown || !query.data}
  <Waiting error={query.error} retry={() => query.refetch()} what="The limits" />
{:else}
  <div class="flex flex-wrap items-center gap-2">
    <a class="plate lg:hidden" href="/library/limits" aria-label="Back to all limits">All</a>
    <h2 class="mr-auto text-2xl">{shown.name}</h2>
    {#if !draft && isLead}
      <button class="lead" onclick={begin}>{query.data.shipped ? 'Make a copy to change' : 'Change'}</button>
    {:else if draft}
      <button class="plate" onclick={() => (draft = null)}>Put away</button>
    {/if}
  </div>
  <p class="text-(--soft)">{inUnits(shown.note)}</p>
  {#if !shown.limitsEntered}
    <p
      class="mt-2 border-l-4 border-(--caution) bg-(--caution-ground) px-3 py-2 font-semibold text-(--caution)"
    >
      No limits entered: it judges nothing until the school enters those of its own copy.
    </p>
  {/if}

  {#if !draft && query.data.offer}<ShippedOffer of="profile" {id} offer={query.data.offer} />{/if}

  {#if draft}
    <div class="sheet mt-3 grid gap-3 p-3 md:grid-cols-[14rem_1fr]">
      <label>
        <span class="eyebrow block">Id</span>
        <input
          class="field number w-full text-lg disabled:opacity-60"
          maxlength="30"
          disabled={basedOnVersion !== null}
          bind:value={draft.id}
        />
      </label>
      <label>
        <span class="eyebrow block">Name</span>
        <input class="field w-full" maxlength="80" bind:value={draft.name} />
      </label>
    </div>
    <ul class="mt-3 flex flex-col gap-3">
      {#each draft.visual as rule, index (index)}
        <li class="sheet grid items-start gap-3 p-3 md:grid-cols-[1.3fr_9rem_1fr_1fr_auto]">
          <label>
            <span class="eyebrow block">Of</span>
            <select
              class="field w-full"
              value={rule.kinds[0]}
              onchange={(event) =>
                (rule.kinds = [
                  event.currentTarget.value as Schema['DiscontinuityKind'],
                  ...rule.kinds.slice(1),
                ])}
            >
              {#each kinds.data ?? [] as kind (kind.kind)}<option value={kind.kind}>{kind.name}</option
                >{/each}
            </select>
            {#if rule.kinds.length > 1}<span class="text-sm text-(--soft)"
                >and {rule.kinds.slice(1).map(kindName).join(', ').toLowerCase()}</span
              >{/if}
          </label>
          <label>
            <span class="eyebrow block">Measure</span>
            <select class="field w-full" bind:value={rule.measure}>
              {#each MEASURES as measure (measure)}<option value={measure}>{measureName(measure)}</option
                >{/each}
            </select>
          </label>
          {#if !rule.limit.length}
            <p class="mt-6 md:col-span-2">{limitText(rule)}</p>
          {:else if rule.measure === 'count'}
            <NumberField label="At most" bind:value={rule.limit[0]!.base} />
            <span></span>
          {:else}
            <LengthField label="At most" bind:mm={rule.limit[0]!.base} />
            <NumberField label="and × thickness" bind:value={rule.limit[0]!.perThickness} />
          {/if}
          <button
            class="plate mt-6"
            aria-label="Leave out the limit on {kindName(rule.kinds[0]!).toLowerCase()}"
            onclick={() => draft!.visual.splice(index, 1)}>Leave out</button
          >
          <label class="md:col-span-5">
            <span class="eyebrow block">What it comes to</span>
            <select
              class="field w-full"
              value={rule.says}
              onchange={(event) => say(rule, event.currentTarget.value as Schema['RuleVerdict'])}
            >
              {#each Object.entries(SAYS) as [says, name] (says)}<option value={says}>{name}</option>{/each}
            </select>
          </label>
          {#if rule.limit.length > 1}
            <p class="text-sm text-(--soft) md:col-span-5">
              The least of this and {limitText({ ...rule, limit: rule.limit.slice(1) })} counts.
            </p>
          {/if}
          <label class="md:col-span-5">
            <span class="eyebrow block">In words{scopeText(rule) ? ` (${scopeText(rule)})` : ''}</span>
            <input class="field w-full" maxlength="200" bind:value={rule.rule} />
          </label>
        </li>
      {/each}
    </ul>
    <form
      class="sheet mt-3 flex flex-wrap items-end gap-3 p-3"
      onsubmit={(event) => {
        event.preventDefault()
        void save()
      }}
    >
      <button type="button" class="plate" onclick={addRule}>Add a limit</button>
      <label class="grow">
        <span class="eyebrow block">Why</span>
        <input class="field w-full" maxlength="300" required bind:value={why} />
      </label>
      <button class="lead" disabled={busy || !why.trim()}
        >{basedOnVersion ? `Save as version ${basedOnVersion + 1}` : 'Save the copy'}</button
      >
    </form>
  {:else}
    <div class="mt-3 overflow-x-auto">
      <table class="sheet w-full text-left">
        <thead>
          <tr class="text-sm text-(--soft)"
            ><th class="px-3 py-1">Of</th><th>Measure</th><th>At most</th><th>Where</th><th>Source</th></tr
          >
        </thead>
        <tbody>
          {#each shown.visual as rule, index (index)}
            <tr class="border-t align-top">
              <td class="px-3 py-1.5">{rule.kinds.map(kindName).join(', ')}</td>
              <td class="py-1.5 pr-3">{rule.limit.length || rule.steps ? measureName(rule.measure) : '–'}</td>
              <td class="py-1 pr-3"
                ><span class="number text-lg">{limitText(rule)}</span>
                <span class="block text-sm">{inUnits(rule.rule)}</span></td
              >
              <td class="py-1.5 pr-3">{scopeText(rule)}</td>
              <td class="py-1.5 pr-3 text-sm text-(--soft)"
                >{rule.source}{rule.fromMemory
                  ? `; from memory${rule.confidence == null ? '' : `, ${rule.confidence} %`}`
                  : ''}</td
              >
            </tr>
          {:else}
            <tr><td class="p-3" colspan="5">No visual limits.</td></tr>
          {/each}
        </tbody>
      </table>
    </div>
    <p class="mt-2">
      Also judged by it:
      {[
        shown.bend && 'bends',
        shown.radiograph && 'radiographs',
        shown.nickBreak && 'nick-breaks',
        shown.filletBreak && 'fillet breaks',
        shown.tackBreak && 'tack breaks',
        shown.macro && 'macro sections',
        shown.fillet && 'the size of fillets',
      ]
        .filter(Boolean)
        .join(', ') || 'nothing else'}.
    </p>
    <section class="mt-3" aria-label="Versions">
      <h3 class="eyebrow">Versions</h3>
      <ul class="text-sm">
        {#each query.data.history as row (row.version)}
          <li>
            version {row.version}, {row.shipped
              ? 'as it came with the program'
              : `${row.savedBy}${row.savedAt ? `, ${moment(row.savedAt, session.timeZone)}` : ''}: ${row.why}`}
          </li>
        {/each}
      </ul>
    </section>
  {/if}
  <p class="mt-3 text-sm text-(--soft)">
    Local codes, the governing edition and a qualified inspector decide.
  </p>
{/if}
