/**
 * A user's own keys: what differs from the table of commands, under a name. Sets are kept by the browser, and go in and
 * out as JSON. Key names are tinykeys'.
 */
import { z } from 'zod';
import { fail, ok, type Result } from '$lib/core/result';
import { plural } from '$lib/core/plural';
import { preferences } from '../preferences.svelte';
import { COMMANDS, type Command, type CommandId } from './commands';
import { keyName } from './key-name';
import { changedKeysSchema, setNameSchema, type ChangedKeys, type KeySet } from './key-set';

export type KeyWay = 'surface' | 'typing';

const fileSchema = z.object({ vineTapKeys: z.literal(1), name: setNameSchema, keys: changedKeysSchema });

/** The keys that a command has in a set. */
export function keysOf(command: Command, changed: ChangedKeys): { readonly [K in KeyWay]: string | null } {
  const own = changed[command.id];
  return {
    surface: own?.surface === undefined ? command.surface : own.surface,
    typing: own?.typing === undefined ? command.typing : own.typing
  };
}

/** The first command that has the key where this one could be used. */
export function takenBy(command: Command, way: KeyWay, key: string, changed: ChangedKeys): Command | null {
  const shares = ({ places }: Command): boolean =>
    places === undefined || command.places === undefined || places.some((place) => command.places!.includes(place));
  return COMMANDS.find((one) => one.id !== command.id && shares(one) && keysOf(one, changed)[way] === key) ?? null;
}

/** The set with one key changed; what is as in the table is not kept. */
export function withKey(changed: ChangedKeys, command: Command, way: KeyWay, key: string | null): ChangedKeys {
  const { [command.id]: own = {}, ...rest } = changed;
  const { [way]: _, ...other } = own;
  const next = key === command[way] ? other : { ...other, [way]: key };
  return Object.keys(next).length === 0 ? rest : { ...rest, [command.id]: next };
}

export const writeKeySet = ({ name, keys }: KeySet): string =>
  `${JSON.stringify({ vineTapKeys: 1, name, keys } satisfies z.input<typeof fileSchema>, null, 2)}\n`;

/** A set as it was taken out, with what in it is passed over; or why it is none. */
export function readKeySet(text: string): Result<{ readonly set: KeySet; readonly passedOver: string | null }, string> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return fail('The file is not JSON. Choose one that was saved here.');
  }
  const read = fileSchema.safeParse(json);
  if (!read.success) return fail('The file holds no keys of Vine Tap. Choose one that was saved here.');
  const known = new Set<string>(COMMANDS.map((command) => command.id));
  const entries = Object.entries(read.data.keys);
  const kept = entries.filter(
    ([id, { surface, typing }]) =>
      known.has(id) && [surface, typing].every((key) => key == null || !isKeptByBrowser(key))
  );
  const passed = entries.length - kept.length;
  return ok({
    set: { name: read.data.name, keys: Object.fromEntries(kept) },
    passedOver:
      passed === 0 ? null : `${plural(passed, 'command')} passed over: unknown here, or on keys of the browser.`
  });
}

/** Keys by which a browser opens and closes windows, or reloads: a page is not asked. */
const BROWSER_KEYS = /^(F5|F11|F12|\$mod\+(Shift\+)?Key[LNRTW]|\$mod\+Tab|Alt\+F4|Alt\+Arrow(Left|Right)|Alt\+Home)$/;
export const isKeptByBrowser = (key: string): boolean => BROWSER_KEYS.test(key);

const isModifier = (key: string): boolean => ['Shift', 'Control', 'Alt', 'Meta', 'AltGraph', 'CapsLock'].includes(key);

/** The name of the key that was pressed, for a way of using it; why it cannot be that; `null` while only modifiers are down. */
export function keyPressed(
  event: Pick<KeyboardEvent, 'key' | 'code' | 'shiftKey' | 'ctrlKey' | 'metaKey' | 'altKey'>,
  way: KeyWay
): Result<string, string> | null {
  if (isModifier(event.key)) return null;
  const isLetter = /^\p{L}$/u.test(event.key);
  const hasModifier = event.ctrlKey || event.metaKey || event.altKey;
  const isSign = event.key.length === 1 && event.key !== ' ' && !isLetter && !/^\p{N}$/u.test(event.key);
  const modifiers = [
    ...(event.ctrlKey || event.metaKey ? ['$mod'] : []),
    ...(event.altKey ? ['Alt'] : []),
    ...(event.shiftKey ? ['Shift'] : [])
  ];
  const bare = isLetter ? (event.shiftKey ? event.key.toUpperCase() : event.key.toLowerCase()) : event.code;
  const key = !hasModifier && isSign ? event.key : [...modifiers, hasModifier ? event.code : bare].join('+');
  if (isKeptByBrowser(key)) return fail(`${keyName(key)} belongs to the browser; choose another.`);
  if (way === 'typing' && !hasModifier && !/^F\d+$/.test(event.code))
    return fail('While typing a key takes Alt or Ctrl, or is one from F1 to F12.');
  return ok(key);
}

/** The command's key on the surface, for a button; empty where it has none. */
export function surfaceKey(id: CommandId): string {
  const { surface } = keysOf(commandOf(id), preferences.changedKeys);
  return surface === null ? '' : keyName(surface);
}

/** What a command does and its keys, for the title of a button. */
export function titleOf(id: CommandId): string {
  const { surface, typing } = keysOf(commandOf(id), preferences.changedKeys);
  const keys = [surface, typing].filter((key) => key !== null).map(keyName);
  return keys.length === 0 ? commandOf(id).label : `${commandOf(id).label} (${keys.join(', while typing ')})`;
}

const commandOf = (id: CommandId): Command => COMMANDS.find((command) => command.id === id)!;
