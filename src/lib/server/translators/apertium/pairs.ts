/** Which pairs of languages Apertium has here, and which packages of Debian would bring others. */
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { apertiumModes } from '../../config';
import type { DraftWorth, TranslatorPair } from '../translator';

export interface InstalledPair extends TranslatorPair {
  /** Files that hold its stages, one behind the other. */
  readonly modes: readonly string[];
}

/** Languages by how modes name them. */
const LANGUAGES: Readonly<Record<string, string>> = {
  ...{ afr: 'af', arg: 'an', ast: 'ast', bel: 'be', br: 'br', bul: 'bg', ca: 'ca', cat: 'ca', dan: 'da', en: 'en' },
  ...{ eng: 'en', eo: 'eo', es: 'es', eu: 'eu', fr: 'fr', fra: 'fr', gl: 'gl', hbs: 'sh', hin: 'hi', ind: 'id' },
  ...{ isl: 'is', ita: 'it', mkd: 'mk', nld: 'nl', nno: 'nn', nob: 'nb', oc: 'oc', oci: 'oc', pol: 'pl', por: 'pt' },
  ...{ pt: 'pt', ro: 'ro', rus: 'ru', slv: 'sl', spa: 'es', srd: 'sc', swe: 'sv', szl: 'szl', ukr: 'uk', urd: 'ur' },
  ...{ zlm: 'ms' }
};
const VARIETIES: Readonly<Record<string, string>> = {
  ...{ US: 'US', BR: 'BR', valencia: 'valencia', aran: 'aranes', gascon: 'gascon' }
};

/** Languages that are close to each other. */
const FAMILIES = [
  ['es', 'ca', 'gl', 'pt', 'it', 'fr', 'oc', 'ast', 'an', 'ro', 'sc'],
  ['sv', 'da', 'nb', 'nn'],
  ['bg', 'mk', 'sh', 'sl'],
  ['ru', 'uk', 'be'],
  ['id', 'ms'],
  ['hi', 'ur'],
  ['af', 'nl'],
  ['pl', 'szl']
];
const [ROMANCE] = FAMILIES as [string[]];

const bare = (tag: string): string => tag.split('-')[0]!;
const worthOf = (from: string, to: string): DraftWorth =>
  FAMILIES.some((family) => family.includes(bare(from)) && family.includes(bare(to))) ? 'good' : 'rough';

/** Packages with the pairs that they bring. */
const PACKAGES: Readonly<Record<string, readonly string[]>> = {
  'apertium-eng-spa': ['eng-spa', 'spa-eng'],
  'apertium-eng-cat': ['eng-cat', 'cat-eng'],
  'apertium-en-gl': ['en-gl', 'gl-en'],
  'apertium-spa-cat': ['spa-cat', 'cat-spa'],
  'apertium-es-gl': ['es-gl', 'gl-es'],
  'apertium-es-pt': ['es-pt', 'pt-es', 'es-pt_BR'],
  'apertium-spa-ita': ['spa-ita', 'ita-spa'],
  'apertium-fr-es': ['fr-es', 'es-fr'],
  'apertium-fra-cat': ['fra-cat', 'cat-fra'],
  'apertium-cat-ita': ['cat-ita', 'ita-cat'],
  'apertium-por-cat': ['por-cat', 'cat-por'],
  'apertium-pt-gl': ['pt-gl', 'gl-pt'],
  'apertium-es-ro': ['ro-es'],
  'apertium-oc-es': ['oc-es', 'es-oc'],
  'apertium-oci-fra': ['oci-fra', 'fra-oci'],
  'apertium-spa-ast': ['spa-ast'],
  'apertium-spa-arg': ['spa-arg', 'arg-spa'],
  'apertium-cat-srd': ['cat-srd'],
  'apertium-srd-ita': ['ita-srd'],
  'apertium-swe-dan': ['swe-dan', 'dan-swe'],
  'apertium-swe-nor': ['swe-nob', 'swe-nno', 'nob-swe', 'nno-swe'],
  'apertium-dan-nor': ['dan-nob', 'dan-nno', 'nob-dan', 'nno-dan'],
  'apertium-nno-nob': ['nno-nob', 'nob-nno'],
  'apertium-isl-swe': ['isl-swe', 'swe-isl'],
  'apertium-isl-eng': ['isl-eng'],
  'apertium-mkd-bul': ['mkd-bul', 'bul-mkd'],
  'apertium-mkd-eng': ['mkd-eng'],
  'apertium-hbs-slv': ['hbs-slv'],
  'apertium-hbs-mkd': ['hbs-mkd'],
  'apertium-hbs-eng': ['hbs-eng', 'eng-hbs'],
  'apertium-rus-ukr': ['rus-ukr', 'ukr-rus'],
  'apertium-bel-rus': ['bel-rus', 'rus-bel'],
  'apertium-ind-zlm': ['ind-zlm', 'zlm-ind'],
  'apertium-urd-hin': ['urd-hin', 'hin-urd'],
  'apertium-afr-nld': ['afr-nld', 'nld-afr'],
  'apertium-pol-szl': ['pol-szl', 'szl-pol'],
  'apertium-eu-es': ['eu-es'],
  'apertium-eu-en': ['eu-en'],
  'apertium-br-fr': ['br-fr'],
  'apertium-eo-en': ['eo-en', 'en-eo']
};

