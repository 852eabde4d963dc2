<script lang="ts">
  import { newId, Refused, type Schema } from '$lib/api/client'
  import { notices } from '$lib/notices.svelte'

  type Props = {
    files: Schema['FileView'][]
    /** Where they lie: the address of the sitting or record. */
    path: string
    /** Whether a report can settle what was not judged here. */
    settling?: boolean
    label: string
    canAdd: boolean
    ondone: () => void
  }
  let { files, path, settling = false, label, canAdd, ondone }: Props = $props()
  let settles = $state(true)
  let busy = $state(false)

  async function send(event: Event & { currentTarget: HTMLInputElement }) {
    const input = event.currentTarget
    const file = input.files?.[0]
    if (!file) return
    busy = true
    await notices.attempt(async () => {
      const query = new URLSearchParams({
        name: file.name.slice(0, 200),
        settles: String(settling && settles),
      })
      const answer = await fetch(`${path}/files/${newId()}?${query}`, { method: 'PUT', body: file })
      if (!answer.ok) {
        const problem = (await answer.json().catch(() => ({}))) as {
          title?: string
          errors?: Record<string, string[]>
        }
        throw new Refused(answer.status, problem.title ?? 'It was not taken.', problem.errors ?? {})
      }
      notices.add(`${file.name} is kept as it was given.`)
      ondone()
    })
    input.value = ''
    busy = false
  }
  const size = (bytes: number) =>
    bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`
</script>

<ul>
  {#each files as file (file.id)}
    <li class="flex flex-wrap items-center gap-x-3 border-t first:border-t-0">
      <a class="bare break-all" href="{path}/files/{file.id}" target="_blank" rel="noopener">{file.name}</a>
      <span class="text-sm text-(--soft)"
        >{size(file.bytes)}{file.settles ? '; stands for what it reports' : ''}</span
      >
    </li>
  {/each}
</ul>
{#if canAdd}
  <div class="flex flex-wrap items-center gap-2">
    <label class="plate">
      {busy ? 'Sending' : label}
      <input
        type="file"
        class="sr-only"
        accept="application/pdf,image/jpeg,image/png,image/webp"
        disabled={busy}
        onchange={send}
      />
    </label>
    {#if settling}<button
        type="button"
        class="plate pl-7"
        aria-pressed={settles}
        onclick={() => (settles = !settles)}>It reports: accepted</button
      >{/if}
  </div>
{/if}
