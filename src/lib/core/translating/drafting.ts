/** What came from elsewhere, sentence by sentence or row by row, as what is written on the rows. */
import type { Command, CommandOf } from '../commands';
import { breakIntoLines } from '../cueing';
import { asCueId, asWordId } from '../id';
import { spanOf } from '../time';
import {
  cueSpeaker,
  escapeMarkup,
  formatMarkedLine,
  makeWord,
  partLines,
  shareTime,
  tokenize,
  type Cue,
  type Token,
  type Track,
  type Translation
} from '../track';
import { layOnPlaces, placeOfSource, type Room } from './laying';
import type { Row } from './rows';
import type { Sentence } from './sentences';
import { typeset } from './typeset';

/** A sentence as an engine gives it back. */
export interface TranslatedSentence {
  readonly text: string;
  /** Of its words, parted at white space, those that the engine did not know. */
  readonly unknown: readonly number[];
}

interface DraftedToken extends Token {
  readonly isUnknown: boolean;
}

export type WrittenCue = CommandOf<'writeRows'>['cues'][number];

/** What is kept with each cue of a row: how far it is, and what its source says now. */
export const markOf = (
  { cues, sourceCues, source }: Row,
  state: Translation['state']
): Pick<WrittenCue, 'translation' | 'sourceCueIds'> => ({
  translation: { state, sourceText: source },
  // A row that was found by its times has its source from now on.
  ...(cues.length === 1 && { sourceCueIds: sourceCues.map(({ id }) => id) })
});

/** Who says a row, where it is one alone. */
function speakerOf(source: Track, { sourceCues }: Row): Pick<WrittenCue, 'speakerId'> {
  const [speakerId, ...others] = new Set(sourceCues.map((cue) => cueSpeaker(source, cue)));
  return speakerId === undefined || others.length > 0 ? {} : { speakerId };
}

/** Rows that a machine may write: nobody has touched them, and there is a cue to write in. */
export const mayDraft = ({ state, cues }: Row): boolean =>
  (state === 'empty' || state === 'machine') && cues.length > 0;

/**
 * The cues of rows as drafted: `translated[at]` is the translation of `sentences[at]`, `null` where there is none. Rows
 * that have something by hand, or a sentence that was not translated, are left as they are.
 */
export function draftRows(
  { target, source, rows }: { readonly target: Track; readonly source: Track; readonly rows: readonly Row[] },
  sentences: readonly Sentence[],
  translated: readonly (TranslatedSentence | null)[]
): readonly WrittenCue[] {
  const tokensOf = rows.map((): DraftedToken[] => []);
  const isHeld = rows.map((row) => !mayDraft(row));
  sentences.forEach((sentence, at) => {
    const own = translated[at] ?? null;
    if (own === null) for (const { row } of sentence.pieces) isHeld[row] = true;
    else laySentence({ target, rows, tokensOf }, sentence, own);
  });
  return rows.flatMap((row, at) =>
    isHeld[at] || tokensOf[at]!.length === 0
      ? []
      : writtenCues({ target, source }, row, { tokens: tokensOf[at]!, state: 'machine' })
  );
}

/** The cues of a row with a text: `state` says whose it is, `isDoubtful` that it needs a look. There is a cue to write in. */
export function writeRowText(
  tracks: { readonly target: Track; readonly source: Track },
  row: Row,
  {
    text,
    state,
    isDoubtful
  }: { readonly text: string; readonly state: Translation['state']; readonly isDoubtful: boolean }
): readonly WrittenCue[] {
  const { language } = tracks.target;
  const tokens = tokenize(escapeMarkup(text), language).map((token) => ({ ...token, isUnknown: isDoubtful }));
  return writtenCues(tracks, row, { tokens, state });
}

