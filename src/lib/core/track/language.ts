/** Languages as BCP 47 tags. */
import { z } from 'zod';

/** As it is kept: whatever was once taken can be read, and is shown as it is written where it names no language. */
export const languageSchema = z.string().min(1).max(255);

/** RFC 5646 §4.4.1: what every reader has room for. */
const LONGEST_TAG = 35;

/** The tag as it is written by the standard (`EN-gb` is `en-GB`); `null` where it is none. */
export function canonicalLanguage(tag: string): string | null {
  try {
    return tag.length > LONGEST_TAG ? null : (Intl.getCanonicalLocales(tag)[0] ?? null);
  } catch {
    // What is not well formed throws.
    return null;
  }
}

/** A language that comes in from outside. */
export const languageTagSchema = z.string().transform((tag, context) => {
  const canonical = canonicalLanguage(tag);
  if (canonical !== null) return canonical;
  const message = `“${tag.slice(0, 60)}” is no BCP 47 language tag of at most ${LONGEST_TAG} characters, such as en or en-CA.`;
  context.addIssue({ code: 'custom', message });
  return z.NEVER;
});

/** Of a tag what says the language itself, in small letters: `en` of `en-GB`. */
export const primarySubtag = (tag: string): string => tag.split('-')[0]!.toLowerCase();

/** Whether two tags are of one language, whatever its script and region. */
export const isSameLanguage = (one: string, other: string): boolean => primarySubtag(one) === primarySubtag(other);

const FROM_THE_RIGHT = new Set(['ar', 'he', 'fa', 'ur', 'yi', 'ps', 'sd', 'ug', 'dv', 'ckb', 'arc', 'syr']);

/** Whether text of a language is written from the right. */
export const isFromTheRight = (language: string): boolean =>
  FROM_THE_RIGHT.has(primarySubtag(language)) || /-(Arab|Hebr|Thaa|Syrc|Nkoo)\b/i.test(language);

/** The language's name, or the tag itself where it is none. */
export function languageName(tag: string): string {
  if (tag === '') return '';
  try {
    return new Intl.DisplayNames(['en'], { type: 'language', languageDisplay: 'standard' }).of(tag) ?? tag;
  } catch {
    // A tag that is no tag yet is shown as it stands.
    return tag;
  }
}
