/** A translation at work: its rows beside their source, the one in hand, and what is offered for it. */
import { CodedError } from '$lib/core/coded-error';
import type { ClientCommand } from '$lib/core/commands';
import { asCueId, type CueId } from '$lib/core/id';
import { messageOf } from '$lib/core/message-of';
import { clamp, spanOf } from '$lib/core/time';
import { lookUp, writtenLines, type Cue, type Track } from '$lib/core/track';
import {
  countStates,
  cuesForRows,
  markOf,
  rowsOf,
  termsIn,
  termsNotUsed,
  typeCue,
  withSourceAbove,
  type GlossaryTerm,
  type Row,
  type RowState
} from '$lib/core/translating';
import { api, type Job } from '../api';
import { listenToServer } from '../events';
import { phrases } from '../phrases';
import type { TrackView } from '../track-view.svelte';
import { translateCalls, type Recalled } from './calls';

export const ROW_FILTERS = ['all', 'open', 'machine', 'changed', 'terms'] as const;
export type RowFilter = (typeof ROW_FILTERS)[number];

/** What the picture shows of the two. */
export const SHOWN = ['target', 'source', 'both'] as const;
export type Shown = (typeof SHOWN)[number];

/** What a number key takes: a whole translation, or a term at the caret. */
export type Offer =
  | { readonly kind: 'remembered'; readonly recalled: Recalled }
  | { readonly kind: 'term'; readonly term: GlossaryTerm; readonly isUsed: boolean };

/** Where the text of the row in hand is typed. */
export interface RowText {
  /** Puts a text at the caret, or in the place of all. */
  put(text: string, isWhole: boolean): void;
  focus(): void;
}

const REST_MS = 150;

export class Translating {
  readonly #view: TrackView;
  /** `null` until it is there, or where there is none. */
  source: Track | null = $state.raw(null);
  /** Why there is no source. */
  failure: string | null = $state(null);
  filter: RowFilter = $state('all');
  shown: Shown = $state('target');
  /** Whether its place is open: elsewhere the picture shows the track itself. */
  #isOpen = $state(false);
  /** Whether files and videos show the source above the translation. */
  goesWithSource = $state(false);
  terms: readonly GlossaryTerm[] = $state.raw([]);
  #recalled: { readonly text: string; readonly found: readonly Recalled[] } = $state.raw({ text: '', found: [] });
  /** The work that drafts it. */
  job: Job | null = $state.raw(null);
  isClipboardOpen = $state(false);
  isDraftOpen = $state(false);
  areTermsOpen = $state(false);
  text: RowText | null = null;
  /** The row in hand where it has no cue yet: by its first source cue. */
  #bareRow: string | null = $state(null);
  #rest: ReturnType<typeof setTimeout> | undefined;

  constructor(view: TrackView) {
    this.#view = view;
  }

  get isTranslation(): boolean {
    return this.#view.track.sourceTrackId !== null;
  }

