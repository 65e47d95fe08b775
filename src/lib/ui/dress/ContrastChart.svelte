<script lang="ts">
  import type { CueContrast } from '$lib/core/layout';
  import { LEAST_CONTRAST } from '$lib/core/light';
  import { formatClock } from '$lib/core/time';
  import { lookUp, type Cue, type Track } from '$lib/core/track';
  import CueChart from '../frame/CueChart.svelte';
  import { phrases } from './phrases';

  interface Props {
    track: Track;
    contrasts: readonly CueContrast[];
    durationMs: number;
    onChoose: (cue: Cue) => void;
  }
  let { track, contrasts, durationMs, onChoose }: Props = $props();

  const levelOf = (worst: number) =>
    worst < LEAST_CONTRAST.large ? 'bad' : worst < LEAST_CONTRAST.any ? 'weak' : 'good';
  const points = $derived(
    contrasts.flatMap(({ cueId, legibility: { worst } }) => {
      const cue = lookUp(track).findCue(cueId);
      return cue === undefined ? [] : [{ cue, value: worst, level: levelOf(worst) } as const];
    })
  );
  const worst = $derived(points.reduce((least, one) => (one.value < least.value ? one : least), points[0]!));
  const limits = [LEAST_CONTRAST.large, LEAST_CONTRAST.any];
</script>

{#if points.length > 0}
  <div class="chart" data-testid="contrast-chart">
    <CueChart
      {points}
      {limits}
      {durationMs}
      {onChoose}
      ticks={[1, ...limits, 7, 21]}
      isLogarithmic
      tell={phrases.contrast.cueAt}
    />
    <p class="unseen">
      {phrases.contrast.chart}. {phrases.contrast.worstOf(worst.value.toFixed(1), formatClock(worst.cue.startMs))}
    </p>
  </div>
{/if}

<style>
  .chart {
    min-width: 0;
    height: 100%;
  }
</style>
