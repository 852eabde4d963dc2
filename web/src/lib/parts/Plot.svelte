<script lang="ts">
  import type { AlignedData, Options } from 'uplot'

  type Props = {
    data: AlignedData
    height: number
    /** Everything but the size; a colour is asked for by its name in the style sheet. */
    options: (colour: (name: string) => string) => Omit<Options, 'width' | 'height'>
  }
  let { data, height, options }: Props = $props()
  let place = $state<HTMLDivElement | null>(null)
  let width = $state(0)
  let failed = $state(false)

  $effect(() => {
    if (!place || width < 100) return
    const [target, wide, points, make] = [place, width, data, options]
    let gone = false
    let chart: { destroy: () => void } | null = null
    void Promise.all([import('uplot'), import('uplot/dist/uPlot.min.css')])
      .then(([{ default: Plot }]) => {
        if (gone) return
        const colour = (name: string) => getComputedStyle(target).getPropertyValue(name).trim()
        chart = new Plot({ ...make(colour), width: wide, height }, points, target)
      })
      .catch(() => (failed = true))
    return () => {
      gone = true
      chart?.destroy()
    }
  })
</script>

<!-- What it shows is said in a sentence and stands in a table beside it. -->
{#if !failed}
  <div bind:this={place} bind:clientWidth={width} style:height="{height}px" aria-hidden="true"></div>
{/if}
