/** Lists that are gone through one by one: doubts with their candidates, sounds without a caption. */
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { api } from '../../src/lib/client/api';
import { LevelMeter } from '../../src/lib/core/audio';
import { doubtKey, type Doubt, type DoubtReason } from '../../src/lib/core/doubts';
import { spanOf } from '../../src/lib/core/time';
import { makeCue, makeTrack, makeWord, plainLines, type Track } from '../../src/lib/core/track';
import { closeDesks, openDesk, type Desk } from './desk';

const TEXT = 'the escape mint lets the escape mint go past the tour';

function heard(): Track {
  const words = TEXT.split(' ').map((text, at) =>
    makeWord({
      ...{ id: `w${at}`, text, startMs: at * 400, endMs: at * 400 + 380, timing: 'heard' },
      ...{ confidence: 0.4, startsParagraph: at === 0 }
    })
  );
  const cue = makeCue({ id: 'c', startMs: 0, endMs: 6000, wordIds: words.map(({ id }) => id) });
  return makeTrack({ id: 't', recordingId: 'r', language: 'en', title: 'A track', words, cues: [cue] });
}

function doubtOn(track: Track, from: number, count: number, reason: DoubtReason, texts: readonly string[]): Doubt {
  const run = track.words.slice(from, from + count);
  return {
    ...{ key: doubtKey(reason, run), reason, ...spanOf(run), wordIds: run.map(({ id }) => id) },
    candidates: texts.map((text) => ({ text, source: 'vocabulary' as const }))
  };
}

const judged: string[][] = [];
let found: readonly Doubt[] = [];
beforeEach(() => {
  judged.length = 0;
  vi.spyOn(api, 'doubts').mockImplementation(() =>
    Promise.resolve({ revision: 0, doubts: [...found], judged: 0, isSpelled: true })
  );
  vi.spyOn(api, 'judgeDoubts').mockImplementation((_, keys) => Promise.resolve(void judged.push([...keys])));
  vi.spyOn(api, 'takeJudgementsBack').mockImplementation((_, keys) => Promise.resolve(void judged.push([...keys])));
});
afterEach(() => {
  closeDesks();
  vi.restoreAllMocks();
});

const textOf = (desk: Desk): string => plainLines(desk.track, desk.track.cues[0]!).join(' ');

async function withDoubts(): Promise<Desk> {
  const desk = await openDesk(heard());
  const { track } = desk;
  found = [
    doubtOn(track, 1, 2, 'near_miss', ['escapement']),
    doubtOn(track, 5, 2, 'near_miss', ['escapement']),
    doubtOn(track, 10, 1, 'unsure', ['tower', 'tour'])
  ];
  await desk.doubts.load();
  return desk;
}

describe('doubts', () => {
  test('are stepped through from the playhead, each heard round and round, and told', async () => {
    const desk = await withDoubts();
    desk.player.seek(1500);
    desk.doubts.step(1);
    expect(desk.doubts.at).toBe(1);
    expect(desk.on.notice).toContain('2 of 3: Sounds like one of the names, “escape mint”.');
    expect(desk.player.loop).toEqual({ startMs: 5 * 400 - 350, endMs: 6 * 400 + 380 + 350 });
    expect(desk.chosenIds).toEqual(['w5', 'w6']);
    desk.doubts.step(1);
    desk.doubts.step(1);
    expect(desk.doubts.at).toBe(0);
  });

  test('are written over by a number, and those like one in one go', async () => {
    const desk = await withDoubts();
    desk.doubts.step(1);
    desk.doubts.take(1);
    expect(textOf(desk)).toBe('the escapement lets the escape mint go past the tour');
    expect(desk.doubts.alike).toHaveLength(1);
    desk.doubts.repeat();
    expect(textOf(desk)).toBe('the escapement lets the escapement go past the tour');
    desk.doubts.repeat();
    expect(desk.on.notice).toContain('No other doubt is like the last one.');
    expect(desk.doubts.open.map(({ reason }) => reason)).toEqual(['unsure']);
  });

  test('that stand are noted and gone, and come back when it is thought better of', async () => {
    const desk = await withDoubts();
    desk.doubts.step(1);
    desk.doubts.keep();
    expect(judged).toEqual([[found[0]!.key]]);
    expect([desk.doubts.open.length, desk.doubts.judged]).toEqual([2, 1]);
    desk.doubts.reconsider();
    expect([desk.doubts.open.length, desk.doubts.judged]).toEqual([3, 0]);
    expect(desk.doubts.current?.key).toBe(found[0]!.key);
    desk.doubts.reconsider();
    expect(desk.on.notice).toContain('Nothing was kept');
  });

  test('whose words are written otherwise by hand are none any more', async () => {
    const desk = await withDoubts();
    desk.edit([{ type: 'setWordText', wordId: desk.track.words[10]!.id, text: 'tower' }]);
    expect(desk.doubts.open).toHaveLength(2);
    desk.edit([{ type: 'setWordsShown', wordIds: [desk.track.words[1]!.id], shown: false }]);
    expect(desk.doubts.open).toHaveLength(1);
  });

  test('that could not be looked for say why', async () => {
    const desk = await openDesk(heard());
    vi.spyOn(api, 'doubts').mockRejectedValue(new Error('The dictionary is missing.'));
    await desk.doubts.load();
    expect([desk.doubts.state, desk.doubts.failure]).toEqual(['failed', 'The dictionary is missing.']);
  });
});

test('a sound without a caption is gone to, looped, and made a cue by its number', async () => {
  const desk = await openDesk(heard());
  desk.untold.step(1);
  expect(desk.on.notice).toContain('The sound is still being read.');
  const meter = new LevelMeter(16_000);
  for (const [amplitude, seconds] of [
    [0.001, 20],
    [0.4, 2],
    [0.001, 30]
  ] as const)
    meter.push(Int16Array.from({ length: seconds * 16_000 }, (_, at) => 32_767 * amplitude * Math.sin(at * 0.3)));
  desk.on.sound = { levels: meter.finish(), speech: { frameMs: 32, probabilities: [], regions: [] } };
  desk.untold.step(1);
  expect(desk.player.loop?.startMs).toBeGreaterThan(19_500);
  desk.untold.take(1);
  expect(desk.track.cues).toHaveLength(2);
  expect(plainLines(desk.track, desk.track.cues[1]!)[0]).toMatch(/^\[.+\]$/);
  expect(desk.untold.list).toEqual([]);
});
