/**
 * The page's editor: one document of plain paragraphs. Words are not nodes of it: they are found by their offsets, so
 * that eighteen thousand of them cost nothing until they are touched. What is spoken, doubted or left out is painted by
 * the CSS Custom Highlight API and changes no element.
 */
import type { WordId } from '$lib/core/id';
import { baseKeymap } from 'prosemirror-commands';
import { keymap } from 'prosemirror-keymap';
import { Schema, type Node, type Slice } from 'prosemirror-model';
import { EditorState, TextSelection, type Command, type Transaction } from 'prosemirror-state';
import { EditorView } from 'prosemirror-view';
import { doubtIn } from '$lib/core/doubts';
import type { ClientCommand } from '$lib/core/commands';
import { formatClock } from '$lib/core/time';
import type { Track, Word } from '$lib/core/track';
import type { TypedText } from '$lib/client/session/drafts';
import { isHesitation } from '$lib/core/wording';
import { bareText, editForTexts, paragraphsOf, placeWords, wordAtOffset, type Paragraph } from './page-model';

const schema = new Schema({
  nodes: {
    doc: { content: 'paragraph+' },
    paragraph: {
      content: 'text*',
      attrs: { start: { default: '' }, speaker: { default: '' } },
      toDOM: (node) => [
        'p',
        {
          'data-start': node.attrs.start as string,
          ...(node.attrs.speaker !== '' && { 'data-speaker': node.attrs.speaker as string })
        },
        0
      ],
      parseDOM: [{ tag: 'p' }, { tag: 'div' }, { tag: 'li' }]
    },
    text: {}
  }
});

/** Height of the line with a speaker's name. */
const NAME_PX = 22;
/** A pause this long ends a burst of typing: one edit, one undo. */
const BURST_MS = 800;

export interface PageEditorOptions {
  readonly getTrack: () => Track;
  /** Called at each key with what is typed so far; `null`: the page says what the track says. */
  readonly onText: (typed: TypedText<ClientCommand> | null) => void;
  /** Puts what was typed into the track. */
  readonly edit: (typed: TypedText<ClientCommand>) => void;
  /** A click or a move of the caret onto a word. */
  readonly onWord: (word: Word) => void;
  readonly onTyping: () => void;
  readonly label: string;
  readonly language: string;
}

type HighlightName = 'spoken' | 'doubt' | 'left-out' | 'hole' | 'hesitation' | 'chosen' | 'hit';
const HIGHLIGHTS: readonly HighlightName[] = ['spoken', 'doubt', 'left-out', 'hole', 'hesitation', 'chosen', 'hit'];

export class PageEditor {
  readonly view: EditorView;
  readonly #options: PageEditorOptions;
  /** For each paragraph of the document as it was last in step with the track. */
  #models = new Map<Node, Paragraph>();
  #synced: readonly Node[] = [];
  #idle: ReturnType<typeof setTimeout> | undefined;
  #isMirroring = false;
  #highlights = new Map<HighlightName, Highlight>();
  readonly #seen: IntersectionObserver;
  readonly #visible = new Set<Element>();
  #hits: ReadonlySet<string> = new Set();
  #observed: ReadonlySet<Element> = new Set();

