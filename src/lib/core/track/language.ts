/** What BCP 47 tags have in common. */

/** Of a tag what says the language itself, in small letters: `en` of `en-GB`. */
export const primarySubtag = (tag: string): string => tag.split('-')[0]!.toLowerCase();

/** Whether two tags are of one language, whatever its script and region. */
export const isSameLanguage = (one: string, other: string): boolean => primarySubtag(one) === primarySubtag(other);
