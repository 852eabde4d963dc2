<script lang="ts">
  let { conflicts }: { conflicts: string[] } = $props()
</script>

<div class="mt-1 border-2 border-(--caution) bg-(--caution-ground) p-2" role="alert">
  <p class="font-semibold">Not everything fits; this is the best part of it.</p>
  <ul class="list-disc pl-5">
    {#each conflicts as conflict (conflict)}<li>{conflict}</li>{/each}
  </ul>
</div>
