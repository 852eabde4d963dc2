<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { clockText, sound, ticking } from '$lib/ticking.svelte'
  import { timerName } from '$lib/words'

  let { timer, small = false }: { timer: Schema['RunningTimer']; small?: boolean } = $props()

  const left = $derived(timer.dueAt ? new Date(timer.dueAt).getTime() - ticking.now : null)
  const due = $derived(left !== null && left <= 0)
  // svelte-ignore state_referenced_locally
  let rung = due
  $effect(() => {
    if (due && !rung) {
      rung = true
      sound()
    }
  })
</script>

<span
  class="number inline-flex items-center gap-1 border px-2 {small ? 'text-base' : 'text-xl'}"
  class:due
  role="timer"
  aria-label="{timerName(timer.timer)}{due ? ', due' : ''}"
>
  {timerName(timer.timer)}
  {left === null
    ? clockText(ticking.now - new Date(timer.startedAt).getTime())
    : due
      ? `due, ${clockText(-left)} over`
      : clockText(left)}
</span>

<style>
  span {
    border-color: var(--steel-edge);
    background: var(--straw-ground);
  }
  .due {
    border-color: var(--caution);
    border-width: 2px;
    background: var(--caution-ground);
    color: var(--caution);
  }
</style>
