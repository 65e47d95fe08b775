<script lang="ts">
  import type { CueId, WordId } from '$lib/core/id';
  import { onDestroy, onMount, tick } from 'svelte';
  import Bookmark from '@lucide/svelte/icons/bookmark';
  import { parseClock, wholeMs } from '$lib/core/time';
  import { isOffWords } from '$lib/core/checks';
  import type { ClientCommand } from '$lib/core/commands';
  import { lineLength, lookUp, placementOf, wordAtOffset, writtenLines, readingSpeed, type Cue } from '$lib/core/track';
  import type { TypedText } from '$lib/client/session/drafts';
  import type { CommandId } from '$lib/client/keys/commands';
  import { surfaceKey, titleOf } from '$lib/client/keys/key-sets';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import SpeakerChoice from '../frame/SpeakerChoice.svelte';
  import { phrases } from './phrases';

  interface Props {
    onCommand: (id: CommandId) => void;
  }
  let { onCommand }: Props = $props();
  const desk = useTrackDesk();
  const { session } = desk;

  const cue = $derived(desk.cue);
  const saved = $derived(cue === null ? '' : writtenLines(desk.track, cue).join('\n'));
  /** What is being typed, and into which cue; `null` while nobody types. */
  let typed = $state.raw<{ cueId: CueId; text: string } | null>(null);
  let idle: ReturnType<typeof setTimeout> | undefined;
  /** A pause this long ends a burst of typing: one edit, one undo. */
  const BURST_MS = 800;

  const text = $derived(typed !== null && typed.cueId === cue?.id ? typed.text : saved);
  const counts = $derived(
    cue === null ? [] : text.split('\n').map((line) => lineLength(line.replace(/<\/?[ibu]>/g, ''), desk.track.language))
  );
  const speed = $derived(cue === null ? 0 : readingSpeed(desk.track, cue));
  const limit = $derived(desk.track.rules.maxCharsPerSecond);
  const lineLimit = $derived(desk.track.rules.maxCharsPerLine);
  /** Whether its edges lie within 300 ms of its heard words. */
  const onWords = $derived(cue === null || !isOffWords(desk.track, cue));

  function commit(): void {
    clearTimeout(idle);
    if (typed === null) return;
    const { cueId, text: written } = typed;
    typed = null;
    const target = lookUp(desk.track).findCue(cueId);
    if (target !== undefined && writtenLines(desk.track, target).join('\n') === written) draft.mirror(null);
    else draft.commit(writing(cueId, written));
  }

  const writing = (cueId: CueId, written: string) => ({
    commands: [{ type: 'setCueText' as const, cueId, lines: written.split('\n') }],
    text: written
  });

  function type(event: Event & { currentTarget: HTMLTextAreaElement }): void {
    if (cue === null) return;
    if (typed !== null && typed.cueId !== cue.id) commit();
    typed = { cueId: cue.id, text: event.currentTarget.value };
    draft.mirror(typed.text === saved ? null : writing(typed.cueId, typed.text));
    clearTimeout(idle);
    idle = setTimeout(commit, BURST_MS);
  }

  let area = $state<HTMLTextAreaElement | undefined>();
  function wordAtCaret(): WordId | null {
    if (area === undefined || document.activeElement !== area) return null;
    const { selectionStart: caret } = area;
    commit();
    // What is done with the word writes the text anew; the caret stays.
    void tick().then(() => area?.setSelectionRange(caret, caret));
    return desk.cue === null ? null : wordAtOffset(desk.track, desk.cue, caret);
  }
  onMount(() => {
    desk.cueText = { wordAtCaret };
    return () => (desk.cueText = null);
  });

  const draft = session.draft('cue', commit);
  onDestroy(() => draft.close());

  type TimeField = 'start' | 'end' | 'length';
  /** The time that is being typed, and of which cue; `null` while nobody types one. */
  let typedTime = $state.raw<{ cue: Cue; field: TimeField; text: string } | null>(null);
  const timeDraft = session.draft(phrases.cueCard.timeDraft, commitTime);
  onDestroy(() => timeDraft.close());

  /** What a typed time asks for; `null` where it is none. */
  function timing({ cue: of, field, text: written }: NonNullable<typeof typedTime>): TypedText<ClientCommand> | null {
    const ms = field === 'length' ? parseClock(written) : desk.on.readTime(written);
    if (ms === null) return null;
    const now = lookUp(desk.track).findCue(of.id) ?? of;
    const [edge, atMs] = field === 'length' ? (['end', wholeMs(now.startMs + ms)] as const) : ([field, ms] as const);
    return { commands: [desk.cues.edgeCommand(now, edge, atMs)], text: written };
  }
  function typeTime(field: TimeField, written: string): void {
    if (cue === null) return;
    typedTime = { cue, field, text: written };
    timeDraft.mirror(timing(typedTime));
  }
  function commitTime(): void {
    if (typedTime === null) return;
    const asked = timing(typedTime);
    const { field, text: written } = typedTime;
    typedTime = null;
    if (asked !== null && written !== shownTime(field)) timeDraft.commit(asked);
    else timeDraft.mirror(null);
    if (asked === null) desk.say(phrases.cueCard.noTime(written, desk.on.showTime(10_560)));
  }
  function shownTime(edge: TimeField): string {
    const now = desk.cue;
    if (now === null) return '';
    if (typedTime?.field === edge) return typedTime.text;
    return edge === 'length'
      ? ((now.endMs - now.startMs) / 1000).toFixed(2)
      : desk.on.showTime(edge === 'start' ? now.startMs : now.endMs);
  }
  const byKey = (event: KeyboardEvent & { currentTarget: HTMLInputElement }): void => {
    if (event.key === 'Enter') event.currentTarget.blur();
  };

  const ACTS: readonly { id: CommandId; name: string }[] = [
    { id: 'split', name: phrases.cueCard.splitAtWord },
    { id: 'merge', name: phrases.cueCard.mergeWithNext },
    { id: 'pull', name: phrases.cueCard.pullAWord },
    { id: 'push', name: phrases.cueCard.pushAWord },
    { id: 'remove', name: 'Delete' }
  ];
  const EMPTY_ACTS: typeof ACTS = $derived([
    ...(desk.on.canHear(desk.track.language)
      ? [{ id: 'hearAgain', name: phrases.cueCard.hearWhatIsSaid } as const]
      : []),
    { id: 'merge', name: phrases.cueCard.mergeWithNext },
    { id: 'remove', name: 'Delete' }
  ]);

  /** The note that is being typed, and of which cue; `null` while nobody types one. */
  let typedNote = $state.raw<{ cueId: CueId; text: string } | null>(null);
  const noteDraft = session.draft(phrases.cueCard.noteDraft, commitNote);
  onDestroy(() => noteDraft.close());
  const noting = ({ cueId, text: note }: NonNullable<typeof typedNote>): TypedText<ClientCommand> => ({
    commands: [{ type: 'annotateCue', cueId, note }],
    text: note
  });
  function typeNote(note: string): void {
    if (cue === null) return;
    if (typedNote !== null && typedNote.cueId !== cue.id) commitNote();
    typedNote = { cueId: cue.id, text: note };
    noteDraft.mirror(note === cue.note ? null : noting(typedNote));
  }
  function commitNote(): void {
    if (typedNote === null) return;
    const written = typedNote;
    typedNote = null;
    if (lookUp(desk.track).findCue(written.cueId)?.note === written.text) noteDraft.mirror(null);
    else noteDraft.commit(noting(written));
  }
