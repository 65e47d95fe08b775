<script lang="ts">
  import { onMount } from 'svelte';
  import { readTerms, writeTerms } from '$lib/core/expecting';
  import { api } from '$lib/client/api';

  interface Props {
    recordingId: string;
    onFailure: (message: string) => void;
  }
  let { recordingId, onFailure }: Props = $props();

  interface List {
    readonly isOwn: boolean;
    readonly title: string;
    text: string;
    saved: string;
  }
  let lists = $state<List[]>([
    { isOwn: true, title: 'In this recording', text: '', saved: '' },
    { isOwn: false, title: 'In every recording', text: '', saved: '' }
  ]);
  const ownerOf = (list: List): string | null => (list.isOwn ? recordingId : null);
  const unread = $derived(lists.flatMap((list) => readTerms(list.text).unread));
  const count = $derived(lists.reduce((sum, list) => sum + readTerms(list.text).terms.length, 0));

  async function load(list: List): Promise<void> {
    list.saved = writeTerms(await api.terms(ownerOf(list)));
    // What was typed before the list came stays.
    list.text = [list.saved, list.text].filter((text) => text !== '').join('\n');
  }
  let loaded: Promise<unknown> = Promise.resolve();
  onMount(() => {
    loaded = Promise.all(lists.map(load));
    loaded.catch(tell);
  });
  const tell = (error: unknown): void => onFailure(error instanceof Error ? error.message : String(error));

  /** Resolves when both lists are on the server as they stand here. A list that never came is not written over. */
  export async function save(): Promise<void> {
    await loaded;
    for (const list of lists) {
      const { terms } = readTerms(list.text);
      const text = writeTerms(terms);
      if (text === list.saved) continue;
      await api.saveTerms(ownerOf(list), terms);
      list.saved = text;
    }
  }

  function saveQuietly(): void {
    save().catch(tell);
  }
</script>

<fieldset>
  <legend>Names to expect <span class="soft">{count === 0 ? '' : count}</span></legend>
  <p class="soft">
    One a line, as they are to be written. Where the spelling does not say how it sounds, add it: <code
      >Merrowby = merry oh bee</code
    >
  </p>
  <div class="lists">
    {#each lists as list (list.title)}
      <label>
        {list.title}
        <textarea class="field" rows="4" spellcheck="false" bind:value={list.text} onblur={saveQuietly}></textarea>
      </label>
    {/each}
  </div>
  {#if unread.length > 0}
    <p class="bad" role="status">Left out, as nothing in it can be spoken: {unread.slice(0, 5).join(', ')}</p>
  {/if}
</fieldset>

<style>
  fieldset {
    margin: 18px 0;
  }
  legend {
    font-weight: 700;
  }
  p {
    margin: 4px 0 8px;
    font-size: 15px;
  }
  code {
    padding: 0;
    color: var(--ink);
    background: none;
    font: 14px var(--mono);
    white-space: nowrap;
  }
  .lists {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 16px;
  }
  label {
    display: flex;
    flex-direction: column;
    gap: 4px;
    color: var(--soft-ink);
    font-size: 14px;
  }
  textarea {
    height: auto;
    padding: 8px 10px;
    color: var(--ink);
    font-size: 15px;
    line-height: 1.5;
    resize: vertical;
  }
  .bad {
    color: var(--clay);
  }
</style>
