import type { Placement } from '$lib/core/track';

/** The phrases of the cue card. */
export const phrases = {
  cueCard: {
    noCues: (addKey: string) => `No cue is chosen. There are none yet: add one at the playhead with ${addKey}.`,
    noneChosen: (previousKey: string, nextKey: string) =>
      `No cue is chosen. Click one, or step with ${previousKey} and ${nextKey}.`,
    cueCard: 'Cue card',
    cueOf: (number: number, count: number) => `Cue ${number} of ${count}`,
    onItsWords: 'on its words',
    offItsWords: 'off its words',
    bookmark: 'Bookmark',
    note: 'Note',
    textOfTheCue: 'Text of the cue, a line each',
    charactersPerLine: 'Characters per line',
    inTime: 'in',
    outTime: 'out',
    duration: 'duration',
    charactersPerSecond: ({ isTooFast }: { isTooFast: boolean }) =>
      `characters per second${isTooFast ? ': too fast' : ''}`,
    limit: (characters: number) => `limit ${characters}`,
    speaker: 'speaker',
    speakerOfTheCue: 'Speaker of the cue',
    placeOf: (place: Placement) =>
      typeof place === 'string'
        ? place.replace(' ', ', ')
        : `${Math.round(place.xPercent)} %, ${Math.round(place.yPercent)} %`,
    place: 'place',
    asInItsFile: ' (as in its file)',
    timeDraft: 'time of the cue',
    noTime: (written: string, example: string) => `“${written}” is no time. Write it as ${example}.`,
    splitAtWord: 'Split at word',
    mergeWithNext: 'Merge with next',
    pullAWord: 'Pull a word',
    pushAWord: 'Push a word',
    hearWhatIsSaid: 'Hear what is said here',
    noteDraft: 'note of the cue'
  }
};