/** Of a mode's name the languages; `null` for what no pair of whole languages is, as it is written today. */
function pairOf(mode: string): TranslatorPair | null {
  const [one, other, ...rest] = mode.split('-');
  const from = tagOf(one ?? '');
  const to = tagOf(other ?? '');
  return from === null || to === null || rest.length > 0 ? null : { from, to, worth: worthOf(from, to) };
}

function tagOf(name: string): string | null {
  const [language, variety, ...rest] = name.split('_');
  const tag = LANGUAGES[language!];
  if (tag === undefined || rest.length > 0) return null;
  if (variety === undefined) return tag;
  return VARIETIES[variety] === undefined ? null : `${tag}-${VARIETIES[variety]}`;
}

function modesThere(): readonly string[] {
  try {
    return readdirSync(apertiumModes()).flatMap((name) => (name.endsWith('.mode') ? [name.slice(0, -5)] : []));
  } catch {
    return []; // Apertium is not installed.
  }
}

const keyOf = ({ from, to }: TranslatorPair): string => `${from} ${to}`;

/** The pairs that are here, and those between Romance languages that go through a third one. */
export function installedPairs(): readonly InstalledPair[] {
  const direct = modesThere().flatMap((mode): InstalledPair[] => {
    const pair = pairOf(mode);
    return pair === null ? [] : [{ ...pair, modes: [join(apertiumModes(), `${mode}.mode`)] }];
  });
  const known = new Map(direct.map((pair) => [keyOf(pair), pair]));
  const isRomance = (tag: string): boolean => ROMANCE.includes(bare(tag));
  for (const first of direct)
    for (const second of direct) {
      const chained = {
        ...{ from: first.from, to: second.to, via: first.to, worth: 'rough' as const },
        modes: [...first.modes, ...second.modes]
      };
      const isMeant = first.to === second.from && bare(chained.from) !== bare(chained.to);
      if (isMeant && [chained.from, chained.via, chained.to].every(isRomance) && !known.has(keyOf(chained)))
        known.set(keyOf(chained), chained);
    }
  return [...known.values()];
}

/** The pairs that are not here, with the package that would bring each. */
export function missingPairs(): readonly (TranslatorPair & { readonly install: string })[] {
  const here = new Set(
    installedPairs()
      .filter(({ via }) => via === undefined)
      .map(keyOf)
  );
  return Object.entries(PACKAGES).flatMap(([install, modes]) =>
    modes.flatMap((mode) => {
      const pair = pairOf(mode);
      return pair === null || here.has(keyOf(pair)) ? [] : [{ ...pair, install }];
    })
  );
}
