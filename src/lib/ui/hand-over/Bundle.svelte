<script lang="ts">
  import Package from '@lucide/svelte/icons/package';
  import { onMount } from 'svelte';
  import { SHIPPED_DESTINATIONS, type Destination } from '$lib/core/destinations';
  import { findFormat, FORMATS, ownTrackName, type FormatId } from '$lib/core/formats';
  import { nextVersion } from '$lib/core/handed-over';
  import type { TrackId } from '$lib/core/id';
  import { messageOf } from '$lib/core/message-of';
  import { LANGUAGE_FORMS, NAME_PARTS, nameFiles, namingSchema, type Naming } from '$lib/core/naming';
  import { languageName } from '$lib/core/track';
  import { api } from '$lib/client/api';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  /** Many files at once, as a receiver wants them: which tracks, which formats, which names. */
  const desk = useTrackDesk();
  const { recording, session } = desk;
  const words = phrases.bundle;
  const { handing } = desk;
  const { kept } = handing;

  let destination = $state.raw<Destination>(SHIPPED_DESTINATIONS[0]!.destination);
  let tracks = $state.raw<ReadonlySet<TrackId>>(new Set([session.trackId]));
  let name = $state('');
  let failure = $state<string | null>(null);

  const chosen = $derived(handing.find(destination));
  const naming = $derived(destination.naming);
  const wrong = $derived(namingSchema.safeParse(naming).error?.issues[0]?.message ?? null);
  const items = $derived(
    recording.tracks
      .filter(({ id }) => tracks.has(id))
      .flatMap((track) => destination.formats.map(({ format, options }) => ({ track, format, options })))
  );
  const names = $derived(
    wrong !== null
      ? []
      : nameFiles(
          items.map(({ track, format }) => ({
            ...{ title: recording.title, track: ownTrackName(track, recording), language: track.language },
            ...{
              kind: track.kind,
              version: nextVersion(track.handedOver ?? null),
              atMs: Date.now(),
              extension: findFormat(format)!.extension
            }
          })),
          naming,
          ['contents.csv']
        )
  );
  /** The sheet that the receiver asks for, where the open track is checked by another one. */
  const otherSheet = $derived(
    destination.sheet !== null && destination.sheet !== (desk.track.sheetFrom?.name ?? 'Web video')
      ? destination.sheet
      : null
  );

  onMount(
    () =>
      void act(async () => {
        await kept.load();
        destination = handing.last ?? destination;
      })
  );
  async function act(work: () => Promise<unknown>): Promise<void> {
    try {
      failure = null;
      await work();
    } catch (error) {
      failure = messageOf(error);
    }
  }

  function toggleFormat(format: FormatId): void {
    const has = destination.formats.some((one) => one.format === format);
    const formats = has
      ? destination.formats.filter((one) => one.format !== format)
      : [...destination.formats, { format, options: {} }];
    destination = { ...destination, formats };
  }
  function toggleTrack(id: TrackId): void {
    tracks = tracks.has(id) ? new Set([...tracks].filter((one) => one !== id)) : new Set([...tracks, id]);
  }
  const say = (changed: Partial<Naming>): void =>
    void (destination = { ...destination, naming: { ...naming, ...changed } });

  function keep(event: SubmitEvent): void {
    event.preventDefault();
    const asked = name.trim();
    if (asked === '') return;
    if (kept.isShipped(asked)) return desk.say(words.shippedName(asked));
    void act(async () => {
      await kept.keep([{ name: asked, destination }]);
      desk.say(words.kept(asked));
      name = '';
    });
  }
  const remove = (): Promise<void> =>
    act(async () => {
      if (chosen === null) return;
      await kept.remove(chosen.name);
      desk.say(words.removed(chosen.name));
    });

  const download = (): Promise<void> =>
    act(async () => {
      session.flush();
      await session.saved();
      const count = items.length;
      const trackIds = recording.tracks.filter(({ id }) => tracks.has(id)).map(({ id }) => id);
      const { id: trimId, recording: seen } = desk.trimming.seen;
      const asked = { destination, trackIds, title: seen.title, ...(trimId !== null && { trimId }) };
      if (await handing.download(asked)) desk.say(words.handedOver(count));
    });

  const takeSheet = (wanted: string): Promise<void> =>
    act(async () => {
      const sheet = (await api.sheets()).find((one) => one.name === wanted);
      if (sheet === undefined) return desk.say(words.noSheet(wanted));
      const from = { name: wanted, version: sheet.version };
      desk.edit([{ type: 'setSheet', sheet: sheet.sheet, from }], words.tookSheet(wanted));
    });
</script>

