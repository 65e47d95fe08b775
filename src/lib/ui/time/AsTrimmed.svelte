<script lang="ts">
  import { formatClock } from '$lib/core/time';
  import { plainLines, readingSpeed } from '$lib/core/track';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import LongList from '../frame/LongList.svelte';
  import { phrases } from './phrases';

  /** The cues as they are of a trim: looked at, and changed as they were recorded. */
  const desk = useTrackDesk();
  const { trimming } = desk;
  const words = phrases.asTrimmed;
  const track = $derived(trimming.seen.track);
  let at = $state(-1);
  let box = $state<HTMLElement | undefined>();

  /** The cue of the same id, or the one that its first word is of. */
  function choose(index: number): void {
    at = index;
    const cue = desk.track.cues.find(({ id }) => id === track.cues[index]?.id);
    desk.chooseCue(cue, { seek: true });
  }
  export function focus(): void {
    box?.focus({ preventScroll: true });
  }
</script>

<!-- The keys of the surface act on it. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div class="trimmed" bind:this={box} tabindex="0" role="region" aria-label={words.label} data-surface>
  <p class="soft">{words.lookOnly}</p>
  <LongList
    label={words.label}
    count={track.cues.length}
    {at}
    isTall
    startMsOf={(index: number) => track.cues[index]!.startMs}
    onChoose={choose}
  >
    {#snippet text(index: number)}
      {@const cue = track.cues[index]!}
      <span class="mono soft">{formatClock(cue.startMs, 2)} – {formatClock(cue.endMs, 2)}</span>
      <span class="soft">{words.speed(readingSpeed(track, cue))}</span>
      {plainLines(track, cue).join(' / ')}
    {/snippet}
  </LongList>
</div>

<style>
  .trimmed {
    display: grid;
    grid-template-rows: auto minmax(0, 1fr);
    gap: 12px;
    height: 100%;
    padding: 16px 24px 0;
    background: var(--sheet);
    outline: none;
  }
</style>
