/**
 * Every command with its keys: on the surface, where letters are commands, and while typing, where they type and the
 * same commands take Alt. `?` is made from this table. Key names are tinykeys': `$mod` is Control, on a Mac Command.
 */
import { untilReleased } from './keyboard-held';
import { phrases } from '../phrases';
import { preferences } from '../preferences.svelte';
import type { TrackDesk } from '../track-desk.svelte';

export type Place = 'hear' | 'read' | 'time' | 'trim' | 'dress' | 'translate' | 'check' | 'hand-over';

/** Where a command acts. */
export interface CommandContext {
  readonly desk: TrackDesk;
  readonly place: Place;
  readonly go: (to: Place) => void;
  readonly showKeys: () => void;
}

interface Entry {
  readonly id: string;
  readonly label: string;
  readonly group:
    | 'Playing'
    | 'Going'
    | 'Repairs'
    | 'Doubts'
    | 'Checks'
    | 'Cues'
    | 'Times'
    | 'Trimming'
    | 'Translating'
    | 'Changes'
    | 'Places';
  readonly surface: string | null;
  readonly typing: string | null;
  /** Where it can be used; everywhere in a track where it is left out. */
  readonly places?: readonly Place[];
  readonly run: (context: CommandContext) => void;
  /** Commands whose work this one takes back exactly, right behind them; itself where it switches. */
  readonly takesBack?: readonly string[];
  /** Text in hand stays as it is; else it goes into the track first, so that the command finds it there. */
  readonly leavesText?: true;
}

export interface Command extends Entry {
  readonly id: CommandId;
  readonly takesBack?: readonly CommandId[];
}

const TIMING: readonly Place[] = ['read', 'time'];
const TRELLIS: readonly Place[] = ['time'];
/** Where one cue after the other is gone through. */
const CUES: readonly Place[] = [...TIMING, 'dress', 'translate', 'check'];
const CHECK: readonly Place[] = ['check'];
const PAGE: readonly Place[] = ['read'];
const TRIM: readonly Place[] = ['trim'];
const TRANSLATE: readonly Place[] = ['translate'];
/** Where cues are parted and put together. */
const PARTING: readonly Place[] = [...TIMING, 'translate'];
/** Where words are gone through. */
const WORDS: readonly Place[] = [...TIMING, 'trim'];

