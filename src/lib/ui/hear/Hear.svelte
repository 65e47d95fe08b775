<script lang="ts">
  import type { TrackId } from '$lib/core/id';
  import { goto } from '$app/navigation';
  import { onMount, untrack } from 'svelte';
  import { formatClock, type Span, toSpan } from '$lib/core/time';
  import { hearsLanguage } from '$lib/core/hearing';
  import { languageName } from '$lib/core/track';
  import { messageOf } from '$lib/core/message-of';
  import { api, type Engine, type Job, type Quote, type Recording, type SoundSource } from '$lib/client/api';
  import { plural } from '$lib/core/plural';
  import { preferences } from '$lib/client/preferences.svelte';
  import { listenToServer } from '$lib/client/events';
  import { listenToKeys } from '$lib/client/keys/keyboard';
  import type { Place } from '$lib/client/keys/commands';
  import { KeptField } from '$lib/client/kept-text.svelte';
  import { PLACES } from '$lib/client/places';
  import { formatMoney } from '../frame/money';
  import KeysDialog from '../frame/KeysDialog.svelte';
  import TopBar from '../frame/TopBar.svelte';
  import Agree from './Agree.svelte';
  import Background from './Background.svelte';
  import EarlierCut from './EarlierCut.svelte';
  import Engines from './Engines.svelte';
  import Tabs from '../frame/Tabs.svelte';
  import Finished from './Finished.svelte';
  import ImportCaptions from './ImportCaptions.svelte';
  import Listen from './Listen.svelte';
  import Language from './Language.svelte';
  import Names from './Names.svelte';
  import Progress from './Progress.svelte';
  import Sources from './Sources.svelte';
  import Stretch from './Stretch.svelte';
  import Tracks from './Tracks.svelte';
  import { phrases } from './phrases';

  const TIMING_ENGINE_ID = 'timing-only';

  interface Props {
    recordingId: string;
  }
  let { recordingId }: Props = $props();
  let recording = $state.raw<Recording | null>(null);
  let engines = $state.raw<readonly Engine[] | null>(null);
  let way = $state<'words' | 'script' | 'empty cues'>('words');
  let language = $state(preferences.hearing.language);
  let engineId = $state('');
  let background = $state<'none' | 'music' | 'noise'>('none');
  let source = $state.raw<SoundSource | null>(null);
  /** The track that a new hearing is proposed for; empty: a new track. */
  let proposeFor: TrackId | '' = $state('');
  let quoted = $state.raw<{ readonly of: string; readonly quote: Quote | null } | null>(null);
  let isAgreeing = $state(false);
  let oneWordPerCue = $state(preferences.hearing.oneWordPerCue);
  let figures = $state(preferences.hearing.figures);
  const script = new KeptField(`script:${untrack(() => recordingId)}`);
  let voices = $state(preferences.hearing.voices);
  let stretch = $state.raw<Span | null>(null);
  let job = $state.raw<Job | null>(null);
  /** Counts the requests, so that only the last one's answer is shown. */
  let loads = 0;
  let failure = $state<string | null>(null);
  let areKeysOpen = $state(false);
  let names = $state<{ save(): Promise<void> } | undefined>();

  const tabs = [
    { id: 'hear', label: phrases.hear.haveItHeard },
    { id: 'import', label: phrases.hear.importCaptions }
  ] as const;
  let tab = $state<'hear' | 'import'>('hear');
  let nameCount = $state(0);
  const wordEngines = $derived(
    (engines ?? []).filter((one) => (one.hears || one.fits) && (one.available || one.isOwn !== true))
  );
  /** Those that can do something with words in the language. */
  const inLanguage = $derived(wordEngines.filter((one) => hearsLanguage(one.languages, language)));
  const isHeard = $derived(inLanguage.some((one) => one.hears));
  /** Where the words of a language are heard, a script is laid on what is heard. */
  const able = $derived(isHeard ? inLanguage.filter((one) => one.hears) : inLanguage);
  const hearing = $derived(able.find((one) => one.id === engineId) ?? able[0] ?? null);
  const isFittedOnly = $derived(!isHeard && inLanguage.length > 0);
  const isTimedOnly = $derived(engines !== null && inLanguage.length === 0);
  const chosenWay = $derived(isTimedOnly ? 'empty cues' : isFittedOnly && way === 'words' ? 'script' : way);
  /** False: only times are found, by the engine that hears no words. */
  const hearsWords = $derived(chosenWay !== 'empty cues');
  /** What is folded away, in a line. */
  const summary = $derived(
    [
      ...(hearsWords
        ? [
            voices === 'one'
              ? phrases.hear.oneSpeaker
              : voices === 'auto'
                ? phrases.hear.speakersFoundOut
                : phrases.hear.someSpeakers(voices)
          ]
        : []),
      background === 'none' ? phrases.hear.noBackground : phrases.hear.removed(background),
      ...(chosenWay === 'words' ? [figures ? phrases.hear.withFigures : phrases.hear.withoutFigures] : []),
      ...(hearsWords && oneWordPerCue ? [phrases.hear.oneWordEach] : []),
      ...(hearsWords ? [plural(nameCount, 'name')] : [])
    ].join(', ')
  );
  const proposable = $derived((recording?.tracks ?? []).filter((track) => track.wordCount > 0));
  const isBusy = $derived(job !== null && (job.state === 'queued' || job.state === 'running'));
  const firstTrack = $derived(recording?.tracks[0]);
  const hrefOf = (place: Place): string | null => {
    if (place === 'hear') return `/recordings/${recordingId}/hear`;
    return firstTrack === undefined ? null : `/recordings/${recordingId}/tracks/${firstTrack.id}/${place}`;
  };
  const places = $derived(PLACES.map(({ id }) => ({ place: id, href: hrefOf(id) })));
  function loadEngines(): void {
    api.engines().then(
      (found) => (engines = found),
      (error: unknown) => (failure = messageOf(error))
    );
  }
  /** With a job that has ended: its end and what it made are shown in one step, so that no link moves under the pointer. */
  async function load(ended?: Job): Promise<void> {
    const mine = ++loads;
    try {
      const found = await api.recording(recordingId);
      const latest = found.jobId === undefined ? (ended ?? job) : await api.job(found.jobId);
      if (mine !== loads) return;
      recording = found;
      job = latest;
    } catch (error) {
      failure = messageOf(error);
      if (ended !== undefined) job = ended;
    }
  }

  $effect(() => {
    if (able.length > 0 && !able.some((one) => one.id === engineId)) engineId = able[0]!.id;
  });
  /** What a price is asked for; it stands until the same is asked again, so that nothing moves under the pointer. */
  const askedPrice = $derived.by(() => {
    if (recording === null || !hearsWords || hearing?.price === undefined) return null;
    const { startMs, endMs } = stretch ?? toSpan({ startMs: 0, endMs: recording.durationMs });
    return { of: `${hearing.id} ${startMs} ${endMs}`, engine: hearing.id, startMs, endMs };
  });
  const quote = $derived(askedPrice !== null && quoted?.of === askedPrice.of ? quoted.quote : null);
  $effect(() => {
    if (askedPrice === null) return;
    const { of, engine, startMs, endMs } = askedPrice;
    let isLatest = true;
    api.quote(recordingId, engine, { startMs, endMs }).then(
      (found) => isLatest && (quoted = { of, quote: found }),
      (error: unknown) => (failure = messageOf(error))
    );
    return () => (isLatest = false);
  });

  onMount(() => {
    void load();
    loadEngines();
    const stopKeys = listenToKeys({
      place: () => 'hear',
      run: (id) => {
        const to = PLACES.find((place) => place.go === id)?.id;
        const href = to === undefined || to === 'hear' ? null : hrefOf(to);
        if (id === 'keys') areKeysOpen = true;
        else if (id === 'leave' && document.activeElement instanceof HTMLElement) document.activeElement.blur();
        else if (href !== null) void goto(href);
        else return false;
        return true;
      }
    });
    const stopListening = listenToServer({
      onJob: (told) => {
        if (told.recordingId !== recordingId || (told.kind !== 'hear' && told.kind !== 'prepare')) return;
        if (job?.kind === 'hear' && told.kind === 'prepare') return;
        if (told.state === 'queued' || told.state === 'running') job = told;
        else {
          void load(told);
          // What it cost is taken off the balance now.
          loadEngines();
        }
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
        ...(chosenWay === 'script' && { script: script.text }),
        ...(hearsWords && voices !== 'one' && { speakers: voices === 'auto' ? voices : Number(voices) }),
        ...(stretch !== null && { fromMs: stretch.startMs, toMs: stretch.endMs }),
        ...(source !== null && { source: { stream: source.stream, channel: source.channel } }),
        ...(chosenWay === 'words' && proposeFor !== '' && { trackId: proposeFor }),
        ...(quote !== null && { spendCents: quote.costCents }),
        background
      });
      preferences.set({ hearing: { language, voices, figures, oneWordPerCue } });
      // The server has it now.
      script.forget();
      // An event may have brought a newer state meanwhile.
      if (job?.id !== asked.id) job = asked;
    } catch (error) {
      failure = messageOf(error);
    }
  }
</script>

<svelte:head><title>{phrases.hear.pageTitle(recording?.title ?? '')}</title></svelte:head>

<TopBar
  title={recording?.title ?? phrases.hear.vineTap}
  subtitle={recording === null ? '' : formatClock(recording.durationMs)}
  {places}
  here="hear"
  onKeys={() => (areKeysOpen = true)}
/>
<main class="hear" data-surface>
  {#if recording === null}
    <p class="soft opening">{failure ?? phrases.hear.openingTheRecording}</p>
  {:else}
    <section class="listen" aria-label={phrases.hear.theRecording}>
      {#if recording.state === 'ready'}<Listen {recording} fromMs={stretch?.startMs ?? 0} />{/if}
      <Stretch {recordingId} durationMs={recording.durationMs} bind:stretch />
      {#if recording.state === 'ready'}
        <Sources
          {recordingId}
          durationMs={recording.durationMs}
          fromMs={stretch?.startMs ?? 0}
          bind:source
          onFailure={(message: string) => void (failure = message)}
        />
      {/if}
      {#if job !== null && isBusy}
        <Progress {job} onFailure={(message: string) => void (failure = message)} />
      {/if}
      {#if job?.kind === 'hear' && job.state === 'failed'}<p class="failed" role="alert">
          {phrases.hear.failed(job.error ?? '')}
        </p>{/if}
      {#if job?.kind === 'hear' && job.state === 'cancelled'}
        <p class="soft" role="status">
          {#if job.result?.trackId}
            {phrases.hear.stopped}
            <a href="/recordings/{recordingId}/tracks/{job.result.trackId}/read">{phrases.hear.readWhatWasHeard}</a>
          {:else}
            {phrases.hear.cancelled}
          {/if}
        </p>
      {/if}
      {#if job?.kind === 'hear' && job.state === 'done' && job.result?.trackId}
        <Finished
          {recording}
          trackId={job.result.trackId}
          what={proposeFor === job.result.trackId ? 'proposal' : hearsWords ? 'draft' : 'cues'}
        />
      {/if}
      {#if failure}<p class="failed" role="alert">{failure}</p>{/if}
      {#if recording.cutOf !== undefined}
        <div class="part"><EarlierCut {recording} onCarried={() => void load()} /></div>
      {/if}
      <Tracks {recording} onChange={() => void load()} onFailure={(message: string) => void (failure = message)} />
    </section>

    <aside aria-label={phrases.hear.whatToMakeOf}>
      <Tabs label={phrases.hear.whatToMakeOf} {tabs} open={tab} onOpen={(id: typeof tab) => void (tab = id)}>
        {#if tab === 'import'}
          <ImportCaptions {recordingId} onImported={() => void load()} />
        {/if}
        <div class="asked" hidden={tab !== 'hear'}>
          <div class="option"><Language engines={wordEngines} bind:language /></div>
          {#if engines === null}
            <p class="soft" role="status">{phrases.hear.askingWhatCanHear}</p>
          {/if}
          <fieldset class="ways" disabled={engines === null}>
            <legend>{phrases.hear.whatItBecomes}</legend>
            <label
              ><input type="radio" bind:group={way} value="words" disabled={isTimedOnly || isFittedOnly} />
              {phrases.hear.words}</label
            >
            <label
              ><input
                type="radio"
                bind:group={way}
                value="script"
                disabled={isTimedOnly}
                checked={chosenWay === 'script'}
              />
              {phrases.hear.scripted}</label
            >
            <label
              ><input type="radio" bind:group={way} value="empty cues" checked={!hearsWords} />
              {phrases.hear.emptyCues}</label
            >
            {#if isFittedOnly}
              <span class="soft">{phrases.hear.fittedOnly(languageName(language))}</span>
            {:else if isTimedOnly}
              <span class="soft">{phrases.hear.timedOnly(languageName(language))}</span>
            {/if}
          </fieldset>
          {#if chosenWay === 'script'}
            <label class="script"
              >{phrases.hear.script}
              <textarea class="field" rows="6" bind:value={script.text}></textarea>
            </label>
            <p class="soft">
              {phrases.hear.aboutScript}
            </p>
          {/if}
          {#if hearsWords && able.length > 0}
            <Engines engines={able} bind:engineId hasScript={chosenWay === 'script'} {quote} />
          {:else if engines !== null}
            <p class="soft">{phrases.hear.itIsTimedOn}</p>
          {/if}
          <details>
            <summary><span class="soft">{summary}</span> <b>{phrases.hear.change}</b></summary>
            <div class="more">
              <div class="option">
                {#if hearsWords}
                  <label
                    >{phrases.hear.speakers}
                    <select class="field" bind:value={voices}>
                      <option value="one">{phrases.hear.oneOrNotTold}</option>
                      <option value="auto">{phrases.hear.findOut}</option>
                      {#each ['2', '3', '4', '5', '6'] as count (count)}<option value={count}>{count}</option>{/each}
                    </select></label
                  >
                {/if}
                <Background bind:background />
                {#if hearsWords}
                  {#if chosenWay === 'words'}
                    <label><input type="checkbox" bind:checked={figures} /> {phrases.hear.numbersAsFigures}</label>
                  {/if}
                  <label><input type="checkbox" bind:checked={oneWordPerCue} /> {phrases.hear.oneWordPerCue}</label>
                {/if}
              </div>
              <div hidden={!hearsWords} class="names">
                <Names
                  bind:this={names}
                  {recordingId}
                  bind:count={nameCount}
                  onFailure={(message: string) => void (failure = message)}
                />
              </div>
              {#if chosenWay === 'words' && proposable.length > 0}
                <label
                  >{phrases.hear.itBecomes}
                  <select class="field" bind:value={proposeFor}>
                    <option value="">{phrases.hear.aNewTrack}</option>
                    {#each proposable as track (track.id)}
                      <option value={track.id}
                        >{phrases.hear.proposal(
                          `${languageName(track.language)} ${track.kind}`,
                          track.correctedCount,
                          track.wordCount
                        )}</option
                      >
                    {/each}
                  </select></label
                >
              {/if}
            </div>
          </details>
        </div>
      </Tabs>
      {#if tab === 'hear' && (job === null || !isBusy || job.kind === 'prepare')}
        <p class="do">
          <button
            class="act filled large"
            onclick={() => (quote === null ? void hear() : (isAgreeing = true))}
            disabled={engines === null ||
              (hearsWords && hearing?.available !== true) ||
              (hearsWords && chosenWay === 'script' && hearing?.fits !== true) ||
              (hearsWords && hearing?.price !== undefined && (quote === null || quote.balanceAfterCents < 0)) ||
              recording.state === 'failed' ||
              language === '' ||
              (chosenWay === 'script' && script.text.trim() === '')}
            >{chosenWay === 'words'
              ? recording.tracks.length > 0
                ? phrases.hear.hearItAgain
                : phrases.hear.hearIt
              : chosenWay === 'script'
                ? phrases.hear.fitIt
                : phrases.hear.timeIt}{quote === null
              ? ''
              : phrases.hear.forPrice(formatMoney(quote.costCents, quote.currency))}</button
          >
        </p>
      {/if}
    </aside>
  {/if}
</main>
{#if isAgreeing && quote !== null && hearing !== null}
  <Agree {quote} service={hearing.name} onAgree={() => void hear()} onClose={() => (isAgreeing = false)} />
{/if}
<KeysDialog isOpen={areKeysOpen} onClose={() => (areKeysOpen = false)} />

<style>
  main {
    display: grid;
    grid-template-columns: minmax(0, 1fr) clamp(340px, 36vw, 480px);
    height: calc(100vh - 52px);
    min-width: 1000px;
    background: var(--sheet);
  }
  .opening {
    padding: 44px;
  }
  .listen {
    display: grid;
    gap: 20px;
    align-content: start;
    min-height: 0;
    padding: 24px 28px 40px;
    overflow-y: auto;
  }
  aside {
    display: flex;
    flex-direction: column;
    gap: 16px;
    min-height: 0;
    padding: 12px 20px 0;
    border-left: 1px solid var(--rule);
    background: var(--paper);
  }
  aside > :global([role='tabpanel']) {
    flex: 1;
    min-height: 0;
    padding: 2px 4px 14px;
    overflow-y: auto;
  }
  .asked:not([hidden]) {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 18px;
    justify-items: start;
  }
  .part {
    display: grid;
    gap: 12px;
    padding-top: 16px;
    border-top: 1px solid var(--rule);
  }
  .ways {
    display: grid;
    gap: 6px;
  }
  .ways label {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr);
    gap: 8px;
    align-items: baseline;
  }
  .ways legend {
    margin-bottom: 4px;
    font-weight: 700;
  }
  details,
  .names {
    width: 100%;
  }
  summary {
    cursor: pointer;
  }
  summary b {
    color: var(--leaf);
  }
  .more {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 16px;
    padding-top: 12px;
  }
  .do {
    margin: 0 -20px;
    padding: 12px 20px;
    border-top: 1px solid var(--rule);
  }
  .large {
    width: 100%;
    min-height: 42px;
    justify-content: center;
    padding: 8px 22px;
    font-size: 17px;
  }
  .option {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px 20px;
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
  a {
    color: var(--leaf);
    font-weight: 600;
    text-decoration: underline;
    text-underline-offset: 3px;
  }
</style>
