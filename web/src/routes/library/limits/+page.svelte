<script lang="ts">
  import TodaysVerdicts from '$lib/library/TodaysVerdicts.svelte'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { profilesQuery } from '$lib/queries'

  const profiles = profilesQuery()
</script>

<svelte:head><title>Limits · Library · Gradus</title></svelte:head>

{#if !profiles.data}
  <Waiting error={profiles.error} retry={() => profiles.refetch()} what="The limits" />
{:else}
  <p class="text-(--soft)">
    What decides a verdict. The shipped ones were written from memory and stay as they are; a school changes a
    copy.
  </p>
  <ul class="mt-3 grid gap-3 md:grid-cols-2">
    {#each profiles.data as profile (profile.id)}
      <li>
        <a class="sheet block h-full p-4 hover:border-(--ink)" href="/library/limits/{profile.id}">
          <span class="flex items-baseline gap-3"
            ><strong class="text-xl">{profile.name}</strong>
            <span class="text-sm text-(--soft)"
              >{profile.shipped ? 'shipped' : `the school's copy, version ${profile.version}`}</span
            ></span
          >
          <span class="block">{profile.note}</span>
          {#if !profile.limitsEntered}<span class="font-semibold text-(--caution)"
              >No limits entered: it judges nothing.</span
            >{/if}
        </a>
      </li>
    {/each}
  </ul>
  <TodaysVerdicts />
{/if}
