/** From what a recogniser heard, chunk by chunk, to the first draft of a track. */
import { recue } from '../cueing';
import { startParagraphs } from '../formats';
import { cutAtPauses, speechRegions, type SpeechMap } from '../audio';
import { formatClock, overlapMs, type Ms, type Span } from '../time';
import { makeCue, makeTrack, makeWord, type Rules, type Track, type Word } from '../track';

/** A word as it was heard, in time of the recording. */
export interface HeardWord extends Span {
  readonly text: string;
  /** 0 to 1. */
  readonly confidence: number;
  readonly alternatives: readonly string[];
}

/** What became of a chunk: the words in it, or `null` where the engine failed on it more than once. */
export interface HeardChunk extends Span {
  readonly words: readonly HeardWord[] | null;
}

export const SENTENCE_PAUSE_MS: Ms = 550;

export interface DraftOptions {
  readonly trackId: string;
  readonly recordingId: string;
  readonly language: string;
  readonly title: string;
  readonly rules: Rules;
  readonly mint: () => string;
}

/** A track of all chunks: words with sentence capitals and full stops from the pauses, holes marked, cues made. */
export function draftTrack(chunks: readonly HeardChunk[], options: DraftOptions): Track {
  const inOrder = [...chunks].sort((a, b) => a.startMs - b.startMs);
  const words = startParagraphs(inOrder.flatMap((chunk, at) => wordsOfChunk(chunk, inOrder[at + 1], options.mint)));
  const { trackId: id, recordingId, language, title, rules, mint } = options;
  const track = makeTrack({ id, recordingId, language, title, rules, words: keepOrder(words), cues: [] });
  return { ...track, cues: recue(track, rules, mint) };
}

/**
 * A track of empty cues on the speech, to be typed into: cut at pauses, each within the rules' shortest and longest as
 * far as the speech allows, none closer to the next than the least gap.
 */
export function timingTrack(speech: SpeechMap, durationMs: Ms, options: DraftOptions): Track {
  const { trackId: id, recordingId, language, title, rules, mint } = options;
  const target = { targetMs: Math.min(3500, rules.maxDurationMs), maxMs: rules.maxDurationMs };
  const regions = speechRegions(speech, durationMs);
  const spans = cutAtPauses(regions, speech, target).flatMap((chunk): Span[] => {
    // A chunk keeps silence at its ends; a cue begins and ends with the speech in it.
    const own = regions.filter((region) => overlapMs(region, chunk) > 0);
    const [first, last] = [own[0], own.at(-1)];
    if (first === undefined || last === undefined) return [];
    return [{ startMs: Math.max(chunk.startMs, first.startMs), endMs: Math.min(chunk.endMs, last.endMs) }];
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
  return makeTrack({ id, recordingId, language, title, rules, words: [], cues });
}

function wordsOfChunk(chunk: HeardChunk, next: HeardChunk | undefined, mint: () => string): Word[] {
  if (chunk.words === null) {
    const text = `[not heard, ${formatClock(chunk.startMs)}–${formatClock(chunk.endMs)}]`;
    return [
      makeWord({
        id: mint(),
        text,
        startMs: chunk.startMs,
        endMs: chunk.endMs,
        timing: 'heard',
        confidence: 0,
        kind: 'hole',
        shown: false,
        startsParagraph: true
      })
    ];
  }
  const heard = chunk.words;
  const nextStartMs = next?.words?.[0]?.startMs ?? Number.POSITIVE_INFINITY;
  let startsSentence = true;
  return heard.map((word, at) => {
    const pauseMs = (heard[at + 1]?.startMs ?? nextStartMs) - word.endMs;
    const endsSentence = pauseMs >= SENTENCE_PAUSE_MS;
    const text = (startsSentence ? capitalise(word.text) : word.text) + (endsSentence ? '.' : '');
    startsSentence = endsSentence;
    return makeWord({
      id: mint(),
      text,
      startMs: word.startMs,
      endMs: word.endMs,
      timing: 'heard',
      confidence: word.confidence,
      alternatives: word.alternatives
    });
  });
}

const capitalise = (text: string): string => text.replace(/\p{L}/u, (letter) => letter.toUpperCase());

/** Starts never decrease: chunks that meet may give the same word's edge twice. */
function keepOrder(words: readonly Word[]): readonly Word[] {
  let leastMs = 0;
  return words.map((word) => {
    leastMs = Math.max(leastMs, word.startMs);
    return word.startMs === leastMs ? word : { ...word, startMs: leastMs, endMs: Math.max(leastMs, word.endMs) };
  });
}

/** A recogniser's dictionary word as it is written: variant numbers off, the first person's capital on; `null` for what is no word. */
export function wordFromDictionary(entry: string): string | null {
  const text = entry.replace(/\(\d+\)$/, '');
  if (/^[<[+]/.test(text) || text === '') return null;
  return text.replace(/^i(?=$|')/, 'I');
}
