/** The phrases of the place where recordings are heard. */
import { plural } from '$lib/core/plural';

export const phrases = {
  agree: {
    sendTheSoundAnd: (cost: string) => `Send the sound and spend ${cost}?`,
    about: (service: string, minutes: number) =>
      `${service} hears ${plural(minutes, 'started minute')}. It is billed once, when the words are there; nothing where it fails or you cancel.`,
    balance: (now: string, after: string) => `Balance now ${now}, after it ${after}.`,
    sendItAndSpend: (cost: string) => `Send it and spend ${cost}`,
    notNow: 'Not now'
  },
  background: {
    background: 'Background',
    none: 'None',
    musicRemovedFirst: 'Music, removed first',
    steadyNoiseRemovedFirst: 'Steady noise, removed first'
  },
  earlierCut: {
    fromTheCutBefore: 'From the cut before',
    tryAgain: 'Try again',
    findingWhatOfThe: 'Finding what of the cut before is in this one…',
    nothingShared: (title: string) => `Nothing of ${title} is heard in this recording.`,
    lengths: (title: string, before: string, now: string) => `${title} was ${before}, this is ${now}.`,
    thisRecordingFromIts: 'This recording, from its start',
    stretch: (from: string, to: string, told: string) => `${from} to ${to}: ${told}`,
    takingOver: (language: string, kind: string) => `Taking over ${language} ${kind}…`,
    takeOver: (language: string, kind: string) => `Take over ${language} ${kind}`,
    itIsHereWith: 'It is here, with its history.',
    timeIt: 'Time it',
    lookOver: (count: number) => `Look over ${plural(count, 'place')} that the cut changed`,
    theCutBeforeIs: 'The cut before is in the bin: bring it back to take its tracks over.',
    shared: (state: string, from: string, to: string) => `${state}, from ${from} to ${to} of the cut before`
  },
  engines: {
    heardBy: 'Heard by',
    minutes: (count: number) => `${plural(count, 'started minute')}:`,
    balance: (now: string, after: string | null) =>
      `. Balance now ${now}, ${after === null ? 'which does not reach: choose a part of it.' : `after it ${after}.`}`,
    itCannotBeUsed: 'It cannot be used now.',
    itFitsNoScript: 'It fits no script.',
    ownModels: 'Speech models of your own hear here, too:',
    ears: 'Ears',
    local: 'On this machine: the sound goes nowhere, and nothing is billed.',
    sent: 'The sound is sent to it.',
    sentFor: (price: string) => `The sound is sent to it. ${price} a started minute.`
  },
  finished: {
    theNewHearingIs: 'The new hearing is ready.',
    seeWhereItDiffers: 'See where it differs',
    draftReady: 'Draft ready.',
    theCuesAreReady: 'The cues are ready.',
    made: (made: { words: number | null; cues: number; length: string; doubts: number | null }) =>
      `${made.words === null ? '' : `${plural(made.words, 'word')} in `}${plural(made.cues, 'cue')}, ${made.length} long${made.doubts === null ? '' : `, ${plural(made.doubts, 'doubt')}`}.`,
    readIt: 'Read it',
    typeIntoThem: 'Type into them'
  },
  hear: {
    pageTitle: (title: string) => `Hear ${title} · Vine Tap`,
    vineTap: 'Vine Tap',
    openingTheRecording: 'Opening the recording…',
    theRecording: 'The recording',
    failed: (error: string) => `It could not be heard: ${error}`,
    stopped: 'Stopped.',
    readWhatWasHeard: 'Read what was heard',
    cancelled: 'Cancelled.',
    whatToMakeOf: 'What to make of it',
    askingWhatCanHear: 'Asking what can hear on this machine…',
    whatItBecomes: 'What it becomes',
    words: 'Words and cues, as they are heard',
    scripted: 'Words and cues of a script you have, fitted to the sound',
    emptyCues: 'Empty cues on the speech, to be typed into',
    fittedOnly: (language: string) => `${language} is not heard here; a script of it is laid on the sound.`,
    timedOnly: (language: string) =>
      `${language || 'This language'} is not heard here. You can have empty cues timed and type into them, or import captions.`,
    script: 'The script, as it is spoken',
    aboutScript:
      'It stays to the letter. What nobody speaks, and what is spoken and not in it, stands on the page struck through.',
    itIsTimedOn: 'It is timed on this machine: the sound goes nowhere, and nothing is billed.',
    change: 'Change',
    speakers: 'Speakers',
    oneOrNotTold: 'One, or not told apart',
    findOut: 'Find out',
    numbersAsFigures: 'Numbers as figures',
    oneWordPerCue: 'One word per cue',
    itBecomes: 'It becomes',
    aNewTrack: 'a new track',
    proposal: (track: string, corrected: number, words: number) =>
      `a proposal for ${track}, ${corrected} of ${words} words corrected`,
    hearItAgain: 'Hear it again',
    hearIt: 'Hear it',
    fitIt: 'Fit it',
    timeIt: 'Time it',
    forPrice: (price: string) => `, for ${price}…`,
    haveItHeard: 'Have it heard',
    importCaptions: 'Import captions',
    oneSpeaker: 'One speaker',
    speakersFoundOut: 'Speakers found out',
    someSpeakers: (count: string) => `${count} speakers`,
    noBackground: 'no background',
    removed: (background: string) => `${background} removed`,
    withFigures: 'numbers as figures',
    withoutFigures: 'numbers in words',
    oneWordEach: 'one word per cue'
  },
  importCaptions: {
    about: 'Captions made elsewhere become a track of this recording; their words can be timed anew later.',
    choose: 'Choose a file',
    formats: (names: readonly string[]) => `${names.slice(0, -1).join(', ')} or ${names.at(-1)}`,
    captionsFile: 'Captions file',
    importOf: (name: string) => `Import ${name}`,
    firstLines: 'First lines',
    lost: (count: number) =>
      `${plural(count, 'sign')} cannot be read in this encoding. Choose the one in which the text above is right.`,
    encoding: 'Encoding',
    language: 'Language',
    importing: 'Importing…',
    import: 'Import',
    cancel: 'Cancel',
    isImported: (name: string) => `${name} is imported.`,
    seeItInTime: 'See it in Time',
    warnings: (count: number) => `${count} ${count === 1 ? 'thing was' : 'things were'} mended or noted`,
    line: (number: number | string) => `line ${number}`
  },
  language: {
    languageSpoken: 'Language spoken',
    another: 'Another…',
    itsTag: 'Its tag',
    tagExample: 'gsw'
  },
  listen: {
    player: 'Player'
  },
  names: {
    names: 'Names',
    about: 'One a line, as they are to be written. Where the spelling does not say how it sounds, add it:',
    example: 'Merrowby = merry oh bee',
    findNamesInNotes: 'Find names in notes',
    notes: 'Notes, a programme or an outline: paste them, or drop a text file',
    findNames: 'Find names',
    noNamesWereFound: 'No names were found in them.',
    allOfThemAre: 'All of them are listed.',
    namesFound: 'Names found',
    tickThoseToExpect: 'Tick those to expect',
    expect: (count: number) => `Expect ${count} of them in this recording`,
    tickAll: 'Tick all',
    unread: (lines: string) => `Left out, as nothing in it can be spoken: ${lines}`,
    inThisRecording: 'In this recording',
    inEveryRecording: 'In every recording'
  },
  progress: {
    waitingItsTurn: 'Waiting its turn',
    heardSoFar: 'Heard so far',
    correctWhatIsThere: 'Correct what is there',
    stopAndKeepWhat: 'Stop, and keep what is heard',
    cancel: 'Cancel',
    itGoesOnWhile: 'It goes on while you do something else, and after a restart.',
    lessThanAMinute: 'less than a minute left',
    aMinuteLeft: 'about a minute left',
    minutesLeft: (minutes: number) => `about ${plural(minutes, 'minute')} left`
  },
  sources: {
    whereTheSpeechIs: 'Where the speech is:',
    stop: 'Stop',
    listenTo: 'Listen to'
  },
  stretch: {
    howMuchOfIt: 'How much of it',
    dragOverThePart: 'Drag over the part that is to be heard',
    from: 'From',
    to: 'to',
    allOfItDrag: 'All of it. Drag over the waveform for a part.',
    allOfIt: 'All of it'
  },

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
