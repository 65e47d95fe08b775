/** A sentence on its way to an engine and back: names stay as they are, marks and capitals are those of its language. */
import { primarySubtag } from '../track';
import type { TranslatedSentence } from './drafting';
import type { Sentence } from './sentences';

/** Word-like, in no dictionary, and not bent by any rule: what an engine does not know stays as it is. */
const placeholder = (at: number): string =>
  `Zqx${String.fromCharCode(98 + Math.floor(at / 20))}${String.fromCharCode(97 + (at % 20))}k`;
const PLACEHOLDER = /Zqx([b-z])([a-t])k/gi;
const MOST_NAMES = 400;

export interface Prepared {
  readonly text: string;
  readonly names: readonly string[];
}

/** What is sent: a sound without its brackets, the house's names as signs that nobody translates. */
export function prepareForEngine(
  { text, kind }: Pick<Sentence, 'text' | 'kind'>,
  houseNames: readonly string[]
): Prepared {
  const bare = kind === 'sound' ? text.replace(/^\[|\][.,!?]*$/g, '') : text;
  const names: string[] = [];
  let sent = bare;
  for (const name of [...houseNames].sort((one, other) => other.length - one.length)) {
    if (!/\p{Lu}/u.test(name) || !sent.includes(name) || names.length === MOST_NAMES) continue;
    const parts = sent.split(new RegExp(`(?<![\\p{L}\\p{N}])${escapeForRegExp(name)}(?![\\p{L}\\p{N}])`, 'u'));
    if (parts.length === 1) continue;
    sent = parts.join(placeholder(names.length));
    names.push(name);
  }
  return { text: sent, names };
}

const escapeForRegExp = (text: string): string => text.replace(/[\\^$.*+?()[\]{}|/-]/g, '\\$&');

/** What came back, as it goes into a track: `null` where a name was lost on the way, or nothing is left. */
export function finishFromEngine(
  sentence: Pick<Sentence, 'text' | 'kind'>,
  { names }: Prepared,
  translated: TranslatedSentence,
  language: string
): TranslatedSentence | null {
  const known = new Set<number>();
  const seen = new Set<number>();
  const isUnknown = new Set(translated.unknown);
  const words = translated.text.split(' ').map((word, at) =>
    word.replace(PLACEHOLDER, (_, high: string, low: string) => {
      const name = (high.toLowerCase().charCodeAt(0) - 98) * 20 + low.toLowerCase().charCodeAt(0) - 97;
      known.add(at);
      seen.add(name);
      return names[name] ?? '';
    })
  );
  if (names.some((_, at) => !seen.has(at))) return null;
  const unknown: number[] = [];
  let place = 0;
  // A name of several words moves the places of those behind it.
  words.forEach((word, at) => {
    if (isUnknown.has(at) && !known.has(at)) unknown.push(place);
    place += word.split(' ').length;
  });
  const text = finished(sentence.text, words.join(' ').trim(), language);
  if (text === '') return null;
  return sentence.kind === 'sound' ? { text: `[${text.replace(/[[\]]/g, '')}]`, unknown: [] } : { text, unknown };
}

function finished(source: string, text: string, language: string): string {
  let done = text;
  if (/^\P{L}*\p{Lu}/u.test(source))
    done = done.replace(
      /^(\P{L}*)(\p{Ll})/u,
      (_, before: string, letter: string) => before + letter.toLocaleUpperCase(language)
    );
  // Some rules of engines begin with a capital whatever they take for a sentence.
  const [first] = done.split(' ');
  if (/^\P{L}*\p{Ll}/u.test(source) && first !== undefined && !source.includes(first))
    done = done.replace(
      /^(\P{L}*)(\p{Lu})(?=\p{Ll})/u,
      (_, before: string, letter: string) => before + letter.toLocaleLowerCase(language)
    );
  const end = /[.!?…]+["'”’»)\]]*$/u.exec(source)?.[0];
  if (end !== undefined && !/[.!?…。！？][)\]"'”’»]*$/u.test(done)) done += end;
  return OPENING.has(primarySubtag(language)) ? withOpeningMarks(done) : done;
}

/** Languages that open what asks and what calls with a mark of its own. */
const OPENING = new Set(['es', 'ast', 'gl']);

function withOpeningMarks(text: string): string {
  const [, close] = /([?!])[)\]"'”’»]*$/u.exec(text) ?? [];
  const open = close === '?' ? '¿' : '¡';
  return close === undefined || text.includes(open) ? text : open + text;
}