const table = [
  {
    id: 'play',
    label: 'Play or pause',
    group: 'Playing',
    surface: 'Space',
    typing: 'Alt+KeyP',
    run: ({ desk }) => desk.on.togglePlay(),
    leavesText: true
  },
  {
    id: 'back',
    label: 'Back two seconds',
    group: 'Playing',
    surface: 'q',
    typing: 'Alt+KeyQ',
    run: ({ desk }) => desk.player.skip(-2000),
    leavesText: true
  },
  {
    id: 'ahead',
    label: 'Ahead two seconds',
    group: 'Playing',
    surface: 'w',
    typing: 'Alt+KeyW',
    run: ({ desk }) => desk.player.skip(2000),
    leavesText: true
  },
  {
    id: 'loop',
    label: 'Loop what is selected, else the cue',
    group: 'Playing',
    surface: 'r',
    typing: 'Alt+KeyR',
    places: [...CUES, 'hand-over'],
    run: ({ desk }) => desk.toggleLoop(),
    leavesText: true
  },
  {
    id: 'playOnce',
    label: 'Play what is selected, else the cue, once',
    group: 'Playing',
    surface: 'Shift+Space',
    typing: 'Alt+Shift+KeyP',
    run: ({ desk, place }) => (place === 'trim' ? playAsRecorded(desk) : desk.playOnce()),
    leavesText: true
  },
  {
    id: 'loopSentence',
    label: 'Loop the sentence',
    group: 'Playing',
    surface: 'Shift+R',
    typing: 'Alt+Shift+KeyR',
    places: [...CUES, 'hand-over'],
    run: ({ desk }) => desk.loopSentence()
  },
  {
    id: 'slower',
    label: 'Slower',
    group: 'Playing',
    surface: '[',
    typing: 'Alt+BracketLeft',
    run: ({ desk }) => desk.player.setRate(desk.player.rate - 0.1),
    leavesText: true
  },
  {
    id: 'faster',
    label: 'Faster',
    group: 'Playing',
    surface: ']',
    typing: 'Alt+BracketRight',
    run: ({ desk }) => desk.player.setRate(desk.player.rate + 0.1),
    leavesText: true
  },

  {
    id: 'enter',
    label: 'Go in and type',
    group: 'Going',
    surface: 'Enter',
    typing: null,
    run: ({ desk }) => desk.surface?.enter()
  },
  {
    id: 'leave',
    label: 'Come out of the text',
    group: 'Going',
    surface: null,
    typing: 'Escape',
    run: ({ desk }) => leaveText(desk)
  },
  {
    id: 'nextCue',
    label: 'Next cue',
    group: 'Going',
    surface: 'ArrowRight',
    typing: 'Alt+KeyN',
    places: CUES,
    run: ({ desk }) => desk.stepCue(1)
  },
  {
    id: 'previousCue',
    label: 'Previous cue',
    group: 'Going',
    surface: 'ArrowLeft',
    typing: 'Alt+KeyO',
    places: CUES,
    run: ({ desk }) => desk.stepCue(-1)
  },
  {
    id: 'nextPoorContrast',
    label: 'Cue that is hardest to read, then the next',
    group: 'Going',
    surface: 'n',
    typing: null,
    places: ['dress'],
    run: ({ desk }) => desk.stepPoorContrast()
  },
  {
    id: 'fullScreen',
    label: 'Picture on the full screen',
    group: 'Going',
    surface: 'Shift+Z',
    typing: null,
    places: ['dress'],
    run: ({ desk }) => void desk.dressing.toggleFullScreen()
  },
  {
    id: 'rowDown',
    label: 'A row down',
    group: 'Going',
    surface: 'ArrowDown',
    typing: null,
    places: [...TRELLIS, 'translate'],
    run: ({ desk }) => desk.surface?.stepRow?.(1)
  },
  {
    id: 'rowUp',
    label: 'A row up',
    group: 'Going',
    surface: 'ArrowUp',
    typing: null,
    places: [...TRELLIS, 'translate'],
    run: ({ desk }) => desk.surface?.stepRow?.(-1)
  },
  {
    id: 'nextWord',
    label: 'Next word',
    group: 'Going',
    surface: 'f',
    typing: null,
    places: WORDS,
    run: ({ desk, place }) => (place === 'trim' ? desk.trimming.stepWord(1) : desk.stepWord(1))
  },
  {
    id: 'previousWord',
    label: 'Previous word',
    group: 'Going',
    surface: 'd',
    typing: null,
    places: WORDS,
    run: ({ desk, place }) => (place === 'trim' ? desk.trimming.stepWord(-1) : desk.stepWord(-1))
  },
  {
    id: 'nextFinding',
    label: 'Next cue that breaks a rule',
    group: 'Going',
    surface: 'n',
    typing: null,
    places: TRELLIS,
    run: ({ desk }) => desk.cues.stepTo('finding', 1)
  },
  {
    id: 'previousFinding',
    label: 'Previous cue that breaks a rule',
    group: 'Going',
    surface: 'Shift+N',
    typing: null,
    places: TRELLIS,
    run: ({ desk }) => desk.cues.stepTo('finding', -1)
  },
  {
    id: 'nextBookmark',
    label: 'Next bookmark',
    group: 'Going',
    surface: 'v',
    typing: null,
    places: TRELLIS,
    run: ({ desk }) => desk.cues.stepTo('bookmark', 1)
  },
  {
    id: 'previousBookmark',
    label: 'Previous bookmark',
    group: 'Going',
    surface: 'Shift+V',
    typing: null,
    places: TRELLIS,
    run: ({ desk }) => desk.cues.stepTo('bookmark', -1)
  },
  {
    id: 'nextGap',
    label: 'Next gap between cues',
    group: 'Going',
    surface: 'g',
    typing: null,
    places: TRELLIS,
    run: ({ desk }) => desk.cues.stepTo('gap', 1)
  },
  {
    id: 'previousGap',
    label: 'Previous gap',
    group: 'Going',
    surface: 'Shift+G',
    typing: null,
    places: TRELLIS,
    run: ({ desk }) => desk.cues.stepTo('gap', -1)
  },
  {
    id: 'nextSound',
    label: 'Next sound without a caption: 1 to 9 say what it is',
    group: 'Cues',
    surface: 'Shift+B',
    typing: 'Alt+Shift+KeyB',
    places: TIMING,
    run: ({ desk }) => stepSound(desk)
  },
  {
    id: 'nextRemark',
    label: 'Next change by the new cut',
    group: 'Going',
    surface: 'Shift+F',
    typing: null,
    places: TRELLIS,
    run: ({ desk }) => stepRemark(desk, 1)
  },
  {
    id: 'previousRemark',
    label: 'Previous change by the new cut',
    group: 'Going',
    surface: 'Shift+D',
    typing: null,
    places: TRELLIS,
    run: ({ desk }) => stepRemark(desk, -1)
  },
  {
    id: 'nextShot',
    label: 'Next shot change',
    group: 'Going',
    surface: 'p',
    typing: null,
    places: TRELLIS,
    run: ({ desk }) => desk.cues.stepTo('shot', 1)
  },
  {
    id: 'previousShot',
    label: 'Previous shot change',
    group: 'Going',
    surface: 'Shift+P',
    typing: null,
    places: TRELLIS,
    run: ({ desk }) => desk.cues.stepTo('shot', -1)
  },
  {
    id: 'view',
    label: 'Trellis, table, or both',
    group: 'Going',
    surface: 'Shift+E',
    typing: null,
    places: TRELLIS,
    run: () => preferences.set({ timeView: after(['trellis', 'table', 'both'], preferences.timeView) })
  },
  {
    id: 'soundView',
    label: 'Waveform, spectrum, or both',
    group: 'Going',
    surface: 'Shift+W',
    typing: null,
    places: TRELLIS,
    run: () => preferences.set({ soundView: after(['wave', 'spectrum', 'both'], preferences.soundView) })
  },
  {
    id: 'closer',
    label: 'Closer: shorter rows',
    group: 'Going',
    surface: '=',
    typing: 'Alt+Equal',
    places: TRELLIS,
    run: () => zoom(-1)
  },
  {
    id: 'wider',
    label: 'Wider: longer rows',
    group: 'Going',
    surface: '-',
    typing: 'Alt+Minus',
    places: TRELLIS,
    run: () => zoom(1)
  },

  {
    id: 'capital',
    label: 'Capital or small letter',
    group: 'Repairs',
    surface: 'c',
    typing: 'Alt+KeyC',
    places: TIMING,
    takesBack: ['capital'],
    run: ({ desk }) => desk.page.repair('capital')
  },
  {
    id: 'allCapitals',
    label: 'All capitals',
    group: 'Repairs',
    surface: 'Shift+C',
    typing: 'Alt+Shift+KeyC',
    places: TIMING,
    takesBack: ['allCapitals'],
    run: ({ desk }) => desk.page.repair('allCapitals')
  },
  {
    id: 'sentenceEnd',
    label: 'End the sentence, or join it to the next',
    group: 'Repairs',
    surface: '.',
    typing: 'Alt+Period',
    places: TIMING,
    takesBack: ['sentenceEnd'],
    run: ({ desk }) => desk.page.repair('sentenceEnd')
  },
  {
    id: 'comma',
    label: 'Comma',
    group: 'Repairs',
    surface: ',',
    typing: 'Alt+Comma',
    places: TIMING,
    takesBack: ['comma'],
    run: ({ desk }) => desk.page.repair('comma')
  },
  {
    id: 'colon',
    label: 'Colon',
    group: 'Repairs',
    surface: ':',
    typing: 'Alt+Shift+Semicolon',
    places: TIMING,
    takesBack: ['colon'],
    run: ({ desk }) => desk.page.repair('colon')
  },
  {
    id: 'semicolon',
    label: 'Semicolon',
    group: 'Repairs',
    surface: ';',
    typing: 'Alt+Semicolon',
    places: TIMING,
    takesBack: ['semicolon'],
    run: ({ desk }) => desk.page.repair('semicolon')
  },
  {
    id: 'question',
    label: 'It asks: question mark',
    group: 'Repairs',
    surface: 'a',
    typing: 'Alt+KeyA',
    places: TIMING,
    takesBack: ['question'],
    run: ({ desk }) => desk.page.repair('question')
  },
  {
    id: 'exclamation',
    label: 'Exclamation mark',
    group: 'Repairs',
    surface: '!',
    typing: 'Alt+Shift+KeyA',
    places: TIMING,
    takesBack: ['exclamation'],
    run: ({ desk }) => desk.page.repair('exclamation')
  },
  {
    id: 'dash',
    label: 'Dash',
    group: 'Repairs',
    surface: '_',
    typing: 'Alt+Shift+Minus',
    places: TIMING,
    takesBack: ['dash'],
    run: ({ desk }) => desk.page.repair('dash')
  },
  {
    id: 'quotes',
    label: 'Quotation marks around',
    group: 'Repairs',
    surface: '"',
    typing: 'Alt+Quote',
    places: TIMING,
    takesBack: ['quotes'],
    run: ({ desk }) => desk.page.repair('quotes')
  },
  {
    id: 'brackets',
    label: 'Brackets around',
    group: 'Repairs',
    surface: '(',
    typing: 'Alt+Shift+Digit9',
    places: TIMING,
    takesBack: ['brackets'],
    run: ({ desk }) => desk.page.repair('brackets')
  },
  {
    id: 'noMark',
    label: 'Remove punctuation',
    group: 'Repairs',
    surface: 'e',
    typing: 'Alt+Shift+KeyE',
    places: TIMING,
    run: ({ desk }) => desk.page.repair('noMark')
  },
  {
    id: 'leaveOut',
    label: 'Leave out, or bring back',
    group: 'Repairs',
    surface: 'x',
    typing: 'Alt+KeyX',
    places: TIMING,
    takesBack: ['leaveOut'],
    run: ({ desk }) => desk.page.repair('leaveOut')
  },
  {
    id: 'removeWord',
    label: 'Delete the word',
    group: 'Repairs',
    surface: 'Delete',
    typing: null,
    places: PAGE,
    run: ({ desk }) => desk.page.removeWords()
  },
  {
    id: 'join',
    label: 'Join words',
    group: 'Repairs',
    surface: '+',
    typing: 'Alt+KeyG',
    places: TIMING,
    run: ({ desk }) => desk.page.repair('join')
  },
  {
    id: 'paragraph',
    label: 'Paragraph or none',
    group: 'Repairs',
    surface: 'Shift+Enter',
    typing: null,
    places: TIMING,
    takesBack: ['paragraph'],
    run: ({ desk }) => desk.page.repair('paragraph')
  },
  {
    id: 'beginEarlier',
    label: 'Begin the paragraph a word earlier',
    group: 'Repairs',
    surface: '{',
    typing: 'Alt+Shift+ArrowLeft',
    places: PAGE,
    takesBack: ['beginLater'],
    run: ({ desk }) => desk.page.moveBoundary(-1)
  },
  {
    id: 'beginLater',
    label: 'Begin the paragraph a word later',
    group: 'Repairs',
    surface: '}',
    typing: 'Alt+Shift+ArrowRight',
    places: PAGE,
    takesBack: ['beginEarlier'],
    run: ({ desk }) => desk.page.moveBoundary(1)
  },
  {
    id: 'nextSpeaker',
    label: 'The paragraph is the next speaker’s',
    group: 'Repairs',
    surface: 'Shift+Y',
    typing: 'Alt+KeyY',
    places: TIMING,
    run: ({ desk }) => desk.page.giveToNextSpeaker()
  },
  {
    id: 'describeSound',
    label: 'Describe a sound here',
    group: 'Repairs',
    surface: 't',
    typing: 'Alt+KeyT',
    places: TIMING,
    run: ({ desk }) => void (desk.describingMs = desk.player.nowMs)
  },

  {
    id: 'nextDoubt',
    label: 'Next doubt',
    group: 'Doubts',
    surface: 'n',
    typing: 'Alt+KeyU',
    places: PAGE,
    run: ({ desk }) => stepDoubt(desk, 1)
  },
  {
    id: 'previousDoubt',
    label: 'Previous doubt',
    group: 'Doubts',
    surface: 'Shift+N',
    typing: 'Alt+Shift+KeyU',
    places: PAGE,
    run: ({ desk }) => stepDoubt(desk, -1)
  },
  {
    id: 'keepDoubt',
    label: 'Keep it as it is',
    group: 'Doubts',
    surface: '0',
    typing: 'Alt+Digit0',
    places: PAGE,
    run: ({ desk }) => desk.doubts.keep()
  },
  {
    id: 'reconsiderDoubt',
    label: 'Ask again about the last one kept',
    group: 'Doubts',
    surface: 'Shift+K',
    typing: 'Alt+Shift+KeyK',
    places: PAGE,
    run: ({ desk }) => desk.doubts.reconsider()
  },
  {
    id: 'repeatDoubt',
    label: 'The same for all that are like it',
    group: 'Doubts',
    surface: 'Shift+L',
    typing: 'Alt+Shift+KeyL',
    places: PAGE,
    run: ({ desk }) => desk.doubts.repeat()
  },
  {
    id: 'doubtToVocabulary',
    label: 'It is right: add it to the names',
    group: 'Doubts',
    surface: 'Shift+O',
    typing: 'Alt+Shift+KeyO',
    places: PAGE,
    run: ({ desk }) => void desk.doubts.addToVocabulary()
  },
  {
    id: 'take1',
    label: 'Take candidate 1',
    group: 'Doubts',
    surface: '1',
    typing: 'Alt+Digit1',
    places: PARTING,
    run: (context) => take(context, 1)
  },
  {
    id: 'take2',
    label: 'Take candidate 2',
    group: 'Doubts',
    surface: '2',
    typing: 'Alt+Digit2',
    places: PARTING,
    run: (context) => take(context, 2)
  },
  {
    id: 'take3',
    label: 'Take candidate 3',
    group: 'Doubts',
    surface: '3',
    typing: 'Alt+Digit3',
    places: PARTING,
    run: (context) => take(context, 3)
  },
  {
    id: 'take4',
    label: 'Take candidate 4',
    group: 'Doubts',
    surface: '4',
    typing: 'Alt+Digit4',
    places: PARTING,
    run: (context) => take(context, 4)
  },
  {
    id: 'take5',
    label: 'Take candidate 5',
    group: 'Doubts',
    surface: '5',
    typing: 'Alt+Digit5',
    places: PARTING,
    run: (context) => take(context, 5)
  },
  {
    id: 'take6',
    label: 'Take candidate 6',
    group: 'Doubts',
    surface: '6',
    typing: 'Alt+Digit6',
    places: PARTING,
    run: (context) => take(context, 6)
  },
  {
    id: 'take7',
    label: 'Take candidate 7',
    group: 'Doubts',
    surface: '7',
    typing: 'Alt+Digit7',
    places: PARTING,
    run: (context) => take(context, 7)
  },
  {
    id: 'take8',
    label: 'Take candidate 8',
    group: 'Doubts',
    surface: '8',
    typing: 'Alt+Digit8',
    places: PARTING,
    run: (context) => take(context, 8)
  },
  {
    id: 'take9',
    label: 'Take candidate 9',
    group: 'Doubts',
    surface: '9',
    typing: 'Alt+Digit9',
    places: PARTING,
    run: (context) => take(context, 9)
  },

  {
    id: 'nextFault',
    label: 'Next finding',
    group: 'Checks',
    surface: 'n',
    typing: null,
    places: CHECK,
    run: ({ desk }) => desk.checks.step(1)
  },
  {
    id: 'previousFault',
    label: 'Finding before',
    group: 'Checks',
    surface: 'Shift+N',
    typing: null,
    places: CHECK,
    run: ({ desk }) => desk.checks.step(-1)
  },
  {
    id: 'mendFault',
    label: 'Mend it',
    group: 'Checks',
    surface: '1',
    typing: null,
    places: CHECK,
    run: ({ desk }) => void desk.checks.mend()
  },
  {
    id: 'mendKind',
    label: 'Mend all of its kind',
    group: 'Checks',
    surface: 'Shift+L',
    typing: null,
    places: CHECK,
    run: ({ desk }) => void desk.checks.mendKind()
  },
  {
    id: 'letStand',
    label: 'Let it stand, for a reason',
    group: 'Checks',
    surface: '0',
    typing: null,
    places: CHECK,
    run: ({ desk }) => void (desk.checks.isLettingStand = desk.checks.current !== null)
  },
  {
    id: 'reconsiderFault',
    label: 'It does not stand after all',
    group: 'Checks',
    surface: 'Shift+K',
    typing: null,
    places: CHECK,
    run: ({ desk }) => desk.checks.reconsider()
  },
  {
    id: 'takeOut',
    label: 'Take out and close up, or put back',
    group: 'Trimming',
    surface: 'x',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.toggle('close')
  },
  {
    id: 'takeOutGap',
    label: 'Take out and leave the gap, or put back',
    group: 'Trimming',
    surface: 'g',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.toggle('gap')
  },
  {
    id: 'silence',
    label: 'Silence, or let it be heard',
    group: 'Trimming',
    surface: 'm',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.toggle('silence')
  },
  {
    id: 'putAllBack',
    label: 'Put everything back',
    group: 'Trimming',
    surface: 'Shift+B',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.putAllBack()
  },
  {
    id: 'markIn',
    label: 'The stretch starts at the playhead',
    group: 'Trimming',
    surface: 'j',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.mark('in')
  },
  {
    id: 'markOut',
    label: 'The stretch ends at the playhead',
    group: 'Trimming',
    surface: 'k',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.mark('out')
  },
  {
    id: 'putInPause',
    label: 'Put in half a second of the room',
    group: 'Trimming',
    surface: 't',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.putInPause()
  },
  {
    id: 'pickUp',
    label: 'Pick up the passage',
    group: 'Trimming',
    surface: 'p',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.pickUp()
  },
  {
    id: 'putDown',
    label: 'Put it down ahead of the word',
    group: 'Trimming',
    surface: 'v',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.putDown()
  },
  {
    id: 'putDownAgain',
    label: 'Put it down, and leave it where it was',
    group: 'Trimming',
    surface: 'Shift+V',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.putDown({ again: true })
  },
  {
    id: 'restoreOrder',
    label: 'Back to the recorded order',
    group: 'Trimming',
    surface: 'Shift+O',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.restoreOrder()
  },
  {
    id: 'nextOffer',
    label: 'Next of what is gone through, else the next join',
    group: 'Trimming',
    surface: 'n',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.step(1)
  },
  {
    id: 'previousOffer',
    label: 'The one before it',
    group: 'Trimming',
    surface: 'Shift+N',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.step(-1)
  },
  {
    id: 'takeOffer',
    label: 'Take it out',
    group: 'Trimming',
    surface: '1',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.offers.judge('take')
  },
  {
    id: 'shortenOffer',
    label: 'Shorten the pause',
    group: 'Trimming',
    surface: '2',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.offers.judge('shorten')
  },
  {
    id: 'keepOffer',
    label: 'Keep it',
    group: 'Trimming',
    surface: '0',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.offers.judge('keep')
  },
  {
    id: 'hearJoin',
    label: 'Hear it around the join',
    group: 'Trimming',
    surface: 'h',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.hear()
  },
  {
    id: 'nextJoin',
    label: 'Next join',
    group: 'Trimming',
    surface: 'b',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.joins.step(1)
  },
  {
    id: 'betterEdge',
    label: 'Take the better edge',
    group: 'Trimming',
    surface: 'e',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.joins.takeBetterEdge()
  },
  {
    id: 'endEarlierAtJoin',
    label: 'What ends at the join ends earlier',
    group: 'Trimming',
    surface: 'y',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.joins.nudge('before', -1)
  },
  {
    id: 'endLaterAtJoin',
    label: 'What ends at the join ends later',
    group: 'Trimming',
    surface: 'u',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.joins.nudge('before', 1)
  },
  {
    id: 'startEarlierAtJoin',
    label: 'What begins at the join begins earlier',
    group: 'Trimming',
    surface: 'i',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.joins.nudge('after', -1)
  },
  {
    id: 'startLaterAtJoin',
    label: 'What begins at the join begins later',
    group: 'Trimming',
    surface: 'o',
    typing: null,
    places: TRIM,
    run: ({ desk }) => desk.trimming.joins.nudge('after', 1)
  },
  {
    id: 'split',
    label: 'Split at the word',
    group: 'Cues',
    surface: 's',
    typing: 'Alt+KeyS',
    places: PARTING,
    takesBack: ['merge', 'mergeBack'],
    run: ({ desk }) => desk.cues.split()
  },
  {
    id: 'merge',
    label: 'Merge with the next',
    group: 'Cues',
    surface: 'm',
    typing: 'Alt+KeyM',
    places: PARTING,
    run: ({ desk }) => desk.cues.merge(1)
  },
  {
    id: 'mergeBack',
    label: 'Merge with the one before',
    group: 'Cues',
    surface: 'Shift+M',
    typing: 'Alt+Shift+KeyM',
    places: PARTING,
    takesBack: ['split'],
    run: ({ desk }) => desk.cues.merge(-1)
  },
  {
    id: 'breakLine',
    label: 'Break the line at the word, or join it',
    group: 'Cues',
    surface: 'Shift+S',
    typing: null,
    places: TRELLIS,
    takesBack: ['breakLine'],
    run: ({ desk }) => desk.cues.breakLine()
  },
  {
    id: 'balance',
    label: 'Balance the lines',
    group: 'Cues',
    surface: 'Shift+Q',
    typing: 'Alt+Shift+KeyQ',
    places: TRELLIS,
    run: ({ desk }) => desk.cues.balance()
  },
  {
    id: 'extend',
    label: 'Choose one more',
    group: 'Going',
    surface: 'Shift+ArrowRight',
    typing: null,
    places: WORDS,
    run: ({ desk, place }) => (place === 'trim' ? desk.trimming.stepWord(1, true) : extend(desk, 1))
  },
  {
    id: 'extendLess',
    label: 'Choose one less, or the one before',
    group: 'Going',
    surface: 'Shift+ArrowLeft',
    typing: null,
    places: WORDS,
    run: ({ desk, place }) => (place === 'trim' ? desk.trimming.stepWord(-1, true) : extend(desk, -1))
  },
  {
    id: 'chooseAll',
    label: 'Choose every cue',
    group: 'Cues',
    surface: '$mod+KeyA',
    typing: null,
    places: TRELLIS,
    run: ({ desk }) => desk.cues.chooseAll()
  },
  {
    id: 'lock',
    label: 'Lock or unlock',
    group: 'Cues',
    surface: 'l',
    typing: 'Alt+KeyL',
    places: TRELLIS,
    takesBack: ['lock'],
    run: ({ desk }) => desk.cues.toggleLock()
  },
  {
    id: 'pull',
    label: 'Pull a word from the next',
    group: 'Cues',
    surface: '<',
    typing: 'Alt+Shift+Comma',
    places: [...TRELLIS, 'translate'],
    takesBack: ['push'],
    run: ({ desk }) => desk.cues.moveBorder('pull')
  },
  {
    id: 'push',
    label: 'Push a word to the next',
    group: 'Cues',
    surface: '>',
    typing: 'Alt+Shift+Period',
    places: [...TRELLIS, 'translate'],
    takesBack: ['pull'],
    run: ({ desk }) => desk.cues.moveBorder('push')
  },
  {
    id: 'add',
    label: 'Add a cue at the playhead',
    group: 'Cues',
    surface: 'Shift+A',
    typing: null,
    places: TRELLIS,
    run: ({ desk }) => addCue(desk)
  },
  {
    id: 'remove',
    label: 'Delete the cue',
    group: 'Cues',
    surface: 'Delete',
    typing: null,
    places: TRELLIS,
    run: ({ desk }) => desk.cues.remove()
  },
  {
    id: 'bookmark',
    label: 'Bookmark',
    group: 'Cues',
    surface: 'b',
    typing: 'Alt+KeyB',
    places: PARTING,
    takesBack: ['bookmark'],
    run: ({ desk }) => desk.cues.toggleBookmark()
  },

  {
    id: 'hearAgain',
    label: 'Hear the passage again',
    group: 'Changes',
    surface: 'h',
    typing: 'Alt+KeyH',
    places: TIMING,
    run: ({ desk }) => desk.again.ask()
  },

  {
    id: 'hold',
    label: 'Held while it is spoken: times the cue',
    group: 'Times',
    surface: 'z',
    typing: null,
    places: TRELLIS,
    run: ({ desk }) => hold(desk)
  },
  {
    id: 'timesAs',
    label: 'Times as on a clock, or in frames',
    group: 'Times',
    surface: 'Shift+T',
    typing: null,
    places: TRELLIS,
    run: () => preferences.set({ timesAs: after(['clock', 'frames'], preferences.timesAs) })
  },
  {
    id: 'ripple',
    label: 'What follows moves along, or not',
    group: 'Times',
    surface: 'Shift+X',
    typing: null,
    places: TRELLIS,
    run: ({ desk }) => toggleRipple(desk)
  },
  {
    id: 'takeTrial',
    label: 'Apply what is tried',
    group: 'Times',
    surface: '$mod+Enter',
    typing: '$mod+Enter',
    places: [...TRELLIS, 'trim'],
    run: ({ desk, place }) => (place === 'trim' ? desk.trimming.offers.takeTried() : desk.trial.take())
  },
  {
    id: 'letGo',
    label: 'Let go of what is chosen or tried',
    group: 'Going',
    surface: 'Escape',
    typing: null,
    places: WORDS,
    run: ({ desk, place }) => (place === 'trim' ? desk.trimming.letGo() : desk.letGo())
  },
  {
    id: 'startHere',
    label: 'Start at the playhead',
    group: 'Times',
    surface: 'j',
    typing: 'Alt+KeyJ',
    places: TRELLIS,
    run: ({ desk }) => desk.cues.setEdge('start', desk.player.nowMs)
  },
  {
    id: 'endHere',
    label: 'End at the playhead',
    group: 'Times',
    surface: 'k',
    typing: 'Alt+KeyK',
    places: TRELLIS,
    run: ({ desk }) => desk.cues.setEdge('end', desk.player.nowMs)
  },
  {
    id: 'startEarlier',
    label: 'Start a step earlier',
    group: 'Times',
    surface: 'y',
    typing: null,
    places: TRELLIS,
    takesBack: ['startLater'],
    run: ({ desk }) => desk.cues.nudgeEdge('start', -1)
  },
  {
    id: 'startLater',
    label: 'Start a step later',
    group: 'Times',
    surface: 'u',
    typing: null,
    places: TRELLIS,
    takesBack: ['startEarlier'],
    run: ({ desk }) => desk.cues.nudgeEdge('start', 1)
  },
  {
    id: 'endEarlier',
    label: 'End a step earlier',
    group: 'Times',
    surface: 'i',
    typing: null,
    places: TRELLIS,
    takesBack: ['endLater'],
    run: ({ desk }) => desk.cues.nudgeEdge('end', -1)
  },
  {
    id: 'endLater',
    label: 'End a step later',
    group: 'Times',
    surface: 'o',
    typing: null,
    places: TRELLIS,
    takesBack: ['endEarlier'],
    run: ({ desk }) => desk.cues.nudgeEdge('end', 1)
  },
  {
    id: 'moveEarlier',
    label: 'Move a step earlier',
    group: 'Times',
    surface: 'Shift+U',
    typing: null,
    places: TRELLIS,
    takesBack: ['moveLater'],
    run: ({ desk }) => desk.cues.nudge(-1)
  },
  {
    id: 'moveLater',
    label: 'Move a step later',
    group: 'Times',
    surface: 'Shift+I',
    typing: null,
    places: TRELLIS,
    takesBack: ['moveEarlier'],
    run: ({ desk }) => desk.cues.nudge(1)
  },

  {
    id: 'nextOpenRow',
    label: 'Next row that is not done',
    group: 'Translating',
    surface: 'n',
    typing: 'Alt+KeyU',
    places: TRANSLATE,
    run: ({ desk }) => void desk.translating.stepOpen(1)
  },
  {
    id: 'previousOpenRow',
    label: 'The one before it that is not done',
    group: 'Translating',
    surface: 'Shift+N',
    typing: 'Alt+Shift+KeyU',
    places: TRANSLATE,
    run: ({ desk }) => void desk.translating.stepOpen(-1)
  },
  {
    id: 'rowDone',
    label: 'The row is done, or open again',
    group: 'Translating',
    surface: 'x',
    typing: 'Alt+KeyX',
    places: TRANSLATE,
    run: ({ desk }) => desk.translating.toggleDone()
  },
  {
    id: 'rowStands',
    label: 'The source has changed, and the row stands as it is',
    group: 'Translating',
    surface: '0',
    typing: 'Alt+Digit0',
    places: TRANSLATE,
    run: ({ desk }) => desk.translating.takeAsIs()
  },
  {
    id: 'takeSourceTimes',
    label: 'Times of the source for the row',
    group: 'Translating',
    surface: 't',
    typing: 'Alt+KeyT',
    places: TRANSLATE,
    run: ({ desk }) => desk.translating.takeTimes('row')
  },
  {
    id: 'takeAllSourceTimes',
    label: 'Times of the source for all rows',
    group: 'Translating',
    surface: 'Shift+T',
    typing: null,
    places: TRANSLATE,
    run: ({ desk }) => desk.translating.takeTimes('all')
  },
  {
    id: 'shownLanguage',
    label: 'Translation, source, or both on the picture',
    group: 'Translating',
    surface: 'v',
    typing: 'Alt+KeyV',
    places: TRANSLATE,
    run: ({ desk }) => desk.translating.showNext()
  },
  {
    id: 'draftRows',
    label: 'Have the rows drafted',
    group: 'Translating',
    surface: 'Shift+D',
    typing: null,
    places: TRANSLATE,
    run: ({ desk }) => void (desk.translating.isDraftOpen = desk.translating.isTranslation)
  },
  {
    id: 'overClipboard',
    label: 'Over the clipboard, or back to the rows',
    group: 'Translating',
    surface: 'Shift+C',
    typing: null,
    places: TRANSLATE,
    run: ({ desk }) => void (desk.translating.isClipboardOpen = !desk.translating.isClipboardOpen)
  },
  {
    id: 'terms',
    label: 'Terms of the house',
    group: 'Translating',
    surface: 'Shift+O',
    typing: null,
    places: TRANSLATE,
    run: ({ desk }) => void (desk.translating.areTermsOpen = desk.translating.isTranslation)
  },

  {
    id: 'find',
    label: 'Find and replace',
    group: 'Changes',
    surface: '/',
    typing: 'Alt+Shift+KeyF',
    places: PAGE,
    run: ({ desk }) => find(desk)
  },
  {
    id: 'unapplied',
    label: 'Open what could not be applied',
    group: 'Changes',
    surface: 'Shift+J',
    typing: 'Alt+Shift+KeyJ',
    run: ({ desk }) => toggleUnapplied(desk)
  },
  {
    id: 'undo',
    label: 'Undo',
    group: 'Changes',
    surface: '$mod+KeyZ',
    typing: '$mod+KeyZ',
    run: ({ desk, place }) => (place === 'trim' ? desk.trimming.undo() : desk.undo())
  },
  {
    id: 'redo',
    label: 'Redo',
    group: 'Changes',
    surface: '$mod+Shift+KeyZ',
    typing: '$mod+Shift+KeyZ',
    run: ({ desk, place }) => (place === 'trim' ? desk.trimming.redo() : desk.redo())
  },
  {
    id: 'handOverAgain',
    label: 'Hand over as last time',
    group: 'Changes',
    surface: 'Shift+H',
    typing: null,
    places: ['hand-over'],
    run: ({ desk }) => desk.handOverAgain()
  },
  {
    id: 'keys',
    label: 'This list of keys',
    group: 'Changes',
    surface: '?',
    typing: 'Alt+Slash',
    run: ({ showKeys }) => showKeys()
  },

  { id: 'goHear', label: 'Hear', group: 'Places', surface: 'Shift+Digit1', typing: null, run: ({ go }) => go('hear') },
  { id: 'goRead', label: 'Read', group: 'Places', surface: 'Shift+Digit2', typing: null, run: ({ go }) => go('read') },
  { id: 'goTime', label: 'Time', group: 'Places', surface: 'Shift+Digit3', typing: null, run: ({ go }) => go('time') },
  {
    id: 'goTrim',
    label: 'Trim',
    group: 'Places',
    surface: 'Shift+Digit4',
    typing: null,
    run: ({ go }) => go('trim')
  },
  {
    id: 'goDress',
    label: 'Dress',
    group: 'Places',
    surface: 'Shift+Digit5',
    typing: null,
    run: ({ go }) => go('dress')
  },
  {
    id: 'goTranslate',
    label: 'Translate',
    group: 'Places',
    surface: 'Shift+Digit6',
    typing: null,
    run: ({ go }) => go('translate')
  },
  {
    id: 'goCheck',
    label: 'Check',
    group: 'Places',
    surface: 'Shift+Digit7',
    typing: null,
    run: ({ go }) => go('check')
  },
  {
    id: 'goHandOver',
    label: 'Hand over',
    group: 'Places',
    surface: 'Shift+Digit8',
    typing: null,
    run: ({ go }) => go('hand-over')
  }
] as const satisfies readonly Entry[];

