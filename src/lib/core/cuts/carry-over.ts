/** A track of one cut of a recording, laid on the next cut of it. */
import { firstWhere } from '../bisect';
import type { CueId, WordId } from '../id';
import { clamp, lastStartingBy, type Ms, overlapMs, type Span, toSpan, wholeMs } from '../time';
import { compareCues, joinWords, lookUp, shownWordsOfAll, type Cue, type Track, type Word } from '../track';
import type { CutComparison, SharedStretch } from './compare';

/** What deserves a look in a track that was carried over; times are of the new cut. */
export interface CutRemark {
  /**
   * `left out`: a cue of sound that is gone, which stood here. `shortened`: words or time of a cue are gone with their
   * sound. `parted`: a cue that stands in several places now. `new sound`: nothing of the track is here yet.
   */
  readonly kind: 'left out' | 'shortened' | 'parted' | 'new sound';
  readonly startMs: Ms;
  readonly endMs: Ms;
  readonly cueIds: readonly CueId[];
  /** What is gone; of `parted` what the cue says. */
  readonly text: string;
}

export interface CarriedOver {
  readonly words: readonly Word[];
  readonly cues: readonly Cue[];
  /** Made when they are asked for, in order. */
  readonly remarks: () => readonly CutRemark[];
}

/** A cue that loses less time than this, and no words, gets no remark. */
const LEAST_TOLD_MS = 250;
/** New sound shorter than this holds no cue. */
const LEAST_NEW_MS = 400;
/** Parts of a cue on stretches that follow one another so closely are one cue. */
const JOINED_MS = 300;

/** A part of a cue on one stretch. */
interface Part {
  /** Its cue's place in the old track. */
  readonly cueAt: number;
  readonly cue: Cue;
  readonly words: readonly Word[];
  /** Places in the old track of what these were made of, in the same order. */
  readonly from: readonly number[];
  readonly stretch: SharedStretch;
  /** Its place among the stretches. */
  readonly at: number;
}

/**
 * Words and cues go where their sound went, with everything they carry. What stands on several stretches keeps its ids on
 * the first and gets minted ones on the others; what stands on none is left out, with a remark.
 */
export function carryOver(
  track: Track,
  { shared, added }: Pick<CutComparison, 'shared' | 'added'>,
  mint: () => string
): CarriedOver {
  const layout = layOut(track);
  const { cuesOn, wordsOn } = layout;
  const ids = {
    ofWord: idsOnce<WordId>(track.words, mint),
    ofCue: idsOnce<CueId>(track.cues, mint)
  };
  const parts: Part[] = [];
  const loose: Word[] = [];
  const placed = new Uint8Array(track.words.length);
  /** The last stretch on which a cue that holds the word stands, counted from 1. */
  const heldOn = new Int32Array(track.words.length);
  /** The part of each cue that was made last, by its place in the list. */
  const lastPartOf = new Map<number, number>();
  shared.forEach((stretch, stretchAt) => {
    for (const cueAt of cuesOn(stretch)) {
      const at = lastPartOf.get(cueAt) ?? -1;
      const last = parts[at];
      const isGoingOn = last !== undefined && goesOn(last, stretch, stretchAt, track);
      const part = partOn(layout, cueAt, { stretch, at: stretchAt }, ids, isGoingOn ? last : null);
      if (isGoingOn) parts[at] = joinParts(last, part);
      else lastPartOf.set(cueAt, parts.push(part) - 1);
      heldOn.fill(stretchAt + 1, layout.wordsFrom[cueAt], layout.wordsFrom[cueAt]! + track.cues[cueAt]!.wordIds.length);
    }
    for (const at of wordsOn(stretch)) {
      placed[at] = 1;
      if (heldOn[at] !== stretchAt + 1) loose.push(moveWord(track.words[at]!, stretch, ids.ofWord(at)));
    }
  });
  parts.sort((a, b) => compareCues(a.cue, b.cue));
  return {
    words: inReadingOrder(parts, loose),
    cues: parts.map(({ cue }) => cue),
    remarks: () =>
      [
        ...remarksOnCues(layout, parts, shared, placed),
        ...added
          .filter(({ startMs, endMs }) => endMs - startMs >= LEAST_NEW_MS)
          .map((span) => ({ kind: 'new sound' as const, ...span, cueIds: [], text: '' }))
      ].sort((a, b) => a.startMs - b.startMs)
  };
}

