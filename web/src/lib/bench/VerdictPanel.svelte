<script lang="ts">
  import { api, ask, newId, Refused, type Schema } from '$lib/api/client'
  import { moment } from '$lib/days'
  import { notices } from '$lib/notices.svelte'
  import ChanceBand from '$lib/parts/ChanceBand.svelte'
  import VerdictMark from '$lib/parts/VerdictMark.svelte'
  import { session } from '$lib/session.svelte'
  import { signing } from '$lib/signing.svelte'
  import { write } from '$lib/outbox.svelte'
  import { tellEvent } from '$lib/recording'
  import { inUnits } from '$lib/units.svelte'
  import { chanceSentence, percent, repairName, stageName } from '$lib/words'
  import { toeText } from './places'
  import FindingCare from './FindingCare.svelte'
  import HistoryList from './HistoryList.svelte'
  import LookPanel from './LookPanel.svelte'
  import type { LookSide } from './look'
  import PhotoRow from './PhotoRow.svelte'
  import ReasonDialog from './ReasonDialog.svelte'
  import SpecimenPanel from './SpecimenPanel.svelte'
  import ThumbBar from '$lib/ui/ThumbBar.svelte'
  import { actNameOf } from './coupon-words'
  import { limitText, sourceText } from './limits'

  type Props = {
    coupon: Schema['CouponView']
    onchanged: () => Promise<unknown>
    oncorrect: (finding: Schema['FindingView']) => void
    onfinding: () => void
    /** What is measured of face and root, and where: chosen on the drawing, or here. */
    side: LookSide
    point: string
    onnext: (side: LookSide, point: string) => void
    /** The specimen that is tested now. */
    specimen: number | null
  }
  let {
    coupon,
    onchanged,
    oncorrect,
    onfinding,
    side,
    point,
    onnext,
    specimen = $bindable(),
  }: Props = $props()
  let note = $state('')
  let busy = $state(false)
  let closingId = newId()
  let reopening = $state(false)
  let unfinished = $state(false)
  const REOPEN = ['Closed by mistake', 'Something was forgotten', 'Wrong test', 'A finding was wrong']

  const verdict = $derived(coupon.verdict)
  const closed = $derived(coupon.closedAt != null)
  const shift = $derived(coupon.readiness)
  const given = $derived(coupon.life.voidReason != null)
  // A drill of cutting out is practised where nothing need be wrong.
  const practised = $derived(!closed && coupon.drillId === 'cutOut')
  const unlaid = $derived(coupon.beads.filter((bead) => !bead.pass))

  /** What the coupon will be on record as, once it is closed as it stands. */
  const closingSays = $derived(
    [
      `${coupon.student.name}, ${coupon.test.id}, ${coupon.asTest ? 'as under test' : 'coached'}`,
      `${coupon.drillId ? 'drill ' : ''}${verdict.sentence}`,
      unlaid.length ? `${unlaid.length === 1 ? 'one bead' : `${unlaid.length} beads`} not laid` : '',
    ]
      .filter(Boolean)
      .join('; ') + '.',
  )

  async function act(action: () => Promise<unknown>) {
    busy = true
    await notices.attempt(async () => {
      await action()
      await onchanged()
    })
    busy = false
  }

  async function close() {
    // Unfinished work is asked about once.
    if (unlaid.length && !unfinished) {
      unfinished = true
      return
    }
    unfinished = false
    await act(async () => {
      const id = closingId
      if (!(await sent(id))) return
      closingId = newId()
      notices.add('Coupon closed.', 'done', () =>
        act(() => write(coupon.id, 'DELETE', 'closings', id, null, 'a closing taken back')),
      )
    })
  }

  /** A verdict that was signed before is signed anew with the PIN, where the server can be asked. */
  async function sent(id: string): Promise<boolean> {
    try {
      await write(coupon.id, 'PUT', 'closings', id, null, 'the closing')
      return true
    } catch (error) {
      if (!(error instanceof Refused) || !error.fields.pin) throw error
      return signing.sign(`${coupon.stamp}: ${closingSays}`, (header) =>
        ask(
          api.PUT('/api/coupons/{couponId}/closings/{id}', {
            params: { path: { couponId: coupon.id, id }, header },
          }),
        ),
      )
    }
  }

  const removeFinding = (id: string) =>
    act(() => write(coupon.id, 'DELETE', 'findings', id, null, 'a finding taken back'))

  const reasonsOf = (index: number) =>
    [...verdict.reasons, ...verdict.passed].filter((one) => one.finding === index)

  const tell = (kind: Schema['BenchEventKind'], body: Partial<Schema['BenchEventBody']>, says: string) =>
    tellEvent(coupon.id, kind, body, says, onchanged)

  const addNote = () =>
    act(async () => {
      const id = newId()
      await write(coupon.id, 'PUT', 'notes', id, { text: note }, 'a note')
      note = ''
      notices.add('Note kept.', 'done', () =>
        act(() => write(coupon.id, 'DELETE', 'notes', id, null, 'a note taken back')),
      )
    })
