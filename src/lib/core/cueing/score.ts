/**
 * The cost of a cue, which the breaker minimises. Whole numbers, so that equal breaks compare equal. Broken rules cost
 * most; then come parted phrases, pauses, length and balance.
 */
import { lineLength, signLength, type Rules, type Track, type Word } from '../track';
import { insideNames } from './names';
import { endsWith, partingCost } from './syntax';

/** The words of a passage with what the scores need, counted once. */
export interface Passage {
  readonly words: readonly Word[];
  readonly rules: Rules;
  /** Characters of the words `0..at`, with the spaces before them. */
  readonly lengthTo: Int32Array;
  readonly spaceBefore: Uint8Array;
  /** Cost of ending a cue, and of ending a line, after the word; the last word's is 0. */
  readonly cueSeam: Int32Array;
  readonly lineSeam: Int32Array;
  /** Cost, summed over `0..at`, of having no break after the words. */
  readonly insideTo: Int32Array;
  /** 1 where a cue must end after the word: another speaker or a sound follows, or one who talks over it. */
  readonly mustBreak: Uint8Array;
  /** Where the next voice begins behind each word; the number of words where none does. */
  readonly nextTurn: Int32Array;
  /** Characters that each word's voice begins its line with, in a cue that several share. */
  readonly signLengths: Int32Array;
}

/** A cue that several share holds whole turns, or it is hard to follow. */
const PART_OF_A_TURN = 150;
/** What a turn with others in its cue costs more than one of its own, where it is a long one. */
const LONG_TURN_MS = 2000;

/**
 * Broken limits cost by how far they are passed and never less in one cue than shared out over several, so that a break
 * which keeps them is always the cheaper one.
 */
const PER_CHARACTER_OVER = 10_000_000;
const PER_LINE_OVER = 100_000_000;
const PER_MS_OVER = 20_000;
const MUST_BREAK = 10_000_000_000;

/** More than anything that is only unpleasant, less than a broken rule. */
const PARTED_NAME = 10_000;

/** What words are broken by. */
export type Setting = Pick<Track, 'rules' | 'language' | 'speakers' | 'names'>;

export function preparePassage(words: readonly Word[], { rules, language, speakers, names }: Setting): Passage {
  const count = words.length;
  const lengthTo = new Int32Array(count + 1);
  const spaceBefore = new Uint8Array(count);
  const cueSeam = new Int32Array(count);
  const lineSeam = new Int32Array(count);
  const insideTo = new Int32Array(count + 1);
  const mustBreak = new Uint8Array(count);
  const nextTurn = new Int32Array(count);
  const isInName = insideNames(words, [...names, ...speakers.map(({ name }) => name)]);
  words.forEach((word, at) => {
    spaceBefore[at] = at > 0 && word.spaceBefore ? 1 : 0;
    lengthTo[at + 1] = lengthTo[at]! + spaceBefore[at] + lineLength(word.text, language);
    const next = words[at + 1];
    let inside = 0;
    if (next !== undefined) {
      const pauseMs = Math.max(0, next.startMs - word.endMs);
      const end = endsWith(word.text);
      const parting = partingCost(words, at, language);
      const bySign = end === 'sentence' ? 0 : end === 'clause' ? 30 : 90;
      const byPause = Math.min(60, Math.floor(pauseMs / 8));
      cueSeam[at] =
        Math.max(0, bySign - byPause) +
        (pauseMs > 400 ? Math.floor(Math.max(0, parting) / 2) : parting > 0 ? parting : Math.max(parting, -bySign));
      lineSeam[at] = Math.max(0, (end === 'nothing' ? 30 : 0) + parting);
      if (isInName[at] === 1) {
        cueSeam[at] += PARTED_NAME;
        lineSeam[at] += PARTED_NAME;
      }
      inside = (end === 'sentence' ? 18 : 0) + Math.floor(Math.max(0, pauseMs - 500) / 6);
      const mayShare = rules.sharedCues !== 'never' && word.speakerId !== null && next.speakerId !== null;
      const isOtherVoice = word.speakerId !== next.speakerId && !mayShare;
      const isSound = word.kind === 'sound' || next.kind === 'sound';
      // Within a cue starts do not decrease.
      mustBreak[at] = isOtherVoice || isSound || next.startMs < word.startMs ? 1 : 0;
    }
    insideTo[at + 1] = insideTo[at]! + inside;
  });
  for (let at = count - 1; at >= 0; at--) {
    const next = words[at + 1];
    const isTurn = next !== undefined && isTurnBetween(words[at]!, next);
    nextTurn[at] = next === undefined || isTurn ? at + 1 : nextTurn[at + 1]!;
  }
  const voices = new Map(speakers.map(({ id, name }) => [id, name]));
  const signLengths = Int32Array.from(words, ({ speakerId }) => signLength(rules, voices.get(speakerId ?? '')));
  return { words, rules, lengthTo, spaceBefore, cueSeam, lineSeam, insideTo, mustBreak, nextTurn, signLengths };
}

const isTurnBetween = (word: Word, next: Word): boolean =>
  word.speakerId !== null && next.speakerId !== null && word.speakerId !== next.speakerId;

/** Whether more than one speaks in the words `from..to`. */
export const isShared = (passage: Passage, from: number, to: number): boolean => passage.nextTurn[from]! <= to;

