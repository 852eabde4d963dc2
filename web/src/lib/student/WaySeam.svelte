<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { testsQuery } from '$lib/queries'
  import { shortDay } from '$lib/weeks'

  let { way }: { way: Schema['WayView'] } = $props()
  const tests = testsQuery()
  const MOST = 6
  const WIDTH = 1200
  const MIDDLE = 34

  // The way behind is long for some: the last ones, the one in work, and what is ahead.
  const steps = $derived.by(() => {
    const ahead = way.way.filter((step) => step.state !== 'behind')
    const behind = way.way.filter((step) => step.state === 'behind')
    const room = Math.max(1, MOST - ahead.length)
    return [...behind.slice(-room), ...ahead].slice(0, Math.max(MOST, ahead.length > MOST ? MOST : 0))
  })
  const hidden = $derived(way.way.length - steps.length)
  const x = (index: number) => ((index + 0.5) / steps.length) * WIDTH
  const now = $derived(steps.findIndex((step) => step.state === 'now'))
  // How far the hot end has come between the step behind and the one in work.
  const from = $derived(now <= 0 ? 0 : x(now - 1))
  const head = $derived(
    now < 0
      ? steps.length > 0 && steps.every((step) => step.state === 'behind')
        ? WIDTH
        : 0
      : from + (x(now) - from) * Math.min(0.92, Math.max(0.08, steps[now]!.chance ?? 0)),
  )
  const ripples = (start: number, end: number) =>
    Array.from({ length: Math.max(0, Math.floor((end - start) / 9)) }, (_, index) => start + index * 9)
  const brief = (id: string) => {
    const test = tests.data?.find((one) => one.id === id)
    return test ? `${test.positions[0]} ${test.product}` : ''
  }
  const says = (step: Schema['WayStep']) =>
    step.state === 'behind'
      ? (step.creditedWhy?.replace(/\.$/, '').replace(/^Passed on /, 'passed ') ?? 'well in hand')
      : step.state === 'now'
        ? step.fullCoupons === 0
          ? 'next'
          : `now, ${step.fullCoupons} whole ${step.fullCoupons === 1 ? 'coupon' : 'coupons'}`
        : step.from
          ? `from ${shortDay(step.from)}`
          : 'ahead'
</script>

{#if steps.length}
  <div class="overflow-x-auto">
    <div class="min-w-[38rem]">
      <svg viewBox="0 0 {WIDTH} 68" class="block w-full" aria-hidden="true">
        <rect x="0" y="6" width={WIDTH} height="18" fill="var(--steel)" />
        <rect x="0" y="44" width={WIDTH} height="18" fill="var(--steel)" />
        <path d="M0 24H{WIDTH}M0 44H{WIDTH}" stroke="var(--steel-edge)" stroke-width="2" />
        {#each ripples(4, from) as at (at)}
          <path d="M{at} {MIDDLE - 8}q7 8 0 16" fill="none" stroke="var(--blue)" stroke-width="2.6" />
        {/each}
        {#each ripples(from + 4, head - 12) as at (at)}
          <path d="M{at} {MIDDLE - 8}q7 8 0 16" fill="none" stroke="var(--bronze)" stroke-width="2.6" />
        {/each}
        {#if head < WIDTH}
          <path
            d="M{head + 14} {MIDDLE}H{WIDTH}"
            stroke="var(--cold)"
            stroke-width="2"
            stroke-dasharray="8 6"
          />
          <ellipse
            cx={head}
            cy={MIDDLE}
            rx="13"
            ry="9"
            fill="var(--straw)"
            stroke="var(--ink)"
            stroke-width="1.5"
          />
        {/if}
        {#each steps as step, index (step.test)}
          <path d="M{x(index)} 2V66" stroke="var(--ink)" stroke-width="1.6" />
          <circle
            cx={x(index)}
            cy={MIDDLE}
            r="15"
            fill={step.state === 'behind' ? 'var(--blue)' : 'var(--sheet)'}
            stroke="var(--ink)"
            stroke-width="2"
          />
          {#if step.state === 'behind'}
            <path
              d="M{x(index) - 7} {MIDDLE}l5 5l9 -10"
              fill="none"
              stroke="var(--on-blue)"
              stroke-width="3"
            />
          {:else if step.isTarget}
            <circle cx={x(index)} cy={MIDDLE} r="6" fill="none" stroke="var(--ink)" stroke-width="2" />
          {/if}
        {/each}
      </svg>
      <ol class="grid" style:grid-template-columns="repeat({steps.length}, minmax(0, 1fr))">
        {#each steps as step (step.test)}
          <li class="px-1 text-center leading-tight">
            <b
              ><span class="number text-lg">{step.test}</span>
              {brief(step.test)}</b
            ><span class="block text-sm text-(--soft)"
              >{says(step)}{step.isTarget && step.state !== 'behind' ? '; the goal' : ''}</span
            >
          </li>
        {/each}
      </ol>
    </div>
  </div>
  {#if hidden > 0}<p class="text-sm text-(--soft)">
      {hidden} more {hidden === 1 ? 'step' : 'steps'} on the
      <a class="underline" href="/plan/steps?student={way.studentId}">whole way</a>.
    </p>{/if}
{/if}
