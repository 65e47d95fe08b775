/**
 * Every command with its keys: on the surface, where letters are commands, and while typing, where they type and the
 * same commands take Alt. `?` is made from this table. Key names are tinykeys': `$mod` is Control, on a Mac Command.
 */
export type Place = 'hear' | 'read' | 'time' | 'dress' | 'hand-over';

export interface Command {
  readonly id: CommandId;
  readonly label: string;
  readonly group: 'Playing' | 'Going' | 'Repairs' | 'Doubts' | 'Cues' | 'Times' | 'Changes' | 'Places';
  readonly surface: string | null;
  readonly typing: string | null;
  /** Where it can be used; everywhere in a track where it is left out. */
  readonly places?: readonly Place[];
}

const TIMING: readonly Place[] = ['read', 'time'];
const TRELLIS: readonly Place[] = ['time'];
const PAGE: readonly Place[] = ['read'];

const table = [
  { id: 'play', label: 'Play or pause', group: 'Playing', surface: 'Space', typing: 'Alt+KeyP' },
  { id: 'back', label: 'Back two seconds', group: 'Playing', surface: 'q', typing: 'Alt+KeyQ' },
  { id: 'ahead', label: 'Ahead two seconds', group: 'Playing', surface: 'w', typing: 'Alt+KeyW' },
  { id: 'loop', label: 'Loop what is selected, else the cue', group: 'Playing', surface: 'r', typing: 'Alt+KeyR' },
  { id: 'loopSentence', label: 'Loop the sentence', group: 'Playing', surface: 'Shift+R', typing: 'Alt+Shift+KeyR' },
  { id: 'slower', label: 'Slower', group: 'Playing', surface: '[', typing: 'Alt+BracketLeft' },
  { id: 'faster', label: 'Faster', group: 'Playing', surface: ']', typing: 'Alt+BracketRight' },

  { id: 'enter', label: 'Go in and type', group: 'Going', surface: 'Enter', typing: null },
  { id: 'leave', label: 'Come out of the text', group: 'Going', surface: null, typing: 'Escape' },
  { id: 'nextCue', label: 'Next cue', group: 'Going', surface: 'ArrowRight', typing: 'Alt+KeyN', places: TIMING },
  {
    id: 'previousCue',
    label: 'Previous cue',
    group: 'Going',
    surface: 'ArrowLeft',
    typing: 'Alt+KeyO',
    places: TIMING
  },
  { id: 'rowDown', label: 'A row down', group: 'Going', surface: 'ArrowDown', typing: null, places: TRELLIS },
  { id: 'rowUp', label: 'A row up', group: 'Going', surface: 'ArrowUp', typing: null, places: TRELLIS },
  { id: 'nextWord', label: 'Next word', group: 'Going', surface: 'f', typing: null, places: TIMING },
  { id: 'previousWord', label: 'Previous word', group: 'Going', surface: 'd', typing: null, places: TIMING },
  {
    id: 'nextFinding',
    label: 'Next cue that breaks a rule',
    group: 'Going',
    surface: 'n',
    typing: null,
    places: TRELLIS
  },
  {
    id: 'previousFinding',
    label: 'Previous cue that breaks a rule',
    group: 'Going',
    surface: 'Shift+N',
    typing: null,
    places: TRELLIS
  },
  { id: 'nextBookmark', label: 'Next bookmark', group: 'Going', surface: 'v', typing: null, places: TRELLIS },
  {
    id: 'previousBookmark',
    label: 'Previous bookmark',
    group: 'Going',
    surface: 'Shift+V',
    typing: null,
    places: TRELLIS
  },
  { id: 'nextGap', label: 'Next gap between cues', group: 'Going', surface: 'g', typing: null, places: TRELLIS },
  { id: 'previousGap', label: 'Previous gap', group: 'Going', surface: 'Shift+G', typing: null, places: TRELLIS },
  {
    id: 'nextSound',
    label: 'Next sound without a caption: 1 to 9 say what it is',
    group: 'Cues',
    surface: 'Shift+B',
    typing: 'Alt+Shift+KeyB',
    places: TIMING
  },
  {
    id: 'nextRemark',
    label: 'Next change by the new cut',
    group: 'Going',
    surface: 'Shift+F',
    typing: null,
    places: TRELLIS
  },
  {
    id: 'previousRemark',
    label: 'Previous change by the new cut',
    group: 'Going',
    surface: 'Shift+D',
    typing: null,
    places: TRELLIS
  },
  { id: 'nextShot', label: 'Next shot change', group: 'Going', surface: 'p', typing: null, places: TRELLIS },
  {
    id: 'previousShot',
    label: 'Previous shot change',
    group: 'Going',
    surface: 'Shift+P',
    typing: null,
    places: TRELLIS
  },
  { id: 'view', label: 'Trellis, table, or both', group: 'Going', surface: 't', typing: null, places: TRELLIS },
  {
    id: 'soundView',
    label: 'Waveform, spectrum, or both',
    group: 'Going',
    surface: 'Shift+W',
    typing: null,
    places: TRELLIS
  },
  { id: 'closer', label: 'Closer: shorter rows', group: 'Going', surface: '=', typing: 'Alt+Equal', places: TRELLIS },
  { id: 'wider', label: 'Wider: longer rows', group: 'Going', surface: '-', typing: 'Alt+Minus', places: TRELLIS },

  { id: 'capital', label: 'Capital or small letter', group: 'Repairs', surface: 'c', typing: 'Alt+KeyC', places: PAGE },
  {
    id: 'allCapitals',
    label: 'All capitals',
    group: 'Repairs',
    surface: 'Shift+C',
    typing: 'Alt+Shift+KeyC',
    places: PAGE
  },
  {
    id: 'sentenceEnd',
    label: 'End the sentence, or join it to the next',
    group: 'Repairs',
    surface: '.',
    typing: 'Alt+Period',
    places: PAGE
  },
  { id: 'comma', label: 'Comma', group: 'Repairs', surface: ',', typing: 'Alt+Comma', places: PAGE },
  { id: 'colon', label: 'Colon', group: 'Repairs', surface: ':', typing: 'Alt+Shift+Semicolon', places: PAGE },
  { id: 'semicolon', label: 'Semicolon', group: 'Repairs', surface: ';', typing: 'Alt+Semicolon', places: PAGE },
  { id: 'question', label: 'It asks: question mark', group: 'Repairs', surface: 'a', typing: 'Alt+KeyA', places: PAGE },
  {
    id: 'exclamation',
    label: 'Exclamation mark',
    group: 'Repairs',
    surface: '!',
    typing: 'Alt+Shift+KeyA',
    places: PAGE
  },
  { id: 'dash', label: 'Dash', group: 'Repairs', surface: '-', typing: 'Alt+Minus', places: PAGE },
  { id: 'quotes', label: 'Quotation marks around', group: 'Repairs', surface: '"', typing: 'Alt+Quote', places: PAGE },
  {
    id: 'brackets',
    label: 'Brackets around',
    group: 'Repairs',
    surface: '(',
    typing: 'Alt+Shift+Digit9',
    places: PAGE
  },
  { id: 'noMark', label: 'Erase the marks', group: 'Repairs', surface: 'e', typing: 'Alt+Shift+KeyE', places: PAGE },
  { id: 'leaveOut', label: 'Leave the word out', group: 'Repairs', surface: 'x', typing: 'Alt+KeyX', places: PAGE },
  { id: 'join', label: 'Glue two words together', group: 'Repairs', surface: 'g', typing: 'Alt+KeyG', places: PAGE },
  {
    id: 'paragraph',
    label: 'Paragraph or none',
    group: 'Repairs',
    surface: 'p',
    typing: 'Alt+Shift+KeyP',
    places: PAGE
  },
  {
    id: 'beginEarlier',
    label: 'Begin the paragraph a word earlier',
    group: 'Repairs',
    surface: 'Shift+ArrowLeft',
    typing: 'Alt+Shift+ArrowLeft',
    places: PAGE
  },
  {
    id: 'beginLater',
    label: 'Begin the paragraph a word later',
    group: 'Repairs',
    surface: 'Shift+ArrowRight',
    typing: 'Alt+Shift+ArrowRight',
    places: PAGE
  },
  {
    id: 'nextSpeaker',
    label: 'The paragraph is the next speaker’s',
    group: 'Repairs',
    surface: 'y',
    typing: 'Alt+KeyY',
    places: PAGE
  },
  {
    id: 'describeSound',
    label: 'Describe a sound here',
    group: 'Repairs',
    surface: 't',
    typing: 'Alt+KeyT',
    places: PAGE
  },

  { id: 'nextDoubt', label: 'Next doubt', group: 'Doubts', surface: 'n', typing: 'Alt+KeyU', places: PAGE },
  {
    id: 'previousDoubt',
    label: 'Previous doubt',
    group: 'Doubts',
    surface: 'Shift+N',
    typing: 'Alt+Shift+KeyU',
    places: PAGE
  },
  { id: 'keepDoubt', label: 'Keep it as it is', group: 'Doubts', surface: 'k', typing: 'Alt+KeyK', places: PAGE },
  {
    id: 'reconsiderDoubt',
    label: 'Ask again about the last one kept',
    group: 'Doubts',
    surface: 'Shift+K',
    typing: 'Alt+Shift+KeyK',
    places: PAGE
  },
  {
    id: 'repeatDoubt',
    label: 'The same for all that are like it',
    group: 'Doubts',
    surface: 'l',
    typing: 'Alt+KeyL',
    places: PAGE
  },
  {
    id: 'doubtToVocabulary',
    label: 'It is right: put it on the vocabulary',
    group: 'Doubts',
    surface: 'o',
    typing: 'Alt+Shift+KeyO',
    places: PAGE
  },
  { id: 'take1', label: 'Take candidate 1', group: 'Doubts', surface: '1', typing: 'Alt+Digit1', places: TIMING },
  { id: 'take2', label: 'Take candidate 2', group: 'Doubts', surface: '2', typing: 'Alt+Digit2', places: TIMING },
  { id: 'take3', label: 'Take candidate 3', group: 'Doubts', surface: '3', typing: 'Alt+Digit3', places: TIMING },
  { id: 'take4', label: 'Take candidate 4', group: 'Doubts', surface: '4', typing: 'Alt+Digit4', places: TIMING },
  { id: 'take5', label: 'Take candidate 5', group: 'Doubts', surface: '5', typing: 'Alt+Digit5', places: TIMING },
  { id: 'take6', label: 'Take candidate 6', group: 'Doubts', surface: '6', typing: 'Alt+Digit6', places: TIMING },
  { id: 'take7', label: 'Take candidate 7', group: 'Doubts', surface: '7', typing: 'Alt+Digit7', places: TIMING },
  { id: 'take8', label: 'Take candidate 8', group: 'Doubts', surface: '8', typing: 'Alt+Digit8', places: TIMING },
  { id: 'take9', label: 'Take candidate 9', group: 'Doubts', surface: '9', typing: 'Alt+Digit9', places: TIMING },

  { id: 'split', label: 'Split at the word', group: 'Cues', surface: 's', typing: 'Alt+KeyS', places: TIMING },
  { id: 'merge', label: 'Merge with the next', group: 'Cues', surface: 'm', typing: 'Alt+KeyM', places: TIMING },
  {
    id: 'mergeBack',
    label: 'Merge with the one before',
    group: 'Cues',
    surface: 'Shift+M',
    typing: 'Alt+Shift+KeyM',
    places: TIMING
  },
  {
    id: 'breakLine',
    label: 'Break the line at the word, or join it',
    group: 'Cues',
    surface: 'Shift+S',
    typing: null,
    places: TRELLIS
  },
  { id: 'balance', label: 'Balance the lines', group: 'Cues', surface: 'c', typing: 'Alt+KeyC', places: TRELLIS },
  { id: 'extend', label: 'Choose the next cue too', group: 'Cues', surface: 'e', typing: null, places: TRELLIS },
  { id: 'extendLess', label: 'Let the last one go', group: 'Cues', surface: 'Shift+E', typing: null, places: TRELLIS },
  { id: 'chooseAll', label: 'Choose every cue', group: 'Cues', surface: 'Shift+A', typing: null, places: TRELLIS },
  { id: 'lock', label: 'Lock or unlock', group: 'Cues', surface: 'l', typing: 'Alt+KeyL', places: TRELLIS },
  { id: 'pull', label: 'Pull a word from the next', group: 'Cues', surface: ',', typing: 'Alt+Comma', places: TRELLIS },
  { id: 'push', label: 'Push a word to the next', group: 'Cues', surface: '.', typing: 'Alt+Period', places: TRELLIS },
  { id: 'add', label: 'Add a cue at the playhead', group: 'Cues', surface: 'a', typing: null, places: TRELLIS },
  { id: 'remove', label: 'Delete the cue', group: 'Cues', surface: 'Delete', typing: null, places: TRELLIS },
  { id: 'bookmark', label: 'Bookmark', group: 'Cues', surface: 'b', typing: 'Alt+KeyB', places: TIMING },

  {
    id: 'hearAgain',
    label: 'Hear the passage again',
    group: 'Changes',
    surface: 'h',
    typing: 'Alt+KeyH',
    places: TIMING
  },

  {
    id: 'hold',
    label: 'Held while it is spoken: times the cue',
    group: 'Times',
    surface: 'z',
    typing: null,
    places: TRELLIS
  },
  {
    id: 'timesAs',
    label: 'Times as on a clock, or in frames',
    group: 'Times',
    surface: 'Shift+T',
    typing: null,
    places: TRELLIS
  },
  {
    id: 'ripple',
    label: 'What follows moves along, or not',
    group: 'Times',
    surface: 'x',
    typing: null,
    places: TRELLIS
  },
  {
    id: 'takeTrial',
    label: 'Take what is tried',
    group: 'Times',
    surface: '$mod+Enter',
    typing: '$mod+Enter',
    places: TRELLIS
  },
  { id: 'leaveTrial', label: 'Leave what is tried', group: 'Times', surface: 'Escape', typing: null, places: TRELLIS },
  {
    id: 'startHere',
    label: 'Start at the playhead',
    group: 'Times',
    surface: 'j',
    typing: 'Alt+KeyJ',
    places: TRELLIS
  },
  { id: 'endHere', label: 'End at the playhead', group: 'Times', surface: 'k', typing: 'Alt+KeyK', places: TRELLIS },
  { id: 'startEarlier', label: 'Start a step earlier', group: 'Times', surface: 'y', typing: null, places: TRELLIS },
  { id: 'startLater', label: 'Start a step later', group: 'Times', surface: 'u', typing: null, places: TRELLIS },
  { id: 'endEarlier', label: 'End a step earlier', group: 'Times', surface: 'i', typing: null, places: TRELLIS },
  { id: 'endLater', label: 'End a step later', group: 'Times', surface: 'o', typing: null, places: TRELLIS },
  {
    id: 'moveEarlier',
    label: 'Move a step earlier',
    group: 'Times',
    surface: 'Shift+ArrowLeft',
    typing: null,
    places: TRELLIS
  },
  {
    id: 'moveLater',
    label: 'Move a step later',
    group: 'Times',
    surface: 'Shift+ArrowRight',
    typing: null,
    places: TRELLIS
  },

  { id: 'find', label: 'Find and replace', group: 'Changes', surface: '/', typing: 'Alt+Shift+KeyF', places: PAGE },
  { id: 'undo', label: 'Undo', group: 'Changes', surface: '$mod+KeyZ', typing: '$mod+KeyZ' },
  { id: 'redo', label: 'Redo', group: 'Changes', surface: '$mod+Shift+KeyZ', typing: '$mod+Shift+KeyZ' },
  { id: 'keys', label: 'This list of keys', group: 'Changes', surface: '?', typing: 'Alt+Slash' },

  { id: 'goHear', label: 'Hear', group: 'Places', surface: 'Shift+Digit1', typing: null },
  { id: 'goRead', label: 'Read', group: 'Places', surface: 'Shift+Digit2', typing: null },
  { id: 'goTime', label: 'Time', group: 'Places', surface: 'Shift+Digit3', typing: null },
  { id: 'goDress', label: 'Dress', group: 'Places', surface: 'Shift+Digit4', typing: null },
  { id: 'goHandOver', label: 'Hand over', group: 'Places', surface: 'Shift+Digit5', typing: null }
] as const;

export type CommandId = (typeof table)[number]['id'];
export const COMMANDS: readonly Command[] = table;

const NAMES: Readonly<Record<string, string>> = {
  ArrowRight: '→',
  ArrowLeft: '←',
  ArrowDown: '↓',
  ArrowUp: '↑',
  Equal: '=',
  Minus: '-',
  Comma: ',',
  Period: '.',
  Slash: '/',
  Semicolon: ';',
  Quote: "'",
  BracketLeft: '[',
  BracketRight: ']',
  $mod: 'Ctrl',
  Escape: 'Esc',
  Delete: 'Del'
};

/** A key as it stands on a keyboard: `Alt+KeyP` → `Alt P`. */
export const keyName = (key: string): string =>
  key
    .split('+')
    .map((part) => NAMES[part] ?? part.replace(/^(Key|Digit)/, ''))
    .map((part) => (part.length === 1 ? part.toUpperCase() : part))
    .join(' ');

/** What the command's key is on the surface, for a button; empty where it has none. */
export function surfaceKey(id: CommandId): string {
  const key = COMMANDS.find((command) => command.id === id)?.surface;
  return key === null || key === undefined ? '' : keyName(key);
}