  constructor(place: HTMLElement, options: PageEditorOptions) {
    this.#options = options;
    for (const name of HIGHLIGHTS) {
      const highlight = new Highlight();
      highlight.priority = name === 'spoken' ? 3 : name === 'chosen' ? 2 : 1;
      this.#highlights.set(name, highlight);
      CSS.highlights.set(`page-${name}`, highlight);
    }
    const paragraphs = paragraphsOf(options.getTrack());
    const doc = schema.node('doc', null, paragraphs.length > 0 ? paragraphs.map(nodeOf) : [schema.node('paragraph')]);
    this.view = new EditorView(place, {
      state: EditorState.create({
        doc,
        plugins: [keymap({ ArrowLeft: leaveSelection('from'), ArrowRight: leaveSelection('to') }), keymap(baseKeymap)]
      }),
      attributes: {
        role: 'textbox',
        'aria-multiline': 'true',
        'aria-label': options.label,
        lang: options.language,
        spellcheck: 'true',
        'data-testid': 'page'
      },
      dispatchTransaction: (transaction) => {
        this.view.updateState(this.view.state.apply(transaction));
        if (transaction.docChanged && transaction.getMeta('sync') !== true) this.#typed();
      },
      clipboardTextSerializer: (slice: Slice) => slice.content.textBetween(0, slice.content.size, '\n\n'),
      handleDOMEvents: {
        blur: () => {
          this.commit();
          return false;
        },
        compositionend: () => {
          this.#typed();
          return false;
        },
        // Text alone: what comes as HTML is never read as such.
        paste: (view, event) => {
          event.preventDefault();
          const text = event.clipboardData?.getData('text/plain') ?? '';
          if (text !== '') view.pasteText(text, event);
          return true;
        },
        click: () => {
          this.#takeCaret();
          return false;
        }
      }
    });
    this.#seen = new IntersectionObserver(
      (entries) => {
        for (const entry of entries) {
          if (entry.isIntersecting) this.#visible.add(entry.target);
          else this.#visible.delete(entry.target);
        }
        this.#paintVisible();
      },
      { root: place.closest('[data-scroller]'), rootMargin: '200px' }
    );
    this.#bind(paragraphs);
  }

  destroy(): void {
    this.commit();
    this.#seen.disconnect();
    for (const name of HIGHLIGHTS) CSS.highlights.delete(`page-${name}`);
    this.view.destroy();
  }

  /** Puts what was typed into the track, as one edit. */
  commit(): void {
    clearTimeout(this.#idle);
    if (this.view.composing) return;
    const typed = this.#typedByNow();
    if (typed === 'nothing') return;
    if (typed === null) this.#options.onText(null);
    else this.#options.edit(typed);
    this.#bring();
  }

  /** What is typed as the command that writes it; `null` where it says what the track says. */
  #typedByNow(): TypedText<ClientCommand> | null | 'nothing' {
    const range = this.#changedRange();
    if (range === null) return 'nothing';
    const old = this.#synced.slice(range.from, range.oldTo).flatMap((node) => this.#models.get(node)?.words ?? []);
    const before = this.#synced[range.from - 1];
    const after = this.#synced[range.oldTo];
    const texts = this.#children()
      .slice(range.from, range.newTo)
      .map((node) => node.textContent);
    const command = editForTexts(
      old,
      texts,
      {
        before: before === undefined ? undefined : this.#models.get(before)?.words.at(-1),
        after: after === undefined ? undefined : this.#models.get(after)?.words[0]
      },
      this.#options.language
    );
    return command === null ? null : { commands: [command], text: texts.join('\n') };
  }

  /** Brings the document in step with the track, as far as nobody is typing in it. */
  sync(): void {
    if (!this.view.composing && this.#changedRange() === null) this.#bring();
  }

  /** Makes the document say what the track says. */
  #bring(): void {
    const wanted = paragraphsOf(this.#options.getTrack());
    const now = this.#children();
    // An empty paragraph at the caret is one about to be written: it stays.
    const caretAt = this.view.hasFocus() ? this.view.state.selection.$head.index(0) : -1;
    const kept = now
      .map((node, at) => ({ node, at }))
      .filter(({ node, at }) => bareText(node.textContent) !== '' || at !== caretAt);
    let head = 0;
    while (head < kept.length && head < wanted.length && isAlike(kept[head]!.node, wanted[head]!)) head++;
    let tail = 0;
    while (
      tail < kept.length - head &&
      tail < wanted.length - head &&
      isAlike(kept.at(-1 - tail)!.node, wanted.at(-1 - tail)!)
    )
      tail++;
    const transaction = this.view.state.tr.setMeta('sync', true).setMeta('addToHistory', false);
    if (kept.length === wanted.length) {
      // As many as before: only the letters that differ are written, so that a caret beside them stays.
      for (let step = wanted.length - tail - 1; step >= head; step--)
        rewriteText(
          transaction,
          this.#positionOf(kept[step]!.at) + 1,
          kept[step]!.node.textContent,
          wanted[step]!.text
        );
    } else if (head + tail < kept.length || head + tail < wanted.length) {
      const fromAt = kept[head]?.at ?? now.length;
      const toAt = tail === 0 ? now.length : kept[kept.length - tail]!.at;
      const put = wanted.slice(head, wanted.length - tail).map(nodeOf);
      transaction.replaceWith(this.#positionOf(fromAt), this.#positionOf(Math.max(fromAt, toAt)), put);
      if (transaction.doc.childCount === 0) transaction.insert(0, schema.node('paragraph'));
    }
    let at = 0;
    let position = 0;
    transaction.doc.forEach((node) => {
      const paragraph = wanted[at];
      if (paragraph !== undefined && isAlike(node, paragraph)) {
        const { start, speaker } = attributesOf(paragraph);
        if (node.attrs.start !== start || node.attrs.speaker !== speaker)
          transaction.setNodeMarkup(position, undefined, { start, speaker });
        at++;
      }
      position += node.nodeSize;
    });
    if (transaction.docChanged) this.view.dispatch(transaction);
    this.#bind(wanted);
  }

  /** Marks the word that is spoken; scrolls to it where `follow`. */
  showSpoken(wordId: WordId | null, follow: boolean): void {
    const range = wordId === null ? null : this.#rangeOfWord(wordId);
    this.#set('spoken', range === null ? [] : [range]);
    if (range !== null && follow) this.#scrollTo(range);
  }

  /** Marks what is chosen; scrolls to it where `follow`. */
  showChosen(wordIds: readonly WordId[], follow: boolean): void {
    const ranges = wordIds.map((id) => this.#rangeOfWord(id)).filter((range) => range !== null);
    this.#set('chosen', ranges);
    if (ranges[0] !== undefined && follow) this.#scrollTo(ranges[0]);
  }

  showHits(wordIds: ReadonlySet<WordId>): void {
    this.#hits = wordIds;
    this.#paintVisible();
  }

  #scrollTo(range: Range): void {
    const bounds = range.getBoundingClientRect();
    const scroller = this.view.dom.closest<HTMLElement>('[data-scroller]');
    if (scroller === null) return;
    const box = scroller.getBoundingClientRect();
    if (bounds.top < box.top + 40 || bounds.bottom > box.top + box.height * 0.7) {
      scroller.scrollTop += bounds.top - box.top - box.height * 0.25;
    }
  }

  /** Where the speaker of the word's paragraph stands, or would, in px below the top of what is scrolled. */
  topOfSpeaker(wordId: WordId): number | null {
    const element = this.#rangeOfWord(wordId)?.startContainer.parentElement?.closest('p') ?? null;
    const scroller = this.view.dom.closest('[data-scroller]');
    if (element === null || scroller === null) return null;
    const top = element.getBoundingClientRect().top - scroller.getBoundingClientRect().top + scroller.scrollTop;
    return top - (element.dataset.speaker === undefined ? NAME_PX : 0);
  }

  /** Selects words, so that typing replaces them, and puts the focus into the page. */
  enterAt(wordIds: readonly WordId[]): void {
    const places = [wordIds[0], wordIds.at(-1)].map((id) => (id === undefined ? null : this.#positionOfWord(id)));
    if (places[0] != null && places[1] != null) this.#select(places[0].from, places[1].to);
    this.view.focus();
  }

  /** Puts the caret before a word, if the page has the focus. */
  moveCaret(wordId: WordId): void {
    const place = this.view.hasFocus() ? this.#positionOfWord(wordId) : null;
    if (place !== null) this.#select(place.from, place.from);
  }

  #select(from: number, to: number): void {
    const selection = TextSelection.create(this.view.state.doc, from, to);
    this.view.dispatch(this.view.state.tr.setSelection(selection).scrollIntoView());
  }

  /** The caret where a click has put it: the editor reads the browser's selection later than a quick tap is over. */
  #takeCaret(): void {
    const selection = this.view.dom.ownerDocument.getSelection();
    const node = selection?.focusNode ?? null;
    if (selection?.isCollapsed !== true || node === null || !this.view.dom.contains(node)) return;
    const head = this.view.posAtDOM(node, selection.focusOffset);
    this.#select(head, head);
    this.#tellWord(head);
  }

  /** Ids of the words that the selection touches, in order; none where it is a caret. */
  selectedWords(): readonly WordId[] {
    const { from, to, empty } = this.view.state.selection;
    if (empty) return [];
    const ids: WordId[] = [];
    this.view.state.doc.nodesBetween(from, to, (node, position) => {
      const words = this.#models.get(node)?.words ?? [];
      const places = placeWords(words, node.textContent);
      words.forEach((word, at) => {
        const place = places[at]!;
        if (position + 1 + place.from < to && position + 1 + place.to > from) ids.push(word.id);
      });
      return false;
    });
    return ids;
  }

  /** The word at the caret; `null` where the page has not the focus. */
  wordAtCaret(): Word | null {
    return this.view.hasFocus() ? this.#wordAt(this.view.state.selection.head) : null;
  }

  #children(): readonly Node[] {
    const children: Node[] = [];
    this.view.state.doc.forEach((node) => children.push(node));
    return children;
  }

  #positionOf(childAt: number): number {
    let position = 0;
    this.view.state.doc.forEach((node, _, at) => {
      if (at < childAt) position += node.nodeSize;
    });
    return position;
  }

  #typed(): void {
    this.#options.onTyping();
    this.#mirrorSoon();
    clearTimeout(this.#idle);
    this.#idle = setTimeout(() => this.commit(), BURST_MS);
  }

  /** After the frame that shows the letter. */
  #mirrorSoon(): void {
    if (this.#isMirroring) return;
    this.#isMirroring = true;
    requestAnimationFrame(() =>
      setTimeout(() => {
        this.#isMirroring = false;
        if (this.view.isDestroyed || this.view.composing) return;
        const typed = this.#typedByNow();
        // Where it is in the track by now there is nothing left to mirror.
        if (typed !== 'nothing') this.#options.onText(typed);
      })
    );
  }

  /** The paragraphs that differ since the page was last in step with the track; nodes are never changed in place. */
  #changedRange(): { from: number; oldTo: number; newTo: number } | null {
    const now = this.#children();
    const before = this.#synced;
    let from = 0;
    while (from < now.length && from < before.length && now[from] === before[from]) from++;
    let tail = 0;
    while (tail < now.length - from && tail < before.length - from && now.at(-1 - tail) === before.at(-1 - tail))
      tail++;
    if (from + tail >= now.length && from + tail >= before.length) return null;
    return { from, oldTo: before.length - tail, newTo: now.length - tail };
  }

  #bind(paragraphs: readonly Paragraph[]): void {
    this.#models = new Map();
    let at = 0;
    for (const node of this.#children()) {
      const paragraph = paragraphs[at];
      if (paragraph === undefined || !isAlike(node, paragraph)) continue;
      this.#models.set(node, paragraph);
      at++;
    }
    this.#synced = this.#children();
    this.#observe();
    this.#wordPlaces = null;
  }

  /** Watches the paragraphs that are new, and paints those in view. */
  #observe(): void {
    const elements = new Set(this.view.dom.children);
    for (const element of this.#observed) {
      if (elements.has(element)) continue;
      this.#seen.unobserve(element);
      this.#visible.delete(element);
    }
    for (const element of elements) if (!this.#observed.has(element)) this.#seen.observe(element);
    this.#observed = elements;
    this.#paintVisible();
  }

  #wordPlaces: Map<string, Node> | null = null;

  #positionOfWord(wordId: WordId): { from: number; to: number } | null {
    this.#wordPlaces ??= new Map(
      [...this.#models].flatMap(([node, { words }]) => words.map((word): [string, Node] => [word.id, node]))
    );
    const node = this.#wordPlaces.get(wordId);
    if (node === undefined) return null;
    let position = -1;
    this.view.state.doc.forEach((child, offset) => {
      if (child === node) position = offset;
    });
    if (position < 0) return null;
    const { words } = this.#models.get(node)!;
    const place = placeWords(words, node.textContent)[words.findIndex((word) => word.id === wordId)]!;
    return { from: position + 1 + place.from, to: position + 1 + place.to };
  }

  #rangeOfWord(wordId: WordId): Range | null {
    const place = this.#positionOfWord(wordId);
    return place === null ? null : this.#range(place.from, place.to);
  }

  #range(from: number, to: number): Range {
    const start = this.view.domAtPos(from, 1);
    const end = this.view.domAtPos(to, -1);
    const range = document.createRange();
    range.setStart(start.node, start.offset);
    range.setEnd(end.node, end.offset);
    return range;
  }

  #set(name: HighlightName, ranges: readonly Range[]): void {
    const highlight = this.#highlights.get(name)!;
    highlight.clear();
    for (const range of ranges) highlight.add(range);
  }

  /** Doubts, words left out, holes and hesitations of the paragraphs near the view. */
  #paintVisible(): void {
    const painted = ['doubt', 'left-out', 'hole', 'hesitation', 'hit'] as const;
    const ranges = Object.fromEntries(painted.map((name) => [name, [] as Range[]])) as Record<
      (typeof painted)[number],
      Range[]
    >;
    for (const element of this.#visible) {
      if (!element.isConnected) continue;
      const position = this.view.posAtDOM(element, 0);
      const node = this.view.state.doc.resolve(position).parent;
      const model = this.#models.get(node);
      if (model === undefined) continue;
      const places = placeWords(model.words, node.textContent);
      model.words.forEach((word, at) => {
        const { from, to } = places[at]!;
        if (this.#hits.has(word.id)) ranges.hit.push(this.#range(position + from, position + to));
        if (word.kind === 'hole') ranges.hole.push(this.#range(position + from, position + to));
        else if (!word.shown) ranges['left-out'].push(this.#range(position + from, position + to));
        else if (word.kind === 'speech' && isHesitation(word.text))
          ranges.hesitation.push(this.#range(position + from, position + to));
        else if (doubtIn(word) > 0) {
          // The bar is the longer the greater the doubt.
          const length = Math.max(1, Math.round((to - from) * doubtIn(word)));
          ranges.doubt.push(this.#range(position + from, position + from + length));
        }
      });
    }
    for (const name of painted) this.#set(name, ranges[name]);
  }

  #wordAt(position: number): Word | null {
    const resolved = this.view.state.doc.resolve(position);
    const model = this.#models.get(resolved.parent);
    return model === undefined ? null : wordAtOffset(model.words, resolved.parent.textContent, resolved.parentOffset);
  }

  #tellWord(position: number): void {
    const word = this.#wordAt(position);
    if (word !== null) this.#options.onWord(word);
  }
}

/**
 * Puts the caret at an end of what is selected. The browser would do the same, but tells of it later than the next key
 * may come, and that key would replace what was selected.
 */
const leaveSelection =
  (end: 'from' | 'to'): Command =>
  ({ selection, tr }, dispatch) => {
    if (selection.empty) return false;
    dispatch?.(tr.setSelection(TextSelection.create(tr.doc, selection[end])).scrollIntoView());
    return true;
  };

/** Replaces a text at `position` by another; what both begin and end with is not touched. */
function rewriteText(transaction: Transaction, position: number, old: string, text: string): void {
  if (bareText(old) === bareText(text)) return;
  let head = 0;
  while (head < old.length && head < text.length && old[head] === text[head]) head++;
  let tail = 0;
  while (tail < old.length - head && tail < text.length - head && old.at(-1 - tail) === text.at(-1 - tail)) tail++;
  const [from, to] = [position + head, position + old.length - tail];
  const put = text.slice(head, text.length - tail);
  if (put === '') transaction.delete(from, to);
  else transaction.replaceWith(from, to, schema.text(put));
}

const isAlike = (node: Node, paragraph: Paragraph): boolean =>
  node.textContent === paragraph.text || bareText(node.textContent) === bareText(paragraph.text);

const attributesOf = (paragraph: Paragraph): { start: string; speaker: string } => ({
  start: formatClock(paragraph.startMs),
  speaker: paragraph.words[0]?.kind === 'sound' ? 'Sound' : (paragraph.speaker ?? '')
});

const nodeOf = (paragraph: Paragraph): Node =>
  schema.node('paragraph', attributesOf(paragraph), paragraph.text === '' ? [] : [schema.text(paragraph.text)]);
