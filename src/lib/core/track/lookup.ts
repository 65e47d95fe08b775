/** Finding words and cues by id. Tracks never change in place, so what was found once for one holds. */
import type { Cue, CueId, Track, Word, WordId } from './track';

export interface Lookup {
  /** Places in the track's list of words. */
  readonly wordAt: ReadonlyMap<WordId, number>;
  /** Places in the track's list of cues. */
  readonly cueAt: ReadonlyMap<CueId, number>;
  readonly findWord: (id: WordId) => Word | undefined;
  /** The cue that holds a word. */
  readonly findCueOf: (id: WordId) => Cue | undefined;
}

type Content = Pick<Track, 'words' | 'cues'>;
type Places = ReadonlyMap<string, number>;

/**
 * Tables of the lists seen last. Most edits leave every id where it stood: comparing two lists takes a tenth of the time
 * that a new table takes, which is felt at each key in a track of two hours.
 */
class Tables<T> {
  readonly #known = new WeakMap<readonly T[], Places>();
  #recent: { readonly list: readonly T[]; readonly places: Places }[] = [];
  readonly #isSamePlace: (a: T, b: T) => boolean;
  readonly #idsOf: (item: T) => readonly string[];

  constructor(idsOf: (item: T) => readonly string[], isSamePlace: (a: T, b: T) => boolean) {
    this.#idsOf = idsOf;
    this.#isSamePlace = isSamePlace;
  }

  of(list: readonly T[]): Places {
    let places = this.#known.get(list);
    if (places !== undefined) return places;
    places = this.#recent.find((recent) => this.#haveSamePlaces(recent.list, list))?.places;
    places ??= new Map(list.flatMap((item, at) => this.#idsOf(item).map((id): [string, number] => [id, at])));
    this.#known.set(list, places);
    this.#recent = [{ list, places }, ...this.#recent].slice(0, 3);
    return places;
  }

  #haveSamePlaces(a: readonly T[], b: readonly T[]): boolean {
    if (a.length !== b.length) return false;
    for (let at = 0; at < a.length; at++) {
      if (a[at] !== b[at] && !this.#isSamePlace(a[at]!, b[at]!)) return false;
    }
    return true;
  }
}

const haveSameId = (a: { readonly id: string }, b: { readonly id: string }): boolean => a.id === b.id;
const wordTables = new Tables<Word>((word) => [word.id], haveSameId);
const cueTables = new Tables<Cue>((cue) => [cue.id], haveSameId);
const heldTables = new Tables<Cue>(
  (cue) => cue.wordIds,
  (a, b) => a.wordIds === b.wordIds
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
      findCueOf: (id) => cues[(heldBy ??= heldTables.of(cues)).get(id) ?? -1]
    };
    lookups.set(track, lookup);
  }
  return lookup;
}