<div class="bundle">
  <div class="row">
    <label
      ><strong>{words.for}</strong>
      <select
        class="field"
        data-testid="destination"
        value={chosen?.name ?? ''}
        onchange={(event) =>
          (destination = kept.list.find((one) => one.name === event.currentTarget.value)?.destination ?? destination)}
      >
        {#if chosen === null}<option value="" disabled>{words.changed}</option>{/if}
        {#if kept.own.length > 0}
          <optgroup label={words.ours}>
            {#each kept.own as one (one.name)}<option value={one.name}>{one.name}</option>{/each}
          </optgroup>
        {/if}
        <optgroup label={words.shipped}>
          {#each kept.list.filter((one) => one.shipped) as one (one.name)}<option value={one.name}>{one.name}</option
            >{/each}
        </optgroup>
      </select></label
    >
    <form onsubmit={keep}>
      <input
        class="field name"
        placeholder={words.name}
        aria-label={words.keepAs}
        maxlength="80"
        autocomplete="off"
        bind:value={name}
      />
      <button class="act" disabled={name.trim() === '' || wrong !== null || destination.formats.length === 0}
        >{words.keep}</button
      >
    </form>
    {#if chosen !== null && !chosen.shipped}<button class="act quiet" onclick={() => void remove()}
        >{words.remove}</button
      >{/if}
    {#if kept.removed !== null}
      <button
        class="act quiet"
        onclick={() => void act(async () => (destination = (await kept.bringBack())?.destination ?? destination))}
        >{words.bringBack}</button
      >
    {/if}
  </div>
  {#if otherSheet !== null}
    <p class="soft sheet">
      {words.sheet(otherSheet)}
      <button class="act quiet" onclick={() => void takeSheet(otherSheet)}>{words.takeSheet}</button>
    </p>
  {/if}
  <div class="choices">
    <fieldset>
      <legend>{words.tracks}</legend>
      {#each recording.tracks as track (track.id)}
        <label
          ><input type="checkbox" checked={tracks.has(track.id)} onchange={() => toggleTrack(track.id)} />
          {[languageName(track.language), ownTrackName(track, recording)]
            .filter((part) => part !== '')
            .join(', ')}</label
        >
      {/each}
    </fieldset>
    <fieldset>
      <legend>{words.formats}</legend>
      {#each FORMATS as one (one.id)}
        <label
          ><input
            type="checkbox"
            checked={destination.formats.some(({ format }) => format === one.id)}
            onchange={() => toggleFormat(one.id)}
          />
          {one.name}</label
        >
      {/each}
    </fieldset>
    <fieldset class="names">
      <legend>{words.names}</legend>
      <label
        >{words.pattern}
        <input
          class="field mono"
          value={naming.pattern}
          aria-invalid={wrong !== null}
          aria-describedby="pattern-parts"
          oninput={(event) => say({ pattern: event.currentTarget.value })}
        /></label
      >
      <p class="soft" id="pattern-parts" class:failed={wrong !== null}>
        {wrong ?? NAME_PARTS.map((part) => `{${part}}`).join(' ')}
      </p>
      <label
        >{words.languages}
        <select
          class="field"
          value={naming.languages}
          onchange={(event) => say({ languages: event.currentTarget.value as Naming['languages'] })}
        >
          {#each LANGUAGE_FORMS as form (form)}<option value={form}>{form}</option>{/each}
        </select></label
      >
      <label
        ><input
          type="checkbox"
          checked={naming.letters === 'small'}
          onchange={(event) => say({ letters: event.currentTarget.checked ? 'small' : 'as written' })}
        />
        {words.small}</label
      >
    </fieldset>
  </div>
  {#if failure !== null}<p class="failed" role="alert">{failure}</p>{/if}
  <div class="made">
    <h3>{words.files(names.length)}</h3>
    {#if handing.making === null}
      <button class="act filled" disabled={names.length === 0} onclick={() => void download()}
        ><Package size={16} /> {words.download}</button
      >
    {:else}
      <span class="soft" role="status">{words.making}</span>
      <button class="act" onclick={() => handing.making?.abort()}>{words.cancel}</button>
    {/if}
  </div>
  <ul class="mono" aria-label={words.files(names.length)} data-testid="bundle-names">
    {#each names as one (one)}<li>{one}</li>{/each}
  </ul>
</div>

<style>
  .bundle {
    display: grid;
    gap: 16px;
    align-content: start;
    padding-bottom: 24px;
  }
  .row,
  form,
  .made {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px 12px;
  }
  .name {
    width: 190px;
  }
  .sheet {
    font-size: 15px;
  }
  .choices {
    display: grid;
    grid-template-columns: minmax(150px, 1fr) minmax(150px, 1fr) minmax(280px, 1.6fr);
    gap: 24px;
  }
  fieldset {
    display: grid;
    gap: 6px;
    align-content: start;
    min-width: 0;
  }
  legend {
    padding-bottom: 4px;
    font-weight: 700;
  }
  .names .field.mono {
    width: 100%;
    font-size: 14px;
  }
  .names p {
    font-size: 13px;
  }
  h3 {
    font-size: 16px;
    font-weight: 700;
  }
  .made button {
    margin-left: auto;
  }
  ul {
    padding-top: 10px;
    border-top: 1px solid var(--rule);
    font-size: 14px;
    line-height: 1.7;
    overflow-wrap: anywhere;
    user-select: text;
  }
</style>
