<script lang="ts">
  import { draftErrors, findChanges, type Change, type DraftErrors } from '$lib/core/compare';
  import { joinWords, type Track } from '$lib/core/track';
  import { messageOf } from '$lib/core/message-of';
  import { plural } from '$lib/core/plural';
  import { KeptField } from '$lib/client/kept-text.svelte';
  import { api, type Version } from '$lib/client/api';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import ErrorChart from '../frame/ErrorChart.svelte';
  import LongList from '../frame/LongList.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const { session } = desk;
  let versions = $state.raw<readonly Version[]>([]);
  let fromId = $state<string | null>(null);
  let toId = $state<string>('now');
  let tracks = $state.raw<ReadonlyMap<string, Track>>(new Map());
  let failure = $state<string | null>(null);
  const title = new KeptField(`name of a version of ${session.trackId}`);
  let found = $state.raw<{ changes: readonly Change[]; errors: DraftErrors } | null>(null);
  let chosen = $state(-1);

  async function loadVersions(): Promise<void> {
    try {
      versions = await api.versions(session.trackId);
      fromId ??= versions[0]?.id ?? null;
    } catch (error) {
      failure = messageOf(error);
    }
  }
  void loadVersions();

  $effect(() => {
    for (const id of [fromId, toId]) {
      if (id === null || id === 'now' || tracks.has(id)) continue;
      api.versionTrack(session.trackId, id).then(
        (track) => (tracks = new Map([...tracks, [id, track]])),
        (error: unknown) => (failure = messageOf(error))
      );
    }
  });

  /** Two whole tracks are compared, so only when the browser is idle. */
  $effect(() => {
    const before = fromId === null ? undefined : tracks.get(fromId);
    const after = toId === 'now' ? desk.track : tracks.get(toId);
    if (before === undefined || after === undefined) return;
    const stretchMs = Math.max(10_000, Math.ceil(desk.recording.durationMs / 24 / 10_000) * 10_000);
    const asked = requestIdleCallback(
      () => (found = { changes: findChanges(before, after), errors: draftErrors(before, after, { stretchMs }) }),
      { timeout: 1500 }
    );
    return () => cancelIdleCallback(asked);
  });

  const percent = (share: number): string => `${(share * 100).toFixed(1)} %`;
  const nameOf = (speakerId: string | null): string =>
    desk.track.speakers.find((speaker) => speaker.id === speakerId)?.name ?? phrases.changes.nobodyNamed;
  const corrected = $derived(desk.track.words.filter((word) => word.correctedAt !== null).length);
  const nameOfVersion = ({ title: name, madeAtMs }: Version): string =>
    `${name}, ${new Date(madeAtMs).toLocaleString([], { dateStyle: 'short', timeStyle: 'short' })}`;

  function show(change: Change): void {
    const word = change.after[0] ?? change.before[0];
    if (word === undefined) return;
    desk.seek(word.startMs);
    desk.chooseWords(change.after.map(({ id }) => id));
  }
  async function save(): Promise<void> {
    session.flush();
    await session.saved();
    await api.saveVersion(session.trackId, title.text.trim());
    title.text = '';
    await loadVersions();
    desk.say(phrases.changes.thisVersionIsKept);
  }
  async function goBack(): Promise<void> {
    if (fromId === null) return;
    try {
      session.flush();
      await session.saved();
      await api.goBackTo(session.trackId, fromId, session.revision);
      desk.say(phrases.changes.wentBack);
    } catch (error) {
      failure = messageOf(error);
    }
  }
</script>

<section aria-label={phrases.changes.label}>
  <p class="versions">
    <label
      >{phrases.changes.from}
      <select class="field" bind:value={fromId}>
        {#each versions as version (version.id)}<option value={version.id}>{nameOfVersion(version)}</option>{/each}
      </select></label
    >
    <label
      >{phrases.changes.to}
      <select class="field" bind:value={toId}>
        <option value="now">{phrases.changes.now}</option>
        {#each versions as version (version.id)}<option value={version.id}>{nameOfVersion(version)}</option>{/each}
      </select></label
    >
  </p>
  {#if failure !== null}<p class="failed" role="alert">{failure}</p>{/if}
  {#if found === null}
    <p class="soft" role="status">{phrases.changes.comparing}</p>
  {:else}
    {@const { all, bySpeaker, byTime } = found.errors}
    <p data-testid="draft-errors">
      <strong>{percent(all.wordErrorRate)}</strong>
      {phrases.changes.wrongWords(all)}
      <span class="soft">{phrases.changes.correctedByHand(corrected)}</span>
    </p>
    <ErrorChart stretches={byTime} onChoose={(startMs: number) => desk.seek(startMs)} />
    {#if bySpeaker.length > 1}
      <table>
        <thead
          ><tr><th>{phrases.changes.speaker}</th><th>{phrases.changes.words}</th><th>{phrases.changes.wrong}</th></tr
          ></thead
        >
        <tbody>
          {#each bySpeaker as { speakerId, errors } (speakerId)}
            <tr
              ><td>{nameOf(speakerId)}</td><td class="mono">{errors.words}</td><td class="mono"
                >{percent(errors.wordErrorRate)}</td
              ></tr
            >
          {/each}
        </tbody>
      </table>
    {/if}
    <h3>{plural(found.changes.length, 'change')}</h3>
    {@const { changes } = found}
    <LongList
      label={phrases.changes.changes}
      count={changes.length}
      at={chosen}
      startMsOf={(at: number) => changes[at]!.startMs}
      onChoose={(at: number) => {
        chosen = at;
        show(changes[at]!);
      }}
    >
      {#snippet text(at: number)}
        {@const change = changes[at]!}
        {#if change.before.length > 0}<del>{joinWords(change.before)}</del>{/if}
        {#if change.after.length > 0}<ins>{joinWords(change.after)}</ins>{/if}
      {/snippet}
    </LongList>
  {/if}
  <form
    onsubmit={(event) => {
      event.preventDefault();
      if (title.text.trim() !== '') void save();
    }}
  >
    <input
      class="field"
      bind:value={title.text}
      placeholder={phrases.changes.nameOfThisVersion}
      aria-label={phrases.changes.nameOfThisVersion}
    />
    <button class="act" disabled={title.text.trim() === ''}>{phrases.changes.saveVersion}</button>
  </form>
  <button class="act quiet" disabled={fromId === null} onclick={() => void goBack()}
    >{phrases.changes.goBackTo(versions.find((version) => version.id === fromId)?.title ?? '')}</button
  >
</section>

<style>
  section {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 10px;
  }
  .versions {
    display: grid;
    gap: 6px;
  }
  .versions label {
    display: grid;
    grid-template-columns: 44px minmax(0, 1fr);
    align-items: center;
  }
  h3 {
    font-weight: 700;
  }
  table {
    width: 100%;
    border-collapse: collapse;
  }
  th {
    color: var(--soft-ink);
    font-weight: 400;
    text-align: left;
  }
  th:not(:first-child),
  td:not(:first-child) {
    text-align: right;
  }
  form {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 8px;
  }
  section > .act {
    justify-self: start;
  }
  .failed {
    color: var(--clay);
  }
</style>
