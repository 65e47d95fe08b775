<script lang="ts">
  import type { TrackId } from '$lib/core/id';
  import { FORMATS, formatOfFile } from '$lib/core/formats';
  import { api, ServerProblem, type ImportWarning } from '$lib/client/api';
  import { languageName } from '$lib/client/languages';

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
  let language = $state('en');
  let chooser = $state<HTMLInputElement | undefined>();

  async function importFile(file: File | undefined): Promise<void> {
    if (file === undefined) return;
    failure = null;
    imported = null;
    try {
      const content = await file.text();
      const format = formatOfFile(file.name, content)?.id ?? 'srt';
      const { track, warnings } = await api.importCaptions(recordingId, { format, language, content });
      imported = { trackId: track.id, name: file.name, warnings };
      onImported();
    } catch (error) {
      failure = `${file.name}: ${error instanceof ServerProblem ? error.message : String(error)}`;
    }
  }
</script>

<h2>Or bring captions made elsewhere</h2>
<div class="import">
  <label
    >Language <input class="field" size="7" bind:value={language} />
    <span class="soft">{languageName(language)}</span></label
  >
  <button class="act" onclick={() => chooser?.click()}
    >Choose a file: {READABLE.map(({ name }) => name).join(' or ')}</button
  >
  <input
    class="unseen"
    type="file"
    tabindex="-1"
    aria-label="Captions file"
    accept={READABLE.map(({ extension }) => `.${extension}`).join(',')}
    bind:this={chooser}
    onchange={(event) => {
      void importFile(event.currentTarget.files?.[0]);
      event.currentTarget.value = '';
    }}
  />
</div>
{#if failure}<p class="failed" role="alert">{failure}</p>{/if}
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

<style>
  h2 {
    font-size: 20px;
    font-weight: 700;
  }
  .import {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 18px;
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
