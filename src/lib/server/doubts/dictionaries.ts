/** Hunspell dictionaries that come as npm packages, by language. */

/** Varieties that are spelled in their own way; any other tag has the dictionary of its language. */
const VARIETIES = ['en-gb', 'en-ca', 'en-au', 'pt-pt'] as const;
const LANGUAGES =
  'bg ca cs cy da de el en es et eu fa fr ga gl he hr hu hy is it ka lt lv mk nb ne nl nn pl pt ro ru sk sl sr sv tr uk vi'.split(
    ' '
  );
/** Norwegian without a choice of its two written forms is the one that most write. */
const ALIASES: Readonly<Record<string, string>> = { no: 'nb' };

/** The package of a BCP 47 tag's dictionary, the nearest one of its language; `null` where there is none. */
export function dictionaryFor(language: string): string | null {
  const tag = language.toLowerCase();
  const primary = tag.split('-')[0]!;
  const found =
    VARIETIES.find((variety) => variety === tag) ?? LANGUAGES.find((one) => one === (ALIASES[primary] ?? primary));
  return found === undefined ? null : `dictionary-${found}`;
}
