<script lang="ts">
  import { onDestroy, onMount } from 'svelte';
  import type { CueId, WordId } from '$lib/core/id';
  import {
    countCharacters,
    isFromTheRight,
    joinLines,
    lineLength,
    lookUp,
    wordAtOffset,
    type Cue
  } from '$lib/core/track';
  import type { Row } from '$lib/core/translating';
  import type { TypedText } from '$lib/client/session/drafts';
  import type { ClientCommand } from '$lib/core/commands';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import { phrases } from './phrases';

  /** The text of a cue of the row in hand, as it is typed, with how it reads. */
  interface Props {
    row: Row;
    cue: Cue;
    at: number;
    /** Its place in the row. */
    part: number;
    onDone: () => void;
  }
  let { row, cue, at, part, onDone }: Props = $props();
  const desk = useTrackDesk();
  const { translating, session } = desk;
  const words = phrases.rows;
  /** A pause this long ends a burst of typing: one edit, one undo. */
  const BURST_MS = 800;

  let area = $state<HTMLTextAreaElement | undefined>();
  let typed = $state.raw<string | null>(null);
  /** The same, not as state: what ends with the component would be told the value before. */
  let inHand: string | null = null;
  let idle: ReturnType<typeof setTimeout> | undefined;
  const saved = $derived(translating.typedOf(cue));
  const text = $derived(typed ?? saved);
  const language = $derived(desk.track.language);
  const rules = $derived(desk.track.rules);
  const bare = $derived(text.replace(/<\/?[ibu]>/g, ''));
  const counts = $derived(bare.split('\n').map((line) => lineLength(line, language)));
  const speed = $derived((countCharacters(joinLines(bare.split('\n'))) * 1000) / (cue.endMs - cue.startMs));
  const isFast = $derived(speed > rules.maxCharsPerSecond);

  const writing = (state: 'mine' | 'done', written: string): TypedText<ClientCommand> => ({
    commands: translating.writing(row, cue, written, state),
    text: written
  });
  const draft = session.draft(`row ${cueKey()}`, () => commit(row.state === 'done' ? 'done' : 'mine'));
  function cueKey(): CueId {
    return cue.id;
  }

  function commit(state: 'mine' | 'done'): void {
    clearTimeout(idle);
    const written = inHand;
    if (written === null) return;
    typed = inHand = null;
    // Into a cue that is gone it goes to the list of what was not taken.
    if (written === saved) draft.mirror(null);
    else draft.commit(writing(state, written));
  }
  function type(value: string): void {
    typed = inHand = value;
    draft.mirror(value === saved ? null : writing('mine', value));
    clearTimeout(idle);
    idle = setTimeout(() => commit(row.state === 'done' ? 'done' : 'mine'), BURST_MS);
  }

  function onKey(event: KeyboardEvent): void {
    if (event.key !== 'Enter' || event.shiftKey || event.isComposing || event.altKey || event.ctrlKey || event.metaKey)
      return;
    event.preventDefault();
    commit('done');
    if (translating.row?.state !== 'done') translating.setDone();
    onDone();
  }

  function wordAtCaret(): WordId | null {
    if (area === undefined || document.activeElement !== area) return null;
    const { selectionStart } = area;
    commit(row.state === 'done' ? 'done' : 'mine');
    return wordAtOffset(desk.track, lookUp(desk.track).findCue(cue.id) ?? cue, selectionStart);
  }
  /** Puts a text at the caret with the spaces it needs, or in the place of all. */
  function put(put: string, isWhole: boolean): void {
    if (area === undefined) return;
    area.focus();
    if (isWhole) area.select();
    const { selectionStart: from, selectionEnd: to, value } = area;
    const before = !isWhole && /[\p{L}\p{N},.;:!?]$/u.test(value.slice(0, from)) ? ' ' : '';
    area.setRangeText(before + put, from, to, 'end');
    type(area.value);
  }
  export function focus(): void {
    area?.focus();
    area?.setSelectionRange(area.value.length, area.value.length);
  }
  onMount(() => {
    if (part > 0) return;
    const own = { put, focus };
    translating.text = own;
    desk.cueText = { wordAtCaret };
    return () => {
      if (translating.text === own) translating.text = null;
      desk.cueText = null;
    };
  });
  onDestroy(() => draft.close());
</script>

<div class="cue">
  <textarea
    bind:this={area}
    class="field"
    rows={Math.max(2, counts.length)}
    value={text}
    aria-label={part === 0 ? words.text(at + 1) : words.part(at + 1, part + 1)}
    lang={language}
    dir={isFromTheRight(language) ? 'rtl' : 'ltr'}
    spellcheck="true"
    data-testid="row-text"
    title={words.hint}
    oninput={(event) => type(event.currentTarget.value)}
    onkeydown={onKey}
    onfocus={() => translating.hold(cue.id)}
    onblur={() => {
      commit(row.state === 'done' ? 'done' : 'mine');
      translating.hold(null);
    }}></textarea>
  <p class="mono figures">
    <span aria-label={words.perLine}
      >{#each counts as count, line (line)}<span class:over={count > rules.maxCharsPerLine}
          >{line > 0 ? ' · ' : ''}{count}{count > rules.maxCharsPerLine ? '!' : ''}</span
        >{/each}<span class="soft">{words.limit(rules.maxCharsPerLine)}</span></span
    >
    <span class:over={isFast} title={words.speed}
      >{Math.round(speed)}{isFast ? '!' : ''}<span class="soft">{words.speedLimit(rules.maxCharsPerSecond)}</span></span
    >
    <span class="bar" aria-hidden="true"
      ><i class:fast={isFast} style:width="{Math.min(100, (speed / rules.maxCharsPerSecond) * 80)}%"></i></span
    >
  </p>
</div>

<style>
  .cue {
    display: grid;
    gap: 4px;
  }
  textarea {
    width: 100%;
    padding: 5px 10px;
    font-size: 16px;
    line-height: 23px;
    resize: none;
  }
  .figures {
    display: flex;
    gap: 14px;
    align-items: center;
    font-size: 13px;
    line-height: 18px;
  }
  .over {
    color: var(--clay);
    font-weight: 700;
  }
  /* The limit stands at four fifths. */
  .bar {
    position: relative;
    flex: 1;
    height: 4px;
    overflow: hidden;
    border-radius: 2px;
    background: var(--rule);
  }
  .bar::after {
    position: absolute;
    inset: 0 auto 0 80%;
    width: 2px;
    background: var(--soft-ink);
    content: '';
  }
  .bar i {
    display: block;
    height: 100%;
    background: var(--leaf);
  }
  .bar i.fast {
    background: var(--clay);
  }
</style>
