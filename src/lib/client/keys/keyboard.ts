/** Keys to commands, by the table. Nothing fires while a text is being composed. */
import { matchKeyBindingPress, parseKeybinding, type KeyBindingPress } from 'tinykeys';
import { preferences } from '../preferences.svelte';
import { COMMANDS, type Command, type CommandId, type Place } from './commands';
import type { ChangedKeys } from './key-set';
import { keysOf } from './key-sets';

interface Bound {
  readonly command: Command;
  readonly surface: KeyBindingPress | null;
  readonly typing: KeyBindingPress | null;
}

const press = (key: string | null): KeyBindingPress | null => (key === null ? null : (parseKeybinding(key)[0] ?? null));
const bind = (changed: ChangedKeys): readonly Bound[] =>
  COMMANDS.map((command) => {
    const { surface, typing } = keysOf(command, changed);
    return { command, surface: press(surface), typing: press(typing) };
  });

export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLSelectElement ||
    (target instanceof HTMLInputElement && !/^(range|checkbox|radio|button)$/.test(target.type)));

/** Space, Enter and arrows belong to a control that has the focus. */
const belongsToControl = (event: KeyboardEvent): boolean =>
  event.target instanceof HTMLElement &&
  ((/^( |Enter)$/.test(event.key) && event.target.closest('button, a, summary') !== null) ||
    (/^Arrow|^(Home|End)$/.test(event.key) &&
      (event.target instanceof HTMLInputElement || event.target.matches('[role="tab"], [role="radio"]'))));

/** A letter or a sign without Ctrl or Alt. */
const isSingle = ([modifiers, key]: KeyBindingPress): boolean =>
  typeof key === 'string' && key.length === 1 && modifiers.every((modifier) => modifier === 'Shift');

export interface KeyboardOptions {
  readonly place: () => Place;
  /** False: the key is left to the browser. */
  readonly run: (id: CommandId) => boolean;
}

/** Listens on the window; returns a function that stops it. */
export function listenToKeys({ place, run }: KeyboardOptions): () => void {
  let bound = { changed: preferences.changedKeys, keys: bind(preferences.changedKeys) };
  const onKey = (event: KeyboardEvent): void => {
    if (event.isComposing || event.keyCode === 229) return;
    if (document.querySelector('dialog[open]') !== null) return;
    const changed = preferences.changedKeys;
    if (changed !== bound.changed) bound = { changed, keys: bind(changed) };
    const typing = isTyping(event.target);
    if (!typing && belongsToControl(event)) return;
    for (const { command, surface, typing: whileTyping } of bound.keys) {
      const key = typing ? whileTyping : surface;
      if (key === null || !matches(event, key)) continue;
      if (command.places !== undefined && !command.places.includes(place())) continue;
      if (!typing && !preferences.singleLetters && isSingle(key)) continue;
      if (run(command.id)) event.preventDefault();
      return;
    }
  };
  // Before the editor in the page, which would keep undo for itself.
  window.addEventListener('keydown', onKey, { capture: true });
  return () => window.removeEventListener('keydown', onKey, { capture: true });
}

/** A sign such as `?` is itself whatever Shift it takes on this keyboard. */
function matches(event: KeyboardEvent, press: KeyBindingPress): boolean {
  if (press[0].length === 0 && typeof press[1] === 'string' && /^[^\p{L}\p{N}]$/u.test(press[1]))
    return event.key === press[1] && !event.ctrlKey && !event.altKey && !event.metaKey;
  return matchKeyBindingPress(event, press);
}
