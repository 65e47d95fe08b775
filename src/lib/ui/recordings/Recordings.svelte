<script lang="ts">
  import { trackLabels } from '$lib/client/track-labels';
  import AudioLines from '@lucide/svelte/icons/audio-lines';
  import Film from '@lucide/svelte/icons/film';
  import Scissors from '@lucide/svelte/icons/scissors';
  import Trash2 from '@lucide/svelte/icons/trash-2';
  import Undo2 from '@lucide/svelte/icons/undo-2';
  import { onMount } from 'svelte';
  import { formatClock } from '$lib/core/time';
  import { messageOf } from '$lib/core/message-of';
  import { api, type Job, type Recording } from '$lib/client/api';
  import { uploads } from '$lib/client/uploads.svelte';
  import { listenToServer } from '$lib/client/events';
  import ProgressBar from '../frame/ProgressBar.svelte';
  import TopBar from '../frame/TopBar.svelte';
  import HearAll from './HearAll.svelte';

  let recordings = $state.raw<readonly Recording[] | null>(null);
  let bin = $state.raw<readonly Recording[]>([]);
  let jobs = $state.raw<Readonly<Record<string, Job>>>({});
  let failure = $state<string | null>(null);
  let said = $state('');
  let isOver = $state(false);
  let isBinOpen = $state(false);
  let chooser = $state<HTMLInputElement | undefined>();
  /** The recording that the next file is a new cut of. */
  let cutOf: string | null = null;

  async function load(): Promise<void> {
    try {
      [recordings, bin] = await Promise.all([api.recordings({ isBinned: false }), api.recordings({ isBinned: true })]);
      failure = null;
      // Jobs that began before this page was opened.
      for (const { jobId, id } of recordings)
        if (jobId !== undefined && jobs[id] === undefined) jobs = { ...jobs, [id]: await api.job(jobId) };
    } catch (error) {
      failure = messageOf(error);
    }
  }

  onMount(() => {
    void load();
    return listenToServer({
      onRecordings: () => void load(),
      onReconnect: () => void load(),
      onJob: (job) => {
        const known = jobs[job.recordingId];
        // A recording may still be prepared while its hearing waits: the hearing is shown.
        if (known?.kind === 'hear' && isUnfinished(known) && job.kind === 'prepare') return;
        jobs = { ...jobs, [job.recordingId]: job };
        if (job.state === 'done' || job.state === 'failed' || job.state === 'cancelled') void load();
      }
    });
  });

  /** Those that have become recordings stand in the list. */
  const sent = $derived(uploads.list.filter(({ state }) => state === 'done'));
  $effect(() => {
    for (const { key, recording } of sent) {
      said = `${recording?.title ?? 'The recording'} is here.`;
      uploads.dismiss(key);
      void load();
    }
  });
  function take(files: FileList | null | undefined, ofRecording: string | null = null): void {
    uploads.add(files ?? [], ofRecording);
  }

  function choose(ofRecording: string | null): void {
    cutOf = ofRecording;
    if (chooser !== undefined) chooser.multiple = ofRecording === null;
    chooser?.click();
  }

  async function toBin(recording: Recording): Promise<void> {
    await api.binRecording(recording.id);
    said = recording.state === 'ready' ? `${recording.title} is in the bin.` : `${recording.title} is gone.`;
    await load();
  }
  async function goOn(recording: Recording): Promise<void> {
    try {
      await api.goOnPreparing(recording.id);
    } catch (error) {
      failure = messageOf(error);
    }
    await load();
  }
  async function restore(recording: Recording): Promise<void> {
    await api.restoreRecording(recording.id);
    said = `${recording.title} is back.`;
    await load();
  }
  async function remove(recording: Recording): Promise<void> {
    await api.removeRecording(recording.id);
    said = `${recording.title} is gone for good.`;
    await load();
  }

  const firstHref = (recording: Recording): string =>
    recording.tracks.length > 0
      ? `/recordings/${recording.id}/tracks/${recording.tracks[0]!.id}/read`
      : `/recordings/${recording.id}/hear`;
  const howFar = (recording: Recording): string => {
    const job = jobs[recording.id];
    if (recording.canGoOn === true) return recording.failure ?? 'Its preparation was stopped';
    if (recording.state === 'failed') return `Cannot be used: ${recording.failure ?? 'it could not be read'}`;
    if (job !== undefined && (job.state === 'running' || job.state === 'queued')) {
      return job.state === 'queued'
        ? 'Waiting its turn'
        : `${job.stage.replace(/^./, (letter) => letter.toUpperCase())}, ${Math.round(job.progress * 100)} %`;
    }
    if (recording.state === 'preparing') return 'Being prepared';
    return recording.tracks.length === 0 ? (recording.cutOf === undefined ? 'Not heard yet' : 'No track yet') : '';
  };
  const titleOf = (id: string): string => recordings?.find((one) => one.id === id)?.title ?? 'a recording in the bin';
  const isUnfinished = (job: Job | undefined): job is Job => job?.state === 'queued' || job?.state === 'running';
  const hearings = $derived(Object.values(jobs).filter((job) => job.kind === 'hear' && isUnfinished(job)));
  const unheard = $derived(
    (recordings ?? []).filter(
      ({ id, state, tracks, cutOf: isCutOf }) =>
        state !== 'failed' &&
        tracks.length === 0 &&
        isCutOf === undefined &&
        !hearings.some((job) => job.recordingId === id)
    )
  );
  const isWorking = (recording: Recording): Job | null => {
    const job = jobs[recording.id];
    return job !== undefined && job.state === 'running' ? job : null;
  };
