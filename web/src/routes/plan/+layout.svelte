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
    <a class="way px-1" href={view.href} aria-current={page.url.pathname === view.href ? 'page' : undefined}
      >{view.name}</a
    >
  {/each}
</nav>
{@render children()}
