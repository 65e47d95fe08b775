/** What a spelling dictionary knows of English: read when it is first asked for, kept. */
import { capitalisedStems } from '$lib/core/wording';

let names: Promise<ReadonlySet<string>> | undefined;

/** Words that always have a capital, in small letters. */
export function englishNames(): Promise<ReadonlySet<string>> {
  names ??= import('dictionary-en').then(({ default: dictionary }) =>
    capitalisedStems(new TextDecoder().decode(dictionary.dic))
  );
  return names;
}
