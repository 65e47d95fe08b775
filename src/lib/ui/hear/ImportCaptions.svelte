<script lang="ts">
  import type { TrackId } from '$lib/core/id';
  import {
    decodeText,
    ENCODINGS,
    findEncoding,
    FORMATS,
    formatOfBytes,
    formatOfFile,
    languageOfFileName,
    type Encoding
  } from '$lib/core/formats';
  import { formatClock } from '$lib/core/time';
  import { messageOf } from '$lib/core/message-of';
  import { languageName } from '$lib/core/track';
  import { api, type ImportWarning } from '$lib/client/api';
  import { phrases } from './phrases';

  interface Props {
    recordingId: string;
    onImported: () => void;
  }
  let { recordingId, onImported }: Props = $props();
  let imported: {
    readonly trackId: TrackId;
    readonly name: string;
    readonly warnings: readonly ImportWarning[];
  } | null = $state.raw(null);
  let failure = $state<string | null>(null);
  const READABLE = FORMATS.filter(({ read }) => read !== undefined);
  let chooser = $state<HTMLInputElement | undefined>();

  /** The file that is looked at before it is taken. */
  let chosen = $state.raw<{ readonly name: string; readonly bytes: Uint8Array<ArrayBuffer> } | null>(null);
  let encoding = $state<Encoding>('utf-8');
  let language = $state('en');
  let isImporting = $state(false);
  /** What is no text says so by its bytes. */
  const binary = $derived(chosen === null ? null : formatOfBytes(chosen.bytes));
  const content = $derived(chosen === null || binary !== null ? '' : decodeText(chosen.bytes, encoding));
  const LINES_SHOWN = 12;
  const firstLines = $derived(
    (binary === null ? content : toldOf(chosen!.bytes))
      .slice(0, 4000)
      .split(/\r\n?|\n/)
      .slice(0, LINES_SHOWN)
      .join('\n')
  );
  const lost = $derived([...content].filter((sign) => sign === '\ufffd').length);

  async function look(file: File | undefined): Promise<void> {
    if (file === undefined) return;
    failure = null;
    imported = null;
    try {
      const bytes = new Uint8Array(await file.arrayBuffer());
      encoding = findEncoding(bytes);
      language = languageOfFileName(file.name) ?? language;
      chosen = { name: file.name, bytes };
    } catch (error) {
      failure = `${file.name}: ${messageOf(error)}`;
    }
  }

  /** The first cues of a file that is no text. */
  function toldOf(bytes: Uint8Array): string {
    const read = binary?.read;
    if (typeof read !== 'object') return '';
    return read
      .bytes(bytes)
      .cues.slice(0, LINES_SHOWN)
      .map(({ startMs, lines }) => `${formatClock(startMs, 2)} ${lines.map(({ markup }) => markup).join(' / ')}`)
      .join('\n');
  }

  async function base64Of(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
    const reader = new FileReader();
    const read = new Promise<string>((resolve, reject) => {
      reader.onload = () => resolve(reader.result as string);
      reader.onerror = () => reject(reader.error ?? new Error(phrases.importCaptions.captionsFile));
    });
    reader.readAsDataURL(new Blob([bytes]));
    return (await read).replace(/^[^,]*,/, '');
  }

  async function take(): Promise<void> {
    if (chosen === null) return;
    const { name } = chosen;
    failure = null;
    isImporting = true;
    try {
      const format = binary?.id ?? formatOfFile(name, content)?.id ?? 'srt';
      const file = binary === null ? { content } : { contentBase64: await base64Of(chosen.bytes) };
      const { track, warnings } = await api.importCaptions(recordingId, { format, language, ...file });
      imported = { trackId: track.id, name, warnings };
      chosen = null;
      onImported();
    } catch (error) {
      failure = `${name}: ${messageOf(error)}`;
    } finally {
      isImporting = false;
    }
  }
</script>

<p class="soft">{phrases.importCaptions.about}</p>
<div class="import">
  <button class="act" onclick={() => chooser?.click()}>{phrases.importCaptions.choose}</button>
  <span class="soft">{phrases.importCaptions.formats(READABLE.map(({ name }) => name))}</span>
  <input
    class="unseen"
    type="file"
    tabindex="-1"
    aria-label={phrases.importCaptions.captionsFile}
    accept={READABLE.map(({ extension }) => `.${extension}`).join(',')}
    bind:this={chooser}
    onchange={(event) => {
      void look(event.currentTarget.files?.[0]);
      event.currentTarget.value = '';
    }}
  />
</div>
{#if chosen !== null}
  <form
    class="chosen"
    aria-label={phrases.importCaptions.importOf(chosen.name)}
    onsubmit={(event) => {
      event.preventDefault();
      void take();
    }}
  >
    <h3>{chosen.name}</h3>
    <pre lang={language} aria-label={phrases.importCaptions.firstLines}>{firstLines}</pre>
    {#if lost > 0}
      <p class="failed">
        {phrases.importCaptions.lost(lost)}
      </p>
    {/if}
    <div class="import">
      <label
        >{phrases.importCaptions.encoding}
        <select class="field" bind:value={encoding}>
          {#each ENCODINGS as [id, name] (id)}<option value={id}>{name}</option>{/each}
        </select></label
      >
      <label
        >{phrases.importCaptions.language} <input class="field" size="7" bind:value={language} />
        <span class="soft">{languageName(language)}</span></label
      >
    </div>
    <div class="import">
      <button class="act filled" disabled={isImporting}
        >{isImporting ? phrases.importCaptions.importing : phrases.importCaptions.import}</button
      >
      <button class="act" type="button" onclick={() => (chosen = null)}>{phrases.importCaptions.cancel}</button>
    </div>
  </form>
{/if}
{#if failure}<p class="failed" role="alert">{failure}</p>{/if}
{#if imported}
  <p role="status">
    {phrases.importCaptions.isImported(imported.name)}
    <a href="/recordings/{recordingId}/tracks/{imported.trackId}/time">{phrases.importCaptions.seeItInTime}</a>
  </p>
  {#if imported.warnings.length > 0}
    <details open>
      <summary>{phrases.importCaptions.warnings(imported.warnings.length)}</summary>
      <ul class="warnings">
        {#each imported.warnings.slice(0, 200) as warning, at (at)}<li>
            <span class="mono soft">{phrases.importCaptions.line(warning.line ?? '–')}</span>
            {warning.message}
          </li>{/each}
      </ul>
    </details>
  {/if}
{/if}

<style>
  h3 {
    font-weight: 700;
  }
  .import {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 18px;
  }
  .chosen {
    display: grid;
    gap: 10px;
    padding: 14px 18px;
    border: 1px solid var(--leaf);
    border-radius: var(--leaf-shape);
    background: var(--sheet);
  }
  pre {
    max-height: 240px;
    overflow: auto;
    font-family: var(--mono);
    font-size: 14px;
    line-height: 22px;
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
  .warnings {
    margin-top: 6px;
    max-height: 260px;
    overflow-y: auto;
  }
  .warnings li {
    padding: 3px 0;
  }
</style>
