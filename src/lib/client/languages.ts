/** Languages by their names, and what can be done with a recording in them. */
import { languageName, primarySubtag } from '$lib/core/track';

/** Spoken widely or captioned often; any other can be given by its tag. */
const TAGS =
  'af sq am ar hy az eu bn bs bg my ca zh-Hans zh-Hant hr cs da nl et fil fi fr fr-CA gl ka de de-AT de-CH el gu he hi hu is id ga it ja kn kk km ko lo lv lt mk ms ml mt mr mn ne nb nn fa pl pt pt-BR pa ro ru sr sk sl es es-MX es-419 sw sv ta te th tr uk ur uz vi cy xh zu'.split(
    ' '
  );
const ENGLISH = 'en en-US en-GB en-AU en-CA en-IE en-IN en-NZ en-ZA'.split(' ');

export interface LanguageGroup {
  /** What can be done in its languages. */
  readonly label: string;
  readonly tags: readonly string[];
}

/** Every language that is offered, by what can be done in it here: the tags that an engine hears, and those a script is laid on in. */
export function languageGroups(heard: readonly string[], fitted: readonly string[] = []): readonly LanguageGroup[] {
  const hears = new Set(heard.map(primarySubtag));
  const fits = new Set(fitted.map(primarySubtag));
  const byName = (tags: readonly string[]): readonly string[] =>
    tags.toSorted((one, other) => languageName(one).localeCompare(languageName(other)));
  const all = [...ENGLISH, ...TAGS];
  const rest = all.filter((tag) => !hears.has(primarySubtag(tag)));
  return [
    { label: 'Heard, fitted to a script, timed', tags: byName(all.filter((tag) => hears.has(primarySubtag(tag)))) },
    { label: 'Fitted to a script, timed', tags: byName(rest.filter((tag) => fits.has(primarySubtag(tag)))) },
    { label: 'Timed only: empty cues', tags: byName(rest.filter((tag) => !fits.has(primarySubtag(tag)))) }
  ].filter(({ tags }) => tags.length > 0);
}
