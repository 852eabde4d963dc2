<script lang="ts">
  import FloorBoard from '$lib/floor/FloorBoard.svelte'
  import { session } from '$lib/session.svelte'
</script>

{#if session.isStudent}
  {#await import('$lib/mine/MyWork.svelte') then { default: MyWork }}<MyWork />{/await}
{:else}
  <FloorBoard />
{/if}
