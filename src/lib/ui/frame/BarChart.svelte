<script lang="ts">
  import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from 'chart.js';

  Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

  /** A bar for each of what is counted; whoever shows it tells its numbers in words or as a table besides. */
  interface Props {
    bars: readonly { readonly label: string; readonly value: number; readonly color: 'leaf' | 'clay' | 'straw' }[];
    heightPx: number;
    /** At most as many labels; without it, all. */
    mostLabels?: number;
    /** Behind the numbers at the side. */
    unit?: string;
    tell?: (value: number) => string;
    onChoose?: (at: number) => void;
  }
  let { bars, heightPx, mostLabels, unit = '', tell = String, onChoose }: Props = $props();
  let canvas = $state<HTMLCanvasElement | undefined>();

  $effect(() => {
    if (canvas === undefined) return;
    const style = getComputedStyle(canvas);
    Chart.defaults.font.family = style.fontFamily;
    const colour = (name: string): string => style.getPropertyValue(`--${name}`).trim();
    const soft = colour('soft-ink');
    const labels = mostLabels === undefined ? { autoSkip: false } : { maxTicksLimit: mostLabels };
    const chart = new Chart(canvas, {
      type: 'bar',
      data: {
        labels: bars.map(({ label }) => label),
        datasets: [
          {
            data: bars.map(({ value }) => value),
            backgroundColor: bars.map(({ color }) => colour(color)),
            categoryPercentage: 0.94,
            barPercentage: 0.94
          }
        ]
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        plugins: { tooltip: { displayColors: false, callbacks: { label: ({ parsed }) => tell(parsed.y ?? 0) } } },
        scales: {
          x: { grid: { display: false }, ticks: { color: soft, maxRotation: 0, font: { size: 11 }, ...labels } },
          y: {
            beginAtZero: true,
            grid: { color: colour('rule') },
            ticks: { color: soft, precision: 0, maxTicksLimit: 4, callback: (value) => `${value}${unit}` }
          }
        },
        onClick: (_, [bar]) => bar !== undefined && onChoose?.(bar.index)
      }
    });
    return () => chart.destroy();
  });
</script>

<div style:height="{heightPx}px"><canvas bind:this={canvas} aria-hidden="true"></canvas></div>

<style>
  div {
    position: relative;
    min-width: 0;
  }
</style>