  readonly rows: readonly Row[] = $derived.by(() =>
    this.source === null || !this.isTranslation ? [] : rowsOf(this.#view.track, this.source)
  );
  /** Places of the rows that the filter lets through. */
  readonly listed: readonly number[] = $derived.by(() =>
    this.rows.flatMap((row, at) => (this.#isListed(row) ? at : []))
  );
  readonly counts: Readonly<Record<RowState, number>> = $derived(countStates(this.rows));
  readonly changedCount: number = $derived(this.rows.filter(({ changedFrom }) => changedFrom !== null).length);
  /** Places of rows by their cues. */
  readonly #rowAt: ReadonlyMap<string, number> = $derived.by(
    () => new Map(this.rows.flatMap(({ cues }, at) => cues.map(({ id }): [string, number] => [id, at])))
  );
  /** The cue whose text has the focus: its row stays in hand, wherever the playhead goes. */
  #heldCueId: CueId | null = $state(null);
  /** The row in hand; -1 for none. */
  readonly at: number = $derived.by(() => {
    const held = this.#rowAt.get(this.#heldCueId ?? '');
    if (held !== undefined) return held;
    if (this.#bareRow !== null) {
      const bare = this.rows.findIndex(({ sourceCues }) => sourceCues[0]?.id === this.#bareRow);
      if (bare >= 0) return bare;
    }
    return this.#rowAt.get(this.#view.cueId ?? '') ?? -1;
  });
  readonly row: Row | null = $derived(this.rows[this.at] ?? null);
  readonly missedTerms: readonly GlossaryTerm[] = $derived(
    this.row === null ? [] : termsNotUsed(this.row.source, this.row.target, this.terms)
  );
  readonly offers: readonly Offer[] = $derived.by(() => {
    const { row } = this;
    if (row === null) return [];
    const remembered = this.#recalled.text !== row.source ? [] : this.#recalled.found;
    const terms = termsIn(row.source, this.terms);
    return [
      ...remembered
        .filter(({ target }) => target !== row.target)
        .map((recalled): Offer => ({ kind: 'remembered', recalled })),
      ...terms.map((term): Offer => ({
        kind: 'term',
        term,
        isUsed: row.target !== '' && !this.missedTerms.includes(term)
      }))
    ];
  });

  #isListed(row: Row): boolean {
    switch (this.filter) {
      case 'all':
        return true;
      case 'open':
        return row.state !== 'done';
      case 'machine':
        return row.state === 'machine';
      case 'changed':
        return row.changedFrom !== null;
      case 'terms':
        return termsNotUsed(row.source, row.target, this.terms).length > 0;
    }
  }

  /** Keeps the source up to date while a place shows it; returns what ends that. */
  follow(): () => void {
    const { sourceTrackId } = this.#view.track;
    if (sourceTrackId === null) return () => undefined;
    this.#isOpen = true;
    const load = (): Promise<void> => this.loadSource();
    void load().then(() => this.loadTerms());
    const stop = listenToServer({
      onDocument: ({ id }) => void (id === sourceTrackId && load()),
      onJob: (job) => this.#hearOf(job),
      onReconnect: () => void load()
    });
    return () => {
      this.#isOpen = false;
      stop();
    };
  }

  #expected: Promise<Track | null> | undefined;
  /** A source that is on its way already, for the first that asks. */
  expect(source: Promise<Track | null> | undefined): void {
    this.#expected = source;
  }

  /** Fetches the source as it is now. */
  async loadSource(): Promise<void> {
    const { sourceTrackId } = this.#view.track;
    if (sourceTrackId === null) return;
    const expected = await this.#expected;
    this.#expected = undefined;
    if (expected !== undefined && expected !== null) {
      this.source = expected;
      return;
    }
    try {
      this.source = (await api.document(sourceTrackId)).track;
      this.failure = null;
    } catch (error) {
      const isGone = error instanceof CodedError && error.code === 'unknown_track';
      this.failure = isGone ? phrases.translating.sourceGone : messageOf(error);
    }
  }

  #hearOf(job: Job): void {
    if (job.id !== this.job?.id) return;
    this.job = job;
    if (job.state === 'done') this.#view.say(phrases.translating.drafted);
    if (job.state === 'failed') this.#view.say(phrases.translating.draftFailed(job.error ?? ''));
  }

  async loadTerms(): Promise<void> {
    if (this.source === null) return;
    await this.#trying(async () => {
      this.terms = await translateCalls.terms(this.source!.language, this.#view.track.language);
    });
  }

