<script lang="ts">
  import type { WordId } from '$lib/core/id';
  import 'prosemirror-view/style/prosemirror.css';
  import { untrack } from 'svelte';
  import type { ClientCommand } from '$lib/core/commands';
  import type { Draft } from '$lib/client/session/document-session.svelte';
  import { useTrackDesk } from '$lib/client/track-desk.svelte';
  import SpeakerChoice from '../frame/SpeakerChoice.svelte';
  import { PageEditor } from './page-editor';
  import { phrases } from './phrases';

  const desk = useTrackDesk();
  const { session, player } = desk;
  let place = $state<HTMLElement | undefined>();
  let editor = $state.raw<PageEditor | undefined>();
  /** A hand has scrolled or typed: the page stops following for a while. */
  let handAt = 0;
  const POLITE_MS = 3000;

  $effect(() => {
    const element = place;
    if (!element) return;
    return untrack(() => {
      const draft: Draft<ClientCommand> = session.draft('page', () => made.commit());
      const made = new PageEditor(element, {
        getTrack: () => session.track,
        onText: (typed) => draft.mirror(typed),
        edit: (typed) => void draft.commit(typed),
        onWord: (word) => desk.chooseWord(word),
        onTyping: () => (handAt = Date.now()),
        label: phrases.page.pageTheWordsOf,
        language: session.track.language
      });
      editor = made;
      return () => {
        draft.close();
        made.destroy();
      };
    });
  });

  $effect(() => {
    void session.track;
    untrack(() => {
      editor?.sync();
      editor?.showChosen(desk.chosenIds, false);
    });
  });
  $effect(() => {
    const id = desk.spokenWordId;
    const isPlaying = player.isPlaying;
    untrack(() => editor?.showSpoken(id, isPlaying && Date.now() - handAt > POLITE_MS));
  });
  $effect(() => {
    const ids = desk.finder.hitIds;
    untrack(() => editor?.showHits(ids));
  });
  $effect(() => {
    const ids = desk.chosenIds;
    // A click is where the eye is already.
    untrack(() => editor?.showChosen(ids, !editor.view.hasFocus()));
  });

  /** The paragraph in hand has its speaker as a choice, where the name stands. */
  const paragraph = $derived(desk.page.paragraphOf(desk.wordId));
  let whoTop = $state<number | null>(null);
  function placeWho(): void {
    const first = paragraph[0];
    whoTop = first === undefined || first.kind === 'sound' ? null : (editor?.topOfSpeaker(first.id) ?? null);
  }
  $effect(() => {
    void [paragraph, editor];
    untrack(placeWho);
  });

  export function enter(): void {
    const ids = desk.chosenIds.length > 0 ? desk.chosenIds : [desk.spokenWordId ?? desk.cue?.wordIds[0]];
    editor?.enterAt(ids.filter((id) => id != null));
  }
  export const selectedWords = (): readonly WordId[] => editor?.selectedWords() ?? [];
  export const wordAtCaret = (): WordId | null => editor?.wordAtCaret()?.id ?? null;
  export const moveCaret = (wordId: WordId): void => editor?.moveCaret(wordId);
  export function focus(): void {
    place?.focus({ preventScroll: true });
  }
</script>

<!-- The keys of the surface act on it. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
  class="page"
  bind:this={place}
  tabindex="0"
  role="region"
  aria-label={phrases.page.page}
  data-surface
  data-scroller
  onwheel={() => (handAt = Date.now())}
  onscroll={placeWho}
>
  {#if whoTop !== null}
    <div class="who" style:top="{whoTop}px">
      <SpeakerChoice label={phrases.page.speakerOfTheParagraph} words={paragraph} />
    </div>
  {/if}
</div>

<style>
  .page {
    position: relative;
    height: 100%;
    padding: 30px 52px 120px 98px;
    overflow-y: auto;
    background: var(--sheet);
    outline: none;
  }
  .page :global(.ProseMirror) {
    max-width: 740px;
    outline: none;
    font-size: 18px;
    line-height: 33px;
    caret-color: var(--grape);
  }
  .page :global(.ProseMirror:focus-visible) {
    outline: none;
  }
  .page :global(p) {
    position: relative;
    margin-bottom: 22px;
    overflow-wrap: anywhere;
    content-visibility: auto;
    contain-intrinsic-size: auto 110px;
    /* Room within the paragraph's own box for the margin's time, which would not be painted else. */
    margin-left: -60px;
    padding-left: 60px;
  }
  .page :global(p[data-start])::before {
    content: attr(data-start);
    position: absolute;
    top: 1px;
    left: 0;
    width: 44px;
    color: var(--soft-ink);
    font: 14px/33px var(--mono);
    text-align: right;
  }
  .page :global(p[data-speaker]) {
    padding-top: 22px;
  }
  .page :global(p[data-speaker])::after {
    content: attr(data-speaker);
    position: absolute;
    top: -4px;
    left: 60px;
    color: var(--leaf);
    font-size: 14px;
    font-weight: 700;
    line-height: 26px;
  }
  .who {
    position: absolute;
    z-index: 1;
    left: 94px;
    margin-top: -4px;
    max-width: 300px;
    background: var(--sheet);
    color: var(--leaf);
    font-size: 14px;
    font-weight: 700;
    line-height: 24px;
  }
  .page :global(p[data-speaker='Sound']) {
    color: var(--soft-ink);
    font-style: italic;
  }
  .page :global(p[data-speaker='Sound'])::after {
    font-style: normal;
  }
  .page :global(p[data-speaker])::before {
    top: -6px;
  }
  .page :global(::highlight(page-spoken)) {
    color: var(--on-grape);
    background-color: var(--grape);
  }
  .page :global(::highlight(page-chosen)) {
    background-color: var(--pale-leaf);
  }
  .page :global(::highlight(page-hit)) {
    background-color: color-mix(in oklab, var(--straw), transparent 65%);
  }
  .page :global(::highlight(page-doubt)) {
    text-decoration: underline 3px var(--straw);
    text-underline-offset: 6px;
  }
  .page :global(::highlight(page-left-out)) {
    color: var(--soft-ink);
    text-decoration: line-through 1.5px var(--soft-ink);
  }
  .page :global(::highlight(page-hesitation)) {
    color: var(--soft-ink);
    text-decoration: underline dotted 2px var(--soft-ink);
    text-underline-offset: 6px;
  }
  .page :global(::highlight(page-hole)) {
    color: var(--clay);
    text-decoration: underline wavy 1.5px var(--clay);
  }
</style>
