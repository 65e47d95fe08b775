/**
 * How near sounds are to one another, over the phones of the CMU dictionary (ARPAbet without stress). Vowels lie in a
 * plane of height and backness, as on the IPA's chart; consonants differ by place, manner and voice.
 */

const VOWELS: Readonly<Record<string, readonly [height: number, back: number]>> = {
  IY: [0, 0],
  IH: [0.2, 0.15],
  EY: [0.3, 0.1],
  EH: [0.5, 0.2],
  AE: [0.8, 0.25],
  AH: [0.5, 0.5],
  ER: [0.5, 0.5],
  AY: [0.9, 0.4],
  AW: [0.9, 0.7],
  AA: [1, 0.7],
  AO: [0.7, 0.9],
  OY: [0.6, 0.8],
  OW: [0.4, 0.95],
  UH: [0.2, 0.8],
  UW: [0, 1]
};

type Manner = 'stop' | 'affricate' | 'fricative' | 'nasal' | 'liquid' | 'glide';
const CONSONANTS: Readonly<Record<string, readonly [place: number, manner: Manner, isVoiced: boolean]>> = {
  P: [0, 'stop', false],
  B: [0, 'stop', true],
  T: [0.4, 'stop', false],
  D: [0.4, 'stop', true],
  K: [0.85, 'stop', false],
  G: [0.85, 'stop', true],
  CH: [0.6, 'affricate', false],
  JH: [0.6, 'affricate', true],
  F: [0.1, 'fricative', false],
  V: [0.1, 'fricative', true],
  TH: [0.3, 'fricative', false],
  DH: [0.3, 'fricative', true],
  S: [0.4, 'fricative', false],
  Z: [0.4, 'fricative', true],
  SH: [0.6, 'fricative', false],
  ZH: [0.6, 'fricative', true],
  HH: [1, 'fricative', false],
  M: [0, 'nasal', true],
  N: [0.4, 'nasal', true],
  NG: [0.85, 'nasal', true],
  L: [0.4, 'liquid', true],
  R: [0.5, 'liquid', true],
  Y: [0.7, 'glide', true],
  W: [0.2, 'glide', true]
};
/** Sounds of two classes that shade into one another. */
const SHADES = new Map([
  ['ER R', 0.3],
  ['IY Y', 0.4],
  ['UW W', 0.4],
  ['OW W', 0.6],
  ['AO L', 0.7],
  ['OW L', 0.7]
]);
const OTHER_CLASS = 1.2;

/** 0 for the same phone, about 1 for two of a class that have little in common, more for a vowel and a consonant. */
export function phoneDistance(one: string, other: string): number {
  if (one === other) return 0;
  const shade = SHADES.get(`${one} ${other}`) ?? SHADES.get(`${other} ${one}`);
  if (shade !== undefined) return shade;
  const [vowel, otherVowel] = [VOWELS[one], VOWELS[other]];
  if (vowel !== undefined && otherVowel !== undefined)
    return Math.min(1, 0.1 + 0.7 * Math.hypot(vowel[0] - otherVowel[0], vowel[1] - otherVowel[1]));
  const [consonant, otherConsonant] = [CONSONANTS[one], CONSONANTS[other]];
  if (consonant === undefined || otherConsonant === undefined) return OTHER_CLASS;
  const place = Math.abs(consonant[0] - otherConsonant[0]);
  const manner = consonant[1] === otherConsonant[1] ? 0 : 0.45;
  return Math.min(1, 0.1 + place * 0.6 + manner + (consonant[2] === otherConsonant[2] ? 0 : 0.15));
}

/** What a phone weighs that one of two has not: the sounds that speech swallows weigh little. */
export function phoneWeight(phone: string): number {
  if (phone === 'AH' || phone === 'IH') return 0.45;
  if (phone === 'HH') return 0.4;
  if (phone === 'T' || phone === 'D') return 0.55;
  return phone in VOWELS ? 0.7 : 0.75;
}
