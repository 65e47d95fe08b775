<script lang="ts">
  import type { TrackId } from '$lib/core/id';
  import { formatClock } from '$lib/core/time';
  import { api, type Recording } from '$lib/client/api';
  import { phrases } from './phrases';

  /** What a hearing has made, and where to go on with it. */
  interface Props {
    recording: Recording;
    trackId: TrackId;
    what: 'draft' | 'proposal' | 'cues';
  }
  let { recording, trackId, what }: Props = $props();
  const track = $derived(recording.tracks.find((one) => one.id === trackId));
  const href = $derived(`/recordings/${recording.id}/tracks/${trackId}`);
  let doubts = $state<number | null>(null);

  $effect(() => {
    doubts = null;
    if (what === 'cues') return;
    const left = new AbortController();
    // Without their number the rest is still true.
    api.doubts(trackId, { signal: left.signal, onProgress: () => undefined }).then(
      (found) => (doubts = found.doubts.length),
      () => undefined
    );
    return () => left.abort();
  });
</script>

<div class="finished" role="status">
  {#if what === 'proposal'}
    <h2>{phrases.finished.theNewHearingIs}</h2>
    <a class="act filled" href="{href}/read">{phrases.finished.seeWhereItDiffers}</a>
  {:else}
    <h2>{what === 'draft' ? phrases.finished.draftReady : phrases.finished.theCuesAreReady}</h2>
    <p>
      {#if track !== undefined}
        {phrases.finished.made({
          ...{ words: what === 'draft' ? track.wordCount : null, cues: track.cueCount },
          ...{ length: formatClock(recording.durationMs), doubts }
        })}
      {/if}
    </p>
    {#if what === 'draft'}<a class="act filled" href="{href}/read">{phrases.finished.readIt}</a>
    {:else}<a class="act filled" href="{href}/time">{phrases.finished.typeIntoThem}</a>{/if}
  {/if}
</div>

<style>
  .finished {
    display: grid;
    gap: 8px;
    justify-items: start;
    padding: 16px 20px;
    border: 1.5px solid var(--leaf);
    border-radius: var(--leaf-shape);
    background: var(--paper);
  }
  h2 {
    font-size: 17px;
    font-weight: 700;
  }
</style>