/** Whether a cue goes on from one stretch to the next: the captions are one over a short pause, if they stand alone there. */
function goesOn(last: Part, stretch: SharedStretch, stretchAt: number, track: Track): boolean {
  const pauseMs = stretch.newMs - endOf(last.stretch);
  if (last.at !== stretchAt - 1 || pauseMs > JOINED_MS || isRepeat(last, stretch)) return false;
  return pauseMs <= 0 || !overlapsAnother(track, last.cueAt);
}

function overlapsAnother({ cues }: Track, at: number): boolean {
  const isOver = (other: Cue | undefined): boolean => other !== undefined && overlapMs(cues[at]!, other) > 0;
  return isOver(cues[at - 1]) || isOver(cues[at + 1]);
}

const endOf = ({ newMs, lengthMs }: SharedStretch): number => newMs + lengthMs;
const oldEndOf = ({ oldMs, lengthMs }: SharedStretch): number => oldMs + lengthMs;

/** The same sound once more, and not how it went on. */
const isRepeat = (part: Part, stretch: SharedStretch): boolean => stretch.oldMs < oldEndOf(part.stretch);

/** Of a described sound as much is enough. */
const LEAST_SOUND_MS = 500;

/** A word is where its middle is; a described sound wherever half of it is, or half a second. */
function isWordOn({ startMs, endMs, kind }: Word, stretch: SharedStretch): boolean {
  const middleMs = (startMs + endMs) / 2;
  if (middleMs >= stretch.oldMs && middleMs < oldEndOf(stretch)) return true;
  if (kind !== 'sound') return false;
  const hereMs = overlapMs({ startMs, endMs }, { startMs: stretch.oldMs, endMs: oldEndOf(stretch) });
  return hereMs > 0 && hereMs >= Math.min(LEAST_SOUND_MS, (endMs - startMs) / 2);
}

/** A cue lies on a stretch if one of its shown words does; without shown words, if half of its time does. */
function isOn(cue: Cue, shown: readonly Word[], stretch: SharedStretch): boolean {
  if (shown.length > 0) return shown.some((word) => isWordOn(word, stretch));
  const hereMs = overlapMs(cue, { startMs: stretch.oldMs, endMs: oldEndOf(stretch) });
  return hereMs * 2 >= cue.endMs - cue.startMs;
}

/** What stands where in a track. */
interface Layout {
  readonly track: Track;
  readonly shown: readonly (readonly Word[])[];
  /** Place of each cue's first word; the others follow it. */
  readonly wordsFrom: Int32Array;
  /** Places of what stands on a stretch, in order, found without a walk through the track. */
  readonly cuesOn: (stretch: SharedStretch) => number[];
  readonly wordsOn: (stretch: SharedStretch) => number[];
}

const layouts = new WeakMap<Track, Layout>();

/** Made once for a track, which is laid on one version of a trim after the other. */
function layOut(track: Track): Layout {
  const layout = layouts.get(track) ?? makeLayout(track);
  layouts.set(track, layout);
  return layout;
}

function makeLayout(track: Track): Layout {
  const shown = shownWordsOfAll(track);
  const { wordAt } = lookUp(track);
  const wordsFrom = Int32Array.from(track.cues, ({ wordIds }) => wordAt.get(wordIds[0] ?? '') ?? 0);
  const cueTimes = timesOf(track.cues);
  shown.forEach((words, at) => {
    for (const { startMs, endMs } of words) {
      if (startMs < cueTimes.from[at]!) cueTimes.from[at] = startMs;
      if (endMs > cueTimes.to[at]!) cueTimes.to[at] = endMs;
    }
  });
  const [cues, words] = [touching(cueTimes), touching(timesOf(track.words))];
  return {
    ...{ track, shown, wordsFrom },
    cuesOn: (stretch) => cues(stretch).filter((at) => isOn(track.cues[at]!, shown[at]!, stretch)),
    wordsOn: (stretch) => words(stretch).filter((at) => isWordOn(track.words[at]!, stretch))
  };
}

interface Times {
  readonly from: Float64Array;
  readonly to: Float64Array;
}
function timesOf(list: readonly Span[]): Times {
  const times = { from: new Float64Array(list.length), to: new Float64Array(list.length) };
  list.forEach(({ startMs, endMs }, at) => {
    times.from[at] = startMs;
    times.to[at] = endMs;
  });
  return times;
}

