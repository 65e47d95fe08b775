/** Every check there is, in the order in which the page, the sheets and the documentation show them. */
import type { Check, NumberOf } from './check';
import type { Need } from './finding';
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

/** What of a check is told outside: to scripts, and in the documentation. */
export interface CheckFacts {
  readonly id: string;
  readonly group: Check['group'];
  readonly title: string;
  readonly severity: Check['severity'];
  readonly needs: readonly Need[];
  readonly numbers: Readonly<Record<string, NumberOf>>;
  /** `seen`: what would mend it is a guess, looked at one by one. */
  readonly mends: 'unseen' | 'seen' | 'no';
}

export const describeCheck = (check: Check): CheckFacts => ({
  ...{ id: check.id, group: check.group, title: check.title, severity: check.severity },
  ...{ needs: check.needs ?? [], numbers: check.numbers ?? {} },
  mends: !('mend' in check) ? 'no' : check.isGuess === true ? 'seen' : 'unseen'
});
