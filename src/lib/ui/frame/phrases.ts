/** The phrases of the frame that all places share. */
import { plural } from '$lib/core/plural';

export const phrases = {
  background: {
    going: 'What goes on in the background',
    ended: 'What has been done in the background',
    done: 'Done',
    inTheBackground: 'In the background',
    sending: (name: string) => `Sending ${name}`,
    waitingItsTurn: 'Waiting its turn',
    sent: (percent: number) => `Sent ${percent} %`,
    cancel: 'Cancel',
    goThere: 'Go there',
    failed: (reason: string) => `Failed: ${reason}`,
    dismissOf: (title: string) => `Dismiss ${title}`,
    dismiss: 'Dismiss',
    goingOn: (count: number) => `${plural(count, 'thing')} going on`,
    nothingGoingOn: 'Nothing going on'
  },
  hearAgain: {
    heardAgain: 'Heard again',
    closeEsc: 'Close (Esc)',
    now: (now: string) => `Now: ${now}`,
    nothingElseWasHeard: 'Nothing else was heard in it.',
    readingsBestFirst: 'Readings, best first',
    agreement: 'How far the searches agree',
    listeningAgain: 'Listening again',
    cancel: 'Cancel',
    loopTheSound: 'Loop the sound',
    space: 'Space'
  },
  keysDialog: {
    keys: 'Keys',
    singleLettersAreCommands: 'Single letters are commands',
    close: 'Close',
    about:
      'Enter goes into the text, Esc comes out. Letters are commands on the surface; while typing the same commands take Alt. Press a key below to change it.',
    set: 'Set',
    asTheyCome: 'As they come',
    newSet: 'Name of a new set',
    saveAs: 'Save as',
    import: 'Import…',
    export: 'Export',
    deleteSet: 'Delete set',
    isTaken: (name: string) => `is “${name}” now.`,
    giveItTo: (name: string) => `Give it to “${name}”`,
    leaveBothAsThey: 'Leave both as they are',
    isDeleted: (name: string) => `“${name}” is deleted.`,
    undo: 'Undo',
    command: 'Command',
    onTheSurface: 'On the surface',
    whileTyping: 'While typing',
    change: (name: string, way: 'surface' | 'typing', key: string | null) =>
      `${name}, ${way === 'surface' ? 'on the surface' : 'while typing'}: ${key ?? 'no key'}. Change`,
    pressAKey: 'press a key',
    where: (places: string) => ` · ${places}`,
    noKey: 'No key',
    resetOf: (name: string) => `${name}: back to the keys it comes with`,
    reset: 'Back to the keys it comes with',
    candidates: 'Take a candidate: 1 to 9',
    fileName: (set: string) => `${set} keys.json`
  },
  picture: {
    soundOnly: 'Sound only'
  },
  proposal: {
    same: 'The new hearing differs nowhere else',
    differs: (count: number) => `The new hearing differs in ${plural(count, 'passage')}`,
    correctedByHand: 'corrected by hand',
    now: 'Now',
    heard: 'Heard',
    useThis: 'Use this',
    keepMine: 'Keep mine',
    listen: 'Listen',
    space: 'Space',
    useAll: (count: number, corrected: number) =>
      corrected === 0 ? `Use all ${count}` : `Use all but the ${corrected} corrected`,
    dismissTheNewHearing: 'Dismiss the new hearing',
    taken: 'Taken. Undo brings the old words back.'
  },
  saveState: {
    signInAgain: 'Sign in again',
    tryNow: 'Try now',
    saved: 'Saved',
    saving: 'Saving…',
    notSentKeptHere: 'Not sent: kept here',
    notSent: 'Not sent',
    notSignedIn: 'Not signed in'
  },
  sounds: {
    soundAt: 'Sound at',
    whatIsIt: 'what is it?',
    whatIsTheSound: 'What is the sound?',
    descriptions: 'Descriptions',
    next: 'Next',
    leave: 'Leave',
    without: (count: number) => `${count === 1 ? 'A sound' : `${count} sounds`} without a caption`,
    listenToTheSound: (clock: string) => `Listen to the sound at ${clock}`,
    listen: 'Listen',
    describeTheSoundAt: (clock: string) => `Describe the sound at ${clock}`,
    mostListed: (count: number) => `The first ${count} are listed.`,
    draftOf: (startMs: number) => `sound at ${startMs}`,
    isDescribed: (text: string) => `“${text}” is described.`
  },
  speakerChoice: {
    noSpeaker: 'No speaker',
    newSpeaker: 'New speaker'
  },
  topBar: {
    allRecordings: 'All recordings',
    places: 'Places',
    notYet: 'Have the recording heard first',
    changeTheme: (mode: 'light' | 'dark') => `Change to the ${mode} theme`,
    keys: 'Keys',
    keysHint: 'Keys (?)',
    place: (title: string, key: string, about: string) => `${title} (${key}): ${about}`
  },
  trackFrame: {
    vineTap: 'Vine Tap',
    allRecordings: 'All recordings',
    openingTheTrack: 'Opening the track…'
  },
  seenAs: {
    label: 'Shown as recorded or as trimmed',
    recorded: 'As recorded',
    trimmed: (title: string) => `As trimmed: ${title}`
  },
  transport: {
    transport: 'Transport',
    pause: 'Pause',
    play: 'Play',
    speed: 'Speed',
    afterPauseHint: 'Where the playhead goes when it is paused',
    afterPause: 'After pause',
    stay: 'Stay',
    playOnce: 'Play once',
    loop: (isOn: boolean) => `Loop ${isOn ? 'on' : 'off'}`,
    cuesChosen: (count: number) => `${count} cues chosen`
  },
  unapplied: {
    notApplied: (count: number) => `${count} not applied`,
    logBroken: 'Part of the log cannot be read',
    label: 'What could not be applied',
    broken: (from: number, to: number) =>
      `Changes ${from} to ${to} of this track could not be read; it was opened as it was before them, and they are still in the database.`,
    about: 'These were not taken into the track. They are kept here until you dismiss them.',
    tryAgain: 'Try again',
    copyTheText: 'Copy the text',
    dismiss: 'Dismiss',
    doneThisTime: 'Done this time.',
    copied: 'Copied.',
    cannotCopy: 'The browser does not let this be copied: select the text and copy it yourself.'
  },
  undoRedo: {
    label: 'Undo and redo',
    nothingToUndo: 'Nothing to undo',
    undo: (what: string) => `Undo: ${what}`,
    undoHint: (what: string, key: string) => `Undo: ${what} (${key})`,
    nothingToRedo: 'Nothing to redo',
    redo: (what: string) => `Redo: ${what}`,
    redoHint: (what: string, key: string) => `Redo: ${what} (${key})`,
    theLastChange: 'the last change'
  },
  unkept: {
    thisBrowserKeepsNothing: 'This browser keeps nothing that is not sent yet.',
    leaveTheWindowOpen: 'Leave the window open until all is saved.',
    itSays: (reason: string) => `It says: ${reason}`
  },
  workbench: {
    pageTitle: (title: string) => `${title} · Vine Tap`,
    track: 'Track',
    inBin: 'This track is in the bin.',
    bringBack: 'Bring back',
    stillHeard: (percent: number) => `Still being heard, ${percent} %`,
    pictureAndCue: 'Picture and cue'
  },
  errorChart: {
    worst: (clock: string, percent: string) => `Words wrong over the recording: most at ${clock}, ${percent} per cent.`,
    wrong: (percent: number) => `${percent} % wrong`
  },
  fileLink: { savingFirst: 'Saving first…' }
};
