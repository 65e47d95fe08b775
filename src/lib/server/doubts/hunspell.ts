/** Hunspell (hunspell.h, 1.7) by its C interface, over the dictionaries that come as npm packages. */
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import koffi from 'koffi';
import { dictionaryFor } from './dictionaries';

type Handle = object | null;
export interface Speller {
  readonly isSpelled: (word: string) => boolean;
  readonly suggest: (word: string) => readonly string[];
}

let library: ReturnType<typeof bind> | undefined;
function bind() {
  const hunspell = koffi.load('libhunspell-1.7.so.0');
  return {
    create: hunspell.func('void *Hunspell_create(const char *affixes, const char *stems)') as (
      affixes: string,
      stems: string
    ) => Handle,
    spell: hunspell.func('int Hunspell_spell(void *handle, const char *word)') as (
      handle: Handle,
      word: string
    ) => number,
    suggest: hunspell.func('int Hunspell_suggest(void *handle, _Out_ void **list, const char *word)') as (
      handle: Handle,
      list: Handle[],
      word: string
    ) => number,
    free: hunspell.func('void Hunspell_free_list(void *handle, _Inout_ void **list, int count)') as (
      handle: Handle,
      list: Handle[],
      count: number
    ) => void
  };
}

/** `null` where there is no dictionary of the language. Throws where the library is missing. */
export function openSpeller(language: string): Speller | null {
  const name = dictionaryFor(language);
  if (name === null) return null;
  library ??= bind();
  const { create, spell, suggest, free } = library;
  const folder = dirname(createRequire(import.meta.url).resolve(name));
  const handle = create(join(folder, 'index.aff'), join(folder, 'index.dic'));
  return {
    isSpelled: (word) => spell(handle, word) !== 0,
    suggest: (word) => {
      const list: Handle[] = [null];
      const count = suggest(handle, list, word);
      if (count === 0) return [];
      const words = koffi.decode(list[0]!, 'const char *', count) as unknown as string[];
      free(handle, list, count);
      return words;
    }
  };
}
