<script lang="ts">
  import type { CueId, TrackId } from '$lib/core/id';
  import { onMount, untrack } from 'svelte';
  import { messageOf } from '$lib/core/message-of';
  import { FRAME_RATE_MIX_UPS, lineThrough, speedOfMixUp } from '$lib/core/sync';
  import { layOnWords } from '$lib/core/timing';
  import { formatClock, type Ms, toSpan } from '$lib/core/time';
  import { api, type SyncEstimate } from '$lib/client/api';
  import { work } from '$lib/client/work.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import NumberField from './NumberField.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const { session, player, recording } = desk;
  type Scope = 'all' | 'on' | 'chosen';

  let shiftMs = $state(0);
  let speed = $state(1);
  let scope = $state<Scope>('all');
  let estimate = $state.raw<SyncEstimate | null>(null);
  /** Stops the search that goes on. */
  let asking = $state.raw<AbortController | null>(null);
  let told = $state('');
  let points = $state.raw<readonly { cueId: CueId; fromMs: Ms; toMs: Ms }[]>([]);
  /** Other tracks whose words were heard here. */
  const others = $derived(recording.tracks.filter((one) => one.id !== session.trackId));

  /** The work that the search waits for. */
  const preparing = $derived(work.unfinished.find(({ job }) => job.recordingId === recording.id)?.job);

  onMount(() => () => {
    asking?.abort();
    desk.trial.leave();
  });
  // What was found or set was for the track as it stood.
  $effect(() => {
    void desk.track;
    untrack(() => {
      [shiftMs, speed, estimate, points] = [0, 1, null, []];
    });
  });

  /** The cues move over the waveform as the numbers do. */
  function show(): void {
    if (shiftMs === 0 && speed === 1) return desk.trial.leave();
    const { cue, cues } = desk;
    if (scope === 'chosen' && cues.chosen.length > 0) {
      const times = cues.chosen
        .filter((one) => !one.locked)
        .map((one) => {
          const startMs = Math.max(0, one.startMs * speed + shiftMs);
          const endMs = Math.max(startMs + 1, one.endMs * speed + shiftMs);
          return { cueId: one.id, ...toSpan({ startMs, endMs }) };
        });
      desk.trial.try(times.length === 0 ? [] : [{ type: 'timeCues', times }]);
    } else {
      const range = scope === 'on' && cue !== null ? { fromMs: cue.startMs } : {};
      desk.trial.try([{ type: 'retime', shiftMs: Math.round(shiftMs), speed, ...range }]);
    }
  }
  function set(change: { shiftMs?: number; speed?: number; scope?: Scope }): void {
    shiftMs = change.shiftMs ?? shiftMs;
    speed = change.speed ?? speed;
    scope = change.scope ?? scope;
    show();
  }

  async function ask(): Promise<void> {
    const stop = new AbortController();
    asking = stop;
    told = '';
    try {
      estimate = await api.syncEstimate(session.trackId, stop.signal);
      if (estimate.segments !== undefined) desk.trial.try([{ type: 'retimePieces', pieces: estimate.segments }]);
      else set({ ...estimate, scope: 'all' });
    } catch (error) {
      if (!stop.signal.aborted) told = phrases.sync.failed(messageOf(error));
    } finally {
      if (asking === stop) asking = null;
    }
  }

  const sureness = (confidence: number): string =>
    confidence >= 0.75 ? phrases.sync.sure : confidence >= 0.4 ? phrases.sync.likely : phrases.sync.guess;
  const signed = (ms: number): string =>
    `${ms < 0 ? '−' : '+'}${Math.abs(ms) < 600_000 ? `${(Math.abs(ms) / 1000).toFixed(2)} s` : formatClock(Math.abs(ms), 2)}`;
  /** Captions may count from a time code of their own; the recording always counts from its first picture. */
  const countsFromMs = $derived(
    estimate !== null && (session.track.cues[0]?.startMs ?? 0) >= recording.durationMs ? -estimate.shiftMs : 0
  );

  function addPoint(): void {
    const { cue } = desk;
    if (cue === null) return desk.say(phrases.sync.chooseCue);
    points = [
      ...points.filter((one) => one.cueId !== cue.id),
      { cueId: cue.id, fromMs: cue.startMs, toMs: player.nowMs }
    ];
    layPoints();
  }
  function layPoints(): void {
    const line = lineThrough(points);
    if (line !== null) set({ ...line, scope: 'all' });
  }

  /** `null`: the words of the track itself. */
  async function layOn(trackId: TrackId | null): Promise<void> {
    told = '';
    try {
      const heard = trackId === null ? [] : (await api.document(trackId)).track.words;
      const { times, notHeard } = layOnWords(session.track, heard);
      desk.trial.try(times.length === 0 ? [] : [{ type: 'timeCues', times }]);
      told = phrases.sync.laid(times.length, notHeard);
    } catch (error) {
      told = messageOf(error);
    }
  }
</script>

