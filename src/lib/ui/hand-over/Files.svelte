<script lang="ts">
  import {
    exported,
    exportFileName,
    formatOptions,
    FORMATS,
    frameRateOf,
    formatTranscriptText,
    remarksOn,
    usualOptions,
    type ExportOptions,
    type Format
  } from '$lib/core/formats';
  import { formatClock } from '$lib/core/time';
  import { trimTrack } from '$lib/core/trims';
  import { api } from '$lib/client/api';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import FileLink from '../frame/FileLink.svelte';
  import Options from './Options.svelte';
  import WithSource from './WithSource.svelte';
  import { phrases } from './phrases';

  /** One file of the track: its format, what is said with it, what it cannot say, and how it begins. */
  const desk = useTrackDesk();
  const { session, recording } = desk;
  const words = phrases.handOver;
  const KINDS = ['captions', 'editing', 'data', 'transcript'] as const;

  let format = $state.raw<(typeof FORMATS)[number]>(FORMATS[0]!);
  /** What was said with each format, so that it is there again when that is chosen again. */
  let said = $state.raw<Readonly<Record<string, ExportOptions>>>({});
  const usual = $derived({ ...usualOptions(format), frameRate: frameRateOf(recording.media.frameRate) });
  const options = $derived(said[format.id] ?? usual);
  const { trimming } = desk;
  const about = $derived({ title: trimming.seen.recording.title, durationMs: trimming.seen.recording.durationMs });

  const MOST_SHOWN = 200_000;
  const { translating } = desk;
  const seen = $derived.by(() => {
    const { both } = translating;
    if (both === null) return trimming.seen.track;
    return trimming.seen.trim === null ? both : trimTrack(both, trimming.seen.trim).track;
  });
  const track = $derived(exported(seen, options, format));
  /** Transcripts are shown as their text, whatever they are made into. */
  const text = $derived(
    format.kind !== 'transcript' && format.write !== undefined
      ? shown(format.write(track, { ...options, ...about }))
      : formatTranscriptText(track, options)
  );
  const isEmpty = $derived(format.kind === 'transcript' ? text === '' : track.cues.length === 0);
  const remarks = $derived(remarksOn(track, format, { ...options, ...about }));
  const asked = $derived(
    new Map([
      ...formatOptions(options, usualOptions(format)),
      ...(trimming.seen.id === null ? [] : [['trimId', trimming.seen.id] as const]),
      ...(translating.both === null ? [] : [['withSource', '1'] as const])
    ])
  );
  const name = $derived(exportFileName(trimming.seen.recording, session.track, recording.tracks, format.extension));

  /** Of a file that is no text, what is read back of it. */
  function shown(file: string | Uint8Array): string {
    if (typeof file === 'string') return file;
    const read = format.read;
    if (typeof read !== 'object') return '';
    return read
      .bytes(file)
      .cues.map(
        ({ startMs, endMs, lines }) =>
          `${formatClock(startMs, 3)} – ${formatClock(endMs, 3)}\n${lines.map(({ markup }) => markup).join('\n')}\n`
      )
      .join('\n');
  }

  const say = (changed: Partial<ExportOptions>): void =>
    void (said = { ...said, [format.id]: { ...options, ...changed } });

  /** Arrows go from format to format, as in any group of radio buttons. */
  function onKey(event: KeyboardEvent): void {
    const by = /^Arrow(Down|Right)$/.test(event.key) ? 1 : /^Arrow(Up|Left)$/.test(event.key) ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    event.stopPropagation();
    const order = KINDS.flatMap((kind) => FORMATS.filter((one) => one.kind === kind));
    const next = order[(order.indexOf(format) + by + order.length) % order.length]!;
    format = next;
    document.getElementById(`format-${next.id}`)?.focus();
  }
</script>

{#snippet choice(one: Format & (typeof FORMATS)[number])}
  <button
    role="radio"
    id="format-{one.id}"
    aria-checked={one === format}
    tabindex={one === format ? 0 : -1}
    onclick={() => (format = one)}><strong>{one.name}</strong> <span class="soft">{one.about}</span></button
  >
{/snippet}

<div class="files">
  <div class="formats" role="radiogroup" aria-label={words.format} onkeydowncapture={onKey}>
    {#each KINDS as kind (kind)}
      <h3>{words.kinds[kind]}</h3>
      {#each FORMATS.filter((one) => one.kind === kind) as one (one.id)}{@render choice(one)}{/each}
    {/each}
  </div>
  <div class="one">
    <div class="file">
      <span class="mono" data-testid="file-name">{name}</span>
      {#if !isEmpty}
        <FileLink href={api.exportUrl(session.trackId, format.id, asked)} {name}>{words.download}</FileLink>
      {/if}
    </div>
    <p class="facts">
      <span class="soft">{words.cues(track.cues.length)}</span>
      <label class="ready" title={words.readyHint}
        ><input
          type="checkbox"
          checked={desk.track.state !== 'draft'}
          onchange={({ currentTarget: box }) =>
            void desk.edit([{ type: 'setState', state: box.checked ? 'ready' : 'draft' }])}
        />
        {words.ready}</label
      >
    </p>
    <WithSource />
    <Options {format} {options} onChange={say} />
    {#if remarks.length > 0}
      <ul class="remarks soft" aria-label={words.notCarried}>
        {#each remarks as { code, message } (code)}<li>{message}</li>{/each}
      </ul>
    {/if}
    {#if isEmpty}
      <p class="soft none">{words.thereIsNothingTo}</p>
    {:else}
      <!-- It scrolls. -->
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <pre
        class:wrapped={format.kind === 'transcript'}
        tabindex="0"
        aria-label={words.previewOf(name)}
        data-testid="preview">{text.slice(0, MOST_SHOWN)}{text.length > MOST_SHOWN ? '\n…' : ''}</pre>
    {/if}
  </div>
</div>

<style>
  .files {
    display: grid;
    grid-template-columns: 264px minmax(0, 1fr);
    gap: 24px;
    min-height: 0;
  }
  .formats {
    display: flex;
    flex-direction: column;
    padding-bottom: 16px;
    overflow-y: auto;
  }
  h3 {
    padding: 10px 12px 2px;
    color: var(--soft-ink);
    font-size: 14px;
  }
  h3:first-child {
    padding-top: 0;
  }
  .formats button {
    padding: 5px 12px;
    border-left: 3px solid transparent;
    border-radius: 0 8px 8px 0;
    font-size: 14px;
    line-height: 1.4;
    text-align: left;
    cursor: pointer;
  }
  .formats strong {
    font-size: 15px;
  }
  .formats [aria-checked='true'] {
    border-left-color: var(--leaf);
    background: var(--pale-leaf);
  }
  .formats [aria-checked='true'] .soft {
    color: var(--ink);
  }
  .one {
    display: flex;
    flex-direction: column;
    gap: 14px;
    min-width: 0;
    min-height: 0;
  }
  .file {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px 18px;
  }
  .file .mono {
    font-size: 16px;
    overflow-wrap: anywhere;
  }
  .file > :global(a) {
    margin-left: auto;
  }
  .facts {
    display: flex;
    gap: 18px;
    margin-top: -8px;
    font-size: 15px;
  }
  .remarks {
    padding-left: 18px;
    font-size: 14px;
    list-style: disc;
  }
  pre {
    flex: 1;
    min-height: 120px;
    padding: 14px 2px 40px;
    border-top: 1px solid var(--rule);
    overflow: auto;
    color: var(--ink);
    font: 14px/1.5 var(--mono);
    user-select: text;
  }
  pre.wrapped {
    white-space: pre-wrap;
  }
</style>