</script>

<svelte:head><title>Recordings · Vine Tap</title></svelte:head>

<TopBar title="Vine Tap" subtitle="Recordings" />

<main
  class:over={isOver}
  ondragover={(event) => {
    event.preventDefault();
    isOver = true;
  }}
  ondragleave={(event) => {
    if (event.target === event.currentTarget) isOver = false;
  }}
  ondrop={(event) => {
    event.preventDefault();
    isOver = false;
    take(event.dataTransfer?.files);
  }}
>
  <section class="bring" aria-label="Bring in a recording">
    <div>
      <h2>Bring in a recording</h2>
      <p class="soft">
        Drop files anywhere on this page: nearly any sound or video is taken. They stay on this machine.
      </p>
    </div>
    <button class="act filled" onclick={() => choose(null)}>Choose files</button>
    <input
      class="unseen"
      type="file"
      multiple
      tabindex="-1"
      aria-label="Recording"
      accept="audio/*,video/*,.mkv,.mxf,.opus,.flac,.caf,.w64"
      bind:this={chooser}
      onchange={(event) => {
        take(event.currentTarget.files, cutOf);
        cutOf = null;
        event.currentTarget.value = '';
      }}
    />
  </section>

  {#each uploads.list as upload (upload.key)}
    <div class="upload" class:failed={upload.state === 'refused'}>
      <span class="name">{upload.name}</span>
      {#if upload.state === 'refused'}
        <span role="alert">{upload.problem}</span>
        <button class="act quiet" onclick={() => uploads.dismiss(upload.key)}>Dismiss</button>
      {:else}
        <ProgressBar label="Sending {upload.name}" progress={upload.progress} />
        <span class="mono soft"
          >{upload.state === 'waiting'
            ? 'waiting'
            : upload.progress < 1
              ? `${Math.round(upload.progress * 100)} %`
              : 'reading it'}</span
        >
        <button class="act quiet" onclick={() => uploads.cancel(upload.key)}>Cancel</button>
      {/if}
    </div>
  {/each}

  {#if failure}
    <p class="message failed" role="alert">
      {failure} <button class="act" onclick={() => void load()}>Try again</button>
    </p>
  {:else if recordings === null}
    <p class="message soft">Looking for recordings…</p>
  {:else if recordings.length === 0 && uploads.list.length === 0}
    <div class="empty">
      <svg viewBox="0 0 120 60" width="150" height="75" aria-hidden="true">
        <path d="M4 32h112" stroke="var(--rule)" stroke-width="1.5" />
        {#each [8, 14, 20, 12, 24, 30, 18, 26, 14, 20, 10, 6] as height, at (at)}<rect
            x={12 + at * 8.4}
            y={32 - height / 2}
            width="4.6"
            {height}
            rx="2.3"
            fill="var(--wave)"
          />{/each}
      </svg>
      <h2>Nothing to caption yet</h2>
      <p class="soft">Bring in a recording: it is heard on this machine, and its words come with their times.</p>
    </div>
  {:else}
    <HearAll
      recordings={unheard}
      jobs={hearings}
      onJob={(job: Job) => void (jobs = { ...jobs, [job.recordingId]: job })}
    />
    <ul class="list">
      {#each recordings as recording (recording.id)}
        {@const job = isWorking(recording)}
        <li>
          <span class="kind" title={recording.media.hasVideo ? 'Picture and sound' : 'Sound only'}>
            {#if recording.media.hasVideo}<Film size={19} />{:else}<AudioLines size={19} />{/if}
            <span class="unseen">{recording.media.hasVideo ? 'Picture and sound' : 'Sound only'}</span>
          </span>
          <div class="what">
            {#if recording.state === 'failed'}<strong>{recording.title}</strong>{:else}<a href={firstHref(recording)}
                >{recording.title}</a
              >{/if}
            <p class="soft" class:bad={recording.state === 'failed'}>
              {#if recording.cutOf !== undefined}<span>New cut of {titleOf(recording.cutOf)}</span>{/if}
              {howFar(recording)}
              {#each recording.tracks as track (track.id)}
                <a class="track" href="/recordings/{recording.id}/tracks/{track.id}/read"
                  >{trackLabels(recording).get(track.id)}</a
                >
                <span>{track.wordCount} words, {track.correctedCount} corrected, {track.cueCount} cues</span>
              {/each}
            </p>
            {#if job}<ProgressBar label={job.stage} progress={job.progress} />{/if}
          </div>
          <span class="mono length">{formatClock(recording.durationMs)}</span>
          {#if recording.tracks.length > 0}<a class="act" href="/recordings/{recording.id}/hear">Hear again or import</a
            >{:else if recording.canGoOn === true}<button class="act filled" onclick={() => void goOn(recording)}
              >Go on preparing</button
            >{:else if recording.state !== 'failed'}<a class="act filled" href="/recordings/{recording.id}/hear"
              >{recording.cutOf === undefined ? 'Hear' : 'Take tracks over'}</a
            >{:else}<span></span>{/if}
          {#if recording.state === 'ready' && recording.tracks.length > 0}
            <button
              class="act quiet"
              onclick={() => choose(recording.id)}
              aria-label="Bring in a new cut of {recording.title}"
              title="It was edited again: bring in the new cut, and take its tracks over"><Scissors size={16} /></button
            >
          {:else}<span></span>{/if}
          <button
            class="act quiet"
            onclick={() => void toBin(recording)}
            aria-label="Put {recording.title} in the bin"
            title="Put in the bin"><Trash2 size={16} /></button
          >
        </li>
      {/each}
    </ul>
  {/if}

  {#if bin.length > 0}
    <section class="bin">
      <button class="act quiet" aria-expanded={isBinOpen} onclick={() => (isBinOpen = !isBinOpen)}
        ><Trash2 size={15} /> Bin ({bin.length})</button
      >
      {#if isBinOpen}
        <ul>
          {#each bin as recording (recording.id)}
            <li>
              <span>{recording.title}</span>
              <span class="mono soft">{formatClock(recording.durationMs)}</span>
              <button class="act" onclick={() => void restore(recording)}><Undo2 size={15} /> Bring back</button>
              <button class="act quiet warn" onclick={() => void remove(recording)}>Remove for good</button>
            </li>
          {/each}
        </ul>
      {/if}
    </section>
  {/if}
  <p class="unseen" role="status" aria-live="polite">{said}</p>
</main>

<style>
  main {
    min-height: calc(100vh - 52px);
    padding: 26px max(24px, calc((100vw - 1040px) / 2)) 60px;
    background: var(--sheet);
  }
  main.over {
    background: var(--pale-leaf);
    outline: 2px dashed var(--leaf);
    outline-offset: -10px;
  }
  h2 {
    font-size: 18px;
    font-weight: 700;
  }
  .bring {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 24px;
    padding: 16px 22px;
    border-radius: 5px 24px 5px 24px;
    background: var(--pale-leaf);
  }
  .bring .soft {
    color: var(--ink);
  }
  .upload {
    display: grid;
    grid-template-columns: minmax(120px, 1fr) 2fr auto auto;
    align-items: center;
    gap: 16px;
    padding: 12px 22px;
  }
  .upload.failed {
    grid-template-columns: minmax(120px, 1fr) 3fr auto;
    margin-top: 10px;
    border-radius: 4px 12px 4px 12px;
    background: var(--pale-clay);
  }
  .name {
    overflow: hidden;
    font-weight: 700;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .message {
    padding: 24px 22px;
  }
  .failed {
    color: var(--clay);
  }
  .empty {
    display: grid;
    justify-items: center;
    gap: 8px;
    padding: 90px 20px;
    text-align: center;
  }
  .list {
    margin-top: 14px;
  }
  .list li {
    display: grid;
    grid-template-columns: 26px minmax(0, 1fr) 64px 172px 42px 42px;
    align-items: center;
    gap: 16px;
    padding: 15px 10px 15px 22px;
    border-bottom: 1px solid var(--rule);
  }
  .kind {
    color: var(--leaf);
  }
  .what > a,
  .what > strong {
    color: var(--ink);
    font-size: 17px;
    font-weight: 700;
    text-decoration: none;
  }
  .what > a:hover {
    color: var(--leaf);
    text-decoration: underline;
  }
  .what p {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 10px;
    font-size: 14px;
  }
  .what p::first-letter {
    text-transform: uppercase;
  }
  .track {
    color: var(--leaf);
    font-weight: 600;
  }
  .bad {
    color: var(--clay);
  }
  .what :global(.track-bar) {
    max-width: 340px;
    margin-top: 6px;
  }
  .length {
    color: var(--soft-ink);
    text-align: right;
  }
  .list .act {
    justify-self: end;
  }
  .bin {
    margin-top: 30px;
    padding-left: 10px;
  }
  .bin li {
    display: grid;
    grid-template-columns: 1fr auto auto auto;
    align-items: center;
    gap: 16px;
    padding: 8px 12px;
  }
</style>
