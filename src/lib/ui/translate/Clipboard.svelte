<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { messageOf } from '$lib/core/message-of';
  import { isFromTheRight } from '$lib/core/track';
  import { translateCalls, type ClipboardPart, type Pasted } from '$lib/client/translate/calls';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  /** Parts to be copied out, and what comes back for each, shown beside the source before it is taken. */
  const desk = useTrackDesk();
  const { translating } = desk;
  const words = phrases.clipboard;
  const USUAL_CHARACTERS = 5000;
  let most = $state(USUAL_CHARACTERS);
  let parts = $state.raw<readonly ClipboardPart[]>([]);
  let at = $state(0);
  let text = $state('');
  let pasted = $state.raw<Pasted | null>(null);
  let left = $state.raw<ReadonlySet<number>>(new Set());
  let keepsSource = $state(false);
  let overwrites = $state(false);
  let failure = $state<string | null>(null);
  let shown = $state<HTMLTextAreaElement | undefined>();
  const part = $derived(parts[at] ?? null);
  const came = $derived(new Map((pasted?.rows ?? []).map((row) => [row.row, row])));
  const places = $derived(part === null ? [] : Array.from({ length: part.rows }, (_, step) => part.firstRow + step));
  const isHeld = (row: number): boolean => {
    const state = translating.rows[row]?.state;
    return !overwrites && (state === 'mine' || state === 'done');
  };
  const chosen = $derived(
    places.filter((row) => {
      const found = came.get(row);
      return found !== undefined && !left.has(row) && !isHeld(row) && (found.text !== '' || keepsSource);
    })
  );

  async function trying(work: () => Promise<void>): Promise<void> {
    failure = null;
    try {
      await work();
    } catch (error) {
      failure = messageOf(error);
    }
  }
  const load = (): Promise<void> =>
    trying(async () => {
      desk.session.flush();
      await desk.session.saved();
      parts = await translateCalls.parts(desk.session.trackId, most);
      at = Math.min(at, Math.max(0, parts.length - 1));
    });
  onMount(() => void untrack(load));

  async function copy(): Promise<void> {
    if (part === null) return;
    try {
      await navigator.clipboard.writeText(part.text);
      desk.say(words.copied(at + 1));
    } catch {
      // Not allowed, or no such thing: it is selected for the user's own keys.
      shown?.select();
      desk.say(words.noCopy);
    }
  }
  const lay = (): Promise<void> =>
    trying(async () => {
      if (part === null) return;
      const { firstRow, rows } = part;
      pasted = await translateCalls.tryPasted(desk.session.trackId, { text, firstRow, rows });
      left = new Set();
    });
  const take = (): Promise<void> =>
    trying(async () => {
      if (part === null) return;
      const { firstRow, rows } = part;
      const count = chosen.length;
      desk.session.flush();
      await desk.session.saved();
      await translateCalls.takePasted(desk.session.trackId, {
        ...{ text, firstRow, rows, only: chosen },
        ...{ keepSource: keepsSource, overwrite: overwrites }
      });
      desk.say(words.taken(count));
      [text, pasted] = ['', null];
      if (at + 1 < parts.length) at++;
      else translating.isClipboardOpen = false;
    });
  function choose(place: number): void {
    at = place;
    [text, pasted] = ['', null];
  }
  function toggle(row: number): void {
    const rows = new Set(left);
    if (!rows.delete(row)) rows.add(row);
    left = rows;
  }
  const direction = $derived(isFromTheRight(desk.track.language) ? 'rtl' : 'ltr');
</script>

