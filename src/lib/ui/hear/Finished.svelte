<script lang="ts">
  import type { TrackId } from '$lib/core/id';
  import { plural } from '$lib/core/plural';
  import { formatClock } from '$lib/core/time';
  import { api, type Recording } from '$lib/client/api';

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
    <h2>The new hearing is ready.</h2>
    <a class="act filled" href="{href}/read">See where it differs</a>
  {:else}
    <h2>{what === 'draft' ? 'Draft ready.' : 'The cues are ready.'}</h2>
    <p>
      {#if track !== undefined}
        {#if what === 'draft'}{plural(track.wordCount, 'word')} in{/if}
        {plural(track.cueCount, 'cue')}, {formatClock(recording.durationMs)} long{doubts === null
          ? '.'
          : `, ${plural(doubts, 'doubt')}.`}
      {/if}
    </p>
    {#if what === 'draft'}<a class="act filled" href="{href}/read">Read it</a>
    {:else}<a class="act filled" href="{href}/time">Type into them</a>{/if}
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
