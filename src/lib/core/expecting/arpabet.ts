/**
 * IPA as espeak-ng writes English (its en-us voice) to the phones of the CMU dictionary (ARPAbet without stress,
 * http://www.speech.cs.cmu.edu/cgi-bin/cmudict), the alphabet of the recogniser's acoustic model.
 */

/** Longest first within each first sign. */
const PHONES: readonly (readonly [ipa: string, phones: readonly string[]])[] = [
  ['aɪə', ['AY', 'AH']],
  ['aɪɚ', ['AY', 'ER']],
  ['aʊɚ', ['AW', 'ER']],
  ['tʃ', ['CH']],
  ['dʒ', ['JH']],
  ['eɪ', ['EY']],
  ['aɪ', ['AY']],
  ['aʊ', ['AW']],
  ['ɔɪ', ['OY']],
  ['oʊ', ['OW']],
  ['əʊ', ['OW']],
  ['ɪɹ', ['IH', 'R']],
  ['ɛɹ', ['EH', 'R']],
  ['ɑːɹ', ['AA', 'R']],
  ['oːɹ', ['AO', 'R']],
  ['ɔːɹ', ['AO', 'R']],
  ['ʊɹ', ['UH', 'R']],
  ['ɜː', ['ER']],
  ['iə', ['IY', 'AH']],
  ['iː', ['IY']],
  ['uː', ['UW']],
  ['ɑː', ['AA']],
  ['ɔː', ['AO']],
  ['oː', ['AO']],
  ['aː', ['AA']],
  ['əl', ['AH', 'L']],
  ['n̩', ['AH', 'N']],
  ['l̩', ['AH', 'L']],
  ['i', ['IY']],
  ['u', ['UW']],
  ['ɪ', ['IH']],
  ['ʊ', ['UH']],
  ['ɛ', ['EH']],
  ['e', ['EH']],
  ['æ', ['AE']],
  ['a', ['AA']],
  ['ɐ', ['AH']],
  ['ʌ', ['AH']],
  ['ə', ['AH']],
  ['ᵻ', ['IH']],
  ['ɑ', ['AA']],
  ['ɒ', ['AA']],
  ['ɔ', ['AO']],
  ['o', ['OW']],
  ['ɚ', ['ER']],
  ['ɝ', ['ER']],
  ['p', ['P']],
  ['b', ['B']],
  ['t', ['T']],
  ['d', ['D']],
  ['k', ['K']],
  ['ɡ', ['G']],
  ['g', ['G']],
  ['f', ['F']],
  ['v', ['V']],
  ['θ', ['TH']],
  ['ð', ['DH']],
  ['s', ['S']],
  ['z', ['Z']],
  ['ʃ', ['SH']],
  ['ʒ', ['ZH']],
  ['h', ['HH']],
  ['x', ['K']],
  ['ç', ['HH', 'Y']],
  ['m', ['M']],
  ['n', ['N']],
  ['ŋ', ['NG']],
  ['ɲ', ['N', 'Y']],
  ['l', ['L']],
  ['ɫ', ['L']],
  ['ɬ', ['L']],
  ['ʎ', ['L', 'Y']],
  ['r', ['R']],
  ['ɹ', ['R']],
  ['ɾ', ['T']],
  ['ʁ', ['R']],
  ['j', ['Y']],
  ['w', ['W']],
  ['ʍ', ['W']],
  ['ʔ', ['T']]
];

/** The phones of an IPA text, stress and unknown signs left out; empty where nothing of it is known. */
export function phonesFromIpa(ipa: string): readonly string[] {
  const text = ipa.normalize('NFC').replace(/ˈ|ˌ|\s|\.|‿|\u0361|_|-/gu, '');
  const phones: string[] = [];
  for (let at = 0; at < text.length;) {
    const found = PHONES.find(([sign]) => text.startsWith(sign, at));
    if (found !== undefined) phones.push(...found[1]);
    at += found?.[0].length ?? 1;
  }
  return phones;
}
