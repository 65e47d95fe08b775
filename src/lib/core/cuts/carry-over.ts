/** A track of one cut of a recording, laid on the next cut of it. */
import type { CueId, WordId } from '../id';
import { clamp, type Ms, overlapMs, toSpan, wholeMs } from '../time';
import { compareCues, joinWords, lookUp, shownWords, type Cue, type Track, type Word } from '../track';
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
  readonly stretch: SharedStretch;
}

/**
 * Words and cues go where their sound went, with everything they carry. What stands on several stretches keeps its ids on
 * the first and gets minted ones on the others; what stands on none is left out, with a remark.
 */
export function carryOver(track: Track, { shared, added }: CutComparison, mint: () => string): CarriedOver {
  const idOf = idsOnce(mint);
  const parts: Part[] = [];
  const loose: Word[] = [];
  /** The part of each cue that was made last, by its place in the list. */
  const lastPartOf = new Map<Cue, number>();
  for (const stretch of shared) {
    const cuesHere = track.cues.filter((cue) => isOn(cue, track, stretch));
    for (const cue of cuesHere) {
      const at = lastPartOf.get(cue) ?? -1;
      const last = parts[at];
      const isGoingOn =
        last !== undefined && stretch.newMs - endOf(last.stretch) <= JOINED_MS && !isRepeat(last, stretch);
      const part = partOn(track, cue, stretch, idOf, isGoingOn ? last.cue.id : null);
      if (isGoingOn) parts[at] = joinParts(last, part);
      else lastPartOf.set(cue, parts.push(part) - 1);
    }
    const held = new Set(cuesHere.flatMap((cue) => cue.wordIds));
    for (const word of track.words)
      if (!held.has(word.id) && isWordOn(word, stretch)) loose.push(moveWord(word, stretch, idOf(word.id)));
  }
  parts.sort((a, b) => compareCues(a.cue, b.cue));
  return {
    words: inReadingOrder(parts, loose),
    cues: parts.map(({ cue }) => cue),
    remarks: [
      ...remarksOnCues(track, parts, shared),
      ...added
        .filter(({ startMs, endMs }) => endMs - startMs >= LEAST_NEW_MS)
        .map((span) => ({ kind: 'new sound' as const, ...span, cueIds: [], text: '' }))
    ].sort((a, b) => a.startMs - b.startMs)
  };
}

const endOf = ({ newMs, lengthMs }: SharedStretch): number => newMs + lengthMs;
const oldEndOf = ({ oldMs, lengthMs }: SharedStretch): number => oldMs + lengthMs;

/** The same sound once more, and not how it went on. */
const isRepeat = (part: Part, stretch: SharedStretch): boolean => stretch.oldMs < oldEndOf(part.stretch);

/** A word is where its middle is. */
function isWordOn({ startMs, endMs }: Word, stretch: SharedStretch): boolean {
  const middleMs = (startMs + endMs) / 2;
  return middleMs >= stretch.oldMs && middleMs < oldEndOf(stretch);
}