/** Commands that give every row a cue to write in: where the source has cues that the translation has not. */
export function cuesForRows(rows: readonly Row[], mint: () => string): readonly Command[] {
  return rows
    .filter(({ cues }) => cues.length === 0)
    .flatMap(({ sourceCues, source }): readonly Command[] => {
      const newCueId = asCueId(mint());
      return [
        { type: 'addCue', ...spanOf(sourceCues), lines: [], newCueId, newWordIds: [] },
        {
          type: 'markRows',
          cues: [
            {
              cueId: newCueId,
              sourceCueIds: sourceCues.map(({ id }) => id),
              translation: { state: 'machine', sourceText: source }
            }
          ]
        }
      ];
    });
}

function laySentence(
  {
    target,
    rows,
    tokensOf
  }: { readonly target: Track; readonly rows: readonly Row[]; readonly tokensOf: DraftedToken[][] },
  { pieces }: Sentence,
  { text, unknown }: TranslatedSentence
): void {
  const isUnknown = new Set(unknown);
  let place = -1;
  const tokens = tokenize(escapeMarkup(typeset(text, target.language)), target.language).map((token) => {
    if (token.spaceBefore) place++;
    return { ...token, isUnknown: isUnknown.has(place) };
  });
  const places = pieces.map(({ row, text: source }) => {
    const whole = Math.max(1, rows[row]!.source.length);
    return placeOfSource(source, roomOf(target, rows[row]!.cues, source.length / whole));
  });
  layOnPlaces(tokens, places, target.language).forEach(({ from, to }, at) =>
    tokensOf[pieces[at]!.row]!.push(...tokens.slice(from, to))
  );
}

/** What a share of cues has room for. */
function roomOf({ rules }: Track, cues: readonly Cue[], share: number): Room {
  const durationMs = cues.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);
  const lines = rules.maxLines * Math.max(1, cues.length);
  return {
    maxLines: Math.max(1, Math.round(lines * share)),
    maxCharsPerLine: rules.maxCharsPerLine,
    maxCharacters: Math.max(1, Math.floor((rules.maxCharsPerSecond * durationMs * share) / 1000))
  };
}

function writtenCues(
  { target, source }: { readonly target: Track; readonly source: Track },
  row: Row,
  { tokens, state }: { readonly tokens: readonly DraftedToken[]; readonly state: Translation['state'] }
): readonly WrittenCue[] {
  const runs =
    row.cues.length === 1
      ? [{ from: 0, to: tokens.length }]
      : layOnPlaces(
          tokens,
          row.cues.map((cue) => ({
            share: cue.endMs - cue.startMs,
            anchors: [],
            room: roomOf(target, [cue], 1)
          })),
          target.language
        );
  return runs.map(({ from, to }, at) => {
    const own = tokens.slice(from, to);
    return {
      cueId: row.cues[at]!.id,
      lines: linesOf(target, row.cues[at]!, own),
      ...markOf(row, state),
      ...speakerOf(source, row),
      doubts: own.flatMap(({ isUnknown }, place) => (isUnknown ? place : []))
    };
  });
}

/** Tokens set in lines by the rules of their track, with their small markup. */
function linesOf(track: Track, { startMs, endMs }: Cue, tokens: readonly Token[]): readonly string[] {
  if (tokens.length === 0) return [];
  const times = shareTime(
    startMs,
    endMs,
    tokens.map(({ text }) => text)
  );
  const words = tokens.map((token, at) =>
    makeWord({ id: asWordId(`${at}`), ...token, ...times[at]!, timing: 'estimated' })
  );
  return partLines({ lineStarts: breakIntoLines(words, track) }, words).map(formatMarkedLine);
}

/** A cue of a row with a text as it was typed, small markup and all: its own line breaks stand, one line is broken by the rules. */
export function typeCue(
  { target, source }: { readonly target: Track; readonly source: Track },
  {
    row,
    cue,
    text,
    state
  }: { readonly row: Row; readonly cue: Cue; readonly text: string; readonly state: Translation['state'] }
): WrittenCue {
  return {
    cueId: cue.id,
    lines: /\n/.test(text) ? text.split('\n') : linesOf(target, cue, tokenize(text, target.language)),
    ...markOf(row, state),
    ...speakerOf(source, row)
  };
}
