/** The places in the order of the work. */
import type { Recording } from './api';
import type { CommandId, Place } from './keys/commands';

interface PlaceFacts {
  readonly id: Place;
  readonly title: string;
  /** What is done there, for who meets its name. */
  readonly about: string;
  readonly go: CommandId;
}

/** Where the work on a recording goes on: its first track is read; without one it is heard. */
export const firstPlaceOf = ({ id, tracks }: Pick<Recording, 'id' | 'tracks'>): string =>
  `/recordings/${id}/${tracks[0] === undefined ? 'hear' : `tracks/${tracks[0].id}/read`}`;

export const PLACES: readonly PlaceFacts[] = [
  { id: 'hear', title: 'Hear', about: 'have the speech turned into words, or import captions', go: 'goHear' },
  { id: 'read', title: 'Read', about: 'correct the words while listening', go: 'goRead' },
  { id: 'time', title: 'Time', about: 'break the words into cues and set when they show', go: 'goTime' },
  {
    id: 'trim',
    title: 'Trim',
    about: 'take out words, pauses and passages, and the sound goes with them',
    go: 'goTrim'
  },
  { id: 'dress', title: 'Dress', about: 'say how the captions look and where they stand', go: 'goDress' },
  {
    id: 'translate',
    title: 'Translate',
    about: 'have the same captions in other languages, row by row beside the source',
    go: 'goTranslate'
  },
  {
    id: 'check',
    title: 'Check',
    about: 'mend what is not as it should be, or let it stand for a reason',
    go: 'goCheck'
  },
  { id: 'hand-over', title: 'Hand over', about: 'take the files away', go: 'goHandOver' }
];
