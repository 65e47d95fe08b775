/** A track of one cut of a recording, laid on the next cut of it. */
import { firstWhere } from '../bisect';
import type { CueId, WordId } from '../id';
import { clamp, lastStartingBy, type Ms, overlapMs, toSpan, wholeMs } from '../time';
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
  readonly remarks: readonly CutRemark[];
}

/** A cue that loses less time than this, and no words, gets no remark. */
const LEAST_TOLD_MS = 250;
/** New sound shorter than this holds no cue. */
const LEAST_NEW_MS = 400;
/** Parts of a cue on stretches that follow one another so closely are one cue. */
const JOINED_MS = 300;

/** A part of a cue on one stretch. */
interface Part {
  readonly old: Cue;
  readonly cue: Cue;
  readonly words: readonly Word[];
  /** What of the old track these were made of, in the same order. */
  readonly from: readonly WordId[];
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
  const idOf = idsOnce(mint);
  const parts: Part[] = [];
  const loose: Word[] = [];
  const placed = new Set<WordId>();
  const { cuesOn, wordsOn } = standing(track);
  /** The part of each cue that was made last, by its place in the list. */
  const lastPartOf = new Map<Cue, number>();
  shared.forEach((stretch, stretchAt) => {
    const cuesHere = cuesOn(stretch);
    for (const cue of cuesHere) {
      const at = lastPartOf.get(cue) ?? -1;
      const last = parts[at];
      const isGoingOn = last !== undefined && goesOn(last, stretch, stretchAt, track);
      const part = partOn(track, cue, { stretch, at: stretchAt }, idOf, isGoingOn ? last : null);
      if (isGoingOn) parts[at] = joinParts(last, part);
      else lastPartOf.set(cue, parts.push(part) - 1);
    }
    const held = new Set(cuesHere.flatMap((cue) => cue.wordIds));
    for (const word of wordsOn(stretch)) {
      placed.add(word.id);
      if (!held.has(word.id)) loose.push(moveWord(word, stretch, idOf(word.id)));
    }
  });
  parts.sort((a, b) => compareCues(a.cue, b.cue));
  return {
    words: inReadingOrder(parts, loose),
    cues: parts.map(({ cue }) => cue),
    remarks: [
      ...remarksOnCues(track, parts, shared, placed),
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
  return pauseMs <= 0 || !overlapsAnother(track, last.old);
}

function overlapsAnother(track: Track, cue: Cue): boolean {
  const at = lookUp(track).cueAt.get(cue.id)!;
  const isOver = (other: Cue | undefined): boolean => other !== undefined && overlapMs(cue, other) > 0;
  return isOver(track.cues[at - 1]) || isOver(track.cues[at + 1]);
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

/** Finds what stands on a stretch without a walk through the track, each in the track's order. */
function standing(track: Track): {
  readonly cuesOn: (stretch: SharedStretch) => Cue[];
  readonly wordsOn: (stretch: SharedStretch) => Word[];
} {
  const shown = shownWordsOfAll(track);
  const cues = byTime(track.cues, (cue, at) => ({
    fromMs: Math.min(cue.startMs, ...shown[at]!.map(({ startMs }) => startMs)),
    toMs: Math.max(cue.endMs, ...shown[at]!.map(({ endMs }) => endMs))
  }));
  const words = byTime(track.words, ({ startMs, endMs }) => ({ fromMs: startMs, toMs: endMs }));
  return {
    cuesOn: (stretch) =>
      cues(stretch).flatMap((at) => (isOn(track.cues[at]!, shown[at]!, stretch) ? [track.cues[at]!] : [])),
    wordsOn: (stretch) =>
      words(stretch).flatMap((at) => (isWordOn(track.words[at]!, stretch) ? [track.words[at]!] : []))
  };
}

/** Indices of those whose time touches a stretch, in order. */
function byTime<T>(
  list: readonly T[],
  timeOf: (one: T, at: number) => { readonly fromMs: number; readonly toMs: number }
): (stretch: SharedStretch) => number[] {
  const sorted = list.map((one, at) => ({ at, ...timeOf(one, at) })).sort((a, b) => a.fromMs - b.fromMs);
  const lastEnds = new Float64Array(sorted.length);
  sorted.forEach(({ toMs }, place) => (lastEnds[place] = Math.max(lastEnds[place - 1] ?? 0, toMs)));
  return (stretch) => {
    const behind = firstWhere(sorted.length, (place) => sorted[place]!.fromMs > oldEndOf(stretch));
    const found: number[] = [];
    for (let place = behind - 1; place >= 0 && lastEnds[place]! >= stretch.oldMs; place--)
      if (sorted[place]!.toMs >= stretch.oldMs) found.push(sorted[place]!.at);
    return found.sort((a, b) => a - b);
  };
}

/** An id the first time that it is asked for, after that a new one of its kind. */
type IdOf = <Id extends WordId | CueId>(id: Id) => Id;

function idsOnce(mint: () => string): IdOf {
  const used = new Set<string>();
  return <Id extends WordId | CueId>(id: Id): Id => {
    const own = used.has(id) ? (mint() as Id) : id;
    used.add(own);
    return own;
  };
}

function moveWord(word: Word, { newMs, oldMs, lengthMs }: SharedStretch, id: WordId): Word {
  const place = (wordMs: number): Ms => wholeMs(clamp(wordMs, oldMs, oldMs + lengthMs) - oldMs + newMs);
  return { ...word, id, startMs: place(word.startMs), endMs: place(word.endMs) };
}

/** `last`: the part that it goes on; `null` where it begins anew. */
function partOn(
  track: Track,
  cue: Cue,
  { stretch, at }: { readonly stretch: SharedStretch; readonly at: number },
  idOf: IdOf,
  last: Part | null
): Part {
  const { findWord } = lookUp(track);
  const ids = new Map<WordId, WordId>();
  const here = cue.wordIds
    .map((id) => findWord(id)!)
    // A described sound that goes on is there already.
    .filter((word) => isWordOn(word, stretch) && (word.kind !== 'sound' || last?.from.includes(word.id) !== true));
  const words = here.map((word) => {
    ids.set(word.id, idOf(word.id));
    return moveWord(word, stretch, ids.get(word.id)!);
  });
  const startMs = clamp(cue.startMs, stretch.oldMs, oldEndOf(stretch) - 1) - stretch.oldMs + stretch.newMs;
  const endMs = Math.min(cue.endMs, oldEndOf(stretch)) - stretch.oldMs + stretch.newMs;
  const firstShown = words.find((word) => word.shown)?.id;
  // If its first word is gone, the new first word must not be a line start as well.
  const isWhole = words.length === cue.wordIds.length;
  const lineStarts = cue.lineStarts.flatMap((id) => ids.get(id) ?? []).filter((id) => isWhole || id !== firstShown);
  const own = {
    ...cue,
    id: last?.cue.id ?? idOf(cue.id),
    ...toSpan({ startMs, endMs: Math.max(startMs + 1, endMs) }),
    wordIds: words.map((word) => word.id),
    lineStarts
  };
  return { old: cue, cue: own, words, from: here.map(({ id }) => id), stretch, at };
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
    words.push(...part.words);
  }
  return [...words, ...waiting.slice(next)];
}

function remarksOnCues(
  track: Track,
  parts: readonly Part[],
  shared: readonly SharedStretch[],
  placed: ReadonlySet<WordId>
): CutRemark[] {
  const partsOf = new Map<Cue, Part[]>();
  for (const part of parts) partsOf.set(part.old, [...(partsOf.get(part.old) ?? []), part]);
  const shown = shownWordsOfAll(track);
  const coveredMs = coverOf(shared);
  const placeOf = placesBehind(shared);
  return track.cues.flatMap((cue, at): CutRemark[] => {
    const own = partsOf.get(cue) ?? [];
    const words = shown[at]!;
    const [first] = own;
    if (first === undefined) {
      const ms = placeOf(cue.startMs);
      return [{ kind: 'left out', startMs: ms, endMs: ms, cueIds: [], text: joinWords(words) }];
    }
    const cueIds = own.map((part) => part.cue.id);
    const place = { startMs: first.cue.startMs, endMs: first.cue.endMs, cueIds };
    const gone = words.filter((word) => !placed.has(word.id));
    const lostMs = cue.endMs - cue.startMs - coveredMs(cue);
    if (gone.length > 0 || lostMs >= LEAST_TOLD_MS) return [{ kind: 'shortened', ...place, text: joinWords(gone) }];
    // Sound that is repeated repeats its cues whole: nothing is parted there.
    const isParted = own.some((part) => part.words.filter((word) => word.shown).length < words.length);
    return isParted ? [{ kind: 'parted', ...place, text: joinWords(words) }] : [];
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
