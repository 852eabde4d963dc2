<script lang="ts">
  import { page } from '$app/state'

  let { children } = $props()
  const VIEWS = [
    { href: '/plan', name: 'Week' },
    { href: '/plan/steps', name: 'Steps' },
    { href: '/plan/stock', name: 'Stock and cutting' },
    { href: '/plan/setup', name: 'School' },
  ]
</script>

<nav class="flex flex-wrap gap-x-5 border-b print:hidden" aria-label="Plan">
  {#each VIEWS as view (view.href)}
    <a
      class="tap border-transparent bg-transparent px-1"
      href={view.href}
      aria-current={page.url.pathname === view.href ? 'page' : undefined}
      class:here={page.url.pathname === view.href}>{view.name}</a
    >
  {/each}
</nav>
{@render children()}

<style>
  .here {
    border-bottom: 4px solid var(--ink);
    border-radius: 0;
  }
</style>
