/** Made-up translations row by row, and what tools outside do to a text with numbered rows. */
import { plainDigits, rowNumber } from '../translating';
import { numbers } from './any-talk';

export interface MadePair {
  readonly sources: readonly string[];
  readonly targets: readonly string[];
  /** Rows of the source that stand in one paragraph. */
  readonly paragraphs: readonly (readonly number[])[];
}

const VOWELS = 'aeiou';
const CONSONANTS = 'bcdfglmnprstv';
/** Words that begin a phrase, as Spanish has them. Cues that end within a clause are parted before one of them. */
const OPENERS: readonly (readonly [string, string])[] = [
  ['and', 'y'],
  ['but', 'pero'],
  ['because', 'porque'],
  ['when', 'cuando'],
  ['which', 'que'],
  ['of', 'de'],
  ['in', 'en'],
  ['with', 'con'],
  ['for', 'para']
];
const NAMES = ['Merrowby', 'Ines Calloway', 'Tobin Ashe', 'Lanternfold'];

/**
 * An English text, and one in a language with the small words of Spanish. `unevenness`: how far each row's length strays
 * from its source's, from 0.
 */
export function makePair(count: number, seed: number, unevenness = 0.1): MadePair {
  const random = numbers(seed);
  const word = (length: number): string => {
    let made = '';
    for (let at = 0; at < length; at++) {
      const from = at % 2 === 0 ? CONSONANTS : VOWELS;
      made += from[Math.floor(random() * from.length)]!;
    }
    return made;
  };
  const known = new Map<string, string>();
  const lexicon = Array.from({ length: 400 }, () => word(2 + Math.floor(random() * random() * 9)));
  const translated = (source: string): string => {
    const own = known.get(source) ?? word(Math.max(1, Math.round(source.length * (0.8 + random() * 0.7))));
    known.set(source, own);
    return own;
  };
  const sources: string[] = [];
  const targets: string[] = [];
  const paragraphs: number[][] = [[]];
  let left = 0;
  let begins = true;
  let isWithin = false;
  const open = (source: string[], target: string[]): void => {
    const [one, other] = OPENERS[Math.floor(random() * OPENERS.length)]!;
    source.push(one);
    target.push(other);
  };
  for (let row = 0; row < count; row++) {
    const long = 2 + Math.floor(random() * 8);
    if (begins) left = 3 + Math.floor(random() * 22);
    const ends = left <= long || row === count - 1;
    const length = ends ? Math.max(1, left) : long;
    const source: string[] = [];
    const target: string[] = [];
    if (isWithin && random() < 0.8) open(source, target);
    for (let at = 0; at < length; at++) {
      if (at > 1 && random() < 0.12) open(source, target);
      const roll = random();
      if (roll < 0.03) {
        const figure = String(Math.floor(random() * 2000));
        source.push(figure);
        target.push(figure);
      } else if (roll < 0.06) {
        const name = NAMES[Math.floor(random() * NAMES.length)]!;
        source.push(name);
        target.push(name);
      } else {
        const own = lexicon[Math.floor(random() * lexicon.length)]!;
        source.push(own);
        if (random() > unevenness) target.push(translated(own));
        if (random() < unevenness) target.push(word(2 + Math.floor(random() * 5)));
      }
    }
    if (target.length === 0) target.push(word(4));
    if (random() < 0.4 && target.length > 3) target.splice(1, 2, target[2]!, target[1]!);
    const mark = ends ? (random() < 0.12 ? '?' : '.') : random() < 0.4 ? ',' : '';
    isWithin = mark === '';
    const written = (words: readonly string[]): string => {
      const text = words.join(' ');
      return (begins ? text[0]!.toUpperCase() + text.slice(1) : text) + mark;
    };
    sources.push(written(source));
    targets.push(written(target));
    paragraphs.at(-1)!.push(row);
    left -= length;
    if (ends && random() < 0.25 && row < count - 1) paragraphs.push([]);
    begins = ends;
  }
  return { sources, targets, paragraphs };
}

/** A text with numbered rows while it is damaged. */
export interface Damaged {
  readonly entries: readonly { readonly number: number | null; readonly text: string }[];
  readonly open: string;
  readonly close: string;
  readonly between: string;
  /** Over the whole, at last. */
  readonly finish: (text: string) => string;
  /** What stands in each row afterwards, as it should be found. */
  readonly truth: readonly string[];
}

export const undamaged = (targets: readonly string[]): Damaged => ({
  entries: targets.map((text, row) => ({ number: rowNumber(row), text })),
  ...{ open: '[', close: '] ', between: '\n\n', finish: (text: string) => text },
  truth: targets
});

export const pastedText = ({ entries, open, close, between, finish }: Damaged): string =>
  finish(entries.map(({ number, text }) => (number === null ? text : open + number + close + text)).join(between));

type Damage = (paste: Damaged, random: () => number) => Damaged;

