/** What is said while thinking: sounds, words said twice, sentences begun anew, phrases of a list. */
import { CepstralAnalyser, CEPSTRA, FRAME_STEP, logPitch, SAMPLES_A_MS } from '../audio';
import { bareWord, isHesitation } from '../english';
import type { WordId } from '../id';
import { toSpan, type Span } from '../time';
import { isSameLanguage, joinWords, type Track, type Word } from '../track';

export const HESITATION_KINDS = ['sound', 'repeat', 'false start', 'phrase'] as const;
export type HesitationKind = (typeof HESITATION_KINDS)[number];

export interface Hesitation {
  readonly kind: HesitationKind;
  /** Neighbours, in order; one at least. */
  readonly wordIds: readonly WordId[];
  readonly text: string;
  readonly startMs: number;
  readonly endMs: number;
}

export const USUAL_PHRASES: readonly string[] = ['you know', 'I mean', 'sort of', 'kind of'];

/** So many words said twice are a repeat, and no more: beyond that somebody tells it again. */
const LONGEST_REPEAT = 4;
/** Said again after a longer pause, it is meant. */
const LONGEST_PAUSE_MS = 1500;
/** Said twice on purpose. */
const MEANT = new Set(
  'very really so no yes yeah that had much more many long far never bye ha ding dong tick tock knock well there now please out'.split(
    ' '
  )
);
const CUT_OFF = /[\p{L}]+[-–—]$/u;

/** In order, none sharing a word with another. Sounds are known of English; phrases are the caller's own. */
export function findHesitations(track: Track, phrases: readonly string[] = USUAL_PHRASES): Hesitation[] {
  const words = track.words.filter(({ kind }) => kind === 'speech');
  const isEnglish = isSameLanguage(track.language, 'en');
  const found: Hesitation[] = [];
  const taken = new Set<Word>();
  const take = (kind: HesitationKind, run: readonly Word[]): void => {
    if (run.some((word) => taken.has(word))) return;
    for (const word of run) taken.add(word);
    found.push({
      kind,
      wordIds: run.map(({ id }) => id),
      text: joinWords(run),
      startMs: run[0]!.startMs,
      endMs: run.at(-1)!.endMs
    });
  };
  if (isEnglish) for (const word of words) if (isHesitation(word.text)) take('sound', [word]);
  const spoken = words.filter((word) => !taken.has(word));
  for (const [kind, run] of repeatsIn(spoken)) take(kind, run);
  for (const run of phrasesIn(spoken, phrases)) take('phrase', run);
  return found.sort((a, b) => a.startMs - b.startMs);
}

function* repeatsIn(words: readonly Word[]): Generator<readonly [HesitationKind, readonly Word[]]> {
  const bare = words.map(({ text }) => bareWord(text));
  for (let at = 0; at < words.length; at++) {
    const word = words[at]!;
    const next = words[at + 1];
    // `th- the`
    if (CUT_OFF.test(word.text) && next !== undefined && bare[at] !== '' && bare[at + 1]!.startsWith(bare[at]!)) {
      yield ['false start', [word]];
      continue;
    }
    const length = repeatedAt(words, bare, at);
    if (length === 0) continue;
    yield ['repeat', words.slice(at, at + length)];
    at += length - 1;
  }
}