</script>

{#if cue === null}
  <p class="soft empty">
    {desk.track.cues.length === 0
      ? phrases.cueCard.noCues(surfaceKey('add'))
      : phrases.cueCard.noneChosen(surfaceKey('previousCue'), surfaceKey('nextCue'))}
  </p>
{:else}
  <section class="card" aria-label={phrases.cueCard.cueCard}>
    <div class="head">
      <h2>{phrases.cueCard.cueOf(desk.cueIndex + 1, desk.track.cues.length)}</h2>
      <span class="mono soft" class:off={!onWords}
        >{onWords ? phrases.cueCard.onItsWords : phrases.cueCard.offItsWords}</span
      >
      <button
        class="flag"
        aria-pressed={cue.bookmark}
        onclick={() => onCommand('bookmark')}
        aria-label={phrases.cueCard.bookmark}
        title={titleOf('bookmark')}><Bookmark size={16} fill={cue.bookmark ? 'currentColor' : 'none'} /></button
      >
    </div>
    {#if cue.bookmark || cue.note !== ''}
      <label class="note"
        >{phrases.cueCard.note}
        <input
          class="field"
          maxlength="10000"
          value={typedNote?.cueId === cue.id ? typedNote.text : cue.note}
          oninput={(event) => typeNote(event.currentTarget.value)}
          onblur={commitNote}
          onkeydown={byKey}
        /></label
      >
    {/if}
    <div class="text">
      <textarea
        bind:this={area}
        aria-label={phrases.cueCard.textOfTheCue}
        rows={Math.max(2, counts.length)}
        value={text}
        oninput={type}
        onblur={commit}
        spellcheck="true"
        lang={desk.track.language}
        data-testid="cue-text"></textarea>
      <div class="counts mono" aria-label={phrases.cueCard.charactersPerLine}>
        {#each counts as count, at (at)}<span class:over={count > lineLimit}>{count}{count > lineLimit ? '!' : ''}</span
          >{/each}
      </div>
    </div>
    <div class="times">
      <label
        >{phrases.cueCard.inTime}
        <input
          class="mono"
          value={shownTime('start')}
          oninput={(event) => typeTime('start', event.currentTarget.value)}
          onblur={commitTime}
          onkeydown={byKey}
          data-testid="cue-in"
        /></label
      >
      <label
        >{phrases.cueCard.outTime}
        <input
          class="mono"
          value={shownTime('end')}
          oninput={(event) => typeTime('end', event.currentTarget.value)}
          onblur={commitTime}
          onkeydown={byKey}
          data-testid="cue-out"
        /></label
      >
      <label
        >{phrases.cueCard.duration}
        <input
          class="mono"
          value={shownTime('length')}
          oninput={(event) => typeTime('length', event.currentTarget.value)}
          onblur={commitTime}
          onkeydown={byKey}
        /></label
      >
    </div>
    <div class="speed" class:over={speed > limit}>
      <div class="bar" aria-hidden="true">
        <span style:width="{Math.min(100, (speed / (limit * 1.25)) * 100)}%"></span><i></i>
      </div>
      <p>
        <span
          ><strong class="mono">{Math.round(speed)}</strong>
          {phrases.cueCard.charactersPerSecond({ isTooFast: speed > limit })}</span
        > <span>{phrases.cueCard.limit(limit)}</span>
      </p>
    </div>
    <div class="acts">
      {#each cue.wordIds.length === 0 ? EMPTY_ACTS : ACTS as act (act.id)}
        <button class="act" onclick={() => onCommand(act.id)}>{act.name} <kbd>{surfaceKey(act.id)}</kbd></button>
      {/each}
    </div>
    <dl>
      <div>
        <dt>{phrases.cueCard.speaker}</dt>
        <dd class="speaker">
          <SpeakerChoice label={phrases.cueCard.speakerOfTheCue} words={desk.runOf(cue.wordIds)} />
        </dd>
      </div>
      <div>
        <dt>{phrases.cueCard.place}</dt>
        <dd>
          {phrases.cueCard.placeOf(placementOf(desk.track, cue))}{cue.carried !== null
            ? phrases.cueCard.asInItsFile
            : ''}
        </dd>
      </div>
    </dl>
  </section>
{/if}

<style>
  .empty {
    padding-top: 4px;
  }
  .card {
    display: grid;
    gap: 16px;
  }
  .head {
    display: flex;
    align-items: center;
    gap: 10px;
  }
  h2 {
    flex: 1;
    font-size: 15px;
    font-weight: 700;
  }
  .head .mono {
    font-size: 14px;
  }
  .off {
    color: var(--straw);
    font-weight: 700;
  }
  .flag {
    display: grid;
    place-items: center;
    width: 26px;
    height: 26px;
    border-radius: 6px;
    color: var(--soft-ink);
    cursor: pointer;
  }
  .flag[aria-pressed='true'] {
    color: var(--grape);
  }
  .text {
    position: relative;
    margin-top: -8px;
    border: 1.5px solid var(--leaf);
    border-radius: var(--leaf-shape);
    background: var(--sheet);
    overflow: hidden;
  }
  .text:focus-within {
    outline: 2px solid var(--grape);
    outline-offset: 1px;
  }
  textarea {
    display: block;
    width: 100%;
    padding: 9px 38px 9px 12px;
    border: none;
    background: transparent;
    font-size: 15px;
    line-height: 27px;
    resize: none;
    outline: none;
    white-space: pre;
    overflow-x: auto;
  }
  .counts {
    position: absolute;
    top: 9px;
    right: 10px;
    display: grid;
    font-size: 13px;
    line-height: 27px;
    color: var(--soft-ink);
    text-align: right;
    pointer-events: none;
  }
  .over {
    color: var(--clay);
    font-weight: 700;
  }
  .note {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr);
    gap: 8px;
    align-items: center;
    color: var(--soft-ink);
    font-size: 14px;
  }
  .times {
    display: grid;
    grid-template-columns: minmax(0, 1.3fr) minmax(0, 1.3fr) minmax(0, 0.7fr);
    gap: 8px;
  }
  .times label {
    color: var(--soft-ink);
    font-size: 14px;
  }
  .times input {
    display: block;
    width: 100%;
    margin-left: -3px;
    padding: 0 2px;
    border: 1px solid transparent;
    border-radius: 4px;
    background: transparent;
    color: var(--ink);
    font-size: 15px;
  }
  .times input:hover {
    border-color: var(--rule);
  }
  .times input:focus {
    background: var(--sheet);
  }
  .bar {
    position: relative;
    height: 6px;
    border-radius: 3px;
    background: var(--pale-leaf);
  }
  .bar span {
    display: block;
    height: 100%;
    border-radius: 3px;
    background: var(--leaf);
  }
  .bar i {
    position: absolute;
    top: -4px;
    left: 80%;
    width: 2px;
    height: 14px;
    background: var(--ink);
  }
  .speed.over .bar span {
    background: var(--clay);
  }
  .speed p {
    display: flex;
    justify-content: space-between;
    margin-top: 6px;
    color: var(--soft-ink);
    font-size: 14px;
  }
  .speed strong {
    color: var(--ink);
  }
  .speed.over p > span:first-child,
  .speed.over strong {
    color: var(--clay);
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  dl {
    display: grid;
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
  dt {
    color: var(--soft-ink);
    font-size: 14px;
  }
  dd {
    font-weight: 700;
  }
  .speaker {
    margin-left: -7px;
  }
</style>
