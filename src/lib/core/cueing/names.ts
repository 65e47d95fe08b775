/** Where names and phrases of several words stand in a text. */
import type { Word } from '../track';
import { bareWord } from '../english';
import { endsWith } from './syntax';

/** As a name is compared: without capitals, marks, and the ending that says whose something is. */
const nameForm = (text: string): string => bareWord(text).replace(/['’]s$/, '');

/** 1 for each word whose next one belongs to the same name. Names of one word part nothing. */
export function insideNames(words: readonly Word[], names: readonly string[]): Uint8Array {
  const inside = new Uint8Array(words.length);
  const byFirst = new Map<string, string[][]>();
  for (const name of names) {
    const forms = name
      .split(/\s+/)
      .map(nameForm)
      .filter((form) => form !== '');
    const [first] = forms;
    if (first === undefined || forms.length === 1) continue;
    const known = byFirst.get(first);
    if (known === undefined) byFirst.set(first, [forms]);
    else known.push(forms);
  }
  if (byFirst.size === 0) return inside;
  const spoken = words.map(({ text }) => nameForm(text));
  const goesOn = words.map(({ text }) => endsWith(text) !== 'sentence');
  spoken.forEach((form, at) => {
    for (const forms of byFirst.get(form) ?? []) {
      const last = at + forms.length - 1;
      const isThere = forms.every(
        (own, step) => spoken[at + step] === own && (at + step === last || goesOn[at + step])
      );
      if (isThere) inside.fill(1, at, last);
    }
  });
  return inside;
}
