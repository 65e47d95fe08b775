/** Words of what a model has read of a stretch: from its pieces with their times, or spread over the speech in it. */
import { clamp, overlapMs, type ReckonedSpan, type Span, toSpan } from '../time';
import type { HeardWord } from '../heard-word';
import { escapeMarkup, spokenLength, tokenize } from '../track';

/** What the library says of a stretch of sound. */
export interface ReadStretch {
  readonly text: string;
  readonly pieces: readonly string[];
  /** Where each piece begins, from the stretch's start; empty where the model has no times. */
  readonly startsMs: readonly number[];
  /** Natural logarithms of how likely each piece is; empty where the model does not say. */
  readonly logProbabilities: readonly number[];
}

/** A word is doubted where its model says so: others say nothing. */
const UNKNOWN_CONFIDENCE = 1;
const SHORTEST_MS = 40;

interface TimedPiece {
  readonly startMs: number;
  readonly logProbability: number | null;
}

/** `stretch` in time of the recording, `regions` of speech in it; `language` parts words in scripts without spaces. */
export function wordsOfStretch(
  { text, pieces, startsMs, logProbabilities }: ReadStretch,
  {
    stretch,
    regions,
    language
  }: { readonly stretch: Span; readonly regions: readonly Span[]; readonly language: string }
): readonly HeardWord[] {
  const said = pieces.map((piece) => piece.replaceAll('▁', ' ')).join('');
  const isTimed = startsMs.length > 0 && startsMs.length === pieces.length && bare(said) === bare(text);
  if (!isTimed) return spreadWords(text, { stretch, regions, language });
  const at: TimedPiece[] = [];
  pieces.forEach((piece, place) => {
    const timed = { startMs: stretch.startMs + startsMs[place]!, logProbability: logProbabilities[place] ?? null };
    for (let count = bare(piece).length; count > 0; count--) at.push(timed);
  });
  let from = 0;
  const words = tokenize(escapeMarkup(text), language).map((token) => {
    const own = at.slice(from, (from += bare(token.text).length));
    return { ...token, own };
  });
  return words.flatMap(({ text: word, spaceBefore, own }, place): HeardWord[] => {
    if (own.length === 0) return [];
    const startMs = clamp(own[0]!.startMs, stretch.startMs, stretch.endMs - SHORTEST_MS);
    const nextMs = words.slice(place + 1).find((next) => next.own.length > 0)?.own[0]!.startMs ?? stretch.endMs;
    const endMs = clamp(endOfSpeech(startMs, nextMs, regions), startMs + SHORTEST_MS, stretch.endMs);
    return [heard(word, spaceBefore, { startMs, endMs }, confidenceOf(own))];
  });
}

const bare = (text: string): string => text.replace(/[\s▁]/gu, '');

/** A word goes on to the next one, or as far as somebody speaks. */
function endOfSpeech(startMs: number, nextMs: number, regions: readonly Span[]): number {
  const region = regions.find((one) => one.endMs > startMs);
  return region === undefined || region.startMs > nextMs ? nextMs : Math.min(nextMs, region.endMs);
}

/** The mean over its pieces. */
function confidenceOf(pieces: readonly TimedPiece[]): number {
  const known = [...new Set(pieces)].flatMap(({ logProbability }) => logProbability ?? []);
  if (known.length === 0) return UNKNOWN_CONFIDENCE;
  return clamp(Math.exp(known.reduce((sum, one) => sum + one, 0) / known.length), 0, 1);
}

/** Words without times share the speech by how long they are to say. */
function spreadWords(
  text: string,
  {
    stretch,
    regions,
    language
  }: { readonly stretch: Span; readonly regions: readonly Span[]; readonly language: string }
): readonly HeardWord[] {
  const tokens = tokenize(escapeMarkup(text), language);
  const inside = regions
    .filter((region) => overlapMs(region, stretch) > 0)
    .map(({ startMs, endMs }) => ({
      startMs: Math.max(startMs, stretch.startMs),
      endMs: Math.min(endMs, stretch.endMs)
    }));
  const speech: readonly ReckonedSpan[] = inside.length > 0 ? inside : [stretch];
  const spokenMs = speech.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);
  const lengths = tokens.map((token) => Math.max(1, spokenLength(token.text)));
  const whole = lengths.reduce((sum, one) => sum + one, 0);
  let said = 0;
  return tokens.map(({ text: word, spaceBefore }, place) => {
    const startMs = msOfSpeech((said / whole) * spokenMs, speech, 'start');
    said += lengths[place]!;
    const endMs = msOfSpeech((said / whole) * spokenMs, speech, 'end');
    return heard(word, spaceBefore, { startMs, endMs: Math.max(startMs + 1, endMs) }, UNKNOWN_CONFIDENCE);
  });
}

/** The time at which so much was spoken; between two regions it is the end of one and the start of the next. */
function msOfSpeech(spokenMs: number, regions: readonly ReckonedSpan[], edge: 'start' | 'end'): number {
  let left = spokenMs;
  for (const { startMs, endMs } of regions) {
    const length = endMs - startMs;
    if (left < length || (edge === 'end' && left <= length + 1e-6)) return startMs + Math.min(left, length);
    left -= length;
  }
  return regions.at(-1)!.endMs;
}

const heard = (text: string, spaceBefore: boolean, span: ReckonedSpan, confidence: number): HeardWord => ({
  text,
  ...toSpan(span),
  confidence,
  alternatives: [],
  endOdds: null,
  ...(!spaceBefore && { spaceBefore })
});
