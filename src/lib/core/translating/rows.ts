/** Rows: cues of a translation and of its source that belong together, and how far each row is. */
import type { CueId } from '../id';
import {
  joinLines,
  joinWords,
  lookUp,
  madeFrom,
  partLines,
  shownWordsOfAll,
  type Cue,
  type Track,
  type Word
} from '../track';

export type RowState = 'empty' | 'machine' | 'mine' | 'done';

/** At least one cue stands on one of the sides. */
export interface Row {
  /** In the order of their tracks. */
  readonly sourceCues: readonly Cue[];
  readonly cues: readonly Cue[];
  readonly source: string;
  readonly target: string;
  readonly state: RowState;
  /** What the source said when the row was made of it, where it says something else now. */
  readonly changedFrom: string | null;
}

/** The text of a cue as one line, without what is shown for a change of voice. */
const lineOf = (cue: Cue, words: readonly Word[]): string => joinLines(partLines(cue, words).map(joinWords));

/**
 * All rows, in the order of the source; cues without a source stand where their times put them. A cue whose source was
 * broken anew belongs to what stands in its time now.
 */
export function rowsOf(target: Track, source: Track): readonly Row[] {
  const texts = { source: linesOf(source), target: linesOf(target) };
  const rowAt = new Map<CueId, number>();
  const rows: { sources: Set<number>; cues: number[] }[] = [];
  const mergedInto: number[] = [];
  const find = (row: number): number => {
    while (mergedInto[row] !== undefined) row = mergedInto[row]!;
    return row;
  };
  linksOf(target, source).forEach((sources, at) => {
    const row = rows.push({ sources: new Set(sources), cues: [at] }) - 1;
    for (const one of sources) {
      const { id } = source.cues[one]!;
      const other = rowAt.get(id);
      if (other === undefined) rowAt.set(id, row);
      else if (find(other) !== find(row)) merge(find(other), find(row));
    }
  });
  function merge(into: number, from: number): void {
    const [kept, gone] = [rows[into]!, rows[from]!];
    for (const one of gone.sources) kept.sources.add(one);
    kept.cues.push(...gone.cues);
    mergedInto[from] = into;
  }
  source.cues.forEach(({ id }, at) => {
    if (!rowAt.has(id)) rows.push({ sources: new Set([at]), cues: [] });
  });
  return rows
    .filter((_, at) => mergedInto[at] === undefined)
    .map(({ sources, cues }) => ({
      sources: [...sources].sort((one, other) => one - other),
      cues: cues.sort((one, other) => one - other)
    }))
    .map(({ sources, cues }) => ({
      row: rowFrom(target, source, texts, { sources, cues }),
      startMs: (source.cues[sources[0] ?? -1] ?? target.cues[cues[0]!]!).startMs,
      at: sources[0] ?? source.cues.length
    }))
    .sort((one, other) => one.startMs - other.startMs || one.at - other.at)
    .map(({ row }) => row);
}

interface Texts {
  readonly source: readonly string[];
  readonly target: readonly string[];
}

function linesOf(track: Track): readonly string[] {
  const words = shownWordsOfAll(track);
  return track.cues.map((cue, at) => lineOf(cue, words[at]!));
}

function rowFrom(
  target: Track,
  source: Track,
  texts: Texts,
  { sources, cues }: { readonly sources: readonly number[]; readonly cues: readonly number[] }
): Row {
  const own = cues.map((at) => target.cues[at]!);
  const text = joinLines(sources.map((at) => texts.source[at]!));
  const kept = madeFrom(own);
  return {
    sourceCues: sources.map((at) => source.cues[at]!),
    cues: own,
    source: text,
    target: joinLines(cues.map((at) => texts.target[at]!)),
    state: stateOf(own.map((cue, place) => ({ cue, isEmpty: texts.target[cues[place]!] === '' }))),
    changedFrom: kept === null || kept === text ? null : kept
  };
}

/** A row may be overwritten only where nothing in it was written by hand. */
function stateOf(cues: readonly { readonly cue: Cue; readonly isEmpty: boolean }[]): RowState {
  if (cues.length > 0 && cues.every(({ cue }) => cue.translation?.state === 'done')) return 'done';
  const written = cues.filter(({ isEmpty }) => !isEmpty);
  if (written.length === 0) return 'empty';
  return written.every(({ cue }) => cue.translation?.state === 'machine') ? 'machine' : 'mine';
}

/** For each cue of the translation the places of its source cues. */
function linksOf(target: Track, source: Track): number[][] {
  const { cueAt } = lookUp(source);
  const links = target.cues.map(({ sourceCueIds }) => sourceCueIds.flatMap((id) => cueAt.get(id) ?? []));
  const isClaimed = new Uint8Array(source.cues.length);
  for (const at of links.flat()) isClaimed[at] = 1;
  const isOrphan = links.map((own) => own.length === 0);
  overlapping(target.cues, source.cues, (at, sourceAt) => {
    const isMeant = isOrphan[at] === true || isClaimed[sourceAt] === 0;
    if (isMeant && !links[at]!.includes(sourceAt) && overlapsByHalf(target.cues[at]!, source.cues[sourceAt]!))
      links[at]!.push(sourceAt);
  });
  return links;
}

/** Calls back with each pair of places of cues that share some time. Both lists are sorted by their starts. */
function overlapping(cues: readonly Cue[], others: readonly Cue[], found: (at: number, otherAt: number) => void): void {
  const latestEnds: number[] = [];
  let latestMs = 0;
  for (const { endMs } of others) latestEnds.push((latestMs = Math.max(latestMs, endMs)));
  let past = 0;
  cues.forEach((cue, at) => {
    while (past < others.length && others[past]!.startMs < cue.endMs) past++;
    for (let other = past - 1; other >= 0 && latestEnds[other]! > cue.startMs; other--)
      if (others[other]!.endMs > cue.startMs) found(at, other);
  });
}

/** Shares at least half of the shorter one's time. */
function overlapsByHalf(one: Cue, other: Cue): boolean {
  const shared = Math.min(one.endMs, other.endMs) - Math.max(one.startMs, other.startMs);
  return shared * 2 >= Math.min(one.endMs - one.startMs, other.endMs - other.startMs);
}

/** How many rows are how far. */
export function countStates(rows: readonly Row[]): Readonly<Record<RowState, number>> {
  const counts: Record<RowState, number> = { empty: 0, machine: 0, mine: 0, done: 0 };
  for (const { state } of rows) counts[state]++;
  return counts;
}
