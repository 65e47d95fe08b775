<script lang="ts">
  import type { TrackId } from '$lib/core/id';
  import { onMount } from 'svelte';
  import { formatClock, type ReckonedSpan } from '$lib/core/time';
  import { messageOf } from '$lib/core/message-of';
  import { languageName } from '$lib/core/track';
  import { api, ServerProblem, type Cut, type Recording } from '$lib/client/api';
  import { phrases } from './phrases';

  /** The cut before this recording: what of it is here, and its tracks to take over. */
  interface Props {
    recording: Recording;
    onCarried: () => void;
  }
  let { recording, onCarried }: Props = $props();

  let earlier = $state.raw<Recording | null>(null);
  let cut = $state.raw<Cut | null>(null);
  let failure = $state<string | null>(null);
  /** The track that is being taken over. */
  let carrying = $state<string | null>(null);
  let carried = $state.raw<{ readonly trackId: TrackId; readonly toLookAt: number } | null>(null);

  onMount(() => void load());

  async function load(): Promise<void> {
    failure = null;
    try {
      earlier = await api.recording(recording.cutOf ?? '');
      cut = await api.cut(recording.id);
    } catch (error) {
      const isInBin = error instanceof ServerProblem && error.code === 'unknown_recording';
      failure = isInBin ? phrases.earlierCut.theCutBeforeIs : messageOf(error);
    }
  }

  async function carryOver(trackId: TrackId): Promise<void> {
    failure = null;
    carrying = trackId;
    try {
      const newId = await api.carryOver(recording.id, trackId);
      carried = { trackId: newId, toLookAt: (await api.cutRemarks(newId)).length };
      onCarried();
    } catch (error) {
      failure = messageOf(error);
    } finally {
      carrying = null;
    }
  }

  interface Stretch extends ReckonedSpan {
    readonly state: 'kept' | 'moved' | 'new';
    readonly told: string;
  }
  const stretches: readonly Stretch[] = $derived.by(() => {
    if (cut === null) return [];
    const shared = cut.shared.map(({ newMs, oldMs, lengthMs, state }) => ({
      ...{ startMs: newMs, endMs: newMs + lengthMs, state },
      told: phrases.earlierCut.shared(state, formatClock(oldMs), formatClock(oldMs + lengthMs))
    }));
    const added = cut.added.map((span) => ({ ...span, state: 'new' as const, told: 'new' }));
    return [...shared, ...added].sort((a, b) => a.startMs - b.startMs);
  });
  const lengthOf = (spans: readonly ReckonedSpan[]): number =>
    spans.reduce((sum, one) => sum + one.endMs - one.startMs, 0);
  const sums = $derived([
    ...(['kept', 'moved', 'new'] as const).map((state) => ({
      state,
      ms: lengthOf(stretches.filter((one) => one.state === state))
    })),
    { state: 'removed' as const, ms: lengthOf(cut?.removed ?? []) }
  ]);
</script>

<h2>{phrases.earlierCut.fromTheCutBefore}</h2>
{#if failure !== null}
  <p class="failed" role="alert">
    {failure} <button class="act" onclick={() => void load()}>{phrases.earlierCut.tryAgain}</button>
  </p>
{:else if cut === null || earlier === null}
  <p class="soft" role="status">{phrases.earlierCut.findingWhatOfThe}</p>
{:else}
  <p class="soft">
    {#if cut.shared.length === 0}{phrases.earlierCut.nothingShared(earlier.title)}
    {:else}{phrases.earlierCut.lengths(
        earlier.title,
        formatClock(earlier.durationMs),
        formatClock(recording.durationMs)
      )}{/if}
  </p>
  <ol class="strip" aria-label={phrases.earlierCut.thisRecordingFromIts}>
    {#each stretches as stretch (stretch.startMs)}
      <li
        class={stretch.state}
        style:flex-grow={stretch.endMs - stretch.startMs}
        title={phrases.earlierCut.stretch(formatClock(stretch.startMs), formatClock(stretch.endMs), stretch.told)}
      >
        <span class="unseen"
          >{phrases.earlierCut.stretch(formatClock(stretch.startMs), formatClock(stretch.endMs), stretch.told)}</span
        >
      </li>
    {/each}
  </ol>
  <ul class="sums">
    {#each sums as { state, ms } (state)}
      <li><span class="key {state}"></span> {state} <span class="mono">{formatClock(ms)}</span></li>
    {/each}
  </ul>
  {#if cut.shared.length > 0}
    <ul class="tracks">
      {#each earlier.tracks as track (track.id)}
        <li>
          <button class="act" disabled={carrying !== null} onclick={() => void carryOver(track.id)}
            >{carrying === track.id
              ? phrases.earlierCut.takingOver(languageName(track.language), track.kind)
              : phrases.earlierCut.takeOver(languageName(track.language), track.kind)}</button
          >
          <span class="soft">{phrases.tracks.counts(track)}</span>
        </li>
      {/each}
    </ul>
  {/if}
  {#if carried !== null}
    <p role="status">
      {phrases.earlierCut.itIsHereWith}
      <a href="/recordings/{recording.id}/tracks/{carried.trackId}/time"
        >{carried.toLookAt === 0 ? phrases.earlierCut.timeIt : phrases.earlierCut.lookOver(carried.toLookAt)}</a
      >
    </p>
  {/if}
{/if}

<style>
  h2 {
    font-size: 20px;
    font-weight: 700;
  }
  .strip {
    display: flex;
    align-items: end;
    gap: 2px;
    width: 100%;
    height: 26px;
  }
  .strip .kept,
  .strip .new {
    height: 100%;
  }
  .strip li {
    flex-basis: 0;
    min-width: 3px;
    border-radius: 4px 10px 4px 10px;
  }
  .kept {
    background: var(--wave);
  }
  .moved {
    height: 60%;
    background: var(--leaf);
  }
  .new {
    border: 2px dashed var(--straw);
  }
  .removed {
    border: 2px solid var(--clay);
    opacity: 0.7;
  }
  .sums {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 20px;
    font-size: 15px;
  }
  .sums li {
    display: flex;
    align-items: center;
    gap: 7px;
  }
  .key {
    width: 18px;
    height: 12px;
    border-radius: 2px 6px 2px 6px;
  }
  .tracks {
    display: grid;
    gap: 8px;
  }
  .tracks li {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 12px;
  }
  .failed {
    color: var(--clay);
  }
  a {
    color: var(--leaf);
    font-weight: 600;
  }
</style>
