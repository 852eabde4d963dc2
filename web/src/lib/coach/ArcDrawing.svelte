<script lang="ts">
  /** How far the arc is kept: from the rod to the pool, or from the contact tip to the work. */
  type Props = { isStickOut: boolean; text: string | null }
  let { isStickOut, text }: Props = $props()
  const from = $derived(isStickOut ? 34 : 52)
</script>

<svg viewBox="0 0 120 108" class="h-full w-full" aria-hidden="true">
  <rect x="8" y="82" width="104" height="14" fill="var(--steel)" />
  <path d="M8 82H112" stroke="var(--ink)" stroke-width="2" />
  <path d="M26 82Q48 68 70 82Z" fill="var(--straw)" stroke="var(--ink)" stroke-width="1.5" />
  {#if isStickOut}
    <path d="M36 8H60L57 34H39Z" fill="var(--bronze)" />
    <path d="M48 34V66" stroke="var(--ink)" stroke-width="4" />
    <path d="M43 68L40 75M48 69V76M53 68L56 75" stroke="var(--straw)" stroke-width="3" />
  {:else}
    <path d="M48 6V52" stroke="var(--ink)" stroke-width="11" />
    <path d="M42 56L37 70M48 56V71M54 56L59 70" stroke="var(--straw)" stroke-width="3.5" />
  {/if}
  <path
    d="M72 {from}H86M72 {isStickOut ? 80 : 75}H86M79 {from}V{isStickOut ? 80 : 75}"
    stroke="var(--blue)"
    stroke-width="2.5"
    fill="none"
  />
  {#if text}
    <text x="88" y={(from + 80) / 2 + 6} class="number" fill="var(--ink)" font-size="19">{text}</text>
  {/if}
</svg>
