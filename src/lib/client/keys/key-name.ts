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
    .split(/\b\+/)
    .map((part) => NAMES[part] ?? part.replace(/^(Key|Digit)/, ''))
    .map((part) => (part.length === 1 && part.toUpperCase().length === 1 ? part.toUpperCase() : part))
    .join(' ');
