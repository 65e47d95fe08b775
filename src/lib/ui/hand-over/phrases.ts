/** The phrases of the place where files are handed over. */
import { plural } from '$lib/core/plural';

export const phrases = {
  handOver: {
    filesToHandOver: 'Files to hand over',
    handOver: 'Hand over',
    format: 'Format',
    transcriptToBeRead: 'Transcript to be read',
    toBeRead: 'To be read:',
    withTimes: 'with times',
    withSpeakers: 'with speakers',
    cues: (count: number) => plural(count, 'cue'),
    ready: 'Ready',
    readyHint: 'Nothing is left to do on this track: the list of recordings shows it',
    download: 'Download',
    thereIsNothingTo: 'There is nothing to hand over yet.',
    previewOf: (name: string) => `Preview of ${name}`,
    savingFirst: 'Saving first…'
  }
};