<section aria-label={phrases.sync.sync}>
  <div class="part">
    {#if asking === null}
      <button class="act filled" onclick={ask} data-testid="estimate">{phrases.sync.findShiftAndSpeed}</button>
    {:else}
      <p role="status">
        {preparing === undefined
          ? phrases.sync.listeningToTheRecording
          : phrases.sync.waiting(preparing.stage, Math.round(preparing.progress * 100))}
        <button class="act quiet" onclick={() => asking?.abort()}>{phrases.sync.cancel}</button>
      </p>
    {/if}
    {#if estimate !== null}
      <p role="status" data-testid="estimated">
        {#if estimate.confidence < 0.1}
          <strong>{phrases.sync.nothingFits}</strong> {phrases.sync.theseCaptionsDoNot}
        {:else if estimate.segments !== undefined}
          <strong>{phrases.sync.pieces(estimate.segments.length)}</strong>, {sureness(estimate.confidence)}.
        {:else if estimate.shiftMs === 0 && estimate.speed === 1}
          <strong>{phrases.sync.inSync}</strong> {phrases.sync.nothingToMove(sureness(estimate.confidence))}
        {:else}
          <strong class="mono">{signed(estimate.shiftMs)}</strong>{phrases.sync.withSpeed}
          <strong class="mono">{estimate.speed.toFixed(4)}</strong>: {sureness(estimate.confidence)}.
        {/if}
      </p>
      {#if countsFromMs > 0}
        <p class="soft">
          {phrases.sync.countsFrom(formatClock(countsFromMs))}
        </p>
      {/if}
      {#if estimate.segments !== undefined}
        <ol>
          {#each estimate.segments as piece (piece.fromMs)}
            <li class="mono">
              {phrases.sync.piece(formatClock(piece.fromMs), signed(piece.shiftMs), piece.speed.toFixed(4))}
            </li>
          {/each}
        </ol>
      {/if}
    {/if}
  </div>

  <fieldset>
    <legend>{phrases.sync.byHand}</legend>
    <NumberField
      label={phrases.sync.shift}
      unit="s"
      value={Number((shiftMs / 1000).toFixed(3))}
      least={-36_000}
      most={36_000}
      step={0.1}
      onChange={(seconds: number) => set({ shiftMs: Math.round(seconds * 1000) })}
    />
    <input
      type="range"
      min="-10000"
      max="10000"
      step="20"
      value={Math.max(-10_000, Math.min(10_000, shiftMs))}
      oninput={(event: Event & { currentTarget: HTMLInputElement }) =>
        set({ shiftMs: event.currentTarget.valueAsNumber })}
      aria-label={phrases.sync.shiftUpToTen}
    />
    <NumberField
      label={phrases.sync.speed}
      unit="×"
      value={Number(speed.toFixed(6))}
      least={0.1}
      most={10}
      step={0.0005}
      onChange={(value: number) => set({ speed: value })}
    />
    <label class="wide"
      ><span>{phrases.sync.frameRatesMixedUp}</span>
      <select
        class="field"
        value=""
        onchange={(event) => {
          const mixUp = FRAME_RATE_MIX_UPS[Number(event.currentTarget.value)];
          if (mixUp !== undefined) set({ speed: speedOfMixUp(mixUp) });
          event.currentTarget.value = '';
        }}
      >
        <option value="">{phrases.sync.choose}</option>
        {#each FRAME_RATE_MIX_UPS as { from, to }, at (at)}<option value={at}
            >{phrases.sync.timedForShownAt(from, to)}</option
          >{/each}
      </select></label
    >
    <label class="wide"
      ><span>{phrases.sync.scope}</span>
      <select class="field" value={scope} onchange={(event) => set({ scope: event.currentTarget.value as Scope })}>
        <option value="all">{phrases.sync.theWholeTrack}</option>
        <option value="on">{phrases.sync.theChosenCueAnd}</option>
        <option value="chosen">{phrases.sync.theChosenCues}</option>
      </select></label
    >
  </fieldset>

  <fieldset>
    <legend>{phrases.sync.byPoints}</legend>
    <p class="soft">
      {phrases.sync.aboutPoints}
    </p>
    <button class="act" onclick={addPoint}>{phrases.sync.theChosenCueBegins}</button>
    <ul>
      {#each points as point (point.cueId)}
        <li>
          <span class="mono">{formatClock(point.fromMs, 1)} → {formatClock(point.toMs, 1)}</span>
          <button
            class="act quiet"
            onclick={() => {
              points = points.filter((one) => one !== point);
              layPoints();
            }}>{phrases.sync.drop}</button
          >
        </li>
      {/each}
    </ul>
  </fieldset>

  <fieldset>
    <legend>{phrases.sync.onTheWords}</legend>
    <button class="act" onclick={() => layOn(null)}>{phrases.sync.onItsOwnHeard}</button>
    {#each others as other (other.id)}
      <button class="act" onclick={() => layOn(other.id)}>{phrases.sync.onTheWordsOf(other.title)}</button>
    {/each}
  </fieldset>
  {#if told !== ''}<p role="status">{told}</p>{/if}
</section>

<style>
  section {
    display: grid;
    gap: 16px;
    font-size: 14px;
  }
  .part,
  fieldset {
    display: grid;
    gap: 8px;
    justify-items: start;
  }
  fieldset > :global(label),
  fieldset > input {
    width: 100%;
  }
  legend {
    margin-bottom: 6px;
    font-weight: 700;
  }
  .wide {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr);
    gap: 10px;
    align-items: center;
  }
  li {
    display: flex;
    gap: 8px;
    align-items: center;
  }
</style>
