<script lang="ts">
  import type { Snippet } from 'svelte'
  import { session } from '$lib/session.svelte'

  /** What the lead instructor alone changes: everybody else reads it. */
  let { children }: { children: Snippet } = $props()
</script>

{#if !session.isLead}<p class="text-(--soft)">The lead instructor changes this.</p>{/if}
<fieldset class="contents" disabled={!session.isLead}>{@render children()}</fieldset>
