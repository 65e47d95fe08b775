/** Finding words and cues by id. Tracks never change in place, so what was found once for one holds. */
import { type CueId, type WordId, asWordId } from '../id';
import type { Cue, Track, Word } from './track';

export interface Lookup {
  /** Places in the track's list of words. */
  readonly wordAt: Places;
  /** Places in the track's list of cues. */
  readonly cueAt: Places;
  readonly findWord: (id: WordId) => Word | undefined;
  readonly findCue: (id: CueId) => Cue | undefined;
  /** The cue that holds a word. */
  readonly findCueOf: (id: WordId) => Cue | undefined;
}

type Content = Pick<Track, 'words' | 'cues'>;
/** Where things stand in a list, by id. */
export interface Places {
  get(id: string): number | undefined;
}

/** How far around the expected place an id is searched before the table is built again. */
const NEARBY = 24;
/** If more items than this change at once, building a new table is cheaper. */
const MOST_PUT_IN = 500;

/**
 * Places that were right for a list that this one was made from by small changes: what is found is checked against the
 * list itself. `roughly` holds every id that there was since, so that what is not in it is nowhere.
 */
class RoughPlaces<T> implements Places {
  readonly roughly: Map<string, number>;
  readonly #list: readonly T[];
  readonly #isAt: (item: T, id: string) => boolean;
  readonly #count: () => Map<string, number>;
  #exact: Map<string, number> | undefined;
  /** How far the last item found had moved; its neighbours have usually moved as far. */
  shift: number;

  constructor(
    list: readonly T[],
    roughly: Map<string, number>,
    shift: number,
    { isAt, count }: { readonly isAt: (item: T, id: string) => boolean; readonly count: () => Map<string, number> }
  ) {
    this.#list = list;
    this.roughly = roughly;
    this.shift = shift;
    this.#isAt = isAt;
    this.#count = count;
  }

  get(id: string): number | undefined {
    if (this.#exact !== undefined) return this.#exact.get(id);
    const roughly = this.roughly.get(id);
    if (roughly === undefined) return undefined;
    for (const around of [roughly + this.shift, roughly]) {
      for (let step = 0; step <= NEARBY; step++) {
        for (const at of step === 0 ? [around] : [around + step, around - step]) {
          const item = this.#list[at];
          if (item === undefined || !this.#isAt(item, id)) continue;
          this.shift = at - roughly;
          return at;
        }
      }
    }
    this.#exact = this.#count();
    return this.#exact.get(id);
  }
}

/**
 * Tables of the lists seen last. Most edits leave every id where it stood, or move the rest by a word: comparing two
 * lists takes a tenth of the time that a new table takes, which is felt at each key in a track of two hours, and at
 * thousands of edits in one go.
 */
class Tables<T> {
  readonly #known = new WeakMap<readonly T[], RoughPlaces<T>>();
  #recent: { readonly list: readonly T[]; readonly places: RoughPlaces<T> }[] = [];
  readonly #isSamePlace: (a: T, b: T) => boolean;
  readonly #idsOf: (item: T) => readonly string[];
  readonly #isAt: (item: T, id: string) => boolean;

  constructor(
    idsOf: (item: T) => readonly string[],
    isSamePlace: (a: T, b: T) => boolean,
    isAt: (item: T, id: string) => boolean
  ) {
    this.#idsOf = idsOf;
    this.#isSamePlace = isSamePlace;
    this.#isAt = isAt;
  }

  of(list: readonly T[]): Places {
    let places = this.#known.get(list);
    if (places !== undefined) return places;
    places = this.#derived(list) ?? this.#places(list, this.#count(list), 0);
    this.#known.set(list, places);
    this.#recent = [{ list, places }, ...this.#recent].slice(0, 3);
    return places;
  }

  #places(list: readonly T[], roughly: Map<string, number>, shift: number): RoughPlaces<T> {
    return new RoughPlaces(list, roughly, shift, { isAt: this.#isAt, count: () => this.#count(list) });
  }

  #count(list: readonly T[]): Map<string, number> {
    return new Map(list.flatMap((item, at) => this.#idsOf(item).map((id): [string, number] => [id, at])));
  }

  /** From the list of the last that it shares its head and tail with; `undefined` where none is near. */
  #derived(list: readonly T[]): RoughPlaces<T> | undefined {
    for (const { list: old, places } of this.#recent) {
      let head = 0;
      while (head < list.length && head < old.length && this.#isSame(old[head]!, list[head]!)) head++;
      if (head === list.length && head === old.length) return places;
      let tail = 0;
      const most = Math.min(list.length, old.length) - head;
      while (tail < most && this.#isSame(old[old.length - 1 - tail]!, list[list.length - 1 - tail]!)) tail++;
      if (list.length - tail - head > MOST_PUT_IN) continue;
      for (let at = head; at < list.length - tail; at++)
        for (const id of this.#idsOf(list[at]!)) places.roughly.set(id, at - places.shift);
      return this.#places(list, places.roughly, places.shift);
    }
    return undefined;
  }

  #isSame(a: T, b: T): boolean {
    return a === b || this.#isSamePlace(a, b);
  }
}

const haveSameId = (a: { readonly id: string }, b: { readonly id: string }): boolean => a.id === b.id;
const hasId = (item: { readonly id: string }, id: string): boolean => item.id === id;
const wordTables = new Tables<Word>((word) => [word.id], haveSameId, hasId);
const cueTables = new Tables<Cue>((cue) => [cue.id], haveSameId, hasId);
const heldTables = new Tables<Cue>(
  (cue) => cue.wordIds,
  (a, b) => a.wordIds === b.wordIds,
  (cue, id) => cue.wordIds.includes(asWordId(id))
);
const lookups = new WeakMap<Content, Lookup>();

export function lookUp(track: Content): Lookup {
  let lookup = lookups.get(track);
  if (lookup === undefined) {
    const { words, cues } = track;
    let wordAt: Places | undefined;
    let heldBy: Places | undefined;
    lookup = {
      get wordAt() {
        return wordTables.of(words);
      },
      get cueAt() {
        return cueTables.of(cues);
      },
      findWord: (id) => words[(wordAt ??= wordTables.of(words)).get(id) ?? -1],
      findCue: (id) => cues[cueTables.of(cues).get(id) ?? -1],
      findCueOf: (id) => cues[(heldBy ??= heldTables.of(cues)).get(id) ?? -1]
    };
    lookups.set(track, lookup);
  }
  return lookup;
}
