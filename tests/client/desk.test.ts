import fc from 'fast-check';
import { afterEach, describe, expect, test } from 'vitest';
import { wholeMs } from '../../src/lib/core/time';
import { makeCue, makeTrack, makeWord, plainLines, type Cue, type Track } from '../../src/lib/core/track';
import { closeDesks, openDesk, preferences, type Desk } from './desk';

afterEach(closeDesks);

/** Cues of these texts, a second each from `startMs` on, `gapMs` apart; words share the time of their cue. */
function trackOf(texts: readonly string[], { startMs = 1000, gapMs = 500 } = {}): Track {
  let fromMs = startMs;
  let count = 0;
  const made = texts.map((text, at) => {
    const parts = text.split(' ');
    const words = parts.map((part, place) =>
      makeWord({
        ...{ id: `w${count++}`, text: part, timing: 'heard', startsParagraph: at === 0 && place === 0 },
        ...{ startMs: fromMs + (place * 1000) / parts.length, endMs: fromMs + ((place + 1) * 1000) / parts.length }
      })
    );
    const cue = makeCue({ id: `c${at}`, startMs: fromMs, endMs: fromMs + 1000, wordIds: words.map(({ id }) => id) });
    fromMs += 1000 + gapMs;
    return { cue, words };
  });
  return makeTrack({
    ...{ id: 't', recordingId: 'r', language: 'en', title: 'A track' },
    words: made.flatMap(({ words }) => words),
    cues: made.map(({ cue }) => cue)
  });
}

const choose = (desk: Desk, at: number): Cue => {
  desk.chooseCue(desk.track.cues[at]);
  return desk.cue!;
};
const textsOf = (desk: Desk): string[] => desk.track.cues.map((cue) => plainLines(desk.track, cue).join(' / '));
const timesOf = (desk: Desk): (readonly [number, number])[] =>
  desk.track.cues.map(({ startMs, endMs }) => [startMs, endMs] as const);

describe('choosing', () => {
  test('reaches from the one on the card to another, grows and shrinks at its end, and is told', async () => {
    const desk = await openDesk(trackOf(['one', 'two', 'three', 'four']));
    choose(desk, 1);
    desk.cues.extendTo(desk.track.cues[3]);
    expect(desk.cues.chosen.map(({ id }) => id)).toEqual(['c1', 'c2', 'c3']);
    desk.cues.extend(-1);
    expect(desk.cues.chosen.map(({ id }) => id)).toEqual(['c1', 'c2']);
    expect(desk.on.notice).toContain('2 cues chosen.');
    desk.cues.toggle(desk.track.cues[0]!);
    expect(desk.cues.chosen.map(({ id }) => id)).toEqual(['c0', 'c1', 'c2']);
    choose(desk, 3);
    expect(desk.cues.chosen.map(({ id }) => id)).toEqual(['c3']);
    desk.cues.chooseAll();
    expect(desk.cues.chosen).toHaveLength(4);
  });

  test('Ctrl adds to one that is alone, and lets go of either', async () => {
    const desk = await openDesk(trackOf(['one', 'two', 'three']));
    choose(desk, 0);
    desk.cues.toggle(desk.track.cues[2]!);
    expect([desk.cues.chosen.map(({ id }) => id), desk.cueId]).toEqual([['c0', 'c2'], 'c2']);
    desk.cues.toggle(desk.track.cues[2]!);
    expect([desk.cues.chosen.map(({ id }) => id), desk.cueId]).toEqual([['c0'], 'c0']);
    desk.cues.toggle(desk.track.cues[0]!);
    expect(desk.cues.chosen.map(({ id }) => id)).toEqual(['c0']);
  });

  test('outlives an edit, and forgets what is gone', async () => {
    const desk = await openDesk(trackOf(['one', 'two', 'three']));
    choose(desk, 0);
    desk.cues.extendTo(desk.track.cues[1]);
    desk.edit([{ type: 'setTitle', title: 'Other' }]);
    expect(desk.cues.chosen.map(({ id }) => id)).toEqual(['c0', 'c1']);
    desk.edit([{ type: 'removeCue', cueId: desk.track.cues[1]!.id }]);
    expect(desk.cues.chosen.map(({ id }) => id)).toEqual(['c0']);
    desk.cues.toggle(desk.track.cues[1]!);
    expect(desk.cues.chosen.map(({ id }) => id)).toEqual(['c0', 'c2']);
  });

  test('of a cue that an undo takes away goes to the one that stands there now', async () => {
    const desk = await openDesk(trackOf(['one', 'two', 'three']));
    choose(desk, 2);
    desk.keepChoice();
    desk.edit([{ type: 'removeCue', cueId: desk.cue!.id }]);
    desk.keepChoice();
    expect(desk.cue?.id).toBe('c1');
  });
});

