import { beforeEach, describe, expect, test, vi } from 'vitest';
import { installBrowser, FakeServer } from './browser';

installBrowser(new FakeServer());
vi.stubGlobal('matchMedia', () => ({ matches: false, addEventListener: () => undefined }));
const { COMMANDS } = await import('../../src/lib/client/keys/commands');
const { surfaceKey } = await import('../../src/lib/client/keys/key-sets');
const { OwnKeys } = await import('../../src/lib/client/keys/own-keys.svelte');
const { preferences } = await import('../../src/lib/client/preferences.svelte');

const commandOf = (id: string) => COMMANDS.find((command) => command.id === id)!;
const press = (key: string, code: string, more: Partial<KeyboardEvent> = {}): KeyboardEvent =>
  ({ key, code, shiftKey: false, ctrlKey: false, altKey: false, metaKey: false, ...more }) as KeyboardEvent;

beforeEach(() => preferences.set({ keySets: [], keySet: null }));

describe('changing keys', () => {
  test('a free key is taken at once, into a set of its own', () => {
    const own = new OwnKeys();
    own.ask(commandOf('split'), 'surface');
    own.press(press('Shift', 'ShiftLeft', { shiftKey: true }));
    expect(own.asking).not.toBeNull();
    own.press(press('ß', 'Minus'));
    expect([own.asking, preferences.keySet?.name, surfaceKey('split')]).toEqual([null, 'My keys', 'ß']);
    own.reset(commandOf('split'));
    expect([surfaceKey('split'), preferences.changedKeys]).toEqual(['S', {}]);
  });

  test('a key that another has is given only when that is said', () => {
    const own = new OwnKeys();
    own.ask(commandOf('split'), 'surface');
    own.press(press('m', 'KeyM'));
    expect(own.conflict).toMatchObject({ key: 'm', other: { id: 'merge' } });
    own.leave();
    expect(surfaceKey('split')).toBe('S');
    own.ask(commandOf('split'), 'surface');
    own.press(press('m', 'KeyM'));
    own.settle();
    expect([surfaceKey('split'), surfaceKey('merge')]).toEqual(['M', '']);
    // Back to the given keys: nobody is left with the same one.
    own.reset(commandOf('merge'));
    expect([surfaceKey('split'), surfaceKey('merge')]).toEqual(['', 'M']);
  });

  test('a key that cannot be one says why, and goes on asking', () => {
    const own = new OwnKeys();
    own.ask(commandOf('split'), 'typing');
    own.press(press('s', 'KeyS'));
    expect(own.told).toContain('Alt or Ctrl');
    own.press(press('w', 'KeyW', { ctrlKey: true }));
    expect(own.told).toContain('browser');
    own.set(null);
    expect(preferences.changedKeys.split).toEqual({ typing: null });
  });

  test('sets are saved, used, deleted and brought back', () => {
    const own = new OwnKeys();
    own.ask(commandOf('split'), 'surface');
    own.press(press('ö', 'Semicolon'));
    expect(own.saveAs('Two hands')).toBe(true);
    expect(own.saveAs('Two hands')).toBe(false);
    own.use(null);
    expect(surfaceKey('split')).toBe('S');
    own.use('Two hands');
    const file = own.takeOut();
    own.remove();
    expect([surfaceKey('split'), own.removed?.name]).toEqual(['S', 'Two hands']);
    own.bringBack();
    expect(surfaceKey('split')).toBe('Ö');
    preferences.set({ keySets: [], keySet: null });
    own.bringIn('no keys');
    expect(own.told).toContain('not JSON');
    own.bringIn(file);
    expect([surfaceKey('split'), preferences.keySet?.name]).toEqual(['Ö', 'Two hands']);
  });
});
