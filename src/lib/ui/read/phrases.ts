/** The phrases of the place where words are read and corrected. */
import { plural } from '$lib/core/plural';

export const phrases = {
  changes: {
    label: 'Changes between versions',
    from: 'From',
    to: 'to',
    now: 'now',
    comparing: 'Comparing…',
    wrongWords: (count: { substitutions: number; deletions: number; insertions: number; words: number }) =>
      `of the words were wrong: ${count.substitutions} wrong, ${count.deletions} missing, ${count.insertions} extra, of ${count.words}.`,
    correctedByHand: (count: number) => `${count} corrected by hand.`,
    speaker: 'Speaker',
    words: 'Words',
    wrong: 'Wrong',
    changes: 'Changes',
    nameOfThisVersion: 'Name of this version',
    saveVersion: 'Save version',
    goBackTo: (title: string) => `Go back to “${title}”`,
    nobodyNamed: 'Nobody named',
    thisVersionIsKept: 'This version is kept.',
    wentBack: 'The track is as it was then. Undo brings the present one back.'
  },
  doubts: {
    about: 'Words that deserve a look: unsure, misspelled, like a name, or odd.',
    noDoubtsAreLeft: 'No doubts are left',
    left: (count: number) => `${count} left`,
    doubts: 'Doubts',
    askAgain: 'Ask again about the last one kept',
    kept: (count: number) => `${count} kept · ask again`,
    lookedAt: (count: number) => `${count} looked at and kept`,
    noDictionary: (language: string) => `There is no dictionary for ${language}: spelling is not checked.`,
    lookAgain: 'Look again',
    lookForDoubts: 'Look for doubts',
    lookingThroughTheWords: 'Looking through the words…',
    cancel: 'Cancel',
    lookingForDoubts: 'Looking for doubts',
    place: (clock: string, number: number, count: number) => `${clock} · ${number} of ${count}`,
    whatMayBeMeant: 'What may be meant',
    leaveItOut: 'Leave it out',
    noCandidate: (hearKey: string) => `Nothing is offered: type what is said, or hear it again (${hearKey}).`,
    keepAsItIs: 'Keep as it is',
    addToNames: 'Add to names',
    next: 'Next',
    goThroughThem: 'Go through them',
    allDone: 'Every word that seemed doubtful was looked at.',
    sameForAlike: (count: number) => `The same for ${count} like the last`
  },
  find: {
    findAndReplace: 'Find and replace',
    find: 'Find',
    replaceWith: 'Replace with',
    addToNames: 'Add to names',
    next: 'Next',
    replace: 'Replace',
    replaceAll: (count: number) => (count > 0 ? `Replace all (${count})` : 'Replace all'),
    notFound: 'Not found in this track.',
    inThisTrack: (count: number) => `${plural(count, 'place')} in this track`,
    places: 'Places',
    inAllOtherTracks: 'In all other tracks',
    lookForItThere: 'Look for it there',
    notElsewhere: 'Not found in any other track.',
    replaceElsewhere: (text: string, count: number) => `Replace all ${count} with “${text}”`,
    capitalsAsTyped: 'Capitals as typed',
    wholeWords: 'Whole words',
    soundsLikeIt: 'Sounds like it'
  },
  foot: {
    corrected: (count: number) => `${count} corrected`
  },
  hesitations: {
    hesitations: 'Hesitations',
    shown: (count: number, example: string) => `${count} such as “${example}”, dotted on the page`,
    leaveThemOut: 'Leave them out',
    leftOut: (count: number) => `${count} left out`,
    showThemAgain: 'Show them again',
    theHesitationsAreLeft: 'The hesitations are left out. Undo brings them back.',
    theHesitationsAreShown: 'The hesitations are shown again.'
  },
  outline: {
    paragraphs: 'Paragraphs'
  },
  page: {
    page: 'Page',
    speakerOfTheParagraph: 'Speaker of the paragraph',
    pageTheWordsOf: 'Page: the words of the recording'
  },
  panel: {
    besideThePage: 'Beside the page',
    doubts: 'Doubts',
    find: 'Find',
    cue: 'Cue',
    outline: 'Outline',
    changes: 'Changes'
  },
  read: {
    read: 'Read'
  },
  repairs: {
    repairsOfTheChosen: 'Repairs of the chosen word',
    capital: 'Aa',
    noMarks: 'No marks',
    leaveOut: 'Leave out',
    join: 'Join',
    speaker: 'Speaker'
  },
  speakers: {
    speakers: 'Speakers',
    nameOf: (name: string) => `Name of ${name}`,
    listenTo: (name: string) => `Listen to ${name}`,
    listen: 'Listen',
    isTheSameAs: (name: string) => `${name} is the same as`,
    sameAs: 'same as…',
    selectedSaidBy: 'What is selected is said by',
    selectedHint: 'The selected words, or the paragraph with the cursor',
    somebodyNew: 'somebody new',
    merged: (from: string, into: string) => `What ${from} said is ${into}’s now. Undo takes it back.`
  }
};