describe('parting and joining', () => {
  test('splits before the word at the playhead, or the chosen one; merging brings the cue back', async () => {
    const desk = await openDesk(trackOf(['the clock lets go', 'every hour']));
    choose(desk, 0);
    desk.player.seek(1480);
    desk.cues.split();
    expect(textsOf(desk)).toEqual(['the clock', 'lets go', 'every hour']);
    expect(desk.cueIndex).toBe(1);
    desk.cues.merge(-1);
    expect(textsOf(desk)).toEqual(['the clock / lets go', 'every hour']);
    expect(timesOf(desk)[0]).toEqual([1000, 2000]);
    desk.chooseWords([desk.track.words[1]!.id]);
    desk.cues.split();
    expect(textsOf(desk)).toEqual(['the', 'clock / lets go', 'every hour']);
  });

  test('one word is not split, the last cue is not merged on, and both are said', async () => {
    const desk = await openDesk(trackOf(['one', 'two']));
    choose(desk, 1);
    desk.cues.split();
    expect(desk.on.notice).toContain('One word cannot be split.');
    desk.cues.merge(1);
    expect(desk.on.notice).toContain('There is no next cue to merge with.');
    expect(textsOf(desk)).toEqual(['one', 'two']);
  });

  test('a word that is pulled and pushed again leaves the words of both cues as they were', async () => {
    const texts = fc.array(fc.constantFrom('a', 'bell', 'rings', 'in the', 'old', 'tower'), {
      minLength: 2,
      maxLength: 5
    });
    await fc.assert(
      fc.asyncProperty(texts, texts, async (own, theirs) => {
        const desk = await openDesk(trackOf([own.join(' '), theirs.join(' ')]));
        choose(desk, 0);
        const wordsOf = (): (readonly string[])[] => desk.track.cues.map(({ wordIds }) => wordIds);
        const before = wordsOf();
        desk.cues.moveBorder('pull');
        if (before[1]!.length > 1) expect(wordsOf()).not.toEqual(before);
        if (wordsOf()[0]!.length > before[0]!.length) desk.cues.moveBorder('push');
        expect(wordsOf()).toEqual(before);
      }),
      { numRuns: 25 }
    );
  });

  test('lines begin at the chosen word and are joined at it again; the rules set them by themselves', async () => {
    const desk = await openDesk(trackOf(['the clock in the tower of the church lets one tooth go past every day']));
    choose(desk, 0);
    const word = desk.track.words[4]!;
    desk.chooseWords([word.id]);
    desk.cues.breakLine();
    expect(textsOf(desk)[0]).toMatch(/^the clock in the \/ tower/);
    desk.chooseWords([word.id]);
    desk.cues.breakLine();
    expect(textsOf(desk)[0]).not.toContain('/');
    desk.cues.balance();
    expect(textsOf(desk)[0]!.split(' / ')).toHaveLength(2);
  });

  test('what is deleted is counted, and the cue behind it is chosen', async () => {
    const desk = await openDesk(trackOf(['one', 'two', 'three']));
    choose(desk, 0);
    desk.cues.extendTo(desk.track.cues[1]);
    desk.cues.remove();
    expect(textsOf(desk)).toEqual(['three']);
    expect(desk.on.notice).toContain('2 cues deleted. Undo brings them back.');
    expect(desk.cue?.id).toBe('c2');
  });
});

