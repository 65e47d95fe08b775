<script lang="ts">
  import Download from '@lucide/svelte/icons/download';
  import { exportFileName, FORMATS, formatTranscriptText, remarksOn } from '$lib/core/formats';
  import { api } from '$lib/client/api';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const { session, recording } = desk;

  const CAPTIONS = FORMATS.filter(({ kind }) => kind === 'captions');
  const TRANSCRIPTS = FORMATS.filter(({ kind }) => kind === 'transcript');
  let format = $state.raw(CAPTIONS[0]!);
  let options = $state.raw({ times: true, speakers: true });

  const MOST_SHOWN = 200_000;
  /** Transcripts are shown as their text, whatever they are made into. */
  const text = $derived(
    format.kind === 'captions' && format.write !== undefined
      ? format.write(desk.track, { ...options, title: recording.title })
      : formatTranscriptText(desk.track, options)
  );
  const isEmpty = $derived(format.kind === 'captions' ? desk.track.cues.length === 0 : text === '');
  const remarks = $derived(remarksOn(desk.track, format.id));
  const name = $derived(exportFileName(recording, session.track, recording.tracks, format.extension));

  /** The file is the server's: what is still on its way there goes first. */
  async function download(event: MouseEvent & { currentTarget: HTMLAnchorElement }): Promise<void> {
    if (session.saveState === 'saved') return;
    event.preventDefault();
    const link = event.currentTarget;
    desk.say(phrases.handOver.savingFirst);
    await session.saved();
    link.click();
  }
</script>

<div class="files">
  <div class="choice" role="radiogroup" aria-label={phrases.handOver.format}>
    {#each CAPTIONS as one (one.id)}
      <button role="radio" aria-checked={one === format} onclick={() => (format = one)}
        ><strong>{one.name}</strong><span>{one.about}</span></button
      >
    {/each}
  </div>
  <div class="transcripts" role="radiogroup" aria-label={phrases.handOver.transcriptToBeRead}>
    <span class="soft">{phrases.handOver.toBeRead}</span>
    {#each TRANSCRIPTS as one (one.id)}
      <button class="act" role="radio" aria-checked={one === format} onclick={() => (format = one)}>{one.name}</button>
    {/each}
    {#if format.kind === 'transcript'}
      <label
        ><input
          type="checkbox"
          checked={options.times}
          onchange={(event) => (options = { ...options, times: event.currentTarget.checked })}
        />
        {phrases.handOver.withTimes}</label
      >
      <label
        ><input
          type="checkbox"
          checked={options.speakers}
          onchange={(event) => (options = { ...options, speakers: event.currentTarget.checked })}
        />
        {phrases.handOver.withSpeakers}</label
      >
    {/if}
  </div>
  <div class="file">
    <span class="mono" data-testid="file-name">{name}</span>
    <span class="soft">{phrases.handOver.cues(desk.track.cues.length)}</span>
    <label class="ready" title={phrases.handOver.readyHint}
      ><input
        type="checkbox"
        checked={desk.track.state !== 'draft'}
        onchange={({ currentTarget: box }) =>
          void desk.edit([{ type: 'setState', state: box.checked ? 'ready' : 'draft' }])}
      />
      {phrases.handOver.ready}</label
    >
    {#if !isEmpty}
      <a
        class="act filled"
        href={api.exportUrl(session.trackId, format.id, options)}
        download={name}
        onclick={(event) => void download(event)}><Download size={16} /> {phrases.handOver.download}</a
      >
    {/if}
  </div>
  {#if remarks.length > 0}
    <ul class="remarks soft" aria-label={phrases.handOver.notCarried}>
      {#each remarks as { code, message } (code)}<li>{message}</li>{/each}
    </ul>
  {/if}
  {#if isEmpty}
    <p class="soft none">{phrases.handOver.thereIsNothingTo}</p>
  {:else}
    <!-- It scrolls. -->
    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
    <pre
      class:wrapped={format.kind === 'transcript'}
      tabindex="0"
      aria-label={phrases.handOver.previewOf(name)}
      data-testid="preview">{text.slice(0, MOST_SHOWN)}{text.length > MOST_SHOWN ? '\n…' : ''}</pre>
  {/if}
</div>

<style>
  .files {
    display: flex;
    flex-direction: column;
    gap: 16px;
    min-height: 0;
  }
  .files > pre {
    flex: 1;
    min-height: 120px;
  }
  .remarks {
    padding-left: 18px;
    font-size: 14px;
    list-style: disc;
  }
  .choice {
    display: flex;
    gap: 12px;
  }
  .choice button {
    display: grid;
    flex: 1;
    padding: 10px 16px;
    border: 1.5px solid var(--rule);
    border-radius: var(--leaf-shape);
    text-align: left;
    cursor: pointer;
  }
  .choice span {
    color: var(--soft-ink);
    font-size: 14px;
  }
  .choice button[aria-checked='true'] {
    border-color: var(--leaf);
    background: var(--pale-leaf);
  }
  .choice button[aria-checked='true'] span {
    color: var(--ink);
  }
  .choice strong {
    font-size: 16px;
  }
  .file {
    display: flex;
    align-items: baseline;
    gap: 18px;
  }
  .file .mono {
    font-size: 16px;
  }
  .file a {
    margin-left: auto;
  }
  pre {
    padding: 14px 18px 40px;
    border-top: 1px solid var(--rule);
    overflow: auto;
    color: var(--ink);
    font: 14px/1.5 var(--mono);
    user-select: text;
  }
  pre.wrapped {
    white-space: pre-wrap;
  }
  .transcripts {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px;
  }
  .transcripts [aria-checked='true'] {
    border-color: var(--leaf);
    background: var(--pale-leaf);
    font-weight: 600;
  }
  .transcripts label {
    margin-left: 8px;
  }
</style>
