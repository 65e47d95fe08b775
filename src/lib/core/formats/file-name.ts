/** Names of files that go out: the recording's title and the language, as any system and platform takes them. */

/** `Winding the Merrowby clock`, `en`, `srt` → `winding-the-merrowby-clock.en.srt`. */
export function exportFileName(title: string, language: string, extension: string): string {
  const whole = title
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/['’]/g, '')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '');
  const stem = [...whole].slice(0, 80).join('').replace(/-+$/, '');
  return `${stem === '' ? 'captions' : stem}.${language}.${extension}`;
}

/**
 * The language that a file is named after: `talk.it.srt` → `it`, `talk_pt-BR.vtt` → `pt-BR`, `talk (eng).srt` → `en`;
 * `null` where its name says none. BCP 47; three letters count where the language has two as well.
 */
export function languageOfFileName(name: string): string | null {
  const stem = name.replace(/\.[^.]*$/, '');
  const found = /(?:[._]|[\s_-]?[([])([a-z]{2,3}(?:[-_][a-z]{4})?(?:[-_](?:[a-z]{2}|\d{3}))?)[)\]]?$/i.exec(stem)?.[1];
  if (found === undefined) return null;
  try {
    const tag = Intl.getCanonicalLocales(found.replaceAll('_', '-'))[0]!;
    const { language } = new Intl.Locale(tag);
    const isKnown =
      language.length === 2 &&
      new Intl.DisplayNames('en', { type: 'language', fallback: 'none' }).of(tag) !== undefined;
    return isKnown ? tag : null;
  } catch {
    return null;
  }
}
