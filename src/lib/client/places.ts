/** The places in the order of the work. */
import type { CommandId, Place } from './keys/commands';

export const PLACES: readonly { readonly id: Place; readonly title: string; readonly go: CommandId }[] = [
  { id: 'hear', title: 'Hear', go: 'goHear' },
  { id: 'read', title: 'Read', go: 'goRead' },
  { id: 'time', title: 'Time', go: 'goTime' },
  { id: 'dress', title: 'Dress', go: 'goDress' },
  { id: 'hand-over', title: 'Hand over', go: 'goHandOver' }
];
