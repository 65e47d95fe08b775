<script lang="ts">
  import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from 'chart.js';
  import type { DraftErrors } from '$lib/core/compare';
  import { formatClock } from '$lib/core/time';
  import { phrases } from './phrases';

  Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

  interface Props {
    stretches: DraftErrors['byTime'];
    onChoose: (startMs: number) => void;
  }
  let { stretches, onChoose }: Props = $props();
  let canvas = $state<HTMLCanvasElement | undefined>();

  $effect(() => {
    if (canvas === undefined) return;
    const style = getComputedStyle(canvas);
    Chart.defaults.font.family = style.fontFamily;
    const colour = (name: string): string => style.getPropertyValue(name).trim();
    const chart = new Chart(canvas, {
      type: 'bar',
      data: {
        labels: stretches.map(({ startMs }) => formatClock(startMs)),
        datasets: [
          {
            data: stretches.map(({ wordErrorRate }) => Math.round(wordErrorRate * 1000) / 10),
            backgroundColor: colour('--straw'),
            borderRadius: 2
          }
        ]
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        plugins: { tooltip: { callbacks: { label: ({ parsed }) => phrases.errorChart.wrong(parsed.y ?? 0) } } },
        scales: {
          x: { grid: { display: false }, ticks: { color: colour('--soft-ink'), maxTicksLimit: 6, maxRotation: 0 } },
          y: {
            beginAtZero: true,
            grid: { color: colour('--rule') },
            ticks: { color: colour('--soft-ink'), maxTicksLimit: 4, callback: (value) => `${value} %` }
          }
        },
        onClick: (_, [bar]) => {
          const stretch = bar === undefined ? undefined : stretches[bar.index];
          if (stretch !== undefined) onChoose(stretch.startMs);
        }
      }
    });
    return () => chart.destroy();
  });
  const worst = $derived(
    stretches.reduce((most, one) => (one.wordErrorRate > most.wordErrorRate ? one : most), stretches[0]!)
  );
</script>

{#if stretches.length > 1}
  <div class="chart">
    <canvas bind:this={canvas} aria-hidden="true"></canvas>
    <p class="unseen">
      {phrases.errorChart.worst(formatClock(worst.startMs), (worst.wordErrorRate * 100).toFixed(0))}
    </p>
  </div>
{/if}

<style>
  .chart {
    position: relative;
    height: 110px;
  }
</style>
