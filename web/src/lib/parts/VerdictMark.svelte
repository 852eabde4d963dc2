<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import { verdictName } from '$lib/words'

  let { kind, big = false }: { kind: Schema['VerdictKind']; big?: boolean } = $props()
  const tone = $derived(
    { accept: 'var(--blue)', reject: 'var(--caution)', 'cannot-judge': 'var(--soft)' }[kind],
  )
</script>

<!-- Shape as well as colour: a full bar for accept, a notched one for reject, an open one while it is not judged. -->
<span
  class="inline-flex items-center gap-2 font-semibold whitespace-nowrap {big ? 'text-2xl' : ''}"
  style:color={tone}
>
  <svg viewBox="0 0 18 18" class={big ? 'h-6 w-6' : 'h-4 w-4'} aria-hidden="true" fill={tone}>
    {#if kind === 'accept'}<path d="M1 5h16v8H1z" />
    {:else if kind === 'reject'}<path d="M1 5h5l3 5 3-5h5v8H1z" />
    {:else}<path d="M1 5h16v8H1zm2 2v4h12V7z" fill-rule="evenodd" />{/if}
  </svg>
  {verdictName(kind)}
</span>