/** Places of those whose time touches a stretch, in order. */
function touching({ from, to }: Times): (stretch: SharedStretch) => number[] {
  const isSorted = from.every((ms, at) => at === 0 || ms >= from[at - 1]!);
  const places = Int32Array.from(from.keys());
  if (!isSorted) places.sort((a, b) => from[a]! - from[b]!);
  const lastEnds = new Float64Array(from.length);
  places.forEach((at, rank) => (lastEnds[rank] = Math.max(lastEnds[rank - 1] ?? 0, to[at]!)));
  return (stretch) => {
    const behind = firstWhere(places.length, (rank) => from[places[rank]!]! > oldEndOf(stretch));
    const found: number[] = [];
    for (let rank = behind - 1; rank >= 0 && lastEnds[rank]! >= stretch.oldMs; rank--)
      if (to[places[rank]!]! >= stretch.oldMs) found.push(places[rank]!);
    return isSorted ? found.reverse() : found.sort((a, b) => a - b);
  };
}

/** Of what stands in a list: its id the first time that it is asked for, after that a new one. */
type IdsOnce<Id> = (at: number) => Id;

function idsOnce<Id extends string>(list: readonly { readonly id: Id }[], mint: () => string): IdsOnce<Id> {
  const used = new Uint8Array(list.length);
  return (at) => {
    if (used[at] === 1) return mint() as Id;
    used[at] = 1;
    return list[at]!.id;
  };
}

const movedMs = (ms: number, { newMs, oldMs, lengthMs }: SharedStretch): Ms =>
  wholeMs(clamp(ms, oldMs, oldMs + lengthMs) - oldMs + newMs);

const moveWord = (word: Word, stretch: SharedStretch, id: WordId): Word => ({
  ...word,
  id,
  startMs: movedMs(word.startMs, stretch),
  endMs: movedMs(word.endMs, stretch)
});

/** `last`: the part that it goes on; `null` where it begins anew. */
function partOn(
  { track, wordsFrom }: Layout,
  cueAt: number,
  { stretch, at }: { readonly stretch: SharedStretch; readonly at: number },
  ids: { readonly ofWord: IdsOnce<WordId>; readonly ofCue: IdsOnce<CueId> },
  last: Part | null
): Part {
  const cue = track.cues[cueAt]!;
  const from: number[] = [];
  const words: Word[] = [];
  const first = wordsFrom[cueAt]!;
  for (let wordAt = first; wordAt < first + cue.wordIds.length; wordAt++) {
    const word = track.words[wordAt]!;
    if (!isWordOn(word, stretch)) continue;
    // A described sound that goes on is there already.
    if (word.kind === 'sound' && last?.from.includes(wordAt) === true) continue;
    from.push(wordAt);
    words.push(moveWord(word, stretch, ids.ofWord(wordAt)));
  }
  const startMs = clamp(cue.startMs, stretch.oldMs, oldEndOf(stretch) - 1) - stretch.oldMs + stretch.newMs;
  const endMs = Math.min(cue.endMs, oldEndOf(stretch)) - stretch.oldMs + stretch.newMs;
  const isWhole = words.length === cue.wordIds.length;
  const own = {
    ...cue,
    id: last?.cue.id ?? ids.ofCue(cueAt),
    ...toSpan({ startMs, endMs: Math.max(startMs + 1, endMs) })
  };
  if (isWhole && words.every(({ id }, place) => id === cue.wordIds[place]))
    return { cueAt, cue: own, words, from, stretch, at };
  // If its first word is gone, the new first word must not be a line start as well.
  const firstShown = words.find((word) => word.shown)?.id;
  const lineStarts = cue.lineStarts
    .flatMap((id) => words[from.indexOf(first + cue.wordIds.indexOf(id))]?.id ?? [])
    .filter((id) => isWhole || id !== firstShown);
  return { cueAt, cue: { ...own, wordIds: words.map(({ id }) => id), lineStarts }, words, from, stretch, at };
}

function joinParts(first: Part, second: Part): Part {
  const words = [...first.words, ...second.words];
  const { cue } = first;
  const wordIds = words.map((word) => word.id);
  const lineStarts = [...cue.lineStarts, ...second.cue.lineStarts];
  return {
    ...second,
    words,
    from: [...first.from, ...second.from],
    cue: { ...cue, endMs: second.cue.endMs, wordIds, lineStarts }
  };
}

