import { describe, expect, test } from 'vitest';
import { COMMANDS, type Command, type Place } from './commands';
import { keyName } from './key-name';
import { keyPressed, keysOf, readKeySet, surfaceKey, takenBy, titleOf, withKey, writeKeySet } from './key-sets';

const PLACES: readonly Place[] = ['hear', 'read', 'time', 'trim', 'dress', 'check', 'hand-over'];

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

  test('no key takes one that the browser or a screen reader needs, nor in a text the one that selects it', () => {
    const taken = COMMANDS.flatMap(({ surface, typing }) => [surface, typing]).filter((key) => key !== null);
    expect(taken.filter((key) => /^(Tab|F\d+|\$mod\+Key[CVXFTWNRL])$/.test(key))).toEqual([]);
    expect(COMMANDS.filter(({ typing }) => typing === '$mod+KeyA')).toEqual([]);
  });

  test('a key means the same in every place, but for what is told in each', () => {
    const meanings = new Map<string, Set<string>>();
    for (const { id, surface } of COMMANDS)
      if (surface !== null) meanings.set(surface, (meanings.get(surface) ?? new Set()).add(id));
    const shared = [...meanings].filter(([, ids]) => ids.size > 1).map(([key, ids]) => [key, ...ids]);
    // Trim and Translate work on what the others do not: a hand has the same letters there, for passages and for rows.
    expect(shared).toEqual([
      ['n', 'nextPoorContrast', 'nextFinding', 'nextDoubt', 'nextFault', 'nextOffer', 'nextOpenRow'],
      ['Shift+N', 'previousFinding', 'previousDoubt', 'previousFault', 'previousOffer', 'previousOpenRow'],
      ['v', 'nextBookmark', 'putDown', 'shownLanguage'],
      ['Shift+V', 'previousBookmark', 'putDownAgain'],
      ['g', 'nextGap', 'takeOutGap'],
      ['Shift+B', 'nextSound', 'putAllBack'],
      ['Shift+D', 'previousRemark', 'draftRows'],
      ['p', 'nextShot', 'pickUp'],
      ['Shift+C', 'allCapitals', 'overClipboard'],
      ['e', 'noMark', 'betterEdge'],
      ['x', 'leaveOut', 'takeOut', 'rowDone'],
      ['Delete', 'removeWord', 'remove'],
      ['t', 'describeSound', 'putInPause', 'takeSourceTimes'],
      ['0', 'keepDoubt', 'letStand', 'keepOffer', 'rowStands'],
      ['Shift+K', 'reconsiderDoubt', 'reconsiderFault'],
      ['Shift+L', 'repeatDoubt', 'mendKind'],
      ['Shift+O', 'doubtToVocabulary', 'restoreOrder', 'terms'],
      ['1', 'take1', 'mendFault', 'takeOffer'],
      ['2', 'take2', 'shortenOffer'],
      ['m', 'silence', 'merge'],
      ['j', 'markIn', 'startHere'],
      ['k', 'markOut', 'endHere'],
      ['h', 'hearJoin', 'hearAgain'],
      ['b', 'nextJoin', 'bookmark'],
      ['y', 'endEarlierAtJoin', 'startEarlier'],
      ['u', 'endLaterAtJoin', 'startLater'],
      ['i', 'startEarlierAtJoin', 'endEarlier'],
      ['o', 'startLaterAtJoin', 'endLater'],
      ['Shift+T', 'timesAs', 'takeAllSourceTimes']
    ]);
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

describe('keys of a user', () => {
  const commandOf = (id: string): Command => COMMANDS.find((command) => command.id === id)!;
  const pressed = (key: string, code: string, modifiers: Partial<KeyboardEvent> = {}) => ({
    ...{ key, code, shiftKey: false, ctrlKey: false, metaKey: false, altKey: false },
    ...modifiers
  });

  test('stand in the place of those of the table; what is as there is not kept', () => {
    const changed = withKey({}, commandOf('split'), 'surface', 'Shift+S');
    expect(keysOf(commandOf('split'), changed)).toEqual({ surface: 'Shift+S', typing: 'Alt+KeyS' });
    expect(withKey(changed, commandOf('split'), 'surface', 's')).toEqual({});
    expect(keysOf(commandOf('split'), withKey(changed, commandOf('split'), 'typing', null)).typing).toBeNull();
  });

  test('are told apart from those of another command where both can be used', () => {
    expect(takenBy(commandOf('split'), 'surface', 'm', {})?.id).toBe('merge');
    expect(takenBy(commandOf('nextDoubt'), 'surface', 'v', {})).toBeNull();
    expect(takenBy(commandOf('split'), 'surface', 'm', withKey({}, commandOf('merge'), 'surface', 'ü'))).toBeNull();
  });

  test.each([
    ['s', pressed('s', 'KeyS'), 'surface', 's'],
    ['S', pressed('S', 'KeyS', { shiftKey: true }), 'surface', 'Shift+S'],
    ['a letter of another alphabet', pressed('ж', 'Semicolon'), 'surface', 'ж'],
    ['a sign', pressed('?', 'Slash', { shiftKey: true }), 'surface', '?'],
    ['a digit', pressed('!', 'Digit1', { shiftKey: true }), 'surface', '!'],
    ['an arrow', pressed('ArrowUp', 'ArrowUp', { ctrlKey: true }), 'surface', '$mod+ArrowUp'],
    ['Alt', pressed('π', 'KeyP', { altKey: true }), 'typing', 'Alt+KeyP'],
    ['a function key', pressed('F6', 'F6'), 'typing', 'F6'],
    ['space', pressed(' ', 'Space', { shiftKey: true }), 'surface', 'Shift+Space']
  ] as const)('as they are pressed: %s', (_, event, way, key) => {
    expect(keyPressed(event, way)).toEqual({ ok: true, value: key });
  });

  test('are refused where they would type, or belong to the browser', () => {
    expect(keyPressed(pressed('s', 'KeyS'), 'typing')).toMatchObject({ ok: false });
    expect(keyPressed(pressed('w', 'KeyW', { ctrlKey: true }), 'surface')).toMatchObject({ ok: false });
    expect(keyPressed(pressed('Shift', 'ShiftLeft', { shiftKey: true }), 'surface')).toBeNull();
  });

  test('go out and come in; what is unknown here is passed over and told', () => {
    const set = { name: 'Two hands', keys: withKey({}, commandOf('split'), 'surface', 'ü') };
    expect(readKeySet(writeKeySet(set))).toEqual({ ok: true, value: { set, passedOver: null } });
    const foreign = writeKeySet({ name: 'x', keys: { ...set.keys, fly: { surface: 'y' }, merge: { surface: 'F5' } } });
    expect(readKeySet(foreign)).toMatchObject({
      value: { set: { keys: set.keys }, passedOver: expect.stringMatching(/^2 commands/) as string }
    });
    for (const text of ['', '{}', '{"vineTapKeys":1,"name":"","keys":{}}'])
      expect(readKeySet(text).ok, text).toBe(false);
  });

  test('are named on buttons', () => {
    expect(titleOf('capital')).toBe('Capital or small letter (C, while typing Alt C)');
    expect(titleOf('letGo')).toContain('(Esc)');
  });
});
