/** Translations of tracks: begun from nothing, from text or by an engine, and what is asked of them row by row. */
import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { completeCommand, tryCommands, type Command } from '$lib/core/commands';
import { asTrackId, trackIdSchema } from '$lib/core/id';
import { FORMATS, trackFromFile, type ParsedCaptions } from '$lib/core/formats';
import { countCharacters, isSameLanguage, languageName, type Track } from '$lib/core/track';
import {
  clipboardParts,
  countStates,
  cuesForRows,
  draftRows,
  finishFromEngine,
  layCaptions,
  makeTranslation,
  mayDraft,
  memoryKey,
  prepareForEngine,
  readPasted,
  recall,
  rowsOf,
  sentencesOf,
  speechOfCues,
  wordsForMemory,
  writeRowText,
  type ClipboardPart,
  type Pasted,
  type PastedRow,
  type Row,
  type Recalled,
  type Remembered,
  type RowState,
  type Sentence,
  type TranslatedSentence,
  type WrittenCue
} from '$lib/core/translating';
import { jobKind, type JobContext } from '../jobs/kind';
import type { JobRunner } from '../jobs/runner';
import { ApiProblem } from '../problem';
import { sha256Of } from '../sha256';
import { estimateSyncOf } from '../tracks/sync';
import type { LanguagePair } from '../store/glossary';
import type { Job } from '../store/jobs';
import type { RememberedStore } from '../store/remembered';
import type { TrackStore } from '../store/tracks';
import type { OpenTracks, SavedTrack } from '../tracks/open-tracks';
import { agreeOnText, textQuote, type TextQuote } from '../translators/price';
import type { Translator, TranslatorFacts, TranslatorPair } from '../translators/translator';

const paramsSchema = z.object({
  trackId: trackIdSchema,
  engine: z.string(),
  from: z.string(),
  to: z.string()
});
type Params = z.infer<typeof paramsSchema>;

const resultSchema = z.object({
  trackId: trackIdSchema,
  /** Sentences that the engine failed on; their rows are as they were. */
  left: z.int()
});

/** Sentences that share words, of which the most like are told. */
const MOST_LIKE = 60;

interface Parts {
  readonly tracks: OpenTracks;
  readonly trackStore: TrackStore;
  readonly translators: ReadonlyMap<string, Translator>;
  readonly jobs: () => JobRunner;
  readonly remembered: RememberedStore;
  readonly changed: (recordingId: string) => void;
}

/** A translation with its source, as they are now. */
export interface Pair {
  readonly target: Track;
  readonly source: Track;
  readonly revision: number;
}

export interface BeginRequest {
  readonly language: string;
  readonly title: string;
  readonly from: 'empty' | 'source' | 'engine' | 'text';
  readonly engine: string | undefined;
  readonly text: string | undefined;
  readonly spendCents: number | undefined;
  readonly recordingDurationMs: number;
}

export interface Progress {
  readonly rows: number;
  readonly states: Readonly<Record<RowState, number>>;
  readonly changed: number;
}

export class Translating {
  readonly #parts: Parts;
  constructor(parts: Parts) {
    this.#parts = parts;
  }

  readonly kind = jobKind({
    kind: 'translate',
    params: paramsSchema,
    result: resultSchema,
    concurrency: 1,
    run: (context) => this.#draft(context)
  });

