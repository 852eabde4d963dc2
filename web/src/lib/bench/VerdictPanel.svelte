<script lang="ts">
  import { newId, type Schema } from '$lib/api/client'
  import { moment } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import ChanceBand from '$lib/parts/ChanceBand.svelte'
  import VerdictMark from '$lib/parts/VerdictMark.svelte'
  import { session } from '$lib/session.svelte'
  import { write } from '$lib/outbox.svelte'
  import { recordEvent, takeBackEvent } from '$lib/recording'
  import { beadName, chanceSentence, percent, repairName, stageName } from '$lib/words'
  import FindingCare from './FindingCare.svelte'
  import HistoryList from './HistoryList.svelte'
  import LookPanel from './LookPanel.svelte'
  import PhotoRow from './PhotoRow.svelte'
  import { limitText, sourceText } from './limits'

  let { coupon, onchanged }: { coupon: Schema['CouponView']; onchanged: () => Promise<unknown> } = $props()
  let note = $state('')
  let busy = $state(false)
  let closingId = newId()
  let lastClosingId = $state<string | null>(null)

  const verdict = $derived(coupon.verdict)
  const closed = $derived(coupon.closedAt != null)
  const shift = $derived(coupon.readiness)
  const unlaid = $derived(coupon.beads.filter((bead) => !bead.pass))

  async function act(action: () => Promise<unknown>) {
    busy = true
    await notices.attempt(async () => {
      await action()
      await onchanged()
    })
    busy = false
  }

  const close = () =>
    act(async () => {
      const id = closingId
      await write(coupon.id, 'PUT', 'closings', id, null, 'the closing')
      lastClosingId = id
      closingId = newId()
      notices.add('Coupon closed.', 'done', () => reopen(id))
    })

  const reopen = (id: string) =>
    act(() => write(coupon.id, 'DELETE', 'closings', id, null, 'a closing taken back'))

  const removeFinding = (id: string) =>
    act(() => write(coupon.id, 'DELETE', 'findings', id, null, 'a finding taken back'))

  const firstOf = (finding: number) =>
    [...verdict.reasons, ...verdict.passed].findIndex((one) => one.finding === finding)

  async function tell(kind: Schema['BenchEventKind'], body: Partial<Schema['BenchEventBody']>, says: string) {
    await act(async () => {
      const id = await recordEvent(coupon.id, kind, body)
      notices.add(says, 'done', async () => {
        await takeBackEvent(coupon.id, id)
        await onchanged()
      })
    })
  }

  const addNote = () =>
    act(async () => {
      await write(coupon.id, 'PUT', 'notes', newId(), { text: note }, 'a note')
      note = ''
    })
</script>

