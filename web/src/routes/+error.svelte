<script lang="ts">
  import { page } from '$app/state'
</script>

<div class="sheet m-6 max-w-xl p-6">
  <h1 class="text-xl">{page.status === 404 ? 'There is no such page' : 'This page cannot be shown'}</h1>
  <p class="mt-2 text-(--soft)">
    {page.status === 404 ? 'The address may be mistyped, or from another school.' : page.error?.message}
  </p>
  <a class="plate mt-4" href="/">Go to the floor</a>
</div>