  translators(): Promise<readonly TranslatorFacts[]> {
    return Promise.all([...this.#parts.translators.values()].map((translator) => translator.facts()));
  }

  /** A new track that translates another; with an engine, the work that drafts it. Throws 4xx. */
  async begin(
    sourceId: string,
    asked: BeginRequest,
    signal: AbortSignal
  ): Promise<{ readonly track: Track; readonly job: Job | null }> {
    const source = this.#parts.tracks.get(sourceId).track;
    const { language, title, from, text } = asked;
    if (from === 'text' && (text ?? '').trim() === '')
      throw new ApiProblem(422, 'no_text', 'There is no text: send the translation as “text”, captions or plain.');
    const id = asTrackId(randomUUID());
    const begun = makeTranslation(source, {
      ...{ id, language, title, mint: randomUUID },
      text: from === 'source' ? 'words' : 'sounds'
    });
    // What cannot be done is found out before anything is begun.
    const engine =
      from === 'engine' ? await this.#agreed(asked.engine, { target: begun, source }, asked.spendCents) : null;
    const laid =
      from === 'text' ? await this.#layText({ target: begun, source }, { ...asked, text: text! }, signal) : [];
    this.#parts.tracks.insert(begun, Date.now());
    this.#write(id, () => laid);
    this.#parts.changed(source.recordingId);
    const job = engine === null ? null : this.#addJob(source.recordingId, { ...engine, trackId: id });
    return { track: this.#parts.tracks.get(id).track, job };
  }

  /** Drafts the rows of a translation that nobody has touched. Throws 4xx. */
  async draft(id: string, asked: { readonly engine: string; readonly spendCents: number | undefined }): Promise<Job> {
    const pair = this.pair(id);
    const params = await this.#agreed(asked.engine, pair, asked.spendCents);
    return this.#addJob(pair.target.recordingId, { ...params, trackId: pair.target.id });
  }

  /** Throws `unknown_track`, and `no_translation` where the track translates none, or one that is gone. */
  pair(id: string): Pair {
    const { tracks, trackStore } = this.#parts;
    const { track: target, revision } = tracks.get(id);
    const { sourceTrackId } = target;
    if (sourceTrackId === null)
      throw new ApiProblem(422, 'no_translation', 'This track translates no other: begin a translation of it first.');
    if (trackStore.findSummary(sourceTrackId) === null)
      throw new ApiProblem(422, 'no_source', 'The track that this one translates is gone.');
    return { target, revision, source: tracks.get(sourceTrackId).track };
  }

  rows(id: string): readonly Row[] {
    const { target, source } = this.pair(id);
    return rowsOf(target, source);
  }

  progress(id: string): Progress {
    const rows = this.rows(id);
    return {
      rows: rows.length,
      states: countStates(rows),
      changed: rows.filter(({ changedFrom }) => changedFrom !== null).length
    };
  }

  /** For each text of a track's source what was said before in this house that is most like it, and how it was translated. */
  recall(id: string, texts: readonly string[]): readonly (readonly Recalled<Remembered>[])[] {
    const { target, source } = this.pair(id);
    const languages = { from: source.language, to: target.language };
    this.#remember(languages);
    return texts.map((text) => recall(text, this.#parts.remembered.find(wordsForMemory(text), languages, MOST_LIKE)));
  }

  /** Takes up what was translated by hand since. */
  #remember(languages: LanguagePair): void {
    const { remembered } = this.#parts;
    for (const id of remembered.stale(languages)) {
      const { target, source, revision } = this.pair(id);
      const rows = rowsOf(target, source)
        .filter(
          ({ state, source: said, target: text }) =>
            (state === 'mine' || state === 'done') && said !== '' && text !== ''
        )
        .map((row) => ({ key: memoryKey(row.source), source: row.source, target: row.target }));
      const sourceRevision = this.#parts.tracks.get(source.id).revision;
      remembered.replace({ id, revision, sourceRevision }, rows);
    }
  }

  clipboard(id: string, mostCharacters: number): readonly ClipboardPart[] {
    return clipboardParts(this.rows(id), mostCharacters);
  }

  /** What was pasted, laid on the rows; `taken` where it was written. Throws 4xx. */
  paste(
    id: string,
    asked: {
      readonly text: string;
      readonly firstRow: number;
      readonly rows: number | undefined;
      readonly keepSource: boolean;
      readonly overwrite: boolean;
      readonly only: readonly number[] | undefined;
      readonly revision: number | undefined;
      readonly dryRun: boolean;
    }
  ): { readonly pasted: Pasted; readonly taken: SavedTrack | null } {
    const pair = this.pair(id);
    const rows = rowsOf(pair.target, pair.source);
    const { firstRow } = asked;
    const part = rows.slice(firstRow, asked.rows === undefined ? undefined : firstRow + asked.rows);
    if (part.length === 0)
      throw new ApiProblem(422, 'no_rows', `There are ${rows.length} rows; the part begins behind them.`);
    const pasted = pastedOn(asked.text, part, { firstRow, language: pair.target.language });
    if (asked.dryRun) return { pasted, taken: null };
    const chosen = asked.only === undefined ? null : new Set(asked.only);
    const commands = (now: Track): readonly Command[] => {
      const found = byRow(pasted);
      const texts = rows.map((row, at) => {
        const own = found.get(at);
        const isMeant =
          own !== undefined &&
          (chosen?.has(at) ?? true) &&
          (asked.overwrite || row.state === 'empty' || row.state === 'machine');
        if (!isMeant) return null;
        const keptSource = asked.keepSource && row.state === 'empty' ? { text: row.source, isDoubtful: true } : null;
        return textFrom(own) ?? keptSource;
      });
      return textsOnRows({ target: now, source: pair.source }, texts);
    };
    return { pasted, taken: this.#write(id, commands, asked.revision) };
  }

  /** What drafting a translation would cost; `null`: nothing. Throws `unknown_engine`. */
  async quote(id: string, engine: string): Promise<TextQuote | null> {
    const { target, source } = this.pair(id);
    return textQuote(await this.#facts(engine), charactersToDraft(source, rowsOf(target, source)));
  }

  /** What drafting the whole of a track would cost; `null`: nothing. */
  async quoteOfAll(sourceId: string, engine: string): Promise<TextQuote | null> {
    const source = this.#parts.tracks.get(sourceId).track;
    // As `begin` reckons it: the price that is agreed to must be the one that was told.
    const { id, language, title } = source;
    const begun = makeTranslation(source, { id, language, title, text: 'sounds', mint: randomUUID });
    return textQuote(await this.#facts(engine), charactersToDraft(source, rowsOf(begun, source)));
  }

  #facts(engine: string | undefined): Promise<TranslatorFacts> {
    const translator = this.#parts.translators.get(engine ?? '');
    if (translator === undefined)
      throw new ApiProblem(
        422,
        'unknown_engine',
        `There is no translator “${engine ?? ''}”; GET /api/translators lists them.`
      );
    return translator.facts();
  }

  /** The pair of an engine that fits; throws where there is none, or a price was not agreed to. */
  async #agreed(
    engine: string | undefined,
    { target, source }: Omit<Pair, 'revision'>,
    spendCents: number | undefined
  ): Promise<Omit<Params, 'trackId'>> {
    const facts = await this.#facts(engine);
    if (!facts.available)
      throw new ApiProblem(503, 'engine_unavailable', facts.reason ?? `${facts.name} is not available.`);
    const pair = bestPair(facts.pairs, source.language, target.language);
    if (pair === null)
      throw new ApiProblem(
        422,
        'pair_missing',
        `${facts.name} does not translate from ${languageName(source.language)} to ${languageName(target.language)}.`
      );
    const rows = rowsOf(target, source);
    agreeOnText(textQuote(facts, charactersToDraft(source, rows)), spendCents);
    return { engine: facts.id, from: pair.from, to: pair.to };
  }

  #addJob(recordingId: string, params: Params): Job {
    const job = this.#parts.jobs().add('translate', recordingId, params);
    this.#parts.changed(recordingId);
    return job;
  }

  async #draft({ job, params, signal, tell }: JobContext<Params>): Promise<z.infer<typeof resultSchema>> {
    const { trackId, engine, from, to } = params;
    const translator = this.#parts.translators.get(engine);
    if (translator === undefined)
      throw new ApiProblem(422, 'unknown_engine', `There is no translator “${engine}” any more.`);
    tell('reading the rows', 0);
    const { target, source } = this.pair(trackId);
    const rows = rowsOf(target, source);
    const all = sentencesOf(source, rows);
    const isMeant = all.map((sentence) => isToDraft(sentence, rows));
    const meant = all.filter((_, at) => isMeant[at]);
    const names = translator.guardsNames
      ? []
      : [...new Set([...source.names, ...source.speakers.map(({ name }) => name)])];
    const prepared = meant.map((sentence) => prepareForEngine(sentence, names));
    tell('translating', 0.02);
    const answers = await translator.translate({
      sentences: prepared.map(({ text }) => text),
      ...{ from, to, signal },
      key: sha256Of(JSON.stringify([job.id, prepared.map(({ text }) => text)])),
      onProgress: (share) => tell('translating', 0.02 + 0.93 * share)
    });
    signal.throwIfAborted();
    tell('laying it on the rows', 0.96);
    let place = 0;
    const translated = all.map((sentence, at): TranslatedSentence | null => {
      if (!isMeant[at]) return { text: '', unknown: [] };
      const own = place++;
      const answer = answers[own] ?? null;
      return answer === null ? null : finishFromEngine(sentence, prepared[own]!, answer, target.language);
    });
    const left = translated.filter((one) => one === null).length;
    // Rows as they are now: what was written meanwhile stays. Sentences are those that were sent.
    this.#write(trackId, (now) =>
      onRows(now, source, (begun, present) => draftRows({ target: begun, source, rows: present }, all, translated))
    );
    this.#parts.changed(target.recordingId);
    return { trackId, left };
  }

  /** A caption file where it is one, else a plain text. */
  async #layText(
    pair: Omit<Pair, 'revision'>,
    { text, recordingDurationMs }: { readonly text: string; readonly recordingDurationMs: number },
    signal: AbortSignal
  ): Promise<readonly Command[]> {
    const { target, source } = pair;
    const rows = rowsOf(target, source);
    const parsed = captionsIn(text);
    if (parsed !== null) {
      const { track } = trackFromFile(parsed, {
        ...{ trackId: target.id, recordingId: target.recordingId, language: target.language, title: '' },
        ...{ recordingDurationMs, mint: randomUUID }
      });
      const speech = speechOfCues(source.cues, recordingDurationMs);
      const sync = await estimateSyncOf(track.cues, { speech, durationMs: recordingDurationMs }, signal);
      const { texts, isDoubtful } = layCaptions(track, { rows, language: target.language, sync });
      return textsOnRows(
        pair,
        texts.map((own, at) => (own === '' ? null : { text: own, isDoubtful: isDoubtful[at]! }))
      );
    }
    const found = byRow(pastedOn(text, rows, { firstRow: 0, language: target.language }));
    return textsOnRows(
      pair,
      rows.map((_, at) => textFrom(found.get(at)))
    );
  }

  /** As one entry of the log; none where there is nothing to write. */
  #write(id: string, make: (track: Track) => readonly Command[], revision?: number): SavedTrack | null {
    const commands = make(this.#parts.tracks.get(id).track);
    return commands.length === 0 ? null : this.#parts.tracks.applyOwn(id, () => commands, revision);
  }
}

/** The captions that a text is a file of; `null` where it is none. */
function captionsIn(text: string): ParsedCaptions | null {
  for (const { isIt, read } of FORMATS) {
    if (typeof read !== 'function' || isIt?.(text) !== true) continue;
    const parsed = read(text);
    if (parsed.cues.length > 0) return parsed;
  }
  return null;
}

/** What was pasted, on rows of which the first has its place among all. Throws 422. */
function pastedOn(
  text: string,
  rows: readonly Row[],
  { firstRow, language }: { readonly firstRow: number; readonly language: string }
): Pasted {
  const read = readPasted(text, { sources: rows.map(({ source }) => source), firstRow, language });
  if (!read.ok) throw new ApiProblem(422, read.problem.code, read.problem.message);
  return read.value;
}

const byRow = ({ rows }: Pasted): ReadonlyMap<number, PastedRow> => new Map(rows.map((row) => [row.row, row]));

/** `null` where nothing came. */
const textFrom = (pasted: PastedRow | undefined): RowText | null =>
  pasted === undefined || pasted.text === '' ? null : { text: pasted.text, isDoubtful: !pasted.sure };

/** What writes on rows, after what gives each of them a cue. */
function onRows(
  target: Track,
  source: Track,
  cuesOf: (target: Track, rows: readonly Row[]) => readonly WrittenCue[]
): readonly Command[] {
  const begin = cuesForRows(rowsOf(target, source), randomUUID);
  const begun = tryCommands(target, begin);
  if (!begun.ok) throw new Error(`rows cannot be begun: ${begun.problem.message}`);
  const cues = cuesOf(begun.value, rowsOf(begun.value, source));
  if (cues.length === 0) return begin;
  const written = completeCommand(begun.value, { type: 'writeRows', cues }, { mint: randomUUID, atMs: Date.now() });
  return [...begin, written];
}

interface RowText {
  readonly text: string;
  readonly isDoubtful: boolean;
}

/** Texts on rows; `null` leaves a row as it is. */
const textsOnRows = (
  { target, source }: Omit<Pair, 'revision'>,
  texts: readonly (RowText | null)[]
): readonly Command[] =>
  onRows(target, source, (begun, rows) =>
    rows.flatMap((row, at) => {
      const own = texts[at] ?? null;
      return own === null ? [] : writeRowText({ target: begun, source }, row, { ...own, state: 'machine' });
    })
  );

/** The pair that fits best: by the whole tags, else by their languages. */
function bestPair(pairs: readonly TranslatorPair[], from: string, to: string): TranslatorPair | null {
  const fitting = pairs.filter((pair) => isSameLanguage(pair.from, from) && isSameLanguage(pair.to, to));
  const exact = (pair: TranslatorPair): number =>
    Number(pair.from === from) +
    2 * Number(pair.to === to) -
    Number(pair.to.includes('-')) -
    4 * Number(pair.via !== undefined);
  return fitting.toSorted((one, other) => exact(other) - exact(one))[0] ?? null;
}

/** Whole sentences are sent, wherever something of them is still to be drafted. */
const charactersToDraft = (source: Track, rows: readonly Row[]): number =>
  sentencesOf(source, rows)
    .filter((sentence) => isToDraft(sentence, rows))
    .reduce((sum, { text }) => sum + countCharacters(text), 0);

const isToDraft = ({ pieces }: Sentence, rows: readonly Row[]): boolean =>
  pieces.some(({ row }) => mayDraft(rows[row]!) || rows[row]!.cues.length === 0);