</script>

<div class="flex flex-col gap-3">
  <div class="flex flex-wrap items-center gap-3">
    <VerdictMark kind={verdict.kind} big />
    <span class="text-sm text-(--soft)"
      >by {coupon.test.profileName}{verdict.inside ? '' : ', by eye'}{closed ? '' : ', as it stands'}</span
    >
  </div>
  {#if verdict.inside}
    <p class="text-lg font-semibold first-letter:uppercase">{verdict.sentence}.</p>
    <p class="flex flex-wrap items-center gap-x-4 gap-y-1">
      <span>By eye <VerdictMark kind={verdict.byEye} /></span>
      <span>Inside <VerdictMark kind={verdict.inside} /></span>
    </p>
  {/if}
  {#if verdict.closings.length > 1}
    <ol
      class="border-l-4 pl-3"
      style:border-left-color="var(--straw)"
      aria-label="Verdicts, the signed one first"
    >
      {#each verdict.closings as one, index (one.id)}
        <li>
          <strong>{index === 0 ? 'Signed' : 'Later'}:</strong>
          {one.sentence}
          <span class="text-sm text-(--soft)">{one.by}, {moment(one.at, session.timeZone)}</span>
        </li>
      {/each}
    </ol>
  {/if}
  {#if verdict.today}
    <p class="border-l-4 pl-3" style:border-left-color="var(--caution)" aria-label="By today's limits">
      <strong>By today's limits:</strong>
      <VerdictMark kind={verdict.today.kind} />
      {inUnits(verdict.today.says)}
      <span class="text-sm text-(--soft)"
        >The signed verdict stays. {verdict.today.counts
          ? 'Readiness goes by today’s.'
          : 'The lead let the signed one count.'}</span
      >
    </p>
  {/if}
  {#if !coupon.life.scores.length}
    {#each verdict.says as says (says)}<p class="font-semibold">{says}</p>{/each}
  {/if}
  {#if coupon.life.scores.length}
    <table class="w-full" aria-label="Repairs by clock point">
      <tbody>
        {#each coupon.life.scores as score (score.at)}
          <tr class="border-t">
            <th scope="row" class="number py-1 text-left text-lg">{score.at} o'clock</th>
            <td>{score.says}</td>
            <td class="text-right text-(--soft)"
              >{score.passed === true ? 'passed' : score.passed === false ? 'failed' : 'open'}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
  {#each verdict.halves as half (half.halfId)}
    <p class="flex flex-wrap items-center gap-2">
      <VerdictMark kind={half.kind} /> <strong>{half.name}</strong>
      {#if half.missing.length}<span class="text-(--soft)"
          >not finished: {half.missing.map((stage) => stageName(stage).toLowerCase()).join(', ')}</span
        >{/if}
    </p>
  {/each}
  {#if !closed && unlaid.length}
    <p>Not laid yet: {unlaid.map((bead) => actNameOf(coupon, bead)).join(', ')}.</p>
  {:else if verdict.missing.length}
    <p>Not finished: {verdict.missing.map((stage) => stageName(stage).toLowerCase()).join(', ')}.</p>
  {/if}
  <ul>
    {#each [...verdict.reasons, ...verdict.passed].filter((one) => one.finding < 0) as reason, index (index)}
      <li class="border-t py-1.5">
        <VerdictMark kind={reason.outcome} /> <strong>The weld itself</strong>
        {limitText(reason)} <span class="text-sm text-(--soft)">{sourceText(reason)}</span>
      </li>
    {/each}
    {#each [...verdict.reasons, ...verdict.passed] as reason, index (index)}
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
    {/each}
    {#each coupon.findings as finding, index (finding.id)}
      <li class="border-t py-1.5">
        <div class="flex items-start gap-2">
          <div class="grow">
            <p>
              <VerdictMark kind={finding.outcome} /> <strong>{finding.name}</strong>, {stageName(
                finding.stage,
              ).toLowerCase()}{finding.clock ? ` at ${finding.clock}` : ''}{toeText(finding.toe)}
            </p>
            {#each reasonsOf(index) as reason, at (at)}
              <p>{limitText(reason)}</p>
              <p class="text-sm text-(--soft)">{sourceText(reason)}</p>
            {/each}
          </div>
          {#if !closed}
            <button
              class="bare text-sm"
              aria-label="Correct {finding.name}"
              onclick={() => oncorrect(finding)}>Correct</button
            >
            <button
              class="bare text-sm"
              aria-label="Take back {finding.name}"
              onclick={() => removeFinding(finding.id)}>Take back</button
            >
          {/if}
        </div>
        <FindingCare
          {finding}
          {closed}
          oncause={(causeId) => tell('causeChosen', { findingId: finding.id, causeId }, 'Cause kept.')}
          ontell={tell}
        />
      </li>
    {:else}
      {#if !verdict.reasons.length}
        <li class="text-(--soft)">Nothing found so far: no limit is in question.</li>
      {/if}
    {/each}
  </ul>
  {#if practised}
    <div class="border-t pt-2" role="group" aria-label="The repair that is practised">
      <p class="eyebrow">The repair that is practised</p>
      <div class="flex flex-wrap gap-1.5">
        {#each ['cutOutAndRegap', 'refill'] as Schema['RepairAction'][] as action (action)}
          <button
            class="plate px-2"
            onclick={() => tell('repaired', { action }, `${repairName(action)}: kept.`)}
            >{repairName(action)}</button
          >
        {/each}
        <button class="plate px-2" onclick={() => tell('lookedAgain', { sound: true }, 'Sound.')}
          >Sound</button
        >
        <button class="plate px-2" onclick={() => tell('lookedAgain', { sound: false }, 'Not sound.')}
          >Not sound</button
        >
      </div>
    </div>
  {/if}

  {#if !closed}<LookPanel {coupon} {side} {point} {onnext} bind:specimen ontell={tell} />
  {:else if coupon.test.specimens.length && !given}<SpecimenPanel
      {coupon}
      bind:chosen={specimen}
      ontell={tell}
    />{/if}

  {#if shift}<section class="border-t pt-2" aria-label="What it does to the chance">
      <p class="eyebrow">What this coupon does to the chance of a clean full coupon</p>
      <div class="grid grid-cols-[4.5rem_1fr] items-center gap-x-2">
        <span class="text-sm">without it</span><ChanceBand chance={shift.before} slim />
        <span class="text-sm">with it</span><ChanceBand chance={shift.after} slim />
      </div>
      <p>
        {#if !shift.before.tooLittleToTell && !shift.after.tooLittleToTell}From {percent(shift.before.mean)} to
          {percent(shift.after.mean)}.{:else}{chanceSentence(shift.after)}{/if}
      </p>
    </section>{/if}

  {#if closed}
    <p class="text-sm text-(--soft)">
      Closed by {verdict.closedBy}, {moment(verdict.closedAt!, session.timeZone)}; limits {verdict.profileId} version
      {verdict.profileVersion}, test {coupon.test.id} version {verdict.templateVersion}, Gradus {verdict.programVersion}.
    </p>
    <ThumbBar>
      {#if !session.isStudent}<a
          class="lead [overflow-wrap:anywhere]"
          href="/students/{coupon.student.id}/decide/{coupon.test.id}">Decide for {coupon.student.name}</a
        >{/if}
      {#if !given && !session.isStudent}<button
          class="plate"
          disabled={busy}
          onclick={() => (reopening = true)}>Open it again</button
        >{/if}
    </ThumbBar>
  {:else}
    {#if unfinished}
      <p class="border-l-4 border-(--bronze) px-3 font-semibold" role="alert">
        {unlaid.length === 1 ? 'A bead is' : `${unlaid.length} beads are`} not laid. Close it as it stands?
      </p>
    {/if}
    <p class="border-t pt-2">
      <span class="text-(--soft)">Closing will say:</span>
      <strong>{closingSays}</strong>
    </p>
    <ThumbBar>
      {#if session.isStudent}
        <p class="grow self-center">An instructor looks at it and closes it.</p>
      {:else}
        <button class="lead" disabled={busy} onclick={close}
          >{unfinished ? 'Close it unfinished' : 'Close with this verdict'}</button
        >
      {/if}
      <button class="plate" onclick={onfinding}>Add a finding</button>
    </ThumbBar>
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
        class="field min-w-0 grow"
        placeholder="A note for next time"
        aria-label="Note"
        maxlength="2000"
        bind:value={note}
      />
      <button class="plate" disabled={busy || note.trim() === ''}>Add</button>
    </form>
  </section>

  <HistoryList couponId={coupon.id} />
</div>

<ReasonDialog
  bind:open={reopening}
  title="Why is it opened again?"
  usual={REOPEN}
  label="Another reason"
  act="Open it"
  onsay={(note) => tell('reopened', { note }, 'Opened again.')}
/>
