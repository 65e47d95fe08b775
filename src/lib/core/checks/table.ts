/** Every check there is, in the order in which the page, the sheets and the documentation show them. */
import type { Check } from './check';
import { fileChecks } from './file';
import { pictureChecks } from './picture';
import { readingChecks } from './reading';
import { signChecks } from './signs';
import { soundChecks } from './sound';
import { timingChecks } from './timing';
import { translationChecks } from './translation';
import { wordChecks } from './words';

export const CHECKS: readonly Check[] = [
  ...wordChecks,
  ...signChecks,
  ...translationChecks,
  ...readingChecks,
  ...timingChecks,
  ...pictureChecks,
  ...soundChecks,
  ...fileChecks
];

const byId = new Map(CHECKS.map((check) => [check.id, check]));
export const findCheck = (id: string): Check | undefined => byId.get(id);
