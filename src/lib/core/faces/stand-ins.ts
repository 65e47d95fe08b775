/** Which faces draw the letters of a script, best first. */
const BY_SCRIPT: Readonly<Record<string, readonly string[]>> = {
  Arab: ['noto-arabic'],
  Hebr: ['noto-hebrew'],
  Deva: ['noto-devanagari'],
  Thai: ['noto-thai'],
  Hira: ['noto-jp'],
  Kana: ['noto-jp'],
  Hang: ['noto-kr'],
  Latn: ['noto'],
  Cyrl: ['noto'],
  Grek: ['noto']
};

const BY_LANGUAGE: Readonly<Record<string, string>> = { ja: 'noto-jp', ko: 'noto-kr', zh: 'noto-sc', yue: 'noto-sc' };

/** Signs, then whatever has the most letters; large files come last. */
const LAST = ['noto', 'noto-signs', 'noto-emoji', 'noto-jp', 'noto-sc', 'noto-kr'];

/**
 * Ids of the faces to be tried for a cluster that its own face lacks, best first. `script` is an ISO 15924 code,
 * `language` the primary subtag of the text.
 */
export function standInsFor(script: string, language: string, isEmoji: boolean): readonly string[] {
  const own = script === 'Hani' ? [BY_LANGUAGE[language] ?? 'noto-sc'] : (BY_SCRIPT[script] ?? []);
  return [...new Set([...(isEmoji ? ['noto-emoji'] : []), ...own, ...LAST])];
}