  async keepTerms(terms: readonly GlossaryTerm[]): Promise<void> {
    const { source } = this;
    if (source === null) return;
    this.terms = await translateCalls.keepTerms(source.language, this.#view.track.language, terms);
  }

  /** Asks what was said before, when the hands rest. */
  recall(): void {
    const { row } = this;
    clearTimeout(this.#rest);
    if (row === null || row.source === '' || row.source === this.#recalled.text) return;
    const text = row.source;
    this.#rest = setTimeout(() => {
      void this.#trying(async () => {
        this.#recalled = { text, found: await translateCalls.recall(this.#view.session.trackId, text) };
      });
    }, REST_MS);
  }

  async #trying(work: () => Promise<void>): Promise<void> {
    try {
      await work();
    } catch (error) {
      this.#view.say(messageOf(error));
    }
  }

  /** While its text is typed; `null`: nobody types. */
  hold(cueId: CueId | null): void {
    this.#heldCueId = cueId;
  }

  choose(at: number): void {
    const row = this.rows[at];
    if (row === undefined) return;
    this.#heldCueId = null;
    const [cue] = row.cues;
    this.#bareRow = cue === undefined ? (row.sourceCues[0]?.id ?? null) : null;
    if (cue === undefined) this.#view.seek(row.sourceCues[0]!.startMs);
    else this.#view.chooseCue(cue, { seek: true });
  }

  /** To the next of the rows that are listed. */
  step(by: 1 | -1): void {
    const { listed } = this;
    if (listed.length === 0) return this.#view.say(phrases.translating.noneListed);
    const next = by > 0 ? listed.find((at) => at > this.at) : listed.findLast((at) => at < this.at);
    this.choose(next ?? listed[clamp(by > 0 ? listed.length - 1 : 0, 0, listed.length - 1)]!);
  }

  /** To the next row that is not done, around the end; false where all are. */
  stepOpen(by: 1 | -1): boolean {
    const open = this.rows.flatMap(({ state }, at) => (state === 'done' ? [] : at));
    const next = by > 0 ? open.find((at) => at > this.at) : open.findLast((at) => at < this.at);
    const found = next ?? (by > 0 ? open[0] : open.at(-1));
    if (found === undefined) this.#view.say(phrases.translating.allDone);
    else this.choose(found);
    return found !== undefined;
  }

  /** What writes a text into a cue of a row. */
  writing(row: Row, cue: Cue, text: string, state: 'mine' | 'done'): readonly ClientCommand[] {
    const { track } = this.#view;
    return [{ type: 'writeRows', cues: [typeCue({ target: track, source: this.source! }, { row, cue, text, state })] }];
  }

  /** Gives the row in hand a cue to write in, where it has none. */
  beginRow(): void {
    const { row } = this;
    if (row === null || row.cues.length > 0) return;
    const commands = cuesForRows([row], () => crypto.randomUUID()) as readonly ClientCommand[];
    if (!this.#view.edit(commands)) return;
    const [first] = commands;
    this.#bareRow = null;
    if (first?.type === 'addCue') this.#view.chooseCue(lookUp(this.#view.track).findCue(asCueId(first.newCueId!)));
  }

  /** Done, with the source as it is now; or open again. */
  toggleDone(): void {
    const { row } = this;
    if (row === null) return;
    const state = row.state === 'done' ? 'mine' : 'done';
    if (this.#mark([row], state)) this.#view.say(phrases.translating.marked(state));
  }

  setDone(): void {
    if (this.row !== null) this.#mark([this.row], 'done');
  }

  /** The row says what the source says now, whatever was changed there. */
  takeAsIs(): void {
    const { row } = this;
    if (row !== null) this.#mark([row], row.state === 'done' ? 'done' : 'mine');
  }

  #mark(rows: readonly Row[], state: 'mine' | 'done'): boolean {
    const cues = rows.flatMap((row) => row.cues.map((cue) => ({ cueId: cue.id, ...markOf(row, state) })));
    return cues.length > 0 && this.#view.edit([{ type: 'markRows', cues }]);
  }

  /** Rows whose one cue stands at other times than its source. */
  readonly offTime: readonly Row[] = $derived.by(() =>
    this.rows.filter(({ cues: [cue, ...more], sourceCues }) => {
      if (cue === undefined || sourceCues.length === 0 || more.length > 0) return false;
      const { startMs, endMs } = spanOf(sourceCues);
      return cue.startMs !== startMs || cue.endMs !== endMs;
    })
  );

  /** The times of the source, for the row in hand or for all. */
  takeTimes(which: 'row' | 'all'): void {
    const rows = which === 'all' ? this.offTime : this.offTime.filter((row) => row === this.row);
    const times = rows.map(({ cues: [cue], sourceCues }) => ({ cueId: cue!.id, ...spanOf(sourceCues) }));
    if (times.length === 0) return this.#view.say(phrases.translating.timesFit);
    this.#view.edit([{ type: 'timeCues', times }], phrases.translating.timesTaken(times.length));
  }

  /** What a number key offers. */
  take(number: number): void {
    const offer = this.offers[number - 1];
    if (offer === undefined) return this.#view.say(phrases.translating.noOffer(number));
    if (this.text === null) return;
    if (offer.kind === 'remembered') this.text.put(offer.recalled.target, true);
    else this.text.put(offer.term.target, false);
  }

  showNext(): void {
    this.shown = SHOWN[(SHOWN.indexOf(this.shown) + 1) % SHOWN.length]!;
    this.#view.say(phrases.translating.shows[this.shown]);
  }

  async draft(engine: string, spendCents: number | undefined): Promise<void> {
    const { session } = this.#view;
    session.flush();
    await session.saved();
    this.job = await translateCalls.draft(session.trackId, { engine, ...(spendCents !== undefined && { spendCents }) });
  }

  /** The source above the captions of the track, where both are shown; alone, it is drawn instead of them. */
  readonly above: Track | null = $derived.by(() => {
    const { source } = this;
    return this.#isOpen && this.shown === 'both' && source !== null
      ? { ...source, look: { ...source.look, placement: 'top centre' } }
      : null;
  });
  /** Both languages as they are handed over; `null` where only the translation is. */
  readonly both: Track | null = $derived.by(() =>
    this.goesWithSource && this.source !== null ? withSourceAbove(this.#view.track, this.source) : null
  );
  readonly instead: Track | null = $derived(this.#isOpen && this.shown === 'source' ? this.source : null);

  cancelDraft(): void {
    const { job } = this;
    if (job !== null) void this.#trying(async () => void (await api.cancelJob(job.id)));
  }

  /** The text of a cue as it is typed. */
  typedOf(cue: Cue): string {
    return writtenLines(this.#view.track, cue).join('\n');
  }
}
