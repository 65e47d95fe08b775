/** From what a recogniser heard, chunk by chunk, to the first draft of a track. */
import type { TrackId } from '../id';
import { recue } from '../cueing';
import { startParagraphs } from '../formats';
import { chunksBetweenPauses, speechRegions, type SpeechMap } from '../audio';
import type { FittedWord } from '../fitting';
import type { HeardWord } from '../heard-word';
import type { CommandOf } from '../commands';
import { assignVoices, speakersOf, voiceChanges, type Turn } from '../speakers';
import { formatClock, overlapMs, type Span, toSpan, wholeMs } from '../time';
import { makeCue, makeTrack, makeWord, type Cue, type Rules, type Speaker, type Track, type Word } from '../track';
import { writeEnglish, type WritingOptions } from '../wording';

/** What became of a chunk: the words in it, or `null` where the engine failed on it more than once. */
export interface HeardChunk extends Span {
  readonly words: readonly HeardWord[] | null;
}

export interface DraftOptions {
  readonly trackId: TrackId;
  readonly recordingId: string;
  readonly language: string;
  readonly title: string;
  readonly rules: Rules;
  /** Names and phrases to expect. */
  readonly names: readonly string[];
  readonly mint: () => string;
  /** No cue ends later. */
  readonly recordingDurationMs: number;
}

/** A track of all chunks: cues made, holes marked, voices assigned. */
export function draftTrack(
  chunks: readonly HeardChunk[],
  { writing, turns }: Pick<DraftManner, 'writing' | 'turns'>,
  options: DraftOptions
): Track {
  return trackOfWords(wordsOfChunks(chunks, writing, options.mint, turns), turns, options);
}

/** How what was heard becomes text: `writing` for bare words, `null` where they come written; `turns`: who speaks when. */
export interface DraftManner {
  readonly writing: WritingOptions | null;
  readonly turns: readonly Turn[];
  readonly speakers: readonly Speaker[];
}

/** Where a draft stands that grows chunk by chunk. */
export interface Growth {
  /** Heard behind the last settled sentence: more may still change how it is written. */
  readonly tail: readonly HeardWord[];
  /** The last word that was settled. */
  readonly last: Word | null;
}
export const NO_GROWTH: Growth = { tail: [], last: null };

/** Words that are settled, in cues or beside them, in order. */
export type GrownParts = CommandOf<'addHeard'>['parts'];

/** More than this is not held back for the end of a sentence. */
const LONGEST_TAIL = 150;

/**
 * The next chunk of a recording, in order: what is settled with it goes into the draft, up to the end of a sentence
 * or, at the recording's end, all.
 */
export function growDraft(
  growth: Growth,
  chunk: HeardChunk | 'end',
  manner: DraftManner,
  options: Pick<DraftOptions, 'rules' | 'names' | 'language' | 'mint'>
): { readonly growth: Growth; readonly parts: GrownParts } {
  const isWhole = chunk === 'end' || chunk.words === null;
  const run = isWhole ? growth.tail : [...growth.tail, ...chunk.words];
  const written = writtenRun(run, manner, options.mint);
  const settled = isWhole ? written.length : settledWords(written, run);
  const words = written.slice(0, settled).map(({ word }) => word);
  if (chunk !== 'end' && chunk.words === null) words.push(holeOf(chunk, options.mint));
  const { last } = growth;
  const inOrder = keepOrder(last === null ? words : [last, ...words]);
  const told = assignVoices(startParagraphs(inOrder), manner.turns, manner.speakers).slice(last === null ? 0 : 1);
  const ahead = written.slice(settled, settled + 12).map(({ word }) => word);
  return {
    growth: { tail: run.slice(written[settled - 1]?.to ?? 0), last: told.at(-1) ?? last },
    parts: partsOf(told, ahead, options)
  };
}

