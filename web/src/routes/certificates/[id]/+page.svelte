<script lang="ts">
  import { createQuery, useQueryClient } from '@tanstack/svelte-query'
  import { page } from '$app/state'
  import { api, ask, newId } from '$lib/api/client'
  import { changed } from '$lib/changed'
  import { dayOf } from '$lib/days'
  import HeldList from '$lib/holds/HeldList.svelte'
  import { notices } from '$lib/notices.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { certificateQuery } from '$lib/queries'
  import { session } from '$lib/session.svelte'
  import { signing } from '$lib/signing.svelte'
  import CertifyForm from '$lib/sittings/CertifyForm.svelte'
  import GivenFiles from '$lib/sittings/GivenFiles.svelte'
  import Dialog from '$lib/ui/Dialog.svelte'
  import Fold from '$lib/ui/Fold.svelte'
  import { dayAndYear, todayIn } from '$lib/weeks'

  const id = $derived(page.params.id!)
  const client = useQueryClient()
  const certificate = certificateQuery(() => id)
  const view = $derived(certificate.data)
  const record = $derived(view?.record)
  const counts = $derived(!!view && !view.replacedBy && !view.revokedAt)
  let revoking = $state(false)
  let renewing = $state(false)
  let why = $state('')
  let day = $state(todayIn(session.timeZone))
  let evidence = $state('')
  const today = todayIn(session.timeZone)
  const sitting = createQuery(() => ({
    queryKey: ['sitting', view?.sittingId],
    queryFn: () => ask(api.GET('/api/sittings/{id}', { params: { path: { id: view!.sittingId! } } })),
    enabled: !!view?.sittingId && !session.isStudent,
  }))

  async function revoke(event: SubmitEvent) {
    event.preventDefault()
    revoking = false
    const signed = await signing.attempt(
      `Record ${record!.number} of ${record!.welder.name}: revoked.`,
      (header) =>
        ask(api.PUT('/api/certificates/{id}/revoked', { params: { path: { id }, header }, body: { why } })),
    )
    if (signed) await changed(client, 'holds')
  }
  async function renew(event: SubmitEvent) {
    event.preventDefault()
    renewing = false
    const path = { id, renewalId: newId() }
    const signed = await signing.attempt(
      `Record ${record!.number} of ${record!.welder.name}: renewed by ${record!.validity.route}.`,
      (header) =>
        ask(
          api.PUT('/api/certificates/{id}/renewals/{renewalId}', {
            params: { path, header },
            body: { day, evidence },
          }),
        ),
    )
    if (!signed) return
    notices.add('Renewed.')
    await changed(client, 'holds')
  }
</script>

<svelte:head
  ><title>{record ? `Record ${record.number}: ${record.welder.name}` : 'Record'} · Gradus</title></svelte:head
>

