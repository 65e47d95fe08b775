<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { readTerms, writeTerms } from '$lib/core/expecting';
  import { messageOf } from '$lib/core/message-of';
  import { api } from '$lib/client/api';
  import { KeptField, keepText, keptText } from '$lib/client/kept-text.svelte';
  import { phrases } from './phrases';

  interface Props {
    recordingId: string;
    /** How many there are in both lists. */
    count: number;
    onFailure: (message: string) => void;
  }
  let { recordingId, count = $bindable(), onFailure }: Props = $props();

  interface List {
    readonly isOwn: boolean;
    readonly title: string;
    text: string;
    saved: string;
    isLoaded: boolean;
  }
  let lists = $state<List[]>([
    { isOwn: true, title: phrases.names.inThisRecording, text: '', saved: '', isLoaded: false },
    { isOwn: false, title: phrases.names.inEveryRecording, text: '', saved: '', isLoaded: false }
  ]);
  const ownerOf = (list: List): string | null => (list.isOwn ? recordingId : null);
  const unread = $derived(lists.flatMap((list) => readTerms(list.text).unread));
  $effect(() => {
    count = lists.reduce((sum, list) => sum + readTerms(list.text).terms.length, 0);
  });

  async function load(list: List): Promise<void> {
    list.saved = writeTerms(await api.terms(ownerOf(list)));
    // What was typed before the list came stays, and what an earlier window could not send.
    const typed = (list.text === '' ? keptText(fieldOf(list)) : list.text) ?? '';
    const lines = new Set(typed.split('\n'));
    const known = list.saved.split('\n').filter((line) => !lines.has(line));
    list.text = [...known, typed].filter((text) => text !== '').join('\n');
    list.isLoaded = true;
  }
  const fieldOf = (list: List): string => `names:${ownerOf(list) ?? 'all'}`;
  $effect(() => {
    for (const list of lists)
      if (list.isLoaded || list.text !== '') keepText(fieldOf(list), list.text === list.saved ? null : list.text);
  });
  let loaded: Promise<unknown> = Promise.resolve();
  onMount(() => {
    loaded = Promise.all(lists.map(load));
    loaded.catch(tell);
  });
  const tell = (error: unknown): void => onFailure(messageOf(error));

  const notes = new KeptField(`notes:${untrack(() => recordingId)}`);
  let found = $state.raw<readonly { text: string; count: number }[] | null>(null);
  let ticked = $state<Record<string, boolean>>({});
  const listed = $derived(
    new Set(lists.flatMap((list) => readTerms(list.text).terms.map(({ text }) => text.toLowerCase())))
  );
  /** Those that no list has yet. */
  const offered = $derived((found ?? []).filter(({ text }) => !listed.has(text.toLowerCase())));
  const tickedCount = $derived(offered.filter(({ text }) => ticked[text]).length);

  function findNames(): void {
    api.termsInNotes(notes.text).then((terms) => {
      found = terms;
      ticked = {};
    }, tell);
  }
  function addTicked(): void {
    const own = lists[0]!;
    const chosen = offered.filter(({ text }) => ticked[text]).map(({ text }) => text);
    own.text = [own.text.trimEnd(), ...chosen].filter((text) => text !== '').join('\n');
    ticked = {};
    saveQuietly();
  }
  async function drop(event: DragEvent): Promise<void> {
    const file = event.dataTransfer?.files[0];
    if (file === undefined) return;
    event.preventDefault();
    notes.text = await file.text();
    findNames();
  }

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
  <legend>{phrases.names.names} <span class="soft">{count === 0 ? '' : count}</span></legend>
  <p class="soft">
    {phrases.names.about} <code>{phrases.names.example}</code>
  </p>
  <div class="lists">
    {#each lists as list (list.title)}
      <label>
        {list.title}
        <textarea class="field" rows="4" spellcheck="false" bind:value={list.text} onblur={saveQuietly}></textarea>
      </label>
    {/each}
  </div>
  <details>
    <summary>{phrases.names.findNamesInNotes}</summary>
    <div class="notes">
      <label>
        {phrases.names.notes}
        <textarea
          class="field"
          rows="4"
          bind:value={notes.text}
          ondragover={(event) => event.preventDefault()}
          ondrop={(event) => void drop(event).catch(tell)}></textarea>
      </label>
      <button class="act" onclick={findNames} disabled={notes.text.trim() === ''}>{phrases.names.findNames}</button>
      {#if found !== null}
        {#if offered.length === 0}
          <p class="soft" role="status">
            {found.length === 0 ? phrases.names.noNamesWereFound : phrases.names.allOfThemAre}
          </p>
        {:else}
          <div class="offered" role="group" aria-label={phrases.names.namesFound}>
            {#each offered as { text, count: times } (text)}
              <label
                ><input type="checkbox" bind:checked={ticked[text]} />
                {text}
                {#if times > 1}<span class="soft">{times}×</span>{/if}</label
              >
            {/each}
          </div>
          <p>
            <button class="act" onclick={addTicked} disabled={tickedCount === 0}
              >{tickedCount === 0 ? phrases.names.tickThoseToExpect : phrases.names.expect(tickedCount)}</button
            >
            <button
              class="act quiet"
              onclick={() => (ticked = Object.fromEntries(offered.map(({ text }) => [text, true])))}
              >{phrases.names.tickAll}</button
            >
          </p>
        {/if}
      {/if}
    </div>
  </details>
  {#if unread.length > 0}
    <p class="bad" role="status">{phrases.names.unread(unread.slice(0, 5).join(', '))}</p>
  {/if}
</fieldset>

<style>
  fieldset {
    min-width: 0;
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
    grid-template-columns: repeat(2, minmax(0, 1fr));
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
    min-width: 0;
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
  summary {
    margin-top: 8px;
    cursor: pointer;
  }
  .notes {
    display: grid;
    justify-items: start;
    gap: 8px;
    padding-top: 8px;
  }
  .notes > label {
    width: 100%;
  }
  .offered {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
    gap: 2px 16px;
    width: 100%;
    max-height: 220px;
    overflow-y: auto;
  }
  .offered label {
    display: block;
    color: var(--ink);
    font-size: 15px;
  }
</style>
