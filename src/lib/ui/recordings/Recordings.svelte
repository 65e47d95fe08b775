<script lang="ts">
  import Mic from '@lucide/svelte/icons/mic';
  import { onMount } from 'svelte';
  import { messageOf } from '$lib/core/message-of';
  import { api, type Job, type ListedRecording, type Project, type Recording } from '$lib/client/api';
  import { listenToServer } from '$lib/client/events';
  import { EVERYTHING, library } from '$lib/client/library.svelte';
  import { narrationCalls } from '$lib/client/narration/calls';
  import { PLACES } from '$lib/client/places';
  import { uploads } from '$lib/client/uploads.svelte';
  import TopBar from '../frame/TopBar.svelte';
  import BundleAll from './BundleAll.svelte';
  import Bin from './Bin.svelte';
  import ChosenBar from './ChosenBar.svelte';
  import FindBar from './FindBar.svelte';
  import HearAll from './HearAll.svelte';
  import List from './List.svelte';
  import Projects from './Projects.svelte';
  import Uploads from './Uploads.svelte';
  import { phrases } from './phrases';

  /** What was done last, and what takes it back. */
  interface Said {
    readonly text: string;
    readonly undo: (() => Promise<unknown>) | null;
  }

  let bin = $state.raw<readonly Recording[]>([]);
  let unheard = $state.raw<readonly string[]>([]);
  /** Narrations that were broken off, or are being spoken. */
  let unended = $state(0);
  let jobs = $state.raw<Readonly<Record<string, Job>>>({});
  let failure = $state<string | null>(null);
  /** Recordings that are to be handed over as one bundle. */
  let bundled = $state.raw<readonly string[] | null>(null);
  let said = $state.raw<Said | null>(null);
  let isOver = $state(false);
  let areProjectsOpen = $state(false);
  let chooser = $state<HTMLInputElement | undefined>();
  let list = $state<{ focus(): void } | undefined>();
  let findBar = $state<{ focus(): void } | undefined>();
  /** The recording that the next file is a new cut of. */
  let cutOf: string | null = null;

  /** What stands beside the list. */
  async function loadRest(): Promise<void> {
    const [binned, narrations, ...waiting] = await Promise.all([
      api.binnedRecordings(),
      narrationCalls.list(),
      ...(['unheard', 'preparing'] as const).map((work) => api.libraryIds({ ...EVERYTHING, isReversed: true, work }))
    ]);
    bin = binned;
    unended = narrations.length;
    unheard = waiting.flat();
  }
  function load(): void {
    library.refresh();
    loadRest().then(
      () => (failure = null),
      (error: unknown) => (failure = messageOf(error))
    );
  }
  async function loadJobs(): Promise<void> {
    for (const job of await api.unfinishedJobs()) jobs = { ...jobs, [job.recordingId]: job };
  }

  const isUnfinished = (job: Job | undefined): job is Job => job?.state === 'queued' || job?.state === 'running';
  const hearings = $derived(Object.values(jobs).filter((job) => job.kind === 'hear' && isUnfinished(job)));
  const toHear = $derived.by(() => {
    const waiting = unheard.filter((id) => !hearings.some((job) => job.recordingId === id));
    const chosen = waiting.filter((id) => library.chosen.has(id));
    return chosen.length > 0 ? { ids: chosen, areChosen: true } : { ids: waiting, areChosen: false };
  });

  onMount(() => {
    load();
    loadJobs().catch((error: unknown) => (failure = messageOf(error)));
    return listenToServer({
      onRecordings: load,
      onReconnect: load,
      onJob: (job) => {
        if (job.kind !== 'hear' && job.kind !== 'prepare') return;
        const known = jobs[job.recordingId];
        // A recording may still be prepared while its hearing waits: the hearing is shown.
        if (known?.kind === 'hear' && isUnfinished(known) && job.kind === 'prepare') return;
        jobs = { ...jobs, [job.recordingId]: job };
        if (!isUnfinished(job)) load();
      }
    });
  });

  /** Those that have become recordings stand in the list. */
  const sent = $derived(uploads.list.filter(({ state }) => state === 'done'));
  $effect(() => {
    for (const { key, recording } of sent) {
      say(phrases.bring.done(recording?.title ?? phrases.bring.field));
      uploads.dismiss(key);
      load();
    }
  });

  function say(text: string, undo: Said['undo'] = null): void {
    said = { text, undo };
  }
  /** Does something with recordings; the list is fetched anew, and a failure is told. */
  async function doing(work: () => Promise<unknown>): Promise<void> {
    try {
      await work();
      failure = null;
    } catch (error) {
      failure = messageOf(error);
    }
    load();
  }
  function undo(): void {
    const { undo: takeBack } = said!;
    said = null;
    void doing(() => takeBack!());
    list?.focus();
  }

  function choose(ofRecording: string | null): void {
    cutOf = ofRecording;
    if (chooser !== undefined) chooser.multiple = ofRecording === null;
    chooser?.click();
  }

  const toBin = (which: readonly ListedRecording[] | 'chosen'): Promise<void> =>
    doing(async () => {
      const ids = which === 'chosen' ? [...library.chosen] : which.map(({ id }) => id);
      const [first] = which === 'chosen' ? [] : which;
      await api.changeRecordings(ids, { isBinned: true });
      library.letGo();
      if (first !== undefined && first.state !== 'ready') say(phrases.said.gone(first.title));
      else
        say(phrases.said.binned(ids.length, first?.title ?? phrases.said.one), () =>
          api.changeRecordings(ids, { isBinned: false })
        );
    });
  const move = (projectId: string | null): Promise<void> =>
    doing(async () => {
      const ids = [...library.chosen];
      const were = await api.changeRecordings(ids, { projectId });
      say(
        phrases.said.moved(ids.length, library.projects.find(({ id }) => id === projectId)?.name ?? null),
        async () => {
          for (const before of new Set(were.map((one) => one.projectId))) {
            const some = were.filter((one) => one.projectId === before).map(({ id }) => id);
            await api.changeRecordings(some, { projectId: before });
          }
        }
      );
    });
  const rename = (recording: Recording, title: string): Promise<void> =>
    doing(async () => {
      await api.renameRecording(recording.id, title);
      say(phrases.said.renamed(title), () => api.renameRecording(recording.id, recording.title));
    });
  const restore = ({ id, title }: Recording): Promise<void> =>
    doing(async () => {
      await api.restoreRecording(id);
      say(phrases.said.back(1, title));
    });
  const remove = ({ id, title }: Recording): Promise<void> =>
    doing(async () => {
      await api.removeRecording(id);
      say(phrases.said.goneForGood(title));
    });
  function projectRemoved({ name }: Project, recordingIds: readonly string[]): void {
    say(phrases.projects.removed(name), async () => {
      const { id } = await api.addProject(name);
      if (recordingIds.length > 0) await api.changeRecordings(recordingIds, { projectId: id });
    });
  }
