/** How words are said: by the recogniser's dictionary, and by espeak-ng's rules where that does not know them. */
import { readFile } from 'node:fs/promises';
import { phonesFromIpa } from '$lib/core/expecting';
import { isSameLanguage } from '$lib/core/track';
import { runTool } from './media/ffmpeg';
import { DICTIONARY } from './recognisers/pocketsphinx/model';

export type Phones = readonly string[];

const WORDS_A_RUN = 200;

/** Letters to sounds by espeak-ng; a word that it cannot say has no phones. */
export async function pronounceSpelling(
  words: readonly string[],
  voice = 'en-us'
): Promise<ReadonlyMap<string, Phones>> {
  const said = new Map<string, Phones>();
  for (let at = 0; at < words.length; at += WORDS_A_RUN) {
    const some = words.slice(at, at + WORDS_A_RUN);
    const asked = runTool('espeak-ng', ['-q', '--ipa', '-v', voice, some.join('.\n')], {
      timeoutMs: 60_000,
      maxBytes: 1_000_000
    });
    const { stdout } = await asked.catch((cause: unknown) => {
      throw new Error('How words are said cannot be found out: install the package espeak-ng.', { cause });
    });
    const lines = stdout
      .split('\n')
      .map((line) => line.trim())
      .filter((line) => line !== '');
    some.forEach((word, index) => said.set(word, phonesFromIpa(lines[index] ?? '')));
  }
  return said;
}

/**
 * The first way to say each word of the general dictionary, as it stands there: few of its words are ever asked for.
 * Empty where the recogniser is not on this machine.
 */
async function readDictionary(): Promise<ReadonlyMap<string, string>> {
  const dictionary = await readFile(DICTIONARY, 'utf8').catch(() => '');
  const known = new Map<string, string>();
  for (const line of dictionary.split('\n')) {
    const space = line.indexOf(' ');
    if (space > 0 && line[space - 1] !== ')') known.set(line.slice(0, space), line.slice(space + 1));
  }
  return known;
}

/** Remembers how words of one language are said; forms are those of `spokenForms`. */
export class Pronouncer {
  readonly #voice: string;
  readonly #dictionary: Promise<ReadonlyMap<string, string>>;
  readonly #known = new Map<string, Phones>();

  constructor(language: string) {
    const isEnglish = isSameLanguage(language, 'en');
    this.#voice = isEnglish ? 'en-us' : language.toLowerCase().split('-')[0]!;
    this.#dictionary = isEnglish ? readDictionary() : Promise.resolve(new Map<string, string>());
  }

  /** How each of the forms is said; asks the synthesiser once for all that are new. */
  async of(forms: ReadonlySet<string>): Promise<(form: string) => Phones> {
    const known = this.#known;
    const dictionary = await this.#dictionary;
    for (const form of forms) {
      const phones = dictionary.get(form);
      if (phones !== undefined && !known.has(form)) known.set(form, phones.split(' '));
    }
    const unknown = [...forms].filter((form) => !known.has(form));
    for (const [form, phones] of await pronounceSpelling(unknown, this.#voice)) known.set(form, phones);
    return (form) => known.get(form) ?? [];
  }
}
