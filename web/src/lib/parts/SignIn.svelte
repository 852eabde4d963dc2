<script lang="ts">
  import type { Schema } from '$lib/api/client'
  import SignInForm from '$lib/parts/SignInForm.svelte'

  let { view, onsignedin }: { view: Schema['SessionView']; onsignedin: () => Promise<unknown> } = $props()
</script>

<svelte:head><title>Sign in · Gradus</title></svelte:head>
<main class="flex min-h-screen items-center justify-center p-6">
  <div class="sheet w-full max-w-lg border-t-8 p-8" style:border-top-color="var(--bronze)">
    <h1 class="text-3xl">Gradus</h1>
    <p class="mb-6 text-(--soft)">{view.school?.name}</p>
    <SignInForm {view} {onsignedin} />
  </div>
</main>
