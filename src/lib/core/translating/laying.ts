/**
 * Laying a translated sentence back on the cues that its source was spoken over: each gets a run of its words, in
 * proportion to what it has of the source, parted where the language parts itself, within what it has room for.
 */
import { endsWith, partingCost } from '../cueing';
import { lineLength } from '../track';
import { anchorsIn } from './anchors';

/** A cue's part of the sentence. */
export interface LayingPlace {
  /** How much of the whole is its own, in proportion to the others. */
  readonly share: number;
  /** Figures and names that belong in it. */
  readonly anchors: readonly string[];
  readonly room: Room;
}

/** A place that has so much of the source. */
export const placeOfSource = (source: string, room: Room): LayingPlace => ({
  share: source.length,
  anchors: anchorsIn(source),
  room
});

export interface Room {
  readonly maxLines: number;
  readonly maxCharsPerLine: number;
  /** What can be read while it stands. */
  readonly maxCharacters: number;
}

/** A word of the translation. */
export interface LaidToken {
  readonly text: string;
  readonly spaceBefore: boolean;
}

const PER_CHARACTER_OVER = 1000;
const EMPTY = 3000;
/** What a share costs that is longer or shorter than its source's by all of it. */
const OUT_OF_PROPORTION = 170;
const AT_SENTENCE_END = -60;
const AT_CLAUSE_END = -45;
const ANYWHERE = 60;
/** A figure or a name that stands in another cue than in the source. */
const ANCHOR_ELSEWHERE = 120;

/**
 * For each place, in order, where its run of words begins and ends (behind its last); the runs together are all words.
 * `language`: of the translation.
 */
export function layOnPlaces(
  tokens: readonly LaidToken[],
  places: readonly LayingPlace[],
  language: string
): readonly { readonly from: number; readonly to: number }[] {
  const lengthTo = [0];
  for (const [at, token] of tokens.entries())
    lengthTo.push(lengthTo[at]! + (at > 0 && token.spaceBefore ? 1 : 0) + lineLength(token.text, language));
  const whole = Math.max(1, lengthTo.at(-1)!);
  const shares = places.reduce((sum, { share }) => sum + share, 0);
  const rooms = roomsFor(places, whole);
  const allAnchors = new Set(places.flatMap(({ anchors }) => anchors));
  const tokenAnchors = tokens.map(({ text }) => anchorsIn(text).filter((anchor) => allAnchors.has(anchor)));

  const costOf = (place: number, from: number, to: number): number => {
    const { share, anchors } = places[place]!;
    const room = rooms[place]!;
    const ideal = (whole * share) / Math.max(1, shares);
    if (from === to) return EMPTY + ideal;
    const length = lengthTo[to]! - lengthTo[from]! - (from > 0 && tokens[from]!.spaceBefore ? 1 : 0);
    const over = Math.max(0, length - room.maxCharacters) + overLines(tokens.slice(from, to), room, language);
    const off = Math.abs(length - ideal) / Math.max(ideal, whole / 8);
    const strange = tokenAnchors
      .slice(from, to)
      .flat()
      .filter((anchor) => !anchors.includes(anchor)).length;
    return over * PER_CHARACTER_OVER + off * off * OUT_OF_PROPORTION + strange * ANCHOR_ELSEWHERE;
  };
  const breakCost = (at: number): number => {
    if (at === 0 || at === tokens.length) return 0;
    const end = endsWith(tokens[at - 1]!.text);
    if (end === 'sentence') return AT_SENTENCE_END;
    return end === 'clause' ? AT_CLAUSE_END : ANYWHERE + partingCost(tokens, at - 1, language);
  };

  const count = tokens.length;
  let least = new Float64Array(count + 1).fill(Number.POSITIVE_INFINITY);
  least[0] = 0;
  const cameFrom: Int32Array[] = [];
  for (let place = 0; place < places.length; place++) {
    const next = new Float64Array(count + 1).fill(Number.POSITIVE_INFINITY);
    const from = new Int32Array(count + 1);
    const isLast = place === places.length - 1;
    for (let end = isLast ? count : 0; end <= count; end++) {
      for (let begin = 0; begin <= end; begin++) {
        if (least[begin] === Number.POSITIVE_INFINITY) continue;
        const cost = least[begin]! + costOf(place, begin, end) + (isLast ? 0 : breakCost(end));
        if (cost >= next[end]!) continue;
        next[end] = cost;
        from[end] = begin;
      }
    }
    cameFrom.push(from);
    least = next;
  }
  const runs: { from: number; to: number }[] = [];
  let to = count;
  for (let place = places.length - 1; place >= 0; place--) {
    const from = cameFrom[place]![to]!;
    runs.unshift({ from, to });
    to = from;
  }
  return runs;
}

/** Words that are broken over lines fill so much of them. */
const FILLED = 0.9;

/**
 * The room of each place. Where all of it together is too small for the words, each is larger by as much: what cannot be
 * kept must not be kept by the worst of breaks.
 */
function roomsFor(places: readonly LayingPlace[], whole: number): readonly Room[] {
  const sumOf = (sizeOf: (room: Room) => number): number => places.reduce((sum, { room }) => sum + sizeOf(room), 0);
  const read = sumOf(({ maxCharacters }) => maxCharacters);
  const set = sumOf(({ maxLines, maxCharsPerLine }) => maxLines * maxCharsPerLine * FILLED);
  const [byReading, byLines] = [read, set].map((room) => Math.max(1, whole / (FILLED * Math.max(1, room)))) as [
    number,
    number
  ];
  return places.map(({ room: { maxLines, maxCharsPerLine, maxCharacters } }) => ({
    maxLines,
    maxCharsPerLine: whole <= set ? maxCharsPerLine : Math.ceil(maxCharsPerLine * byLines),
    maxCharacters: whole <= read ? maxCharacters : Math.ceil(maxCharacters * byReading)
  }));
}

/** Characters by which words are longer than the lines that they have. */
function overLines(tokens: readonly LaidToken[], { maxLines, maxCharsPerLine }: Room, language: string): number {
  let over = 0;
  let lines = 1;
  let length = 0;
  for (const { text, spaceBefore } of tokens) {
    const own = lineLength(text, language);
    const longer = length === 0 ? own : length + (spaceBefore ? 1 : 0) + own;
    if (longer <= maxCharsPerLine || lines === maxLines) length = longer;
    else {
      lines++;
      length = own;
    }
    if (length > maxCharsPerLine) {
      over += length - maxCharsPerLine;
      length = maxCharsPerLine;
    }
  }
  return over;
}
