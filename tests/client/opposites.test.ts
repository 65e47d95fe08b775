import fc from 'fast-check';
import { afterEach, describe, expect, test } from 'vitest';
import { COMMANDS, type Command } from '../../src/lib/client/keys/commands';
import type { Choice } from '../../src/lib/client/track-view.svelte';
import { anyTrack } from '../../src/lib/core/testing/any-track';
import { HOUSE_RULES, makeCue, makeTrack, makeWord, plainLines, type Track } from '../../src/lib/core/track';
import { closeDesks, openDesk, preferences, type Desk } from './desk';

afterEach(closeDesks);

const commandOf = (id: string): Command => COMMANDS.find((command) => command.id === id)!;
const press = (desk: Desk, id: string): void => {
  const command = commandOf(id);
  const context = { desk, place: 'time' as const, go: () => undefined, showKeys: () => undefined };
  desk.opposites.run(command, () => command.run(context));
  desk.keepChoice();
};
const stateOf = (desk: Desk): string => JSON.stringify([desk.track, plain(desk.choice)]);
const plain = ({ otherCueIds, ...choice }: Choice): unknown => ({ ...choice, otherCueIds: [...otherCueIds] });

describe('a command and its opposite', () => {
  const pairs = COMMANDS.flatMap(({ id, takesBack = [] }) => takesBack.map((first) => [first, id] as const));

  test.each(pairs)('%s, then %s: the same words, lines, times, speakers, and the same chosen', async (id, opposite) => {
    let changed = 0;
    const picks = fc.record({ cue: fc.nat(), word: fc.nat(), more: fc.nat({ max: 3 }), onWord: fc.boolean() });
    await fc.assert(
      fc.asyncProperty(anyTrack, picks, fc.boolean(), async (track, pick, ripple) => {
        const desk = await openDesk({ ...track, rules: { ...HOUSE_RULES, sharedCues: 'dash' } });
        preferences.set({ ripple });
        const { cues, words } = desk.track;
        desk.chooseCue(cues[pick.cue % Math.max(1, cues.length)]);
        if (pick.more > 0) desk.cues.extendTo(cues[(pick.cue % Math.max(1, cues.length)) + pick.more]);
        if (pick.onWord && words.length > 0) desk.chooseWords([words[pick.word % words.length]!.id]);
        const before = stateOf(desk);
        const track0 = JSON.stringify(desk.track);
        press(desk, id);
        if (JSON.stringify(desk.track) !== track0) {
          changed++;
          press(desk, opposite);
          expect(stateOf(desk)).toBe(before);
        }
        closeDesks();
      }),
      { numRuns: 60 }
    );
    expect(changed).toBeGreaterThan(5);
  });
});

describe('in a run', () => {
  test('three words pushed and pulled again bring back lines that were set by hand, and the edges', async () => {
    const desk = await openDesk(talk());
    desk.chooseCue(desk.track.cues[0]);
    desk.chooseWords([desk.track.words[2]!.id]);
    press(desk, 'breakLine');
    desk.chooseCue(desk.track.cues[0]);
    const before = stateOf(desk);
    for (let step = 0; step < 3; step++) press(desk, 'push');
    expect(stateOf(desk)).not.toBe(before);
    for (let step = 0; step < 3; step++) press(desk, 'pull');
    expect(stateOf(desk)).toBe(before);
  });

  test('what was changed meanwhile is not taken back: the opposite does its own work', async () => {
    const desk = await openDesk(talk());
    desk.chooseCue(desk.track.cues[0]);
    press(desk, 'push');
    desk.edit([{ type: 'setCueText', cueId: desk.cue!.id, lines: ['something else'] }]);
    const count = desk.cue!.wordIds.length;
    press(desk, 'pull');
    expect(desk.cue!.wordIds.length).toBe(count + 1);
    expect(plainLines(desk.track, desk.cue!).join(' ')).toMatch(/^something else \w/);
  });

  test('a word left out comes back by the same key, later too, and deleting is another command', async () => {
    const desk = await openDesk(talk());
    const [first] = desk.track.words;
    const texts = (): string => desk.track.words.map((word) => (word.shown ? word.text : `(${word.text})`)).join(' ');
    const before = texts();
    desk.chooseWords([first!.id]);
    press(desk, 'leaveOut');
    expect(texts()).toMatch(/^\(The\) Clock/);
    desk.edit([{ type: 'setTitle', title: 'Another' }]);
    desk.chooseWords([desk.track.words[4]!.id]);
    press(desk, 'comma');
    press(desk, 'comma');
    desk.chooseWords([first!.id]);
    press(desk, 'leaveOut');
    expect(texts()).toBe(before);
    press(desk, 'removeWord');
    expect(desk.track.words.some((word) => word.id === first!.id)).toBe(false);
  });
});

/** Two cues of one speaker, lines as the rules set them. */
function talk(): Track {
  const text = 'The clock in the tower lets one tooth go past. And so it counts the hours of the town.';
  const words = text
    .split(' ')
    .map((part, at) =>
      makeWord({ id: `w${at}`, text: part, startMs: 1000 + at * 300, endMs: 1260 + at * 300, timing: 'heard' })
    );
  const ids = words.map((word) => word.id);
  return makeTrack({
    ...{ id: 't', recordingId: 'r', language: 'en', title: 'A track', words },
    cues: [
      makeCue({ id: 'a', startMs: 1000, endMs: 4100, wordIds: ids.slice(0, 10), lineStarts: [ids[5]!] }),
      makeCue({ id: 'b', startMs: 4150, endMs: 7000, wordIds: ids.slice(10) })
    ]
  });
}
