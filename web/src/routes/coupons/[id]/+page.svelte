<script lang="ts">
  import { page } from '$app/state'
  import Bench from '$lib/bench/Bench.svelte'
</script>

<!-- Of each coupon its own: nothing that was set on one is logged on the next. -->
{#key page.params.id}<Bench id={page.params.id!} />{/key}
