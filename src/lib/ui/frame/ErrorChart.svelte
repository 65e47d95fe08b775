<script lang="ts">
  import type { DraftErrors } from '$lib/core/compare';
  import { formatClock } from '$lib/core/time';
  import BarChart from './BarChart.svelte';
  import { phrases } from './phrases';

  /** How wrong the draft was, stretch by stretch of the recording. */
  interface Props {
    stretches: DraftErrors['byTime'];
    onChoose: (startMs: number) => void;
  }
  let { stretches, onChoose }: Props = $props();
  const words = phrases.errorChart;

  const bars = $derived(
    stretches.map(({ startMs, wordErrorRate }) => ({
      ...{ label: formatClock(startMs), color: 'straw' as const },
      value: Math.round(wordErrorRate * 1000) / 10
    }))
  );
  const worst = $derived(
    stretches.reduce((most, one) => (one.wordErrorRate > most.wordErrorRate ? one : most), stretches[0]!)
  );
</script>

{#if stretches.length > 1}
  <BarChart
    {bars}
    heightPx={110}
    mostLabels={6}
    unit=" %"
    tell={words.wrong}
    onChoose={(at: number) => onChoose(stretches[at]!.startMs)}
  />
  <p class="unseen">{words.worst(formatClock(worst.startMs), (worst.wordErrorRate * 100).toFixed(0))}</p>
{/if}
