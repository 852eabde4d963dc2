<script lang="ts" generics="Id extends string">
  import type { Snippet } from 'svelte'

  type Tab = { id: Id; name: string }
  type Props = {
    label: string
    tabs: readonly Tab[]
    chosen: Id
    onchoose: (id: Id) => void
    /** What stands in a tab; its name when left out. */
    tab?: Snippet<[Tab]>
    /** How far the work has come under each tab: done, here, or not yet. */
    states?: Partial<Record<Id, 'done' | 'here' | 'open'>>
  }
  let { label, tabs, chosen, onchoose, tab, states = {} }: Props = $props()
  const COLOURS = { done: 'var(--blue)', here: 'var(--bronze)', open: 'var(--line)' }

  function onkeydown(event: KeyboardEvent) {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
    const at = tabs.findIndex((one) => one.id === chosen)
    const to =
      event.key === 'Home'
        ? 0
        : event.key === 'End'
          ? tabs.length - 1
          : step
            ? (at + step + tabs.length) % tabs.length
            : null
    if (to == null) return
    event.preventDefault()
    onchoose(tabs[to]!.id)
    ;((event.currentTarget as HTMLElement).children[to] as HTMLElement).focus()
  }
</script>

<div role="tablist" tabindex="-1" aria-label={label} class="flex" {onkeydown}>
  {#each tabs as one (one.id)}
    <button
      role="tab"
      class="tab"
      aria-selected={chosen === one.id}
      tabindex={chosen === one.id ? 0 : -1}
      style:border-color={COLOURS[
        (states as Record<string, 'done' | 'here' | 'open' | undefined>)[one.id] ?? 'open'
      ]}
      onclick={() => onchoose(one.id)}
    >
      {#if tab}{@render tab(one)}{:else}{one.name}{/if}
    </button>
  {/each}
</div>

<style>
  .tab {
    display: flex;
    min-width: 48px;
    min-height: 56px;
    flex: 1 1 auto;
    align-items: center;
    justify-content: center;
    gap: 0.4rem;
    padding: 0.25rem 0.5rem;
    border-bottom: 4px solid;
    color: var(--soft);
    font-weight: 600;
  }
  .tab[aria-selected='true'] {
    background: var(--sheet);
    color: var(--ink);
    font-weight: 700;
  }
</style>
