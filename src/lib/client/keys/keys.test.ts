import { describe, expect, test } from 'vitest';
import { COMMANDS, keyName, surfaceKey, type Place } from './commands';

const PLACES: readonly Place[] = ['hear', 'read', 'time', 'dress', 'hand-over'];

describe('the table of keys', () => {
  test.each(PLACES)('no key does two things in %s', (place) => {
    const here = COMMANDS.filter((command) => command.places === undefined || command.places.includes(place));
    for (const way of ['surface', 'typing'] as const) {
      const keys = here.map((command) => command[way]).filter((key) => key !== null);
      expect(new Set(keys).size).toBe(keys.length);
    }
  });

  test('no key types while typing: each takes Alt, Control or Escape', () => {
    for (const { typing, id } of COMMANDS) if (typing !== null) expect(typing, id).toMatch(/^(Alt\+|\$mod\+|Escape$)/);
  });

  test('every command can be reached from the surface, but for the one that leads to it', () => {
    expect(COMMANDS.filter((command) => command.surface === null).map((command) => command.id)).toEqual(['leave']);
    expect(new Set(COMMANDS.map((command) => command.id)).size).toBe(COMMANDS.length);
  });

  test('no key takes one that the browser or a screen reader needs', () => {
    const taken = COMMANDS.flatMap(({ surface, typing }) => [surface, typing]).filter((key) => key !== null);
    expect(
      taken.filter((key) => /^(Tab|F\d+|\$mod\+(KeyC|KeyV|KeyX|KeyA|KeyF|KeyT|KeyW|KeyN|KeyR|KeyL))$/.test(key))
    ).toEqual([]);
  });

  test('keys read as they stand on a keyboard', () => {
    expect(['Alt+KeyP', '$mod+Shift+KeyZ', 'ArrowRight', 's', 'Shift+Digit2', '?', 'Space'].map(keyName)).toEqual([
      'Alt P',
      'Ctrl Shift Z',
      '→',
      'S',
      'Shift 2',
      '?',
      'Space'
    ]);
    expect(surfaceKey('split')).toBe('S');
    expect(surfaceKey('leave')).toBe('');
  });
});
