<script lang="ts">
  import { goto } from '$app/navigation';
  import { onMount } from 'svelte';
  import { formatClock, type Span } from '$lib/core/time';
  import { api, ServerProblem, type Engine, type ImportWarning, type Job, type Recording } from '$lib/client/api';
  import { listenToServer } from '$lib/client/events';
  import { listenToKeys } from '$lib/client/keys/keyboard';
  import { languageGroups, languageName, primarySubtag } from '$lib/client/languages';
  import { preferences } from '$lib/client/preferences.svelte';
  import KeysDialog from '../frame/KeysDialog.svelte';
  import TopBar from '../frame/TopBar.svelte';
  import Names from './Names.svelte';
  import Progress from './Progress.svelte';
  import Stretch from './Stretch.svelte';

  const TIMING_ENGINE_ID = 'timing-only';

  interface Props {
    recordingId: string;
  }
  let { recordingId }: Props = $props();
  let recording = $state.raw<Recording | null>(null);
  let engines = $state.raw<readonly Engine[] | null>(null);
  let way = $state<'words' | 'script' | 'empty cues'>('words');
  let spokenLanguage = $state('en');
  let otherLanguage = $state('');
  let oneWordPerCue = $state(false);
  let figures = $state(true);
  let script = $state('');
  let voices = $state<'one' | 'auto' | '2' | '3' | '4' | '5' | '6'>('one');
  let stretch = $state.raw<Span | null>(null);
  let job = $state.raw<Job | null>(null);
  let failure = $state<string | null>(null);
  let imported: {
    readonly trackId: string;
    readonly name: string;
    readonly warnings: readonly ImportWarning[];
  } | null = $state.raw(null);
  let fileLanguage = $state('en');
  let areKeysOpen = $state(false);
  let names = $state<{ save(): Promise<void> } | undefined>();
  let chooser = $state<HTMLInputElement | undefined>();

  const OTHER = 'other';
  const language = $derived(spokenLanguage === OTHER ? otherLanguage.trim() : spokenLanguage);
  /** The one that hears the language, if there is one. */
  const hearing = $derived(
    engines?.find(
      (one) =>
        one.id !== TIMING_ENGINE_ID && one.languages.some((tag) => primarySubtag(tag) === primarySubtag(language))
    ) ?? null
  );
  const groups = $derived(
    languageGroups((engines ?? []).filter((one) => one.id !== TIMING_ENGINE_ID).flatMap((one) => one.languages))
  );
  const isTimedOnly = $derived(engines !== null && hearing === null);
  const chosenWay = $derived(isTimedOnly ? 'empty cues' : way);
  /** Or only times, as the other engine does. */
  const hearsWords = $derived(chosenWay !== 'empty cues');
  const isBusy = $derived(job !== null && (job.state === 'queued' || job.state === 'running'));
  const firstTrack = $derived(recording?.tracks[0]);
  const places = $derived([
    { place: 'hear' as const, href: `/recordings/${recordingId}/hear` },
    ...(['read', 'time', 'dress', 'hand-over'] as const).map((place) => ({
      place,
      href: firstTrack === undefined ? null : `/recordings/${recordingId}/tracks/${firstTrack.id}/${place}`
    }))
  ]);
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
        engine: hearsWords && hearing !== null ? hearing.id : TIMING_ENGINE_ID,
        language,
        rules: { oneWordPerCue: hearsWords && oneWordPerCue },
        figures,
        ...(chosenWay === 'script' && { script }),
        ...(hearsWords && voices !== 'one' && { speakers: voices === 'auto' ? voices : Number(voices) }),
        ...(stretch !== null && { fromMs: stretch.startMs, toMs: stretch.endMs })
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
      const { track, warnings } = await api.importCaptions(recordingId, { format, language: fileLanguage, content });
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
      {#if hearing !== null && !hearing.available}
        <p class="failed" role="alert">{hearing.reason}</p>
      {:else}
        <p>It is heard on this machine: the sound goes nowhere.</p>
      {/if}
      <div class="option">
        <label
          >Language spoken
          <select class="field" bind:value={spokenLanguage}>
            {#each groups as group (group.label)}
              <optgroup label={group.label}>
                {#each group.tags as tag (tag)}<option value={tag}>{languageName(tag)}</option>{/each}
              </optgroup>
            {/each}
            <option value={OTHER}>Another…</option>
          </select></label
        >
        {#if spokenLanguage === OTHER}
          <label
            >Its tag <input class="field" size="9" placeholder="gsw" bind:value={otherLanguage} />
            <span class="soft">{languageName(otherLanguage)}</span></label
          >
        {/if}
      </div>
      <fieldset class="ways">
        <legend>What it becomes</legend>
        <label
          ><input type="radio" bind:group={way} value="words" disabled={isTimedOnly} /> Words and cues, as they are heard</label
        >
        <label
          ><input type="radio" bind:group={way} value="script" disabled={isTimedOnly} /> Words and cues of a script you have,
          fitted to the sound</label
        >
        <label
          ><input type="radio" bind:group={way} value="empty cues" checked={!hearsWords} /> Empty cues on the speech, to be
          typed into</label
        >
        {#if isTimedOnly}
          <span class="soft">{languageName(language) || 'This language'} is timed here, not heard.</span>
        {/if}
      </fieldset>
      {#if chosenWay === 'script'}
        <label class="script"
          >The script, as it is spoken
          <textarea class="field" rows="6" bind:value={script}></textarea>
        </label>
        <p class="soft">
          It stays to the letter. What nobody speaks, and what is spoken and not in it, stands on the page struck
          through.
        </p>
      {/if}
      <Stretch {recordingId} durationMs={recording.durationMs} bind:stretch />
      {#if hearsWords}
        <div class="option">
          <label
            >Voices
            <select class="field" bind:value={voices}>
              <option value="one">One, or not told apart</option>
              <option value="auto">Find out</option>
              {#each ['2', '3', '4', '5', '6'] as count (count)}<option value={count}>{count}</option>{/each}
            </select></label
          >
          {#if chosenWay === 'words'}
            <label><input type="checkbox" bind:checked={figures} /> Numbers as figures</label>
          {/if}
          <label><input type="checkbox" bind:checked={oneWordPerCue} /> One word a cue</label>
        </div>
      {/if}
      <div hidden={!hearsWords} class="names">
        <Names bind:this={names} {recordingId} onFailure={(message: string) => void (failure = message)} />
      </div>
      {#if job !== null && isBusy}
        <Progress {job} onFailure={(message: string) => void (failure = message)} />
      {/if}
      {#if job === null || !isBusy || job.kind === 'prepare'}
        <button
          class="act filled large"
          onclick={() => void hear()}
          disabled={engines === null ||
            (hearsWords && hearing?.available !== true) ||
            recording.state === 'failed' ||
            language === '' ||
            (chosenWay === 'script' && script.trim() === '')}
          >{recording.tracks.length > 0
            ? 'Hear it again, as a new track'
            : chosenWay === 'words'
              ? 'Hear it'
              : chosenWay === 'script'
                ? 'Fit it'
                : 'Time it'}</button
        >
      {/if}
      {#if job?.kind === 'hear' && job.state === 'failed'}<p class="failed" role="alert">
          It could not be heard: {job.error}
        </p>{/if}
      {#if job?.kind === 'hear' && job.state === 'cancelled'}
        <p class="soft" role="status">
          {#if job.result?.trackId}
            Stopped. <a href="/recordings/{recordingId}/tracks/{job.result.trackId}/read">Read what was heard</a>
          {:else}
            Cancelled.
          {/if}
        </p>
      {/if}
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
          >Language <input class="field" size="7" bind:value={fileLanguage} />
          <span class="soft">{languageName(fileLanguage)}</span></label
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
    gap: 16px;
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
  .large {
    min-height: 42px;
    padding: 8px 22px;
    font-size: 17px;
  }
  .option {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px 20px;
  }
  .names {
    width: 100%;
  }
  .script {
    display: grid;
    gap: 4px;
    width: 100%;
  }
  .script textarea {
    line-height: 24px;
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