/** The words of the cues in their order, and between them those that no cue holds, where their time puts them. */
function inReadingOrder(parts: readonly Part[], loose: readonly Word[]): Word[] {
  const words: Word[] = [];
  const waiting = [...loose].sort((a, b) => a.startMs - b.startMs);
  let next = 0;
  for (const part of parts) {
    while (next < waiting.length && waiting[next]!.startMs < part.cue.startMs) words.push(waiting[next++]!);
    for (const word of part.words) words.push(word);
  }
  while (next < waiting.length) words.push(waiting[next++]!);
  return words;
}

function remarksOnCues(
  { track, shown, wordsFrom }: Layout,
  parts: readonly Part[],
  shared: readonly SharedStretch[],
  placed: Uint8Array
): CutRemark[] {
  const partsOf = new Map<number, Part[]>();
  for (const part of parts) {
    const own = partsOf.get(part.cueAt);
    if (own === undefined) partsOf.set(part.cueAt, [part]);
    else own.push(part);
  }
  const coveredMs = coverOf(shared);
  const placeOf = placesBehind(shared);
  return track.cues.flatMap((cue, cueAt): CutRemark[] => {
    const own = partsOf.get(cueAt) ?? [];
    const words = shown[cueAt]!;
    const [first] = own;
    if (first === undefined) {
      const ms = placeOf(cue.startMs);
      return [{ kind: 'left out', startMs: ms, endMs: ms, cueIds: [], text: joinWords(words) }];
    }
    const place = (): Pick<CutRemark, 'startMs' | 'endMs' | 'cueIds'> => ({
      ...{ startMs: first.cue.startMs, endMs: first.cue.endMs },
      cueIds: own.map((part) => part.cue.id)
    });
    const gone: Word[] = [];
    for (let at = wordsFrom[cueAt]!; at < wordsFrom[cueAt]! + cue.wordIds.length; at++)
      if (placed[at] === 0 && track.words[at]!.shown) gone.push(track.words[at]!);
    const lostMs = cue.endMs - cue.startMs - coveredMs(cue);
    if (gone.length > 0 || lostMs >= LEAST_TOLD_MS) return [{ kind: 'shortened', ...place(), text: joinWords(gone) }];
    // Sound that is repeated repeats its cues whole: nothing is parted there.
    const isParted = own.some((part) => part.words.filter((word) => word.shown).length < words.length);
    return isParted ? [{ kind: 'parted', ...place(), text: joinWords(words) }] : [];
  });
}

/** How much of a cue's time is on any stretch. */
function coverOf(shared: readonly SharedStretch[]): (cue: Cue) => number {
  const covered: { startMs: number; endMs: number }[] = [];
  for (const stretch of shared.toSorted((a, b) => a.oldMs - b.oldMs)) {
    const last = covered.at(-1);
    if (last !== undefined && stretch.oldMs <= last.endMs) last.endMs = Math.max(last.endMs, oldEndOf(stretch));
    else covered.push({ startMs: stretch.oldMs, endMs: oldEndOf(stretch) });
  }
  return (cue) => {
    let sum = 0;
    for (let at = Math.max(0, lastStartingBy(covered, cue.startMs)); at < covered.length; at++) {
      if (covered[at]!.startMs >= cue.endMs) break;
      sum += overlapMs(cue, covered[at]!);
    }
    return sum;
  };
}

/** Where in the new cut something stood that is gone: behind what came before it in the old one. */
function placesBehind(shared: readonly SharedStretch[]): (oldMs: Ms) => Ms {
  const byEnd = shared
    .map((stretch) => ({ startMs: oldEndOf(stretch), stretch }))
    .sort((a, b) => a.startMs - b.startMs || b.stretch.newMs - a.stretch.newMs);
  return (oldMs) => {
    const nearest = byEnd[lastStartingBy(byEnd, oldMs + 1)];
    if (nearest !== undefined) return wholeMs(endOf(nearest.stretch));
    const holding = shared.find((stretch) => oldMs >= stretch.oldMs && oldMs < oldEndOf(stretch));
    return holding === undefined ? wholeMs(0) : wholeMs(oldMs - holding.oldMs + holding.newMs);
  };
}