const withDigits =
  (nought: number): Damage =>
  (paste) => ({
    ...paste,
    finish: (text) =>
      paste
        .finish(text)
        .replace(/[[(]?\d+[\])]? /g, (number) =>
          number.replace(/\d/g, (digit) => String.fromCodePoint(nought + Number(digit)))
        )
  });
const finished =
  (change: (text: string) => string): Damage =>
  (paste) => ({ ...paste, finish: (text) => change(paste.finish(text)) });
const between =
  (text: string): Damage =>
  (paste) => ({ ...paste, between: text });
const around =
  (open: string, close: string): Damage =>
  (paste) => ({ ...paste, open, close });
/** Each entry, and whether it joins the one before it. */
const merging =
  (share: number, isRenumbered: boolean): Damage =>
  (paste, random) => {
    const entries: { number: number | null; text: string }[] = [];
    for (const entry of paste.entries) {
      const last = entries.at(-1);
      if (last !== undefined && random() < share) last.text += ` ${entry.text}`;
      else entries.push({ ...entry, number: isRenumbered ? rowNumber(entries.length) : entry.number });
    }
    return { ...paste, entries };
  };

/** Those in which every row stays apart from the others. */
export const DAMAGES_OF_SIGNS: Readonly<Record<string, Damage>> = {
  'brackets lost': around('', ' '),
  'a full stop for brackets': around('', '. '),
  'round brackets': around('(', ') '),
  'brackets of another script': around('【', '】'),
  'spaces in brackets': around('[ ', ' ]'),
  'emphasis around numbers': around('**[', ']** '),
  'a list around numbers': around('- \\[', '\\] '),
  'numbers on their own line': around('[', ']\n'),
  'Arabic digits': withDigits(0x660),
  'Devanagari digits': withDigits(0x966),
  'full-width digits': withDigits(0xff10),
  'blank lines lost': between('\n'),
  'all on one line': between(' '),
  'line ends of another system': finished((text) => text.replaceAll('\n', '\r\n')),
  'signs of direction': finished((text) => text.replace(/\[/g, '\u200f[').replace(/\]/g, ']\u200e')),
  'no-break spaces': finished((text) => text.replace(/ (?=\p{L})/gu, '\u00a0').replace(/\u00a0(?=\p{L}{4})/gu, ' ')),
  entities: finished((text) => text.replaceAll('?', '?&nbsp;').replaceAll(',', ',&#39;')),
  'a web page': finished((text) =>
    text
      .split(/\n+/)
      .map((line) => `<p>${line}</p>`)
      .join('\n')
  ),
  'greeting and remark': finished(
    (text) => `Here is the translation that you wanted:\n\n${text}\n\nPlease tell me what else I can do for you.`
  ),
  'some numbers lost': (paste, random) => ({
    ...paste,
    entries: paste.entries.map((entry) => (random() < 0.15 ? { ...entry, number: null } : entry))
  }),
  'all numbers lost': (paste) => ({ ...paste, entries: paste.entries.map((entry) => ({ ...entry, number: null })) }),
  'some rows lost': (paste, random) => {
    const isLost = paste.entries.map(() => random() < 0.03);
    return {
      ...paste,
      entries: paste.entries.filter((_, at) => !isLost[at]),
      truth: paste.truth.map((text, at) => (isLost[at] === true ? '' : text))
    };
  },
  'numbers twice, on each line': (paste, random) => ({
    ...paste,
    entries: paste.entries.flatMap((entry) => {
      const words = entry.text.split(' ');
      if (words.length < 4 || random() > 0.1) return [entry];
      return [
        { ...entry, text: words.slice(0, 2).join(' ') },
        { ...entry, text: words.slice(2).join(' ') }
      ];
    })
  })
};

/** Those that merge and part rows. */
export const DAMAGES_OF_ROWS: Readonly<Record<string, Damage>> = {
  'rows merged': merging(0.08, false),
  'rows merged and numbered anew': merging(0.02, true),
  'rows on several lines': (paste, random) => ({
    ...paste,
    entries: paste.entries.map((entry) => {
      const words = entry.text.split(' ');
      if (words.length < 4 || random() > 0.2) return entry;
      const middle = words.length >> 1;
      return { ...entry, text: `${words.slice(0, middle).join(' ')}\n${words.slice(middle).join(' ')}` };
    })
  }),
  'rows parted and numbered anew': (paste, random) => {
    const entries: { number: number | null; text: string }[] = [];
    for (const { text } of paste.entries) {
      const words = text.split(' ');
      const middle = words.length >> 1;
      const parts =
        words.length < 4 || random() > 0.02
          ? [text]
          : [words.slice(0, middle).join(' '), words.slice(middle).join(' ')];
      for (const part of parts) entries.push({ number: rowNumber(entries.length), text: part });
    }
    return { ...paste, entries };
  }
};

/** Texts as they are compared: by what they say. */
export const saidBy = (text: string): string =>
  plainDigits(text)
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
