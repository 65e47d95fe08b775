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
  import { formatClock } from '$lib/core/time';
  import type { Cue } from '$lib/core/track';

  Chart.register(LinearScale, LineElement, LogarithmicScale, PointElement, ScatterController, Tooltip);

  /** A figure of every cue over the recording, with its limits; each cue is a point to go to. */
  interface Props {
    points: readonly {
      readonly cue: Cue;
      readonly value: number;
      /** Bad ones are of another shape, too. */
      readonly level: 'bad' | 'weak' | 'good';
    }[];
    limits: readonly number[];
    /** The values that the axis names; from the first to the last. */
    ticks: readonly number[];
    isLogarithmic?: boolean;
    durationMs: number;
    tell: (value: number) => string;
    onChoose: (cue: Cue) => void;
  }
  let { points, limits, ticks, isLogarithmic = false, durationMs, tell, onChoose }: Props = $props();
  let canvas = $state<HTMLCanvasElement | undefined>();

  const COLORS = { bad: '--clay', weak: '--straw', good: '--leaf' };

  $effect(() => {
    if (canvas === undefined) return;
    const style = getComputedStyle(canvas);
    Chart.defaults.font.family = style.fontFamily;
    const colour = (name: string): string => style.getPropertyValue(name).trim();
    const [clay, rule, soft] = [colour('--clay'), colour('--rule'), colour('--soft-ink')];
    const chart = new Chart(canvas, {
      type: 'scatter',
      data: {
        datasets: [
          {
            data: points.map(({ cue, value }) => ({ x: cue.startMs, y: value })),
            pointBackgroundColor: points.map(({ level }) => colour(COLORS[level])),
            pointBorderWidth: 0,
            pointStyle: points.map(({ level }) => (level === 'good' ? 'circle' : 'triangle')),
            pointRadius: points.map(({ level }) => (level === 'good' ? 3 : 5)),
            pointHoverRadius: 7
          },
          ...limits.map((limit) => ({
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
              label: ({ parsed }) => `${formatClock(parsed.x ?? 0)}  ${tell(parsed.y ?? 0)}`
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
            type: isLogarithmic ? 'logarithmic' : 'linear',
            min: ticks[0]!,
            max: ticks.at(-1)!,
            grid: { color: rule },
            ticks: { color: soft, callback: (value) => String(value) },
            afterBuildTicks: (axis) => (axis.ticks = ticks.map((value) => ({ value })))
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

<div class="chart">
  <canvas bind:this={canvas} aria-hidden="true"></canvas>
</div>

<style>
  .chart {
    position: relative;
    min-width: 0;
    height: 100%;
    min-height: 96px;
  }
</style>
