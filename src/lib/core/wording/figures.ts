/** Spoken English numbers as figures: cardinals from ten, decimals, years, clock times, money, per cent, ordinals. */
import { bareWord } from '../english';

const UNITS = ['zero', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine'];
const TEENS = [
  ...['ten', 'eleven', 'twelve', 'thirteen', 'fourteen', 'fifteen', 'sixteen', 'seventeen', 'eighteen', 'nineteen']
];
const TENS = ['twenty', 'thirty', 'forty', 'fifty', 'sixty', 'seventy', 'eighty', 'ninety'];
const SCALES: Readonly<Record<string, number>> = { thousand: 1e3, million: 1e6, billion: 1e9 };
const ORDINALS: Readonly<Record<string, number>> = Object.fromEntries([
  ...['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth'].map((word, at) => [
    word,
    at + 1
  ]),
  ...['tenth', 'eleventh', 'twelfth', 'thirteenth', 'fourteenth', 'fifteenth', 'sixteenth', 'seventeenth'].map(
    (word, at) => [word, at + 10]
  ),
  ...['eighteenth', 'nineteenth'].map((word, at) => [word, at + 18]),
  ...['twentieth', 'thirtieth', 'fortieth', 'fiftieth'].map((word, at) => [word, at * 10 + 20])
]) as Record<string, number>;
const MONTHS = new Set(
  'january february march april may june july august september october november december'.split(' ')
);
/** Before these two numbers a clock's hour and minutes are meant. */
const BEFORE_TIME = new Set('at by until till before after around about from since'.split(' '));
const MONEY: Readonly<Record<string, string>> = { dollar: '$', dollars: '$', euro: '€', euros: '€' };

const unit = (word: string): number => (word === 'oh' ? 0 : UNITS.indexOf(word));
const teen = (word: string): number => (TEENS.includes(word) ? TEENS.indexOf(word) + 10 : -1);
const ten = (word: string): number => (TENS.includes(word) ? TENS.indexOf(word) * 10 + 20 : -1);

interface Found {
  readonly value: number;
  /** Index after its last word. */
  readonly end: number;
}

/** 0 to 99 in words from `at`: "seven", "twelve", "forty", "forty five". */
function belowHundred(words: readonly string[], at: number): Found | null {
  const word = words[at] ?? '';
  if (UNITS.includes(word)) return { value: unit(word), end: at + 1 };
  if (teen(word) >= 0) return { value: teen(word), end: at + 1 };
  if (ten(word) < 0) return null;
  const more = UNITS.indexOf(words[at + 1] ?? '');
  return more > 0 ? { value: ten(word) + more, end: at + 2 } : { value: ten(word), end: at + 1 };
}

/** "two hundred and thirty", "a hundred and twelve" from `at`: below a thousand. */
function belowThousand(words: readonly string[], at: number): Found | null {
  const head = words[at] === 'a' && words[at + 1] === 'hundred' ? { value: 1, end: at + 1 } : belowHundred(words, at);
  if (head === null || words[head.end] !== 'hundred' || head.value === 0) return head;
  const from = words[head.end + 1] === 'and' ? head.end + 2 : head.end + 1;
  const rest = belowHundred(words, from);
  return rest === null || rest.value === 0
    ? { value: head.value * 100, end: head.end + 1 }
    : { value: head.value * 100 + rest.value, end: rest.end };
}

/** A cardinal number from `at`, as far as it goes. */
function cardinal(words: readonly string[], at: number): Found | null {
  let value = 0;
  let end = at;
  let leastScale = Number.POSITIVE_INFINITY;
  for (;;) {
    const from = end > at && words[end] === 'and' ? end + 1 : end;
    const isOne = from === at && words[at] === 'a' && SCALES[words[at + 1] ?? ''] !== undefined;
    const part = isOne ? { value: 1, end: at + 1 } : belowThousand(words, from);
    if (part === null || (part.value === 0 && end > at)) break;
    const scale = SCALES[words[part.end] ?? ''];
    if (scale === undefined) {
      // "Two thousand and five" goes on; "five six" are two numbers.
      if (end === at || leastScale < Number.POSITIVE_INFINITY) [value, end] = [value + part.value, part.end];
      break;
    }
    if (scale >= leastScale) break;
    leastScale = scale;
    [value, end] = [value + part.value * scale, part.end + 1];
  }
  return end === at ? null : { value, end };
}

/** "Nineteen ninety eight", "twenty twenty four", "eighteen hundred", "nineteen oh five": a year. */
function year(words: readonly string[], at: number): Found | null {
  const century = teen(words[at] ?? '') >= 0 ? teen(words[at]!) : words[at] === 'twenty' ? 20 : -1;
  if (century < 11) return null;
  if (words[at + 1] === 'hundred' && century < 20) return { value: century * 100, end: at + 2 };
  if (words[at + 1] === 'oh' && unit(words[at + 2] ?? '') > 0)
    return { value: century * 100 + unit(words[at + 2]!), end: at + 3 };
  const rest = belowHundred(words, at + 1);
  return rest !== null && rest.value >= 10 ? { value: century * 100 + rest.value, end: rest.end } : null;
}

/** "Nine thirty", "ten oh five": an hour and its minutes. */
function clock(words: readonly string[], at: number): { readonly text: string; readonly end: number } | null {
  const hour = belowHundred(words, at);
  if (hour === null || hour.value < 1 || hour.value > 12 || hour.end !== at + 1) return null;
  const isOh = words[hour.end] === 'oh';
  const minute = belowHundred(words, isOh ? hour.end + 1 : hour.end);
  if (minute === null || minute.value > 59 || (isOh ? minute.value > 9 : minute.value < 10)) return null;
  return { text: `${hour.value}:${String(minute.value).padStart(2, '0')}`, end: minute.end };
}

export interface Figure {
  /** As it is written: one or more words. */
  readonly text: string;
  /** Index after the last of the words it stands for. */
  readonly end: number;
}

const grouped = (value: number): string => value.toLocaleString('en-US');

/**
 * The figure that the words from `at` on speak of, if they are to be written as one; words in small letters. Numbers
 * below ten stay words unless a unit makes them figures.
 */
export function figureAt(words: readonly string[], at: number): Figure | null {
  const before = words[at - 1] ?? '';
  const daytime = (end: number): boolean => ['a.m.', 'p.m.'].includes(words[end] ?? '');

  const hours = clock(words, at);
  if (hours !== null && (BEFORE_TIME.has(before) || daytime(hours.end))) return hours;
  const years = year(words, at);
  if (years !== null && words[years.end] !== 'percent') return { text: String(years.value), end: years.end };

  const ordinal = ordinalAt(words, at);
  if (ordinal !== null && (ordinal.value >= 10 || MONTHS.has(before)))
    return { text: ordinalText(ordinal.value), end: ordinal.end };

  const digits = digitsAt(words, at);
  if (digits !== null) return digits;
  const number = cardinal(words, at);
  if (number === null) return null;
  let { end } = number;
  let text = numberText(number.value);
  const isIdiom = words[at] === 'a' && end === at + 2;
  let isExact = number.value >= 10;
  if (words[end] === 'point' && UNITS.includes(words[end + 1] ?? '')) {
    text += '.';
    isExact = true;
    for (end++; end < words.length && unit(words[end]!) >= 0; end++) text += unit(words[end]!);
  }
  const next = words[end] ?? '';
  if (next === 'percent') return { text: `${text}%`, end: end + 1 };
  if (next === 'per' && words[end + 1] === 'cent') return { text: `${text}%`, end: end + 2 };
  const sign = MONEY[next];
  if (sign !== undefined && !isIdiom) return money(words, `${sign}${text}`, end + 1);
  if (next === "o'clock" || (daytime(end) && number.value <= 12)) return { text, end };
  // "A hundred" is a manner of speaking; "ten to eleven" and "half past ten" are read as they are said.
  if (isIdiom || !isExact) return null;
  const isClock = number.value <= 12 && (['past', 'to'].includes(next) || ['past', 'to'].includes(before));
  return isClock ? null : { text, end };
}

/** "Twelve dollars and fifty cents", "twelve dollars fifty". */
function money(words: readonly string[], text: string, end: number): Figure {
  const from = words[end] === 'and' ? end + 1 : end;
  const cents = belowHundred(words, from);
  const isSaid = cents !== null && ['cent', 'cents'].includes(words[cents.end] ?? '');
  if (cents === null || !isSaid || text.includes('.') || text.includes(' ')) return { text, end };
  return { text: `${text}.${String(cents.value).padStart(2, '0')}`, end: cents.end + 1 };
}

function numberText(value: number): string {
  for (const [name, scale] of [
    ['billion', 1e9],
    ['million', 1e6]
  ] as const)
    if (value >= scale && value % (scale / 1000) === 0) return `${value / scale} ${name}`;
  return grouped(value);
}

function ordinalAt(words: readonly string[], at: number): Found | null {
  const alone = ORDINALS[words[at] ?? ''];
  if (alone !== undefined) return { value: alone, end: at + 1 };
  const tens = ten(words[at] ?? '');
  const rest = ORDINALS[words[at + 1] ?? ''];
  return tens > 0 && rest !== undefined && rest < 10 ? { value: tens + rest, end: at + 2 } : null;
}

function ordinalText(value: number): string {
  const ending = value % 100 > 10 && value % 100 < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][value % 10] ?? 'th');
  return `${value}${ending}`;
}

/** Three and more single digits in a row: a number that is read out, as telephones have. */
function digitsAt(words: readonly string[], at: number): Figure | null {
  let end = at;
  while (end < words.length && unit(words[end]!) >= 0) end++;
  if (end - at < 3 || words[at] === 'oh') return null;
  return {
    text: words
      .slice(at, end)
      .map((word) => unit(word))
      .join(''),
    end
  };
}

/** Words as the figures look for them. */
export const numberWord = (text: string): string =>
  /^[ap]\.m\.?$/i.test(text) ? `${text[0]!.toLowerCase()}.m.` : bareWord(text);
