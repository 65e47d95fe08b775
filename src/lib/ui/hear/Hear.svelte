<script lang="ts">
  import { goto } from '$app/navigation';
  import { onMount } from 'svelte';
  import { formatClock } from '$lib/core/time';
  import { api, ServerProblem, type Engine, type ImportWarning, type Job, type Recording } from '$lib/client/api';
  import { listenToServer } from '$lib/client/events';
  import { listenToKeys } from '$lib/client/keys/keyboard';
  import { preferences } from '$lib/client/preferences.svelte';
  import KeysDialog from '../frame/KeysDialog.svelte';
  import ProgressBar from '../frame/ProgressBar.svelte';
  import TopBar from '../frame/TopBar.svelte';
  import Names from './Names.svelte';

  interface Props {
    recordingId: string;
  }
  let { recordingId }: Props = $props();
  let recording = $state.raw<Recording | null>(null);
  let engines = $state.raw<readonly Engine[] | null>(null);
  let engineId = $state('pocketsphinx-en-us');
  let spokenLanguage = $state('en');
  let oneWordPerCue = $state(false);
  let job = $state.raw<Job | null>(null);
  let failure = $state<string | null>(null);
  let imported: {
    readonly trackId: string;
    readonly name: string;
    readonly warnings: readonly ImportWarning[];
  } | null = $state.raw(null);
  let language = $state('en');
  let areKeysOpen = $state(false);
  let names = $state<{ save(): Promise<void> } | undefined>();
  let chooser = $state<HTMLInputElement | undefined>();

  const engine = $derived(engines?.find((one) => one.id === engineId) ?? null);
  /** Or only times, as the other engine does. */
  const hearsWords = $derived(engineId !== 'timing-only');
  const isBusy = $derived(job !== null && (job.state === 'queued' || job.state === 'running'));
  const firstTrack = $derived(recording?.tracks[0]);
  const places = $derived([
    { place: 'hear' as const, href: `/recordings/${recordingId}/hear` },
    ...(['read', 'time', 'dress', 'hand-over'] as const).map((place) => ({
      place,
      href: firstTrack === undefined ? null : `/recordings/${recordingId}/tracks/${firstTrack.id}/${place}`
    }))
  ]);
  const languageName = (tag: string): string => {
    try {
      return new Intl.DisplayNames(['en'], { type: 'language' }).of(tag) ?? tag;
    } catch {
      // A tag that is no tag yet is shown as it stands.
      return tag;
    }
  };

  async function load(): Promise<void> {
    try {
      recording = await api.recording(recordingId);
      if (recording.jobId !== undefined) job = await api.job(recording.jobId);
    } catch (error) {
      failure = error instanceof Error ? error.message : String(error);
    }
  }

  onMount(() => {
    void load();
    void api.engines().then(
      (found) => (engines = found),
      (error: unknown) => (failure = String(error))
    );
    const stopKeys = listenToKeys({
      place: () => 'hear',
      singleLetters: () => preferences.singleLetters,
      run: (id) => {
        const to = { goRead: 1, goTime: 2, goDress: 3, goHandOver: 4 }[id as string];
        if (id === 'keys') areKeysOpen = true;
        else if (id === 'leave' && document.activeElement instanceof HTMLElement) document.activeElement.blur();
        else if (to !== undefined && places[to]?.href) void goto(places[to].href);
        else return false;
        return true;
      }
    });
    const stopListening = listenToServer({
      onJob: (told) => {
        if (told.recordingId !== recordingId || (job !== null && job.kind === 'hear' && told.kind === 'prepare'))
          return;
        job = told;
        if (told.state !== 'running') void load();
      },
      onRecordings: (change) => change.recordingId === recordingId && void load(),
      onReconnect: () => void load()
    });
    return () => {
      stopKeys();
      stopListening();
    };
  });

  async function hear(): Promise<void> {
    failure = null;
    try {
      await names?.save();
      const asked = await api.hear(recordingId, {
        engine: engineId,
        language: hearsWords ? 'en' : spokenLanguage.trim(),
        rules: { oneWordPerCue: hearsWords && oneWordPerCue }
      });
      // What was told of it meanwhile is newer.
      if (job?.id !== asked.id) job = asked;
    } catch (error) {
      failure = error instanceof ServerProblem ? error.message : String(error);
    }
  }

  async function importFile(file: File | undefined): Promise<void> {
    if (file === undefined) return;
    failure = null;
    imported = null;
    try {
      const content = await file.text();
      const format = /^\ufeff?WEBVTT/.test(content) || file.name.toLowerCase().endsWith('.vtt') ? 'vtt' : 'srt';
      const { track, warnings } = await api.importCaptions(recordingId, { format, language, content });
      imported = { trackId: track.id, name: file.name, warnings };
      await load();
    } catch (error) {
      failure = `${file.name}: ${error instanceof ServerProblem ? error.message : String(error)}`;
    }
  }
