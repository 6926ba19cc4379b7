<script setup lang="ts">
import { texts } from '~/locales/rotation'
import type { Chart } from 'chart.js'
import type { PoolView } from '~~/core/views/rotation'

/** Sessions had and due as a chart; the table beside it says the same in figures. */

const props = defineProps<{ pool: PoolView, label: string }>()

const canvas = useTemplateRef('canvas')
let chart: Chart | null = null

const HOST_HEIGHT = 44
/** The table has the rest. */
const MOST_HOSTS = 25
const hosts = computed(() => props.pool.hosts.slice(0, MOST_HOSTS))
const height = computed(() => 60 + HOST_HEIGHT * hosts.value.length)
const colour = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim()

/** A token as the browser computes it for the theme that is shown: `light-dark()` is no colour for a canvas. */
function computedColour(token: string): string {
  const probe = document.createElement('span')
  probe.style.color = colour(token)
  document.body.append(probe)
  const found = getComputedStyle(probe).color
  probe.remove()
  return found
}

async function draw(): Promise<void> {
  const { BarController, BarElement, CategoryScale, Chart: ChartClass, Legend, LinearScale, Tooltip } = await import('chart.js')
  ChartClass.register(BarController, BarElement, CategoryScale, Legend, LinearScale, Tooltip)
  ChartClass.defaults.font.family = getComputedStyle(document.body).fontFamily
  if (!canvas.value) return
  chart?.destroy()
  const [ink, line] = [computedColour('--quiet'), computedColour('--line')]
  chart = new ChartClass(canvas.value, {
    type: 'bar',
    data: {
      labels: hosts.value.map(host => host.name),
      datasets: [
        { label: texts.had, data: hosts.value.map(host => host.had), backgroundColor: computedColour('--aubergine-soft') },
        { label: texts.target, data: hosts.value.map(host => host.target), backgroundColor: computedColour('--hatch') },
      ],
    },
    options: {
      indexAxis: 'y',
      animation: false,
      maintainAspectRatio: false,
      scales: {
        x: {
          beginAtZero: true, ticks: { precision: 0, color: ink }, grid: { color: line },
          title: { display: true, text: texts.sessions, color: ink },
        },
        y: { ticks: { color: ink }, grid: { display: false } },
      },
      plugins: { legend: { position: 'top', align: 'start', labels: { color: ink, boxWidth: 14 } } },
    },
  })
}

onMounted(draw)
watch(() => props.pool, draw)
onBeforeUnmount(() => chart?.destroy())
</script>

<template>
  <div :style="{ height: `${height}px` }">
    <canvas ref="canvas" role="img" :aria-label="label" />
  </div>
</template>