{#if !view || !record}
  <Waiting error={certificate.error} retry={() => certificate.refetch()} what="The record" />
{:else}
  <div class="flex flex-wrap items-start gap-x-4 gap-y-2 pt-3">
    <div class="min-w-0">
      <p class="text-(--soft)">
        Record {record.number}, revision {record.revision}{view.outside ? ', from outside' : ''}
      </p>
      <h1 class="text-3xl break-words">
        {#if session.isStudent}{record.welder.name}{:else}<a
            class="underline decoration-(--line) underline-offset-4"
            href="/students/{view.studentId}/holds">{record.welder.name}</a
          >{/if}
      </h1>
      <p class="text-lg">{view.codeName}, {record.edition}. {record.title}.</p>
      {#if record.designation}<p class="number text-xl">{record.designation}</p>{/if}
    </div>
    <div class="ml-auto flex flex-wrap gap-2 print:hidden">
      <a class="lead" href="/api/certificates/{id}/record.pdf" target="_blank" rel="noopener"
        >Print it (PDF)</a
      >
      <a class="plate" href="/api/certificates/{id}/record.pdf?paper=letter" target="_blank" rel="noopener"
        >On Letter</a
      >
      <a class="plate" href="/api/certificates/{id}/record.json" download>File (JSON)</a>
      <a class="plate" href="/api/certificates/{id}/record.csv" download>Table (CSV)</a>
      {#if counts && !session.isStudent}<a
          class="plate"
          href="/api/certificates/cards.pdf?id={id}"
          target="_blank"
          rel="noopener">Card</a
        >{/if}
    </div>
  </div>
  {#if view.replacedBy}
    <p class="mt-2 border-l-4 border-(--caution) px-3 font-semibold">
      A later revision counts in its stead.
      <a class="bare min-h-0 py-0" href="/certificates/{view.replacedBy}">Open that one</a>
    </p>
  {:else if view.revokedAt}
    <p class="mt-2 border-l-4 border-(--caution) px-3 font-semibold">
      Revoked {dayOf(view.revokedAt, session.timeZone)}: {view.revokedWhy}
    </p>
  {:else}
    <section class="sheet mt-3 px-4 py-1" aria-label="Until when it holds">
      <HeldList held={view.held} />
    </section>
  {/if}

  <div class="mt-3 grid items-start gap-4 lg:grid-cols-[1.5fr_1fr]">
    <div class="flex flex-col gap-4">
      {#each record.parts as part (part.name)}
        <section class="sheet px-4 py-2" aria-label={part.name}>
          <h2 class="text-xl">{part.name}</h2>
          <div class="overflow-x-auto">
            <table class="w-full border-collapse text-left leading-snug">
              <thead>
                <tr class="border-b text-(--soft)">
                  <th class="py-1 pr-3 font-normal" scope="col">Variable</th>
                  <th class="py-1 pr-3 font-normal" scope="col">Actual</th>
                  <th class="py-1 font-normal" scope="col">Qualified</th>
                </tr>
              </thead>
              <tbody>
                {#each part.fields as line, index (index)}
                  <tr class="border-t align-top">
                    <th class="py-1.5 pr-3 text-left font-normal text-(--soft)" scope="row">{line.label}</th>
                    <td class="py-1.5 pr-3">{line.actual ?? ''}</td>
                    <td class="py-1.5 font-semibold">{line.qualified ?? ''}</td>
                  </tr>
                {/each}
              </tbody>
            </table>
          </div>
        </section>
      {/each}
      {#if record.tests.length}
        <section class="sheet px-4 py-2" aria-labelledby="tests">
          <h2 id="tests" class="text-xl">Tests and results</h2>
          <ul>
            {#each record.tests as one, index (index)}
              <li class="grid grid-cols-[1fr_auto] gap-3 border-t py-1.5 first:border-t-0">
                <span
                  >{one.name}{one.says ? `: ${one.says}` : ''}{one.report
                    ? `; report ${one.report}`
                    : ''}</span
                >
                <b>{one.result}</b>
              </li>
            {/each}
          </ul>
        </section>
      {/if}
    </div>
    <div class="flex flex-col gap-4">
      <section class="sheet px-4 py-2" aria-label="What was tested">
        <dl class="grid grid-cols-[9rem_1fr] gap-x-3 gap-y-1 leading-snug">
          {#each [['Tested on', dayAndYear(record.testedOn)], ['Certified', `${dayAndYear(record.certifiedOn)}, ${record.certifiedBy}`], ['Organization', record.school], ['Judged by', record.evaluator], ['Witnessed by', record.witness ?? 'not stated'], ['Procedure', record.procedure || 'not stated'], ['Mark', record.welder.mark ?? 'none'], ...record.fields.map( (one) => [one.label, one.actual ?? 'not stated'] )] as [label, text], index (index)}
            <dt class="text-(--soft)">{label}</dt>
            <dd>{text}</dd>
          {/each}
        </dl>
        <p class="mt-2 text-sm text-(--soft)">{record.validity.rule}</p>
        <p class="mt-2 text-sm text-(--soft)">{record.caution}</p>
      </section>
      <div class="print:hidden">
        {#if view.routes.length}
          <Fold
            name="Renewals"
            value={view.renewals.length
              ? String(view.renewals.length)
              : `none, route ${record.validity.route}`}
          >
            <ul>
              {#each view.renewals as one (one.id)}<li>
                  {dayAndYear(one.day)}: {one.evidence} ({one.by})
                </li>{/each}
            </ul>
            <p class="text-sm text-(--soft)">
              {view.routes.find((one) => one.id === record.validity.route)?.rule}
            </p>
            {#if counts && !session.isStudent}<button class="plate mt-1" onclick={() => (renewing = true)}
                >Renew it</button
              >{/if}
          </Fold>
        {/if}
        {#if !session.isStudent}
          <Fold name="Scans" value={view.files.length ? String(view.files.length) : 'none'}>
            <GivenFiles
              files={view.files}
              path="/api/certificates/{id}"
              label="Add a scan"
              canAdd
              ondone={() => void changed(client, 'holds')}
            />
          </Fold>
        {/if}
        <Fold name="Revisions" value={String(view.revisions.length)}>
          <ul>
            {#each view.revisions as one (one.id)}
              <li>
                <a class="bare" href="/certificates/{one.id}">Revision {one.revision}</a>, {dayOf(
                  one.issuedAt,
                  session.timeZone,
                )}, {one.issuedBy}{one.because ? `: ${one.because}` : ''}
              </li>
            {/each}
          </ul>
        </Fold>
        {#if counts && !session.isStudent}
          {#if sitting.data}
            <Fold name="Correct it" value="a new revision"
              ><CertifyForm sitting={sitting.data} replaces={view} /></Fold
            >
          {/if}
          <button class="bare" onclick={() => (revoking = true)}>Revoke it</button>
        {/if}
      </div>
    </div>
  </div>
  <Dialog bind:open={revoking} title="Revoke the record">
    <form class="flex flex-col gap-2" onsubmit={revoke}>
      <label
        ><span class="eyebrow block">Why</span><input
          class="field w-full"
          maxlength="500"
          required
          bind:value={why}
        /></label
      >
      <button class="lead">Revoke</button>
    </form>
  </Dialog>
  <Dialog bind:open={renewing} title="Renew the record">
    <form class="flex flex-col gap-2" onsubmit={renew}>
      <label
        ><span class="eyebrow block">Day</span><input
          type="date"
          class="field w-full"
          min={record.testedOn}
          max={today}
          required
          bind:value={day}
        /></label
      >
      <label
        ><span class="eyebrow block">On what: reports, the two welds</span><input
          class="field w-full"
          maxlength="500"
          required
          bind:value={evidence}
        /></label
      >
      <button class="lead">Renew</button>
    </form>
  </Dialog>
{/if}
