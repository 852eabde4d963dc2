<script lang="ts">
  import { goto } from '$app/navigation'
  import Waiting from '$lib/parts/Waiting.svelte'
  import { testsQuery } from '$lib/queries'

  const tests = testsQuery()
  $effect(() => {
    if (tests.data?.[0]) void goto(`/library/${tests.data[0].id}`, { replaceState: true })
  })
</script>

<Waiting error={tests.error} retry={() => tests.refetch()} what="The library" />
