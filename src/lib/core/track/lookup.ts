/** Finding words and cues by id. Tracks never change in place, so what was found once for one holds. */
import type { Cue, CueId, Track, Word, WordId } from './track';

export interface Lookup {
  readonly wordById: ReadonlyMap<WordId, Word>;
  readonly wordAt: ReadonlyMap<WordId, number>;
  readonly cueAt: ReadonlyMap<CueId, number>;
  readonly cueOfWord: ReadonlyMap<WordId, Cue>;
}

const wordTables = new WeakMap<readonly Word[], Pick<Lookup, 'wordById' | 'wordAt'>>();
const cueTables = new WeakMap<readonly Cue[], Pick<Lookup, 'cueAt' | 'cueOfWord'>>();

export function lookUp(track: Pick<Track, 'words' | 'cues'>): Lookup {
  let words = wordTables.get(track.words);
  if (words === undefined) {
    const wordById = new Map<WordId, Word>();
    const wordAt = new Map<WordId, number>();
    track.words.forEach((word, at) => {
      wordById.set(word.id, word);
      wordAt.set(word.id, at);
    });
    words = { wordById, wordAt };
    wordTables.set(track.words, words);
  }
  let cues = cueTables.get(track.cues);
  if (cues === undefined) {
    const cueAt = new Map<CueId, number>();
    const cueOfWord = new Map<WordId, Cue>();
    track.cues.forEach((cue, at) => {
      cueAt.set(cue.id, at);
      for (const id of cue.wordIds) cueOfWord.set(id, cue);
    });
    cues = { cueAt, cueOfWord };
    cueTables.set(track.cues, cues);
  }
  return { ...words, ...cues };
}