<div class="clipboard" data-testid="clipboard">
  <div class="out">
    <h3>{words.title}</h3>
    <p class="soft">{words.about}</p>
    <label
      >{words.most}
      <input
        class="field"
        type="number"
        min="100"
        max="10000000"
        step="500"
        bind:value={most}
        onchange={() => void load()}
      /></label
    >
    <div class="parts" role="group" aria-label={words.title}>
      {#each parts as one, place (one.firstRow)}
        <button class="act" aria-pressed={place === at} onclick={() => choose(place)}
          >{words.part(place + 1, one.firstRow + 1, one.firstRow + one.rows)}</button
        >
      {/each}
    </div>
    {#if part !== null}
      <div class="two">
        <div>
          <textarea class="field" readonly rows="9" bind:this={shown} value={part.text} aria-label={words.source}
          ></textarea>
          <button class="act" class:filled={text === ''} onclick={() => void copy()}>{words.copy}</button>
        </div>
        <div>
          <textarea
            class="field"
            rows="9"
            bind:value={text}
            aria-label={words.paste}
            placeholder={words.paste}
            lang={desk.track.language}
            dir={direction}
            oninput={() => (pasted = null)}
            data-testid="pasted"></textarea>
          <button
            class="act"
            class:filled={text !== '' && pasted === null}
            disabled={text.trim() === ''}
            onclick={() => void lay()}>{words.lay}</button
          >
        </div>
      </div>
    {/if}
    {#if failure !== null}<p class="failure" role="alert">{failure}</p>{/if}
  </div>
  {#if pasted !== null}
    <div class="in">
      <div class="settle">
        <label><input type="checkbox" bind:checked={keepsSource} /> {words.keepSource}</label>
        <label><input type="checkbox" bind:checked={overwrites} /> {words.overwrite}</label>
        <button class="act filled" disabled={chosen.length === 0} onclick={() => void take()}
          >{words.take(chosen.length)}</button
        >
      </div>
      <table>
        <thead
          ><tr
            ><th>{words.row}</th><th>{words.source}</th><th>{words.translation}</th><th
              ><span class="unseen">{words.trust}</span></th
            ></tr
          ></thead
        >
        <tbody>
          {#each places as row (row)}
            {@const found = came.get(row)}
            {#if found !== undefined}
              <tr class:off={isHeld(row) || left.has(row)}>
                <td class="mono">
                  <label
                    ><input
                      type="checkbox"
                      checked={!left.has(row) && !isHeld(row)}
                      disabled={isHeld(row)}
                      onchange={() => toggle(row)}
                    />
                    {row + 1}</label
                  >
                </td>
                <td class="soft">{translating.rows[row]?.source ?? ''}</td>
                <td lang={desk.track.language} dir={direction}>{found.text}</td>
                <td class="kind">
                  {#if isHeld(row)}{words.held}
                  {:else if found.text === ''}<span class="soft">{words.nothing}</span>
                  {:else if found.sure}<span class="sure">{words.sure}</span>
                  {:else}<span class="look">{words.look}</span>{/if}
                </td>
              </tr>
            {/if}
          {/each}
        </tbody>
      </table>
      {#if pasted.left.length > 0}
        <p class="soft">{words.left}</p>
        {#each pasted.left as line, place (place)}<p lang={desk.track.language}>{line}</p>{/each}
      {/if}
    </div>
  {/if}
</div>

<style>
  .clipboard {
    display: grid;
    gap: 18px;
    align-content: start;
    min-height: 0;
    padding: 16px 20px 30px;
    overflow-y: auto;
  }
  .out {
    display: grid;
    gap: 10px;
  }
  h3 {
    font-size: 17px;
    font-weight: 700;
  }
  .out > label,
  .settle {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 16px;
    align-items: center;
  }
  input[type='number'] {
    width: 110px;
  }
  .parts {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
  }
  .parts [aria-pressed='true'] {
    border-color: var(--leaf);
    background: var(--pale-leaf);
    font-weight: 700;
  }
  .two {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 16px;
  }
  .two > div {
    display: grid;
    gap: 8px;
    justify-items: start;
  }
  textarea {
    width: 100%;
    font-size: 14px;
    line-height: 19px;
    resize: vertical;
  }
  .in {
    display: grid;
    gap: 10px;
  }
  table {
    width: 100%;
    font-size: 15px;
    line-height: 20px;
  }
  th {
    padding: 4px 10px 4px 0;
    color: var(--soft-ink);
    font-size: 13px;
    text-align: left;
  }
  td {
    padding: 6px 12px 6px 0;
    border-top: 1px solid var(--rule);
    vertical-align: top;
    overflow-wrap: anywhere;
  }
  td:nth-child(2),
  td:nth-child(3) {
    width: 42%;
  }
  tr.off td:nth-child(3) {
    color: var(--soft-ink);
    text-decoration: line-through;
  }
  .kind {
    white-space: nowrap;
    font-size: 13px;
  }
  .sure {
    color: var(--leaf);
  }
  .look {
    color: var(--straw);
    font-weight: 700;
  }
  .failure {
    color: var(--clay);
  }
</style>