/** A cue lies on a stretch if one of its shown words does; without shown words, if half of its time does. */
function isOn(cue: Cue, track: Track, stretch: SharedStretch): boolean {
  const words = shownWords(track, cue);
  if (words.length > 0) return words.some((word) => isWordOn(word, stretch));
  const hereMs = overlapMs(cue, { startMs: stretch.oldMs, endMs: oldEndOf(stretch) });
  return hereMs * 2 >= cue.endMs - cue.startMs;
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

/** `cueId`: of the part that it goes on; `null` where it begins anew. */
function partOn(track: Track, cue: Cue, stretch: SharedStretch, idOf: IdOf, cueId: CueId | null): Part {
  const { findWord } = lookUp(track);
  const ids = new Map<WordId, WordId>();
  const words = cue.wordIds
    .map((id) => findWord(id)!)
    .filter((word) => isWordOn(word, stretch))
    .map((word) => {
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
    id: cueId ?? idOf(cue.id),
    ...toSpan({ startMs, endMs: Math.max(startMs + 1, endMs) }),
    wordIds: words.map((word) => word.id),
    lineStarts
  };
  return { old: cue, cue: own, words, stretch };
}

function joinParts(first: Part, second: Part): Part {
  const words = [...first.words, ...second.words];
  const { cue } = first;
  const wordIds = words.map((word) => word.id);
  const lineStarts = [...cue.lineStarts, ...second.cue.lineStarts];
  return { ...second, words, cue: { ...cue, endMs: second.cue.endMs, wordIds, lineStarts } };
}

/** The words of the cues in their order, and between them those that no cue holds, where their time puts them. */
function inReadingOrder(parts: readonly Part[], loose: readonly Word[]): Word[] {
  const words: Word[] = [];
  const waiting = [...loose].sort((a, b) => a.startMs - b.startMs);
  for (const part of parts) {
    while (waiting.length > 0 && waiting[0]!.startMs < part.cue.startMs) words.push(waiting.shift()!);
    words.push(...part.words);
  }
  return [...words, ...waiting];
}

function remarksOnCues(track: Track, parts: readonly Part[], shared: readonly SharedStretch[]): CutRemark[] {
  const partsOf = new Map<Cue, Part[]>();
  for (const part of parts) partsOf.set(part.old, [...(partsOf.get(part.old) ?? []), part]);
  return track.cues.flatMap((cue): CutRemark[] => {
    const own = partsOf.get(cue) ?? [];
    const words = shownWords(track, cue);
    const [first] = own;
    if (first === undefined) {
      const ms = placeOf(cue.startMs, shared);
      return [{ kind: 'left out', startMs: ms, endMs: ms, cueIds: [], text: joinWords(words) }];
    }
    const cueIds = own.map((part) => part.cue.id);
    const place = { startMs: first.cue.startMs, endMs: first.cue.endMs, cueIds };
    const gone = words.filter((word) => !shared.some((stretch) => isWordOn(word, stretch)));
    const lostMs = cue.endMs - cue.startMs - coveredMs(cue, shared);
    if (gone.length > 0 || lostMs >= LEAST_TOLD_MS) return [{ kind: 'shortened', ...place, text: joinWords(gone) }];
    // Sound that is repeated repeats its cues whole: nothing is parted there.
    const isParted = own.some((part) => part.words.filter((word) => word.shown).length < words.length);
    return isParted ? [{ kind: 'parted', ...place, text: joinWords(words) }] : [];
  });
}

/** How much of a cue's time is on any stretch. */
function coveredMs(cue: Cue, shared: readonly SharedStretch[]): Ms {
  let sum = 0;
  let untilMs = cue.startMs;
  for (const stretch of [...shared].sort((a, b) => a.oldMs - b.oldMs)) {
    const fromMs = Math.max(untilMs, stretch.oldMs);
    const toMs = Math.min(cue.endMs, oldEndOf(stretch));
    if (toMs > fromMs) {
      sum += toMs - fromMs;
      untilMs = wholeMs(toMs);
    }
  }
  return wholeMs(sum);
}

/** Where in the new cut something stood that is gone: behind what came before it in the old one. */
function placeOf(oldMs: Ms, shared: readonly SharedStretch[]): Ms {
  const before = shared.filter((stretch) => oldEndOf(stretch) <= oldMs + 1);
  const nearest = before.reduce<SharedStretch | null>(
    (best, stretch) => (best === null || oldEndOf(stretch) > oldEndOf(best) ? stretch : best),
    null
  );
  if (nearest !== null) return wholeMs(endOf(nearest));
  const holding = shared.find((stretch) => oldMs >= stretch.oldMs && oldMs < oldEndOf(stretch));
  return holding === undefined ? wholeMs(0) : wholeMs(oldMs - holding.oldMs + holding.newMs);
}
