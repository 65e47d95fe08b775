/** The quotation marks and spaces of a language (Unicode CLDR, “delimiters”; for French, the Imprimerie nationale). */
import { primarySubtag } from '../track';

/** Outer marks; spaces within them are part of them. */
const QUOTES: Readonly<Record<string, readonly [string, string]>> = {
  ...{ en: ['“', '”'], es: ['«', '»'], ca: ['«', '»'], gl: ['«', '»'], it: ['«', '»'], pt: ['“', '”'], ro: ['„', '”'] },
  ...{ fr: ['«\u00a0', '\u00a0»'], de: ['„', '“'], nl: ['“', '”'], da: ['“', '”'], sv: ['”', '”'], fi: ['”', '”'] },
  ...{ nb: ['«', '»'], nn: ['«', '»'], no: ['«', '»'], ru: ['«', '»'], uk: ['«', '»'], el: ['«', '»'], pl: ['„', '”'] },
  ...{ cs: ['„', '“'], sk: ['„', '“'], hu: ['„', '”'], bg: ['„', '“'], tr: ['“', '”'], ja: ['「', '」'] },
  ...{ zh: ['“', '”'], ko: ['“', '”'], he: ['”', '”'], ar: ['«', '»'], fa: ['«', '»'] }
};
const PAIRED = /[«»„“”"「」]/g;

/** A text with the marks of its language, where quotations in it are whole; else as it is. */
export function typeset(text: string, language: string): string {
  return withSpaces(withQuotes(text, QUOTES[primarySubtag(language)]), language);
}

function withQuotes(text: string, quotes: readonly [string, string] | undefined): string {
  const marks = text.match(PAIRED)?.length ?? 0;
  // Marks that are not in pairs are inches, or of a quotation that goes on in another row.
  if (quotes === undefined || marks === 0 || marks % 2 === 1) return text;
  let place = 0;
  return text
    .replace(/[«„“"「]\s+(?=\S)/g, (found) => (/^["“]/.test(found) ? found : found.trimEnd()))
    .replace(/\s+([»」])/g, '$1')
    .replace(PAIRED, () => quotes[place++ % 2]!);
}

/** In French a no-break space stands ahead of marks of two parts; ahead of a full stop or a comma nowhere one. */
function withSpaces(text: string, language: string): string {
  const closed = text.replace(/(?<=[\p{L}\p{N}»)”]) +([.,])(?=\s|$|["»”)])/gu, '$1');
  if (primarySubtag(language) !== 'fr' || /^fr-CA$/i.test(language)) return closed;
  return closed.replace(/(?<=[\p{L}\p{N}»)”])[ \u00a0\u202f]?([?!;:])(?=\s|$|["»”)])/gu, '\u202f$1');
}
