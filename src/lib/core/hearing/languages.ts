/** Which languages an engine hears. */
import { isSameLanguage } from '../track';

/** In the list of an engine's languages: any. */
export const ANY_LANGUAGE = 'und';

/** `languages`: those of an engine, BCP 47. */
export const hearsLanguage = (languages: readonly string[], language: string): boolean =>
  languages.some((one) => one === ANY_LANGUAGE || isSameLanguage(one, language));
