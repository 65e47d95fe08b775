/** What commands answer, and what lists call what they hold. */
import { plural } from '$lib/core/plural';

export const phrases = {
  translating: {
    sourceGone: 'The track that this one translates is gone.',
    drafted: 'The draft is on the rows. Undo takes it back.',
    draftFailed: (why: string) => `The draft did not come: ${why}`,
    noneListed: 'No row is listed.',
    allDone: 'Every row is done.',
    marked: (state: 'mine' | 'done') => (state === 'done' ? 'Done.' : 'Open again.'),
    timesFit: 'The times are those of the source.',
    timesTaken: (count: number) => `${plural(count, 'cue')} at the times of the source.`,
    noOffer: (number: number) => `There is no offer ${number} for this row.`,
    shows: {
      target: 'The picture shows the translation.',
      source: 'The picture shows the source.',
      both: 'The picture shows both, the source above.'
    }
  },
  trimming: {
    firstTitle: 'Trim',
    copyOf: (title: string) => `${title.slice(0, 190)} copy`,
    chooseFirst: 'Choose words, or a stretch on the waveform.',
    chooseHeard: 'Choose a passage that is heard.',
    pickUpFirst: 'Pick up a passage first.',
    pickedUp: 'Picked up: go to the place, and put it down ahead of the word there.',
    moved: 'Moved. Undo brings it back.',
    repeated: 'It stands twice now.',
    inOrder: 'In the recorded order again.',
    putBack: 'Put back.',
    allBack: 'Everything is back.',
    done: {
      close: 'Taken out and closed up.',
      gap: 'Taken out; its time is left to the room.',
      silence: 'Silenced; its time stays.'
    },
    marked: (edge: 'in' | 'out', at: string) => `${edge === 'in' ? 'From' : 'To'} ${at}.`,
    pauseRemoved: 'The put-in pause is gone.',
    pausePutIn: (ms: number) => `A pause of ${ms / 1000} s is put in.`,
    pauseOf: (ms: number) => `A pause of ${(ms / 1000).toFixed(1)} s`,
    hesitation: (kind: 'sound' | 'repeat' | 'false start' | 'phrase', text: string) =>
      `${{ sound: 'Hesitation', repeat: 'Said twice', 'false start': 'Begun anew', phrase: 'Phrase' }[kind]}: “${text}”`,
    hesitationByShape: 'No word was heard here, and it sounds like a hesitation',
    foundWord: 'Found here',
    notShorter: 'It is shorter than that already.',
    nothingTried: 'Nothing is found by these values.',
    taken: (count: number, savedMs: number) =>
      `${plural(count, 'place')} taken out, ${(savedMs / 1000).toFixed(1)} s shorter.`,
    noneLeft: 'None are left.',
    nothingInHand: 'Nothing is in hand: go through pauses or hesitations first.',
    noJoins: 'There are no joins yet.',
    chooseJoin: 'Go to a join first.',
    noBetter: 'No edge near this join would be heard less.',
    join: (number: number, count: number, faults: readonly string[]) =>
      `Join ${number} of ${count}${faults.length === 0 ? '.' : `, likely to be heard: ${faults.join(', ')}.`}`
  },
  dressing: {
    asOthers: 'As all the others again.',
    stillMeasured: 'The light behind the captions is not measured yet.',
    allLegible: 'Every cue stands out by 4.5 : 1 at least, as far as is measured.',
    taken: (name: string) => `Dressed as “${name}”. Undo brings back what was.`
  },
  handing: {
    nothingYet: 'Nothing was handed over yet: choose a destination under Bundle first.',
    done: (files: number, name: string | null) =>
      `${plural(files, 'file')} handed over${name === null ? ' as last time' : ` for “${name}”`}.`
  },
  cueCommands: {
    noCues: 'There are no cues.',
    chooseToSplit: 'Choose a cue to split.',
    oneWord: 'One word cannot be split.',
    split: 'Split.',
    nothingToMerge: (by: 1 | -1) => `There is no ${by > 0 ? 'next cue' : 'cue before it'} to merge with.`,
    mergedAll: (count: number) => `${count} cues merged.`,
    merged: 'Merged.',
    chooseACue: 'Choose a cue.',
    chooseLineStart: 'Choose the word that begins the line.',
    linesSet: 'Lines set',
    deleted: 'Deleted. Undo brings it back.',
    deletedAll: (count: number) => `${count} cues deleted. Undo brings them back.`,
    noRoom: 'There is no room for a cue here.',
    locked: 'Locked for breaking anew, easing and sync.',
    unlocked: 'Unlocked.',
    bookmarked: 'Bookmarked.',
    noBookmark: 'No bookmark.',
    edgesMoved: (edge: 'start' | 'end') => `${edge === 'start' ? 'Starts' : 'Ends'} moved.`,
    cuesMoved: (count: number) => `${count} cues moved.`,
    chosen: (count: number) => `${plural(count, 'cue')} chosen.`,
    keyLost: 'The window lost the key: nothing was timed.',
    noShot: 'No shot change that way.',
    noGap: (seconds: number) => `No gap of ${seconds} seconds that way.`,
    noBookmarkThatWay: 'No bookmark that way.',
    noBrokenRule: 'No cue that breaks a rule that way.'
  },
  cutRemarks: {
    nothingLeft: 'Nothing of the new cut is left to look at.',
    allCaptioned: 'There are cues on all of it.',
    leftOut: 'Left out, its sound is gone',
    shortened: 'Words gone with their sound',
    parted: 'In several parts now',
    newSound: 'New sound, not captioned',
    timeGone: 'Time gone with its sound'
  },
  doubtQueue: {
    noneLeft: 'No doubts are left.',
    stillLooking: 'The doubts are still being looked for.',
    nothingKept: 'Nothing was kept since the track was opened; Undo takes changes back.',
    notReconsidered: (reason: string) => `It could not be noted that this is a doubt again: ${reason}`,
    changedMeanwhile: 'Its words have changed meanwhile.',
    noneAlike: 'No other doubt is like the last one.',
    notKept: (reason: string) => `It could not be noted that this stands: ${reason}`,
    stands: (count: number) => (count === 1 ? 'It stands.' : `${count} stand.`),
    changed: (count: number, text: string) => (count === 1 ? `Now: ${text || 'left out'}` : `${count} changed.`),
    inHand: (number: number, count: number, reason: string, text: string) =>
      `${number} of ${count}: ${reason}, “${text}”.`,
    unsure: 'The recogniser was unsure',
    nearMiss: 'Sounds like one of the names',
    spelling: 'Not in the dictionary',
    repeated: 'Stands twice',
    capital: 'An odd capital',
    hesitation: 'A hesitation',
    sentenceEnd: 'Does the sentence end here?',
    hole: 'Not heard'
  },
  checkList: {
    noneLeft: 'Nothing is left to look at here.',
    stillChecking: 'The track is still being checked.',
    noneInHand: 'Choose a finding first.',
    inHand: (number: number, count: number, title: string) => `${number} of ${count}: ${title}.`,
    notMended: 'Nothing mends it without making something else worse: mend it by hand.',
    notUnseen: 'These are looked at one by one.',
    mended: (count: number, asked: number) =>
      asked === 1
        ? 'Mended. Undo takes it back.'
        : count === asked
          ? `All ${count} are mended. Undo takes it back.`
          : `${count} of ${asked} are mended; the others would make something else worse. Undo takes it back.`,
    mendingCancelled: 'Nothing was mended.',
    stands: 'It stands.',
    nothingStands: 'Nothing was let stand since the track was opened.',
    notKept: (reason: string) => `It could not be noted: ${reason}`
  },
  finder: {
    notFound: 'Not found in this track.',
    place: (number: number, count: number, text: string) => `${number} of ${count}: ${text}`,
    lastReplaced: (found: string) => `“${found}” is replaced: it was the last one.`,
    replacedAll: (count: number) => `${count} replaced. Undo takes them all back.`,
    replacedElsewhere: (places: number, tracks: number) =>
      `${places} replaced in ${tracks} other tracks; undo in each takes it back.`
  },
  hearingAgain: {
    notHeardHere: (language: string) => `${language} is not heard on this machine: type what is said.`,
    choose: 'Choose words, a cue or a place without one to hear again.',
    tooLong: (seconds: number) => `A passage of at most ${seconds} seconds can be heard again.`,
    changedMeanwhile: 'The passage has changed meanwhile: hear it again.'
  },
  opposites: {
    asBefore: 'As it was before.'
  },
  pageCommands: {
    noRoomForSound: 'There is no room for a sound here.',
    chooseToRepair: 'Choose a word to repair, or play on to it.',
    nothingToDo: 'There is nothing to do there.',
    paragraphJoined: 'Joined to the paragraph before.',
    paragraphBegins: 'A paragraph begins here.',
    leftOut: 'Left out; the same key brings it back.',
    chooseToDelete: 'Choose a word to delete.',
    deleted: (text: string) => `“${text}” deleted. Undo brings it back.`,
    soundDescribed: (text: string, clock: string) => `${text} at ${clock}.`,
    chooseParagraph: 'Put the cursor into a paragraph with speakers.',
    nothingToMove: 'There is no word to move over that boundary.',
    boundaryMoved: (text: string) => `The paragraph begins with “${text}” now.`,
    chooseForSpeaker: 'Select words, or put the cursor into a paragraph, to say who speaks.',
    speakerSet: (count: number, name: string) => `${count} words are ${name}’s now.`,
    now: (text: string) => `Now: ${text}`
  },
  trackView: {
    wordsChosen: (count: number) => `${count} words chosen.`,
    loopOff: 'Loop off.',
    loopingSelection: 'Looping what is selected.',
    loopingCue: 'Looping the cue.',
    chooseToPlay: 'Choose a cue or words to play.',
    chooseSentence: 'Choose a word of the sentence to loop.',
    loopingSentence: 'Looping the sentence.',
    nothingToUndo: 'There is nothing to undo.',
    nothingToRedo: 'There is nothing to redo.'
  },
  untoldSounds: {
    allDescribed: 'Every sound that was found has its caption.',
    stillReading: 'The sound is still being read.',
    whatIsIt: (clock: string) => `Sound at ${clock}: what is it?`
  }
};
