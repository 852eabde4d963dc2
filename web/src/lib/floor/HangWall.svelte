<script lang="ts">
  import { goto } from '$app/navigation'
  import { notices } from '$lib/notices.svelte'
  import { session } from '$lib/session.svelte'

  const hang = (names: 'first' | 'stamps') => notices.attempt(() => session.hang(names))
</script>

<!-- Above the wall, as long as somebody is signed in on this screen. -->
<section class="flex flex-wrap items-center gap-x-4 gap-y-2 px-5 py-2" aria-label="Make this a wall screen">
  <p class="min-w-64 grow">
    <strong>A wall screen shows this and nothing else.</strong> You are signed out on it, and nobody can log on
    it. Show students by
  </p>
  <button class="plate" onclick={() => hang('first')}>First names</button>
  <button class="plate" onclick={() => hang('stamps')}>Stamps only</button>
  <button class="bare" onclick={() => goto('/')}>Leave it</button>
</section>