/** How many words from here on are said again at once; 0 for none. */
function repeatedAt(words: readonly Word[], bare: readonly string[], at: number): number {
  for (let length = LONGEST_REPEAT; length > 0; length--) {
    const run = words.slice(at, at + length);
    const again = words.slice(at + length, at + 2 * length);
    const isSame =
      again.length === length &&
      run.every((_, step) => bare[at + step] !== '' && bare[at + step] === bare[at + length + step]);
    if (!isSame) continue;
    const isOneVoice = [...run, ...again].every(({ speakerId }) => speakerId === run[0]!.speakerId);
    const isAtOnce = again[0]!.startMs - run.at(-1)!.endMs <= LONGEST_PAUSE_MS;
    const endsSentence = run.some(({ text }) => /[.?!…]["”’»)\]]*$/.test(text));
    const isMeant = length === 1 && (MEANT.has(bare[at]!) || /^\p{N}+$/u.test(bare[at]!));
    if (isOneVoice && isAtOnce && !endsSentence && !isMeant) return length;
  }
  return 0;
}

function* phrasesIn(words: readonly Word[], phrases: readonly string[]): Generator<readonly Word[]> {
  const wanted = phrases
    .map((phrase) =>
      phrase
        .split(/\s+/u)
        .map(bareWord)
        .filter((one) => one !== '')
    )
    .filter((phrase) => phrase.length > 0)
    .sort((a, b) => b.length - a.length);
  const bare = words.map(({ text }) => bareWord(text));
  for (let at = 0; at < words.length; at++) {
    const phrase = wanted.find((one) => one.every((part, step) => bare[at + step] === part));
    if (phrase === undefined) continue;
    yield words.slice(at, at + phrase.length);
    at += phrase.length - 1;
  }
}

const SHAPE = { leastMs: 180, mostMs: 1200, apartMs: 60, voicedShare: 0.75, mostPitchStep: 0.05, mostChange: 0.55 };

/** Stretches of speech in which no word was heard, long enough to be a hesitation. */
export function untoldSpeech(track: Pick<Track, 'words'>, speech: readonly Span[]): Span[] {
  const words = track.words.toSorted((a, b) => a.startMs - b.startMs);
  return speech.flatMap((region) => {
    const free: Span[] = [];
    let fromMs: number = region.startMs;
    const close = (toMs: number): void => {
      const [startMs, endMs] = [fromMs, toMs];
      if (endMs - startMs >= SHAPE.leastMs && endMs - startMs <= SHAPE.mostMs) free.push(toSpan({ startMs, endMs }));
    };
    for (const word of words) {
      if (word.endMs <= region.startMs || word.startMs >= region.endMs) continue;
      close(word.startMs - SHAPE.apartMs);
      fromMs = Math.max(fromMs, word.endMs + SHAPE.apartMs);
    }
    close(region.endMs);
    return free;
  });
}

/** Whether a sound of 16-bit mono at 16 kHz is one long vowel: voiced, of steady pitch and colour. */
export function isSteadyVoice(samples: Int16Array): boolean {
  const frames = Math.floor(samples.length / FRAME_STEP) - 4;
  if (frames < SHAPE.leastMs / 10 / 2) return false;
  const analyser = new CepstralAnalyser();
  const loudest = loudnessOf(samples);
  const pitches: number[] = [];
  const colours: Float64Array[] = [];
  let heard = 0;
  for (let frame = 0; frame < frames; frame++) {
    const from = frame * FRAME_STEP;
    // What is quiet before and after it does not count.
    if (loudnessOf(samples.subarray(from, from + FRAME_STEP)) < loudest / 4) continue;
    heard++;
    const pitch = logPitch(samples, from);
    if (pitch === null) continue;
    pitches.push(pitch);
    const colour = new Float64Array(CEPSTRA);
    analyser.cepstra(samples, from, colour);
    colours.push(colour);
  }
  if (heard * FRAME_STEP < (SHAPE.leastMs / 2) * SAMPLES_A_MS || pitches.length < heard * SHAPE.voicedShare)
    return false;
  const steps = pitches
    .slice(1)
    .map((pitch, at) => Math.abs(pitch - pitches[at]!))
    .sort((a, b) => a - b);
  const pitchStep = steps[Math.floor(steps.length * 0.75)] ?? 1;
  const mean = new Float64Array(CEPSTRA);
  for (const colour of colours) colour.forEach((value, row) => (mean[row] = mean[row]! + value / colours.length));
  const change = Math.sqrt(
    colours.reduce((sum, colour) => sum + colour.reduce((all, value, row) => all + (value - mean[row]!) ** 2, 0), 0) /
      Math.max(1, colours.length * CEPSTRA)
  );
  return pitchStep <= SHAPE.mostPitchStep && change <= SHAPE.mostChange;
}

const loudnessOf = (samples: Int16Array): number =>
  Math.sqrt(samples.reduce((sum, sample) => sum + sample * sample, 0) / Math.max(1, samples.length));