<div class="flex flex-col gap-3">
  <div class="flex flex-wrap items-center gap-3">
    <VerdictMark kind={verdict.kind} big />
    <span class="text-sm text-(--soft)"
      >by {coupon.test.profileName}, by eye{closed ? '' : ', as it stands'}</span
    >
  </div>
  {#each verdict.halves as half (half.halfId)}
    <p class="flex flex-wrap items-center gap-2">
      <VerdictMark kind={half.kind} /> <strong>{half.name}</strong>
      {#if half.missing.length}<span class="text-(--soft)"
          >not finished: {half.missing.map((stage) => stageName(stage).toLowerCase()).join(', ')}</span
        >{/if}
    </p>
  {/each}
  {#if !closed && unlaid.length}
    <p>Not laid yet: {unlaid.map((bead) => beadName(bead).toLowerCase()).join('; ')}.</p>
  {:else if verdict.missing.length}
    <p>Not finished: {verdict.missing.map((stage) => stageName(stage).toLowerCase()).join(', ')}.</p>
  {/if}
  <ul>
    {#each [...verdict.reasons, ...verdict.passed] as reason, index (index)}
      {@const finding = coupon.findings[reason.finding]}
      {@const measure = coupon.life.measures[reason.finding - coupon.findings.length]}
      {#if measure && reason.outcome !== 'accept'}
        <li class="border-t py-1.5">
          <VerdictMark kind={reason.outcome} />
          <strong
            >{measure.body.side === 'face' ? 'Face' : 'Root'} at {measure.body.at}{measure.body.member
              ? `, from the ${measure.body.member === 'a' ? 'left' : 'right'}`
              : ''}</strong
          >
          {limitText(reason)} <span class="text-sm text-(--soft)">{sourceText(reason)}</span>
        </li>
      {/if}
      {#if finding}
        <li class="flex items-start gap-2 border-t py-1.5">
          <div class="grow">
            <p>
              <VerdictMark kind={reason.outcome} /> <strong>{finding.name}</strong>, {stageName(
                finding.stage,
              ).toLowerCase()}{finding.clock ? ` at ${finding.clock}` : ''}
            </p>
            <p>{limitText(reason)}</p>
            <p class="text-sm text-(--soft)">{sourceText(reason)}</p>
            {#if index === firstOf(reason.finding)}
              <FindingCare
                {finding}
                grinder={coupon.test.rules.grinder}
                asTest={coupon.asTest}
                {closed}
                oncause={(causeId) => tell('causeChosen', { findingId: finding.id, causeId }, 'Cause kept.')}
                onrepair={(action) =>
                  tell(
                    'repaired',
                    { findingId: finding.id, action },
                    `${repairName(action)}: kept with the finding.`,
                  )}
              />
            {/if}
          </div>
          {#if !closed}<button
              class="tap px-2 text-sm"
              aria-label="Take back {finding.name}"
              onclick={() => removeFinding(finding.id)}>Take back</button
            >{/if}
        </li>
      {/if}
    {:else}
      <li class="text-(--soft)">Nothing found so far: no limit is in question.</li>
    {/each}
  </ul>

  {#if !closed}<LookPanel {coupon} ontell={tell} />{/if}

  <section class="border-t pt-2" aria-label="What it does to the chance">
    <p class="eyebrow">What this coupon does to the chance of a clean full coupon</p>
    <div class="grid grid-cols-[4.5rem_1fr] items-center gap-x-2">
      <span class="text-sm">without it</span><ChanceBand chance={shift.before} slim />
      <span class="text-sm">with it</span><ChanceBand chance={shift.after} slim />
    </div>
    <p>
      {#if !shift.before.tooLittleToTell && !shift.after.tooLittleToTell}From {percent(shift.before.mean)} to {percent(
          shift.after.mean,
        )}.{:else}{chanceSentence(shift.after)}{/if}
    </p>
  </section>

  {#if closed}
    <p class="text-sm text-(--soft)">
      Closed by {verdict.closedBy}, {moment(verdict.closedAt!, session.timeZone)}; limits {verdict.profileId} version
      {verdict.profileVersion}, test {coupon.test.id} version {verdict.templateVersion}, Gradus {verdict.programVersion}.
    </p>
    <div class="flex flex-wrap gap-2">
      <a class="tap tap-main" href="/students/{coupon.student.id}/decide/{coupon.test.id}"
        >Decide for {coupon.student.name}</a
      >
      {#if lastClosingId}<button class="tap" disabled={busy} onclick={() => reopen(lastClosingId!)}
          >Open it again</button
        >{/if}
    </div>
  {:else}
    <button class="tap tap-main text-lg" disabled={busy} onclick={close}>Close with this verdict</button>
  {/if}

  <PhotoRow {coupon} {onchanged} />

  <section class="border-t pt-2" aria-label="Notes">
    {#each coupon.notes as one (one.id)}
      <p class="break-words">
        {one.text}
        <span class="text-sm text-(--soft)">{one.recordedBy}, {moment(one.recordedAt, session.timeZone)}</span
        >
      </p>
    {/each}
    <form
      class="mt-1 flex gap-2"
      onsubmit={(event) => {
        event.preventDefault()
        if (note.trim()) addNote()
      }}
    >
      <input
        class="h-12 min-w-0 grow border-[1.5px] border-(--steel-edge) bg-(--page) px-2"
        placeholder="A note for next time"
        aria-label="Note"
        maxlength="2000"
        bind:value={note}
      />
      <button class="tap" disabled={busy || note.trim() === ''}>Add</button>
    </form>
  </section>

  <HistoryList couponId={coupon.id} />
</div>
