/**
 * What an engine is told to expect, as files it loads: a dictionary with the pronunciations that the general one lacks,
 * and a language model of the phrases.
 */
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { phraseModel, spokenForms, type Term } from '$lib/core/expecting';
import { pronounceSpelling, type Phones } from '../../pronounce';
import type { ExpectedFiles } from './messages';
import { DICTIONARY } from './model';

/** Runs with the files of what is to be expected, `null` where nothing of the terms can be spoken, and removes them. */
export async function withExpected<T>(
  terms: readonly Term[],
  scratchFolder: string,
  run: (expected: ExpectedFiles | null) => Promise<T>
): Promise<T> {
  const phrases = terms.map((term) => spokenForms(term.text)).filter((forms) => forms.length > 0);
  if (phrases.length === 0) return run(null);
  const general = await readFile(DICTIONARY, 'utf8');
  const own = await pronounce(terms, general);
  const folder = await mkdtemp(join(scratchFolder, 'expect-'));
  const files = { dictionaryPath: join(folder, 'dictionary'), phraseModelPath: join(folder, 'phrases.arpa') };
  try {
    await writeFile(files.dictionaryPath, `${general.trimEnd()}\n${own.join('\n')}\n`);
    await writeFile(files.phraseModelPath, phraseModel(phrases));
    return await run(files);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/**
 * Lines for the dictionary, of what it lacks: as a word's "sounds like" is said, and, where it does not know the word, as
 * it is spelled. Further ways to say a word are numbered on from those it has.
 */
async function pronounce(terms: readonly Term[], dictionary: string): Promise<readonly string[]> {
  const wanted = new Set(terms.flatMap((term) => [...spokenForms(term.text), ...spokenForms(term.soundsLike ?? '')]));
  const known = new Map<string, Phones[]>();
  for (const line of dictionary.split('\n')) {
    const [entry = '', ...phones] = line.trim().split(/\s+/);
    const word = entry.replace(/\(\d+\)$/, '');
    if (wanted.has(word)) known.set(word, [...(known.get(word) ?? []), phones]);
  }
  const spelled = await pronounceSpelling([...wanted].filter((word) => !known.has(word)));
  const say = (word: string): Phones => known.get(word)?.[0] ?? spelled.get(word) ?? [];
  const ways = new Map<string, Phones[]>();
  const lines: string[] = [];
  const add = (word: string, phones: Phones): void => {
    const list = ways.get(word) ?? [...(known.get(word) ?? [])];
    ways.set(word, list);
    if (phones.length === 0 || list.some((one) => one.join() === phones.join())) return;
    list.push(phones);
    lines.push(`${word}${list.length === 1 ? '' : `(${list.length})`} ${phones.join(' ')}`);
  };
  for (const term of terms) {
    const forms = spokenForms(term.text);
    const hints = spokenForms(term.soundsLike ?? '');
    // A hint of as many words says each; one of another number says a term of one word.
    if (forms.length === 1) add(forms[0]!, hints.flatMap(say));
    else if (hints.length === forms.length) forms.forEach((form, at) => add(form, say(hints[at]!)));
    for (const form of forms) if (!known.has(form)) add(form, say(form));
  }
  return lines;
}
