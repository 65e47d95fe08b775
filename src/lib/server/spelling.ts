/** What a spelling dictionary knows of English: read when it is first asked for, kept. */
import { readDictionary, type EnglishWords } from '$lib/core/wording';

let words: Promise<EnglishWords> | undefined;

export function englishWords(): Promise<EnglishWords> {
  words ??= import('dictionary-en').then(({ default: dictionary }) =>
    readDictionary(new TextDecoder().decode(dictionary.dic))
  );
  return words;
}
