<script lang="ts">
  import { figuresOf, type Column } from '$lib/core/checks';
  import { formatClock } from '$lib/core/time';
  import { lookUp, type Cue } from '$lib/core/track';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import ContrastChart from '../dress/ContrastChart.svelte';
  import CueChart from '../frame/CueChart.svelte';
  import BarChart from '../frame/BarChart.svelte';
  import Figure from './Figure.svelte';
  import SinceDraft from './SinceDraft.svelte';
  import { phrases } from './phrases';

  /** The track as a whole, in charts; each has its numbers as a table, too. */
  const desk = useTrackDesk();
  const { contrasts, recording } = desk;
  const words = phrases.figures;

  const figures = $derived(figuresOf(desk.track, { speech: desk.sound?.speech.regions ?? null }, desk.track.sheet));
  const limit = $derived(figures.mostCharactersASecond);
  const top = $derived(Math.ceil(Math.max(limit * 1.4, ...figures.speeds.map((one) => one.charactersASecond)) / 5) * 5);
  const points = $derived(
    figures.speeds.flatMap(({ cueId, charactersASecond }) => {
      const cue = lookUp(desk.track).findCue(cueId);
      const level = charactersASecond > limit ? ('bad' as const) : ('good' as const);
      return cue === undefined ? [] : [{ cue, value: charactersASecond, level }];
    })
  );
  const tooFast = $derived(points.filter(({ level }) => level === 'bad').length);
  const fastest = $derived(points.toSorted((a, b) => b.value - a.value).slice(0, 20));

  const seconds = (ms: number): string => String(ms / 1000);
  function nameOf({ fromMs, toMs }: Column): string {
    if (fromMs === Number.NEGATIVE_INFINITY) return words.overlapping;
    return toMs === Number.POSITIVE_INFINITY ? `${seconds(fromMs)} +` : `${seconds(fromMs)}–${seconds(toMs)}`;
  }
  const barsOf = (columns: readonly Column[]) =>
    columns.map((column) => ({
      ...{ label: nameOf(column), value: column.count },
      color: column.isOutside ? ('clay' as const) : ('leaf' as const)
    }));
  const durations = $derived(barsOf(figures.durations));
  const gaps = $derived(barsOf(figures.gaps));
  const contrastLine = $derived(contrasts.cues.length > 0);

  const go = (cue: Cue): void => desk.chooseCue(cue, { seek: true });
</script>

{#snippet table(heads: readonly string[], rows: readonly (readonly (string | number)[])[])}
  <details>
    <summary>{words.asTable}</summary>
    <table>
      <thead>
        <tr>
          {#each heads as head (head)}<th scope="col">{head}</th>{/each}
        </tr>
      </thead>
      <tbody>
        {#each rows as row, at (at)}
          <tr>
            {#each row as cell, index (index)}<td>{cell}</td>{/each}
          </tr>
        {/each}
      </tbody>
    </table>
  </details>
{/snippet}

<div class="figures" data-testid="figures">
  {#if desk.track.cues.length === 0}
    <p class="soft">{words.noCues}</p>
  {:else}
    <Figure title={words.readingSpeed} about={words.tooFast(tooFast, points.length, limit)}>
      <div class="wide">
        <CueChart
          {points}
          limits={[limit]}
          ticks={Array.from({ length: top / 5 + 1 }, (_, at) => at * 5)}
          durationMs={recording.durationMs}
          tell={words.speed}
          onChoose={go}
        />
      </div>
      {@render table(
        [words.at, words.charactersASecond],
        fastest.map(({ cue, value }) => [formatClock(cue.startMs), Math.ceil(value)])
      )}
    </Figure>
    <div class="pair">
      <Figure title={words.durations} about={words.inSeconds}>
        <BarChart bars={durations} heightPx={132} />
        {@render table(
          [words.seconds, words.cues],
          durations.map(({ label, value }) => [label, value])
        )}
      </Figure>
      <Figure title={words.gaps} about={words.inSeconds}>
        <BarChart bars={gaps} heightPx={132} />
        {@render table(
          [words.seconds, words.cues],
          gaps.map(({ label, value }) => [label, value])
        )}
      </Figure>
    </div>
    <p class="covered">
      <strong>{words.covered}</strong>
      {#if figures.speechCovered === null}<span class="soft">{words.notKnown}</span>
      {:else}
        <span class="bar" aria-hidden="true"><span style:width="{figures.speechCovered * 100}%"></span></span>
        <span class="mono">{Math.round(figures.speechCovered * 1000) / 10} %</span>
      {/if}
    </p>
    {#if contrastLine}
      <Figure title={words.contrast} about={words.poor(contrasts.poor.length)}>
        <div class="wide">
          <ContrastChart
            track={desk.track}
            contrasts={contrasts.cues}
            durationMs={recording.durationMs}
            onChoose={go}
          />
        </div>
        {@render table(
          [words.at, words.ratio],
          contrasts.poor
            .slice(0, 20)
            .map(({ cueId, legibility }) => [
              formatClock(lookUp(desk.track).findCue(cueId)?.startMs ?? 0),
              `${legibility.worst.toFixed(1)} : 1`
            ])
        )}
      </Figure>
    {/if}
    <SinceDraft />
  {/if}
</div>

<style>
  .figures {
    position: relative;
    display: grid;
    gap: 18px;
    align-content: start;
    height: 100%;
    padding: 2px 16px 20px;
    overflow-y: auto;
  }
  .wide {
    height: 168px;
  }
  .pair {
    display: grid;
    grid-template-columns: repeat(2, minmax(0, 1fr));
    gap: 24px;
  }
  .covered {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr) auto;
    gap: 12px;
    align-items: center;
  }
  .bar {
    height: 10px;
    border-radius: 3px 8px;
    background: var(--rule);
    overflow: hidden;
  }
  .bar span {
    display: block;
    height: 100%;
    background: var(--leaf);
  }
  details {
    font-size: 14px;
  }
  summary {
    color: var(--soft-ink);
    cursor: pointer;
  }
  th,
  td {
    padding: 2px 18px 2px 0;
    text-align: left;
    font-variant-numeric: tabular-nums;
  }
</style>
