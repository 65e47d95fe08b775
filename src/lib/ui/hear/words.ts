/** The words of the place where recordings are heard. */
import { plural } from '$lib/core/plural';

export const words = {
  tracks: {
    title: 'Tracks',
    counts: (track: { wordCount: number; correctedCount: number; cueCount: number }) =>
      `${plural(track.wordCount, 'word')}, ${track.correctedCount} corrected, ${plural(track.cueCount, 'cue')}`,
    name: 'Name',
    nameOf: (label: string) => `Name of ${label}`,
    state: (label: string) => `State of ${label}`,
    states: { draft: 'In work', ready: 'Ready', 'handed over': 'Handed over' },
    duplicate: 'Duplicate',
    duplicateOf: (label: string) => `Duplicate ${label}`,
    /** Of a track with a name of its own; empty: it has none. */
    copy: (name: string) => (name === '' ? 'Copy' : `${name}, copy`),
    bin: 'Put in the bin',
    binOf: (label: string) => `Put ${label} in the bin`,
    inBin: (count: number) => `In the bin (${count})`,
    back: 'Bring back',
    remove: 'Delete for good',
    failed: (why: string) => `The track could not be changed: ${why}`
  }
};
