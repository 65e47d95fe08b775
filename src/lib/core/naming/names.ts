/** Names of files as a house wants them: a pattern of parts, safe on every system, each once in a folder. */
import { z } from 'zod';
import { graphemes } from '../track';
import { inThreeLetters } from './iso-639';

/** What a name may hold, in braces. */
export const NAME_PARTS = ['title', 'track', 'language', 'region', 'kind', 'version', 'date'] as const;
export type NamePart = (typeof NAME_PARTS)[number];

const PART = /\{([a-z]+)\}/g;
const isPart = (name: string): name is NamePart => (NAME_PARTS as readonly string[]).includes(name);

/** Ways to write a language with its region: Canadian English. */
export const LANGUAGE_FORMS = ['en-CA', 'en_CA', 'eng'] as const;

export const namingSchema = z
  .object({
    pattern: z
      .string()
      .trim()
      .min(1)
      .max(200)
      .refine((pattern) => [...pattern.matchAll(PART)].every(([, name]) => isPart(name!)), {
        message: `parts are ${NAME_PARTS.map((part) => `{${part}}`).join(', ')}`
      })
      .refine((pattern) => /\{[a-z]+\}/.test(pattern), {
        message: 'a pattern needs a part in braces, such as {title}'
      }),
    /** Titles in small letters with hyphens, or as they are. */
    letters: z.enum(['small', 'as written']),
    languages: z.enum(LANGUAGE_FORMS)
  })
  .readonly();
export type Naming = z.infer<typeof namingSchema>;

export const USUAL_NAMING: Naming = { pattern: '{title}.{track}.{language}', letters: 'small', languages: 'en-CA' };

/** What is known of a file that is to be named. */
export interface NamedFile {
  readonly title: string;
  /** The track's own name; empty where it has that of its recording. */
  readonly track: string;
  /** BCP 47. */
  readonly language: string;
  readonly kind: string;
  readonly version: number;
  /** Since 1970, UTC. */
  readonly atMs: number;
  /** Without the dot. */
  readonly extension: string;
}

/** Small letters and digits of any script, with hyphens between them. */
export function slug(text: string): string {
  const whole = text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/['’]/g, '')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '');
  return [...whole].slice(0, 80).join('').replace(/-+$/, '');
}

/** What systems do not take in names: signs of theirs, controls, and what nobody sees. */
const UNSAFE = /[<>:"/\\|?*\u200b-\u200f\u2028-\u202e\u2060-\u206f\ufeff\ufffe\uffff]|\p{Cc}|\p{Cs}/gu;
/** Names of devices on Windows, whatever stands behind a dot. */
const DEVICE = /^(?:con|prn|aux|nul|com[1-9¹²³]|lpt[1-9¹²³])(?:\.|$)/i;
const MOST_BYTES = 255;
/** For a number that tells it from another one. */
const SPARE_BYTES = 6;

const byteLength = (text: string): number => new TextEncoder().encode(text).length;

function languageAs(tag: string, form: Naming['languages']): { readonly language: string; readonly region: string } {
  const [language = '', ...rest] = tag.split('-');
  const region = rest.find((part) => /^(?:[a-z]{2}|\d{3})$/i.test(part)) ?? '';
  if (form === 'eng') return { language: inThreeLetters(language), region };
  return { language: form === 'en_CA' ? tag.replaceAll('-', '_') : tag, region };
}

/** One name, not yet told from others. Only the title is shortened where it is too long. */
function nameOf(file: NamedFile, { pattern, letters, languages }: Naming): string {
  const written = (text: string): string => (letters === 'small' ? slug(text) : text.normalize('NFC').trim());
  const build = (title: string): string => {
    const parts: Readonly<Record<NamePart, string>> = {
      ...{ title, track: written(file.track), kind: file.kind, version: String(file.version) },
      ...languageAs(file.language, languages),
      date: new Date(file.atMs).toISOString().slice(0, 10)
    };
    const name = pattern
      .replace(PART, (whole, part: string) => (isPart(part) ? parts[part] : whole))
      .normalize('NFC')
      .replaceAll(UNSAFE, '-')
      // A part that is empty leaves no gap.
      .replace(/([ ._-])\1+/g, '$1')
      .replace(/^[ ._-]+|[ ._-]+$/g, '');
    const safe = name === '' ? 'captions' : DEVICE.test(name) ? `_${name}` : name;
    return file.extension === '' ? safe : `${safe}.${file.extension}`;
  };
  const title = written(file.title) || 'captions';
  const clusters = [...graphemes.segment(title)].map(({ segment }) => segment);
  for (let count = clusters.length; ; count = Math.floor(count * 0.9)) {
    const name = build(clusters.slice(0, count).join(''));
    if (byteLength(name) <= MOST_BYTES - SPARE_BYTES) return name;
    if (count === 0) return shortened(name, file.extension);
  }
}

/** Where even the rest is too long, that is cut as well. */
function shortened(name: string, extension: string): string {
  const ending = extension === '' ? '' : `.${extension}`;
  let stem = name.slice(0, name.length - ending.length);
  while (byteLength(stem) + byteLength(ending) > MOST_BYTES - SPARE_BYTES)
    stem = [...graphemes.segment(stem)]
      .slice(0, -1)
      .map(({ segment }) => segment)
      .join('');
  return `${stem.replace(/[ ._-]+$/, '')}${ending}`;
}

/** Names in the order of the files, no two the same wherever capitals do not count, and none of the others'. */
export function nameFiles(
  files: readonly NamedFile[],
  naming: Naming,
  others: readonly string[] = []
): readonly string[] {
  const taken = new Set(others.map((name) => name.toLowerCase()));
  return files.map((file) => {
    const name = nameOf(file, naming);
    const stem = file.extension === '' ? name : name.slice(0, -file.extension.length - 1);
    const numbered = (number: number): string =>
      number === 1 ? name : `${stem}-${number}${file.extension === '' ? '' : `.${file.extension}`}`;
    let number = 1;
    while (taken.has(numbered(number).toLowerCase())) number++;
    taken.add(numbered(number).toLowerCase());
    return numbered(number);
  });
}
