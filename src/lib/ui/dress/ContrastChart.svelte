<script lang="ts">
  import {
    Chart,
    LinearScale,
    LineElement,
    LogarithmicScale,
    PointElement,
    ScatterController,
    Tooltip
  } from 'chart.js';
  import type { CueContrast } from '$lib/core/layout';
  import { LEAST_CONTRAST } from '$lib/core/light';
  import { formatClock } from '$lib/core/time';
  import { lookUp, type Cue, type Track } from '$lib/core/track';
  import { phrases } from './phrases';

  Chart.register(LinearScale, LineElement, LogarithmicScale, PointElement, ScatterController, Tooltip);

  interface Props {
    track: Track;
    contrasts: readonly CueContrast[];
    durationMs: number;
    onChoose: (cue: Cue) => void;
  }
  let { track, contrasts, durationMs, onChoose }: Props = $props();
  let canvas = $state<HTMLCanvasElement | undefined>();

  const points = $derived(
    contrasts.flatMap(({ cueId, legibility: { worst } }) => {
      const cue = lookUp(track).findCue(cueId);
      return cue === undefined ? [] : [{ x: cue.startMs, y: worst, cue }];
    })
  );
  const worst = $derived(points.reduce((least, one) => (one.y < least.y ? one : least), points[0]!));

  $effect(() => {
    if (canvas === undefined) return;
    const style = getComputedStyle(canvas);
    Chart.defaults.font.family = style.fontFamily;
    const colour = (name: string): string => style.getPropertyValue(name).trim();
    const [clay, rule, soft] = [colour('--clay'), colour('--rule'), colour('--soft-ink')];
    const shades = points.map(({ y }) =>
      y < LEAST_CONTRAST.large ? '--clay' : y < LEAST_CONTRAST.any ? '--straw' : '--leaf'
    );
    const chart = new Chart(canvas, {
      type: 'scatter',
      data: {
        datasets: [
          {
            data: points.map(({ x, y }) => ({ x, y })),
            pointBackgroundColor: shades.map(colour),
            pointBorderWidth: 0,
            // What cannot be read is another shape, too.
            pointStyle: points.map(({ y }) => (y < LEAST_CONTRAST.any ? 'triangle' : 'circle')),
            pointRadius: points.map(({ y }) => (y < LEAST_CONTRAST.any ? 5 : 3)),
            pointHoverRadius: 7
          },
          ...[LEAST_CONTRAST.large, LEAST_CONTRAST.any].map((limit) => ({
            data: [
              { x: 0, y: limit },
              { x: durationMs, y: limit }
            ],
            showLine: true,
            borderColor: clay,
            borderWidth: 1,
            borderDash: [5, 4],
            pointRadius: 0,
            pointHoverRadius: 0
          }))
        ]
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        plugins: {
          tooltip: {
            displayColors: false,
            filter: ({ datasetIndex }) => datasetIndex === 0,
            callbacks: {
              label: ({ parsed }) => `${formatClock(parsed.x ?? 0)}  ${phrases.contrast.cueAt(parsed.y ?? 1)}`
            }
          }
        },
        scales: {
          x: {
            type: 'linear',
            min: 0,
            max: durationMs,
            grid: { display: false },
            ticks: {
              color: soft,
              maxTicksLimit: 8,
              maxRotation: 0,
              callback: (value) => formatClock(Number(value)).replace(/\.\d+$/, '')
            }
          },
          y: {
            type: 'logarithmic',
            min: 1,
            max: 21,
            grid: { color: rule },
            ticks: { color: soft, callback: (value) => String(value) },
            afterBuildTicks: (axis) =>
              (axis.ticks = [1, LEAST_CONTRAST.large, LEAST_CONTRAST.any, 7, 21].map((value) => ({ value })))
          }
        },
        onClick: (_, [point]) => {
          const chosen = point?.datasetIndex === 0 ? points[point.index] : undefined;
          if (chosen !== undefined) onChoose(chosen.cue);
        }
      }
    });
    return () => chart.destroy();
  });
</script>

{#if points.length > 0}
  <div class="chart" data-testid="contrast-chart">
    <canvas bind:this={canvas} aria-hidden="true"></canvas>
    <p class="unseen">{phrases.contrast.chart}. {phrases.contrast.worstOf(worst.y.toFixed(1), formatClock(worst.x))}</p>
  </div>
{/if}

<style>
  .chart {
    position: relative;
    min-width: 0;
    height: 100%;
    min-height: 96px;
  }
</style>
