<script lang="ts">
  import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from 'chart.js';

  Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

  interface Props {
    /** What each column is called, how many it holds, and whether it lies outside the rules. */
    columns: readonly { readonly label: string; readonly count: number; readonly isOutside: boolean }[];
  }
  let { columns }: Props = $props();
  let canvas = $state<HTMLCanvasElement | undefined>();

  $effect(() => {
    if (canvas === undefined) return;
    const style = getComputedStyle(canvas);
    Chart.defaults.font.family = style.fontFamily;
    const colour = (name: string): string => style.getPropertyValue(name).trim();
    const soft = colour('--soft-ink');
    const chart = new Chart(canvas, {
      type: 'bar',
      data: {
        labels: columns.map(({ label }) => label),
        datasets: [
          {
            data: columns.map(({ count }) => count),
            backgroundColor: columns.map(({ isOutside }) => colour(isOutside ? '--clay' : '--leaf')),
            categoryPercentage: 0.94,
            barPercentage: 0.94
          }
        ]
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        plugins: { tooltip: { displayColors: false } },
        scales: {
          x: { grid: { display: false }, ticks: { color: soft, maxRotation: 0, autoSkip: false, font: { size: 11 } } },
          y: {
            beginAtZero: true,
            grid: { color: colour('--rule') },
            ticks: { color: soft, precision: 0, maxTicksLimit: 4 }
          }
        }
      }
    });
    return () => chart.destroy();
  });
</script>

<div><canvas bind:this={canvas} aria-hidden="true"></canvas></div>

<style>
  div {
    position: relative;
    min-width: 0;
    height: 132px;
  }
</style>