describe('times by hand', () => {
  test('an edge keeps the least gap to its neighbours and a tenth of a second to the other edge, wherever it is put', async () => {
    const desk = await openDesk(trackOf(['one', 'two', 'three']));
    const { minGapMs } = desk.track.rules;
    fc.assert(
      fc.property(
        fc.constantFrom('start' as const, 'end' as const),
        fc.integer({ min: 0, max: 8000 }),
        (edge, toMs) => {
          choose(desk, 1);
          desk.cues.setEdge(edge, wholeMs(toMs));
          const [before, own, after] = desk.track.cues as [Cue, Cue, Cue];
          expect(own.startMs - before.endMs).toBeGreaterThanOrEqual(minGapMs);
          expect(after.startMs - own.endMs).toBeGreaterThanOrEqual(minGapMs);
          expect(own.endMs - own.startMs).toBeGreaterThanOrEqual(100);
          expect([before, after]).toEqual([desk.track.cues[0], desk.track.cues[2]]);
        }
      )
    );
  });

  test('a step there and back is no change, by time and by frames of the picture', async () => {
    const desk = await openDesk(trackOf(['one', 'two', 'three']));
    for (const nudge of ['10 ms', 'frame'] as const) {
      preferences.set({ nudge });
      choose(desk, 1);
      const before = timesOf(desk);
      for (const edge of ['start', 'end'] as const) {
        desk.cues.nudgeEdge(edge, 1);
        expect(timesOf(desk)).not.toEqual(before);
        desk.cues.nudgeEdge(edge, -1);
        expect(timesOf(desk)).toEqual(before);
      }
      desk.cues.nudge(1);
      desk.cues.nudge(-1);
      expect(timesOf(desk)).toEqual(before);
    }
    expect(desk.cues.stepMs).toBe(40);
  });

  test('several move together as far as the first in the way lets them, and all that follow with them if wanted', async () => {
    const desk = await openDesk(trackOf(['one', 'two', 'three', 'four']));
    choose(desk, 1);
    desk.cues.extendTo(desk.track.cues[2]);
    desk.cues.time(desk.cues.moveTimes(desk.cues.chosen, 10_000));
    const gapMs = desk.track.rules.minGapMs;
    expect(desk.track.cues[3]!.startMs - desk.track.cues[2]!.endMs).toBe(gapMs);
    expect(desk.track.cues[2]!.startMs - desk.track.cues[1]!.startMs).toBe(1500);
    preferences.set({ ripple: true });
    const before = timesOf(desk);
    desk.cues.time(desk.cues.moveTimes(desk.cues.chosen, 2000));
    expect(timesOf(desk)).toEqual(before.map(([from, to], at) => (at === 0 ? [from, to] : [from + 2000, to + 2000])));
  });

  test('edges that touch are one to the hand', async () => {
    const desk = await openDesk(trackOf(['one', 'two', 'three'], { gapMs: 80 }));
    const [one, two] = desk.track.cues as [Cue, Cue];
    expect(desk.cues.partnerOf(one, 'end')?.id).toBe(two.id);
    expect(desk.cues.partnerOf(two, 'start')?.id).toBe(one.id);
    expect(desk.cues.partnerOf(one, 'start')).toBeNull();
  });

  test('a held key times the cue it was held over, makes one where there is none, and nothing when the window lost it', async () => {
    const desk = await openDesk(trackOf(['one', 'two']));
    const hold = (fromMs: number, toMs: number, end: 'holdEnd' | 'holdLost' = 'holdEnd'): void => {
      desk.player.seek(fromMs);
      desk.cues.holdStart();
      desk.player.seek(toMs);
      desk.cues[end]();
    };
    hold(1200, 1900);
    expect(timesOf(desk)[0]).toEqual([1200, 1900]);
    hold(6000, 7000);
    expect(timesOf(desk)[2]).toEqual([6000, 7000]);
    hold(8000, 9000, 'holdLost');
    expect(desk.track.cues).toHaveLength(3);
    expect(desk.on.notice).toContain('nothing was timed');
    hold(8000, 8050);
    expect(desk.track.cues).toHaveLength(3);
  });

  test('a cue is added where there is half a second, up to its neighbour', async () => {
    const desk = await openDesk(trackOf(['one', 'two'], { gapMs: 1500 }));
    desk.player.seek(2100);
    expect(desk.cues.add()).not.toBeNull();
    expect(timesOf(desk)[1]).toEqual([2100, 3500 - desk.track.rules.minGapMs]);
    desk.player.seek(1500);
    expect(desk.cues.add()).toBeNull();
    expect(desk.on.notice).toContain('There is no room for a cue here.');
  });
});