</script>

<svelte:head><title>{phrases.page} · Vine Tap</title></svelte:head>

<TopBar title="Vine Tap" subtitle={phrases.page} />

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
    uploads.add(event.dataTransfer?.files ?? []);
  }}
>
  <section class="bring" aria-label={phrases.bring.title}>
    <div>
      <h2>{phrases.bring.title}</h2>
      <p>{phrases.bring.about}</p>
    </div>
    <div class="ways">
      <a class="act" href="/narrate" title={phrases.bring.narrateAbout}
        ><Mic size={16} />
        {unended > 0 ? phrases.bring.narrateOn(unended) : phrases.bring.narrate}</a
      >
      <button class="act filled" onclick={() => choose(null)}>{phrases.bring.choose}</button>
    </div>
    <input
      class="unseen"
      type="file"
      multiple
      tabindex="-1"
      aria-label={phrases.bring.field}
      accept="audio/*,video/*,.mkv,.mxf,.opus,.flac,.caf,.w64"
      bind:this={chooser}
      onchange={(event) => {
        uploads.add(event.currentTarget.files ?? [], cutOf);
        cutOf = null;
        event.currentTarget.value = '';
      }}
    />
  </section>

  <Uploads />

  {#if failure ?? library.failure}
    <p class="message failed" role="alert">
      {failure ?? library.failure} <button class="act" onclick={load}>{phrases.tryAgain}</button>
    </p>
  {/if}
  {#if library.total === null}
    {#if library.failure === null}<p class="message soft">{phrases.looking}</p>{/if}
  {:else if library.total === 0 && !library.isNarrowed}
    {#if uploads.list.length === 0}
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
        <h2>{phrases.empty.title}</h2>
        <p class="soft">{phrases.empty.about}</p>
        <ol aria-label={phrases.empty.places}>
          {#each PLACES as { id, title, about } (id)}<li><b>{title}</b> <span class="soft">{about}</span></li>{/each}
        </ol>
      </div>
    {/if}
  {:else}
    <div class="bars">
      {#if library.chosen.size > 0}
        <ChosenBar
          onMove={(projectId: string | null) => void move(projectId)}
          onBin={() => void toBin('chosen')}
          onBundle={() => (bundled = [...library.chosen])}
          onManage={() => (areProjectsOpen = true)}
        />
      {:else}
        <FindBar bind:this={findBar} onManage={() => (areProjectsOpen = true)} />
      {/if}
      <HearAll
        recordingIds={toHear.ids}
        areChosen={toHear.areChosen}
        jobs={hearings}
        onJob={(job: Job) => void (jobs = { ...jobs, [job.recordingId]: job })}
      />
    </div>
    {#if library.total === 0}
      <div class="empty">
        <h2>{phrases.none.title}</h2>
        <button class="act" onclick={() => library.lookAtAll()}>{phrases.none.showAll}</button>
      </div>
    {:else}
      <List
        bind:this={list}
        {jobs}
        onTitle={(recording: Recording, title: string) => void rename(recording, title)}
        onCut={({ id }: Recording) => choose(id)}
        onBin={(which: readonly ListedRecording[] | 'chosen') => void toBin(which)}
        onGoOn={({ id }: Recording) => void doing(() => api.goOnPreparing(id))}
        onBundle={(which: readonly ListedRecording[] | 'chosen') =>
          (bundled = which === 'chosen' ? [...library.chosen] : which.map(({ id }) => id))}
        onFind={() => findBar?.focus()}
      />
    {/if}
  {/if}

  <footer>
    {#if bin.length > 0}
      <Bin
        recordings={bin}
        onRestore={(recording: Recording) => void restore(recording)}
        onRemove={(recording: Recording) => void remove(recording)}
      />
    {/if}
    {#if library.total !== null && library.total > 0}
      <span class="soft" role="status"
        >{phrases.find.count(library.total)}{library.notSearchedYet > 0 && library.query.text !== ''
          ? `, ${phrases.find.behind(library.notSearchedYet)}`
          : ''}</span
      >
    {/if}
    <p role="status" aria-live="polite">{said?.text ?? ''}</p>
    {#if said !== null && said.undo !== null}<button class="act" onclick={undo}>{phrases.undo}</button>{/if}
    {#if (library.total ?? 0) > 0}<span class="soft keys">{phrases.keys}</span>{/if}
  </footer>
</main>
{#if bundled !== null}
  <BundleAll
    recordingIds={bundled}
    onClose={() => {
      bundled = null;
      list?.focus();
    }}
    onDone={(files: number) => say(phrases.bundle.done(files))}
  />
{/if}
{#if areProjectsOpen}
  <Projects onClose={() => (areProjectsOpen = false)} onRemoved={projectRemoved} />
{/if}

<style>
  main {
    display: flex;
    flex-direction: column;
    height: calc(100vh - 52px);
    min-width: 1000px;
    padding: 16px max(24px, calc((100vw - 1240px) / 2)) 0;
    background: var(--sheet);
  }
  .ways {
    display: flex;
    gap: 12px;
  }
  main.over {
    background: var(--pale-leaf);
    outline: 2px dashed var(--leaf);
    outline-offset: -10px;
  }
  main > :global(.list) {
    flex: 1;
  }
  h2 {
    font-size: 17px;
    font-weight: 700;
  }
  .bring {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 24px;
    padding: 10px 18px;
    border-radius: 5px 20px 5px 20px;
    background: var(--pale-leaf);
  }
  .bring p {
    font-size: 14px;
  }
  .bars {
    display: grid;
    gap: 10px;
    padding-block: 12px;
    border-bottom: 1px solid var(--rule);
  }
  .message {
    padding: 14px 18px;
  }
  .failed {
    color: var(--clay);
  }
  .empty {
    display: grid;
    flex: 1;
    align-content: center;
    justify-items: center;
    gap: 8px;
    text-align: center;
  }
  .empty ol {
    display: grid;
    gap: 4px;
    margin-top: 18px;
    text-align: left;
  }
  .empty li {
    display: grid;
    grid-template-columns: 92px auto;
  }
  footer {
    display: flex;
    align-items: center;
    gap: 14px;
    min-height: 46px;
    margin-top: auto;
    padding-block: 6px;
  }
  .keys {
    margin-left: auto;
    font-size: 13px;
  }
</style>
