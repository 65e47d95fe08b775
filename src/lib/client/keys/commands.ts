/**
 * Every command with its keys: on the surface, where letters are commands, and while typing, where they type and the
 * same commands take Alt. `?` is made from this table. Key names are tinykeys': `$mod` is Control, on a Mac Command.
 */
export type Place = 'hear' | 'read' | 'time' | 'dress' | 'hand-over';

export interface Command {
  readonly id: CommandId;
  readonly label: string;
  readonly group: 'Playing' | 'Going' | 'Cues' | 'Times' | 'Changes' | 'Places';
  readonly surface: string | null;
  readonly typing: string | null;
  /** Where it can be used; everywhere in a track where it is left out. */
  readonly places?: readonly Place[];
}

const TIMING: readonly Place[] = ['read', 'time'];
const TRELLIS: readonly Place[] = ['time'];

const table = [
  { id: 'play', label: 'Play or pause', group: 'Playing', surface: 'Space', typing: 'Alt+KeyP' },
  { id: 'back', label: 'Back two seconds', group: 'Playing', surface: 'q', typing: 'Alt+KeyQ' },
  { id: 'ahead', label: 'Ahead two seconds', group: 'Playing', surface: 'w', typing: 'Alt+KeyW' },
  { id: 'loop', label: 'Loop the chosen cue', group: 'Playing', surface: 'r', typing: 'Alt+KeyR' },
  { id: 'slower', label: 'Slower', group: 'Playing', surface: '1', typing: 'Alt+Digit1' },
  { id: 'faster', label: 'Faster', group: 'Playing', surface: '2', typing: 'Alt+Digit2' },

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
  { id: 'closer', label: 'Closer: shorter rows', group: 'Going', surface: '=', typing: 'Alt+Equal', places: TRELLIS },
  { id: 'wider', label: 'Wider: longer rows', group: 'Going', surface: '-', typing: 'Alt+Minus', places: TRELLIS },

  { id: 'split', label: 'Split at the word', group: 'Cues', surface: 's', typing: 'Alt+KeyS', places: TIMING },
  { id: 'merge', label: 'Merge with the next', group: 'Cues', surface: 'm', typing: 'Alt+KeyM', places: TIMING },
  { id: 'pull', label: 'Pull a word from the next', group: 'Cues', surface: ',', typing: 'Alt+Comma', places: TIMING },
  { id: 'push', label: 'Push a word to the next', group: 'Cues', surface: '.', typing: 'Alt+Period', places: TIMING },
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
    id: 'startHere',
    label: 'Start at the playhead',
    group: 'Times',
    surface: 'j',
    typing: 'Alt+KeyJ',
    places: TRELLIS
  },
  { id: 'endHere', label: 'End at the playhead', group: 'Times', surface: 'k', typing: 'Alt+KeyK', places: TRELLIS },
  { id: 'startEarlier', label: 'Start 50 ms earlier', group: 'Times', surface: 'y', typing: null, places: TRELLIS },
  { id: 'startLater', label: 'Start 50 ms later', group: 'Times', surface: 'u', typing: null, places: TRELLIS },
  { id: 'endEarlier', label: 'End 50 ms earlier', group: 'Times', surface: 'i', typing: null, places: TRELLIS },
  { id: 'endLater', label: 'End 50 ms later', group: 'Times', surface: 'o', typing: null, places: TRELLIS },
  {
    id: 'moveEarlier',
    label: 'Move 50 ms earlier',
    group: 'Times',
    surface: 'Shift+ArrowLeft',
    typing: null,
    places: TRELLIS
  },
  {
    id: 'moveLater',
    label: 'Move 50 ms later',
    group: 'Times',
    surface: 'Shift+ArrowRight',
    typing: null,
    places: TRELLIS
  },

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
