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
