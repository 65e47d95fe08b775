/** What groups and severities are called wherever they are shown. */
import type { Severity } from '../track';
import type { Group } from './finding';

export const GROUP_NAMES: Readonly<Record<Group, string>> = {
  words: 'Words',
  reading: 'Reading',
  timing: 'Timing',
  picture: 'Picture',
  sound: 'Sound',
  file: 'File'
};
export const SEVERITY_NAMES: Readonly<Record<Severity, string>> = { error: 'Fault', warning: 'Warning', hint: 'Hint' };