export type CommandId = (typeof table)[number]['id'];
export const COMMANDS: readonly Command[] = table;

/** What is chosen, as it was recorded, whatever the trim makes of it. */
function playAsRecorded(desk: TrackDesk): void {
  const [first, ...others] = desk.trimming.choice?.spans ?? [];
  const last = others.at(-1) ?? first;
  if (first === undefined || last === undefined) desk.say(phrases.trimming.chooseFirst);
  else desk.player.playOnce({ startMs: first.fromMs, endMs: last.toMs });
}

const ZOOMS_MS = [4000, 5000, 6000, 8000, 10_000, 12_000, 15_000, 20_000, 25_000, 30_000, 40_000];

function zoom(by: 1 | -1): void {
  const at = ZOOMS_MS.findIndex((rowMs) => rowMs >= preferences.rowMs);
  preferences.set({ rowMs: ZOOMS_MS[Math.min(ZOOMS_MS.length - 1, Math.max(0, at + by))]! });
}

/** The one behind it in the list, around its end. */
const after = <T>(list: readonly T[], one: T): T => list[(list.indexOf(one) + 1) % list.length]!;

function leaveText(desk: TrackDesk): void {
  if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
  desk.surface?.focus();
}

function addCue(desk: TrackDesk): void {
  if (desk.cues.add() !== null) desk.surface?.enter();
}