describe('stepping', () => {
  test('goes to bookmarks, faults, gaps and shot changes, and says where there are no more', async () => {
    const desk = await openDesk(trackOf(['one', 'two', 'three'], { gapMs: 3000 }), { shotsMs: [2500, 4000] });
    choose(desk, 0);
    desk.edit([{ type: 'annotateCue', cueId: desk.track.cues[2]!.id, bookmark: true }]);
    desk.cues.stepTo('bookmark', 1);
    expect(desk.cue?.id).toBe('c2');
    desk.cues.stepTo('bookmark', 1);
    expect(desk.on.notice).toContain('No bookmark that way.');
    desk.player.seek(2000);
    desk.cues.stepTo('shot', 1);
    expect(desk.player.nowMs).toBe(2500);
    desk.cues.stepTo('shot', -1);
    expect(desk.on.notice).toContain('No shot change that way.');
    desk.cues.stepTo('gap', 1);
    expect(desk.player.nowMs).toBe(6001);
    choose(desk, 0);
    desk.edit([{ type: 'setCueTimes', cueId: desk.track.cues[1]!.id, startMs: wholeMs(5000), endMs: wholeMs(5200) }]);
    desk.cues.stepTo('finding', 1);
    expect(desk.cue?.id).toBe('c1');
    expect(desk.on.notice).toContain('On screen for 0.20 s');
  });
});

describe('words in hand', () => {
  test('a sound gets a cue of its own where there is room, else stands behind the word that is spoken', async () => {
    const desk = await openDesk(trackOf(['one', 'two'], { gapMs: 3000 }));
    desk.page.describeSound('bell strikes', { startMs: wholeMs(2500), endMs: wholeMs(3000) });
    expect(textsOf(desk)).toEqual(['one', '[bell strikes]', 'two']);
    desk.page.describeSound('[door]', { startMs: wholeMs(1400), endMs: wholeMs(1500) });
    expect(textsOf(desk)[0]).toBe('one [door]');
    expect(desk.page.soundCommand('  ', { startMs: wholeMs(0), endMs: wholeMs(0) })).toBeNull();
  });

  test('a paragraph goes to a new speaker, to the next one, and a word over its border and back', async () => {
    const desk = await openDesk(trackOf(['the clock lets go', 'every hour']));
    desk.surface = { focus: () => undefined, enter: () => undefined, selectedWords: () => [desk.track.words[4]!.id] };
    desk.page.giveTo(null);
    expect(desk.track.speakers.map(({ name }) => name)).toEqual(['Speaker 1']);
    expect(desk.track.words.map(({ speakerId }) => speakerId !== null)).toEqual([
      false,
      false,
      false,
      false,
      true,
      false
    ]);
    desk.surface = null;
    desk.chooseWords([desk.track.words[4]!.id]);
    const before = desk.track.words;
    desk.page.moveBoundary(-1);
    expect(desk.track.words[3]!.speakerId).toBe(desk.track.speakers[0]!.id);
    desk.page.moveBoundary(1);
    expect(desk.track.words).toEqual(before);
  });

  test('a text is found from the playhead on, written over here and everywhere, and kept for the next window', async () => {
    const track = trackOf(['the clock lets go', 'the clock stops', 'no clock']);
    const desk = await openDesk(track);
    preferences.set({ readPanel: 'find' });
    desk.finder.ask({ text: 'clock' });
    desk.finder.replacement = 'bell';
    expect(desk.finder.hits).toHaveLength(3);
    desk.player.seek(2300);
    desk.finder.step(1);
    expect(desk.finder.at).toBe(1);
    desk.finder.replaceOne();
    expect(textsOf(desk)).toEqual(['the clock lets go', 'the bell stops', 'no clock']);
    desk.finder.replaceAll();
    expect(textsOf(desk)).toEqual(['the bell lets go', 'the bell stops', 'no bell']);
    expect(desk.on.notice).toContain('2 replaced.');
    desk.finder.step(1);
    expect(desk.on.notice).toContain('Not found in this track.');
  });
});

describe('a trial', () => {
  test('is drawn and not done until it is taken, and is void after another edit', async () => {
    const desk = await openDesk(trackOf(['one', 'two']));
    desk.trial.try([{ type: 'retime', shiftMs: 1000, speed: 1 }]);
    expect(desk.drawn.cues[0]!.startMs).toBe(2000);
    expect(desk.track.cues[0]!.startMs).toBe(1000);
    desk.edit([{ type: 'setTitle', title: 'Other' }]);
    expect(desk.drawn).toBe(desk.track);
    desk.trial.try([{ type: 'retime', shiftMs: 1000, speed: 1 }]);
    desk.trial.take();
    expect(desk.track.cues[0]!.startMs).toBe(2000);
    expect(desk.on.notice).toContain('Taken.');
  });
});