/** How many written words stand before the last sentence that may go on. */
function settledWords(
  written: readonly { readonly word: Word; readonly to: number }[],
  run: readonly HeardWord[]
): number {
  const end = written.findLastIndex(({ word }, at) => at < written.length - 1 && /[.?!]["”’)]*$/.test(word.text));
  if (end >= 0 || run.length <= LONGEST_TAIL) return end + 1;
  return written.findLastIndex(({ to }) => to <= run.length / 2) + 1;
}

/** Cues over settled words; `ahead` are the next ones, so that the last cue lingers no longer than there is room. */
function partsOf(
  words: readonly Word[],
  ahead: readonly Word[],
  { rules, names, language, mint }: Pick<DraftOptions, 'rules' | 'names' | 'language' | 'mint'>
): GrownParts {
  const over = (some: readonly Word[]): readonly Cue[] =>
    recue(
      makeTrack({ id: '-', recordingId: '-', language, title: '', rules, names, words: some, cues: [] }),
      rules,
      mint
    );
  const own = new Set(words.map((word) => word.id));
  const foreseen = over([...words, ...ahead]).filter((cue) => cue.wordIds.some((id) => own.has(id)));
  const cues = foreseen.every((cue) => cue.wordIds.every((id) => own.has(id))) ? foreseen : over(words);
  const cueOf = new Map(cues.flatMap((cue) => cue.wordIds.map((id) => [id, cue] as const)));
  const parts: { cue: Cue | null; words: Word[] }[] = [];
  for (const word of words) {
    const cue = cueOf.get(word.id) ?? null;
    const part = parts.at(-1);
    if (part !== undefined && (cue === null || cue === part.cue)) part.words.push(word);
    else parts.push({ cue, words: [word] });
  }
  return parts;
}

/** What stands in a draft for what was heard so far, chunk by chunk in any order. */
export function wordsOfChunks(
  chunks: readonly HeardChunk[],
  writing: WritingOptions | null,
  mint: () => string,
  turns: readonly Turn[] = []
): readonly Word[] {
  const inOrder = [...chunks].sort((a, b) => a.startMs - b.startMs);
  const words: Word[] = [];
  let run: HeardWord[] = [];
  const write = (): void => {
    words.push(...writtenRun(run, { writing, turns }, mint).map(({ word }) => word));
    run = [];
  };
  for (const chunk of inOrder) {
    if (chunk.words === null) {
      write();
      words.push(holeOf(chunk, mint));
    } else run.push(...chunk.words);
  }
  write();
  return startParagraphs(keepOrder(words));
}

/** A track of a script's words. What nobody speaks, and what is spoken and not written, is in it and not shown. */
export function fittedTrack(
  fitted: readonly FittedWord[],
  unwritten: readonly { readonly before: number; readonly words: readonly HeardWord[] }[],
  turns: readonly Turn[],
  options: DraftOptions
): Track {
  const words: Word[] = [];
  const extra = new Map(unwritten.map((run) => [run.before, run.words]));
  const addExtra = (before: number): void => {
    for (const { text, startMs, endMs, confidence } of extra.get(before) ?? [])
      words.push(makeWord({ id: options.mint(), text, startMs, endMs, confidence, timing: 'heard', shown: false }));
  };
  fitted.forEach((word, at) => {
    addExtra(at);
    const { text, startMs, endMs, startsParagraph, spaceBefore } = word;
    const known =
      word.place === 'fitted'
        ? ({ timing: 'fitted', confidence: 1 } as const)
        : ({ timing: 'estimated', confidence: 0, shown: word.place !== 'not spoken' } as const);
    words.push(makeWord({ id: options.mint(), text, startMs, endMs, startsParagraph, spaceBefore, ...known }));
  });
  addExtra(fitted.length);
  return trackOfWords(keepOrder(words), turns, options);
}

function trackOfWords(words: readonly Word[], turns: readonly Turn[], options: DraftOptions): Track {
  const { trackId: id, recordingId, language, title, rules, names, mint, recordingDurationMs } = options;
  const speakers = speakersOf(turns, mint);
  const told = assignVoices(words, turns, speakers);
  const track = makeTrack({ id, recordingId, language, title, rules, names, words: told, speakers, cues: [] });
  const cues = recue(track, rules, mint).map((cue) =>
    cue.endMs <= recordingDurationMs ? cue : { ...cue, endMs: wholeMs(Math.max(cue.startMs + 1, recordingDurationMs)) }
  );
  return { ...track, cues };
}

/**
 * A track of empty cues on the speech, to be typed into: parted at pauses, each within the rules' shortest and longest as
 * far as the speech allows, none closer to the next than the least gap.
 */
export function timingTrack(speech: SpeechMap, durationMs: number, options: DraftOptions): Track {
  const { trackId: id, recordingId, language, title, rules, names, mint } = options;
  const target = { targetMs: Math.min(3500, rules.maxDurationMs), maxMs: rules.maxDurationMs };
  const regions = speechRegions(speech, durationMs);
  const spans = chunksBetweenPauses(regions, speech, target).flatMap((chunk): Span[] => {
    // A chunk keeps silence at its ends; a cue begins and ends with the speech in it.
    const own = regions.filter((region) => overlapMs(region, chunk) > 0);
    const [first, last] = [own[0], own.at(-1)];
    if (first === undefined || last === undefined) return [];
    return [toSpan({ startMs: Math.max(chunk.startMs, first.startMs), endMs: Math.min(chunk.endMs, last.endMs) })];
  });
  const cues = spans.map((span, at) => {
    const latestMs = (spans[at + 1]?.startMs ?? durationMs + rules.minGapMs) - rules.minGapMs;
    const wantedMs = Math.max(span.endMs, span.startMs + rules.minDurationMs);
    return makeCue({
      id: mint(),
      startMs: span.startMs,
      endMs: Math.max(span.startMs + 100, Math.min(wantedMs, latestMs)),
      wordIds: []
    });
  });
  return makeTrack({ id, recordingId, language, title, rules, names, words: [], cues });
}

/** The words of a run as they are written; `to`: behind the last heard word that each is made of. */
function writtenRun(
  run: readonly HeardWord[],
  { writing, turns }: Pick<DraftManner, 'writing' | 'turns'>,
  mint: () => string
): { readonly word: Word; readonly to: number }[] {
  const changes = voiceChanges(run, turns);
  const told = run.map((word, at) => (changes[at] ? { ...word, endOdds: Number.POSITIVE_INFINITY } : word));
  const written =
    writing === null ? told.map((word, at) => ({ ...word, from: at, to: at + 1 })) : writeEnglish(told, writing);
  return written.map(({ text, startMs, endMs, from, to }) => ({
    to,
    word: makeWord({
      ...{ id: mint(), text, startMs, endMs, spaceBefore: run[from]!.spaceBefore ?? true },
      timing: 'heard',
      confidence: Math.min(...run.slice(from, to).map((word) => word.confidence)),
      alternatives: to - from === 1 ? run[from]!.alternatives : []
    })
  }));
}

function holeOf({ startMs, endMs }: Span, mint: () => string): Word {
  const text = `[not heard, ${formatClock(startMs)}–${formatClock(endMs)}]`;
  return makeWord({
    ...{ id: mint(), text, startMs, endMs, timing: 'heard', confidence: 0 },
    ...{ kind: 'hole', shown: false, startsParagraph: true }
  });
}

/** Starts never decrease: chunks that meet may give the same word's edge twice. */
function keepOrder(words: readonly Word[]): readonly Word[] {
  let leastMs = 0;
  return words.map((word) => {
    leastMs = Math.max(leastMs, word.startMs);
    return word.startMs === leastMs
      ? word
      : { ...word, ...toSpan({ startMs: leastMs, endMs: Math.max(leastMs, word.endMs) }) };
  });
}

/** A recogniser's dictionary word as it is written: variant numbers off, the first person's capital on; `null` for what is no word. */
export function wordFromDictionary(entry: string): string | null {
  const text = entry.replace(/\(\d+\)$/, '');
  if (/^[<[+(]/.test(text) || text === '') return null;
  return text.replace(/^i(?=$|')/, 'I');
}