</script>

<svelte:head><title>Hear {recording?.title ?? ''} · Vine Tap</title></svelte:head>

<TopBar
  title={recording?.title ?? 'Vine Tap'}
  subtitle={recording === null ? '' : formatClock(recording.durationMs)}
  {places}
  here="hear"
  onKeys={() => (areKeysOpen = true)}
/>
<main data-surface>
  {#if recording === null}
    <p class="soft">{failure ?? 'Opening the recording…'}</p>
  {:else}
    <section class="hear">
      <h2>Have it heard</h2>
      {#if engine !== null && !engine.available}
        <p class="failed" role="alert">{engine.reason}</p>
      {:else}
        <p>It is heard on this machine: the sound goes nowhere.</p>
      {/if}
      <fieldset class="ways">
        <legend>What it becomes</legend>
        <label
          ><input type="radio" bind:group={engineId} value="pocketsphinx-en-us" /> Words and cues, from English speech</label
        >
        <label
          ><input type="radio" bind:group={engineId} value="timing-only" /> Empty cues on the speech, to be typed into, in
          any language</label
        >
      </fieldset>
      {#if hearsWords}
        <label class="option"><input type="checkbox" bind:checked={oneWordPerCue} /> One word a cue</label>
      {:else}
        <label class="option"
          >Language <input class="field" size="7" bind:value={spokenLanguage} />
          <span class="soft">{languageName(spokenLanguage)}</span></label
        >
      {/if}
      <div hidden={!hearsWords}>
        <Names bind:this={names} {recordingId} onFailure={(message: string) => void (failure = message)} />
      </div>
      {#if job !== null && isBusy}
        <div class="work">
          <ProgressBar label={job.stage} progress={job.progress} />
          <p role="status">
            <strong>{job.state === 'queued' ? 'Waiting its turn' : job.stage}</strong>
            <span class="mono">{Math.round(job.progress * 100)} %</span>
          </p>
          {#if job.kind === 'hear'}<button class="act" onclick={() => job !== null && void api.cancelJob(job.id)}
              >Cancel</button
            >{/if}
        </div>
        <p class="soft">It goes on while you do something else, and after a restart.</p>
      {/if}
      {#if job === null || !isBusy || job.kind === 'prepare'}
        <button
          class="act filled large"
          onclick={() => void hear()}
          disabled={engine?.available === false || recording.state === 'failed'}
          >{recording.tracks.length > 0 ? 'Hear it again, as a new track' : hearsWords ? 'Hear it' : 'Time it'}</button
        >
      {/if}
      {#if job?.kind === 'hear' && job.state === 'failed'}<p class="failed" role="alert">
          It could not be heard: {job.error}
        </p>{/if}
      {#if job?.kind === 'hear' && job.state === 'cancelled'}<p class="soft" role="status">Cancelled.</p>{/if}
      {#if job?.kind === 'hear' && job.state === 'done' && job.result?.trackId}
        <p role="status">
          {#if hearsWords}
            The draft is there. <a href="/recordings/{recordingId}/tracks/{job.result.trackId}/read">Read it</a>
          {:else}
            The cues are there. <a href="/recordings/{recordingId}/tracks/{job.result.trackId}/time">Type into them</a>
          {/if}
        </p>
      {/if}
      {#if failure}<p class="failed" role="alert">{failure}</p>{/if}
    </section>

    <section>
      <h2>Or bring captions made elsewhere</h2>
      <div class="import">
        <label
          >Language <input class="field" size="7" bind:value={language} />
          <span class="soft">{languageName(language)}</span></label
        >
        <button class="act" onclick={() => chooser?.click()}>Choose an SRT or WebVTT file</button>
        <input
          class="unseen"
          type="file"
          tabindex="-1"
          aria-label="Captions file"
          accept=".srt,.vtt,text/vtt"
          bind:this={chooser}
          onchange={(event) => {
            void importFile(event.currentTarget.files?.[0]);
            event.currentTarget.value = '';
          }}
        />
      </div>
      {#if imported}
        <p role="status">
          {imported.name} is read. <a href="/recordings/{recordingId}/tracks/{imported.trackId}/time">See it in Time</a>
        </p>
        {#if imported.warnings.length > 0}
          <details open>
            <summary
              >{imported.warnings.length}
              {imported.warnings.length === 1 ? 'thing was' : 'things were'} mended or noted</summary
            >
            <ul class="warnings">
              {#each imported.warnings.slice(0, 200) as warning, at (at)}<li>
                  <span class="mono soft">line {warning.line ?? '–'}</span>
                  {warning.message}
                </li>{/each}
            </ul>
          </details>
        {/if}
      {/if}
    </section>

    {#if recording.tracks.length > 0}
      <section>
        <h2>Tracks</h2>
        <ul class="tracks">
          {#each recording.tracks as track (track.id)}
            <li>
              <a href="/recordings/{recordingId}/tracks/{track.id}/read">{languageName(track.language)} {track.kind}</a>
              <span class="soft">{track.wordCount} words, {track.correctedCount} corrected, {track.cueCount} cues</span>
            </li>
          {/each}
        </ul>
      </section>
    {/if}
  {/if}
</main>
<KeysDialog isOpen={areKeysOpen} onClose={() => (areKeysOpen = false)} />

<style>
  main {
    display: grid;
    align-content: start;
    gap: 40px;
    min-height: calc(100vh - 52px);
    padding: 44px max(24px, calc((100vw - 720px) / 2)) 60px;
    background: var(--sheet);
  }
  section {
    display: grid;
    justify-items: start;
    gap: 10px;
  }
  h2 {
    font-size: 20px;
    font-weight: 700;
  }
  .ways {
    display: grid;
    gap: 6px;
  }
  .ways legend {
    margin-bottom: 4px;
    font-weight: 700;
  }
  .option {
    margin-top: 4px;
  }
  .large {
    min-height: 42px;
    padding: 8px 22px;
    font-size: 17px;
  }
  .work {
    display: grid;
    grid-template-columns: 1fr auto auto;
    align-items: center;
    gap: 18px;
    width: 100%;
  }
  .work p {
    display: flex;
    gap: 12px;
  }
  .work strong::first-letter {
    text-transform: uppercase;
  }
  .failed {
    color: var(--clay);
  }
  .import {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 18px;
  }
  a {
    color: var(--leaf);
    font-weight: 600;
    text-decoration: underline;
    text-underline-offset: 3px;
  }
  .tracks li {
    display: flex;
    gap: 16px;
    padding: 6px 0;
  }
  .warnings {
    margin-top: 6px;
    max-height: 260px;
    overflow-y: auto;
  }
  .warnings li {
    padding: 3px 0;
  }
</style>