/** Characters of a line that begins at a word of a shared cue: of the text, and of the sign where a voice begins. */
export const signAt = ({ words, signLengths }: Passage, from: number, lineFrom: number): number =>
  lineFrom === from || isTurnBetween(words[lineFrom - 1]!, words[lineFrom]!) ? signLengths[lineFrom]! : 0;

/** Characters of the words `from..to`, both included, on one line. */
export const textLength = (passage: Passage, from: number, to: number): number =>
  passage.lengthTo[to + 1]! - passage.lengthTo[from]! - passage.spaceBefore[from]!;

/** Characters of the cue of the words `from..to` as it is shown. */
export function shownLength(passage: Passage, from: number, to: number): number {
  let length = textLength(passage, from, to);
  if (!isShared(passage, from, to)) return length;
  for (let at = from; at <= to; at = passage.nextTurn[at]!) length += signAt(passage, from, at);
  return length;
}

/** What setting the words `from..to` in lines costs at least. */
export const leastLineCost = (passage: Passage, from: number, to: number): number =>
  Math.max(0, textLength(passage, from, to) - passage.rules.maxLines * (passage.rules.maxCharsPerLine + 1)) *
  PER_CHARACTER_OVER;

/** Cost of a line of this length below one of the length `before`; -1 where it is the first. */
export function scoreLine(passage: Passage, before: number, length: number): number {
  const over = Math.max(0, length - passage.rules.maxCharsPerLine) * PER_CHARACTER_OVER;
  // Lines of like length read best, and the shorter one belongs on top.
  return before < 0 ? over : over + Math.abs(length - before) + (before > length ? 6 : 0);
}

/** Cost of ending a line, but not the cue, after the word: nothing where another voice goes on. */
export const scoreLineEnd = (passage: Passage, at: number): number =>
  passage.nextTurn[at] === at + 1 ? 0 : 40 + passage.lineSeam[at]!;

/** Cost of setting the words `from..to` in lines that begin at `starts`. */
export function scoreLines(passage: Passage, from: number, to: number, starts: readonly number[]): number {
  let cost = Math.max(0, starts.length + 1 - passage.rules.maxLines) * PER_LINE_OVER;
  let before = -1;
  let lineFrom = from;
  const hasSigns = isShared(passage, from, to);
  for (const start of [...starts, to + 1]) {
    // A line holds one voice.
    if (passage.nextTurn[lineFrom]! < start) return Number.POSITIVE_INFINITY;
    const length = textLength(passage, lineFrom, start - 1) + (hasSigns ? signAt(passage, from, lineFrom) : 0);
    cost += scoreLine(passage, before, length) + (start <= to ? scoreLineEnd(passage, start - 1) : 0);
    before = length;
    lineFrom = start;
  }
  return cost;
}

/** Milliseconds the cue of the words `from..to` may stand: until the gap before the next word, or the longest duration. */
export function availableMs(passage: Passage, from: number, to: number): number {
  const { words, rules } = passage;
  const startMs = words[from]!.startMs;
  const next = words[to + 1];
  // A next word that starts before this cue is somebody talking over it: it bounds nothing.
  const untilNext =
    next === undefined || next.startMs <= startMs ? rules.maxDurationMs : next.startMs - rules.minGapMs - startMs;
  return Math.max(1, Math.min(rules.maxDurationMs, untilNext));
}

/** Cost of making the words `from..to` a cue, without its lines. */
export function scoreCue(passage: Passage, from: number, to: number): number {
  const { words, rules, insideTo, mustBreak, cueSeam } = passage;
  let cost = 60 + (insideTo[to]! - insideTo[from]!) + cueSeam[to]!;
  for (let at = from; at < to; at++) cost += mustBreak[at]! * MUST_BREAK;
  if (rules.oneWordPerCue) cost += (to - from) * MUST_BREAK;

  const spokenMs = words[to]!.endMs - words[from]!.startMs;
  if (spokenMs > rules.maxDurationMs) cost += (spokenMs - rules.maxDurationMs) * PER_MS_OVER;
  const available = availableMs(passage, from, to);
  const characters = shownLength(passage, from, to);
  const neededMs = Math.ceil((characters * 1000) / rules.maxCharsPerSecond);
  if (neededMs > available) cost += 20_000 + Math.min(20_000, (neededMs - available) * 4);
  if (available < rules.minDurationMs) cost += 20_000 + Math.min(20_000, (rules.minDurationMs - available) * 4);
  if (characters < 14) cost += (14 - characters) * 3;
  if (isShared(passage, from, to)) cost += scoreSharing(passage, from, to);
  return cost;
}

/** What it costs that several speak in a cue: whole short turns cost nothing. */
function scoreSharing({ words, nextTurn }: Passage, from: number, to: number): number {
  let cost = 0;
  const isTurnStart = from === 0 || isTurnBetween(words[from - 1]!, words[from]!);
  const isTurnEnd = nextTurn[to] === to + 1;
  if (!isTurnStart && endsWith(words[from - 1]!.text) !== 'sentence') cost += PART_OF_A_TURN;
  if (!isTurnEnd && endsWith(words[to]!.text) !== 'sentence') cost += PART_OF_A_TURN;
  for (let at = from; at <= to; at = nextTurn[at]!) {
    const last = Math.min(to, nextTurn[at]! - 1);
    cost += Math.floor(Math.max(0, words[last]!.endMs - words[at]!.startMs - LONG_TURN_MS) / 10);
  }
  return cost;
}
