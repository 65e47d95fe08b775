/** Figures as English says them: the way back from what `wording` writes. */
const SMALL =
  'zero one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen'.split(
    ' '
  );
const TENS = ' ten twenty thirty forty fifty sixty seventy eighty ninety'.split(' ');
const SCALES = [
  [1e9, 'billion'],
  [1e6, 'million'],
  [1e3, 'thousand'],
  [100, 'hundred']
] as const;
const IRREGULAR: Readonly<Record<string, string>> = {
  one: 'first',
  two: 'second',
  three: 'third',
  five: 'fifth',
  eight: 'eighth',
  nine: 'ninth',
  twelve: 'twelfth'
};

/** "230" is "two hundred and thirty", "1998" "nineteen ninety eight", "3.5" "three point five", "21st" "twenty first". */
export function sayNumber(figures: string): string {
  const [, digits = '', decimals, ordinal] = /^(\d+)(?:\.(\d+))?(st|nd|rd|th)?$/.exec(figures) ?? [];
  if (digits.length > 12 || (digits.length > 1 && digits.startsWith('0'))) return oneByOne(digits);
  const value = Number(digits);
  const isYear = /^(?:1[1-9]|20)\d\d$/.test(digits) && decimals === undefined && !/^20?00/.test(digits);
  const said = isYear ? sayYear(value) : sayCardinal(value);
  if (decimals !== undefined) return `${said} point ${oneByOne(decimals)}`;
  return ordinal === undefined ? said : sayOrdinal(said);
}

const oneByOne = (digits: string): string => [...digits].map((digit) => SMALL[Number(digit)]!).join(' ');

function sayYear(value: number): string {
  const rest = value % 100;
  const century = sayCardinal(Math.floor(value / 100));
  if (rest === 0) return `${century} hundred`;
  return rest < 10 ? `${century} oh ${SMALL[rest]}` : `${century} ${sayCardinal(rest)}`;
}

function sayCardinal(value: number): string {
  if (value < 20) return SMALL[value]!;
  for (const [scale, name] of SCALES) {
    if (value < scale) continue;
    const rest = value % scale;
    const head = `${sayCardinal(Math.floor(value / scale))} ${name}`;
    if (rest === 0) return head;
    return rest < 100 ? `${head} and ${sayCardinal(rest)}` : `${head} ${sayCardinal(rest)}`;
  }
  return [TENS[Math.floor(value / 10)]!, value % 10 === 0 ? '' : SMALL[value % 10]!].join(' ').trim();
}

function sayOrdinal(said: string): string {
  const words = said.split(' ');
  const last = words.pop()!;
  const ordinal = IRREGULAR[last] ?? (last.endsWith('y') ? `${last.slice(0, -1)}ieth` : `${last}th`);
  return [...words, ordinal].join(' ');
}