/** Until the key comes up. */
function hold(desk: TrackDesk): void {
  if (desk.cues.isHeld) return;
  desk.cues.holdStart();
  untilReleased({ released: () => desk.cues.holdEnd(), lost: () => desk.cues.holdLost() });
}

function toggleRipple(desk: TrackDesk): void {
  preferences.set({ ripple: !preferences.ripple });
  desk.say(preferences.ripple ? 'What follows moves along.' : 'What follows stays.');
}

/** Of words in the text, of cues elsewhere. */
function extend(desk: TrackDesk, by: 1 | -1): void {
  if (desk.surface?.selectedWords === undefined) desk.cues.extend(by);
  else desk.extendWords(by);
}

/** Of the sound in hand, else of the doubt, or of the row. */
function take({ desk, place }: CommandContext, number: number): void {
  if (desk.untold.current !== null) desk.untold.take(number);
  else if (place === 'read') desk.doubts.take(number);
  else if (place === 'translate') desk.translating.take(number);
}

function stepSound(desk: TrackDesk): void {
  preferences.set({ timePanel: 'cue' });
  desk.doubts.leave();
  desk.untold.step(1);
}

function stepDoubt(desk: TrackDesk, by: 1 | -1): void {
  preferences.set({ readPanel: 'doubts' });
  desk.untold.leave();
  desk.doubts.step(by);
}

function stepRemark(desk: TrackDesk, by: 1 | -1): void {
  if (desk.remarks.list.length > 0) preferences.set({ timePanel: 'cut' });
  desk.remarks.step(by);
}

function toggleUnapplied(desk: TrackDesk): void {
  const { refused, breaks } = desk.session;
  if (refused.length + breaks.length === 0) desk.say('Everything was applied.');
  else desk.isUnappliedOpen = !desk.isUnappliedOpen;
}

function find(desk: TrackDesk): void {
  preferences.set({ readPanel: 'find' });
  desk.finder.isAsked = true;
}
