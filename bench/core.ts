/** Rows of the core: breaking and formats, timed in this process. */
import { bestBreak, endsWith, partingCost, preparePassage, type CueBreak } from '../src/lib/core/cueing';
import { compareCuts } from '../src/lib/core/cuts';
import { estimateSync } from '../src/lib/core/sync';
import { pieceOf, joinSounds, makeTalkSound, soundOf, wearSound } from '../src/lib/core/testing/made-sound';
import { makeSpokenTalk } from '../src/lib/core/testing/any-talk';
import { HOUSE_RULES, makeCue, makeTrack, type Track, type Word } from '../src/lib/core/track';
import { breakGreedily } from './greedy';
import { LINKS, makeRandom, makeTalk } from './material';
import type { Row } from './table';

/** The median of several runs, after one that is not counted. */
function time(work: () => unknown, runs = 7): number {
  work();
  const times = Array.from({ length: runs }, () => {
    const from = performance.now();
    work();
    return performance.now() - from;
  });
  return times.sort((a, b) => a - b)[runs >> 1]!;
}

/** A track of cues of eight words. */
export function trackOf(words: readonly Word[], perCue = 8): Track {
  const cues = [];
  for (let at = 0; at < words.length; at += perCue) {
    const run = words.slice(at, at + perCue);
    cues.push(
      makeCue({
        id: `c${at}`,
        startMs: run[0]!.startMs,
        endMs: run.at(-1)!.endMs,
        wordIds: run.map((word) => word.id),
        lineStarts: run.slice(4, 5).map((word) => word.id)
      })
    );
  }
  return makeTrack({ id: 't', recordingId: 'r', language: 'en', title: 'Bench', words, cues });
}

/** Captions of a made-up talk of two hours, disturbed as files from elsewhere are, and laid on its speech again. */
function syncRows(): Row[] {
  const { cues, speech, durationMs } = makeSpokenTalk(7_200_000, 5, 0.15);
  const random = makeRandom(3);
  const middleMs = durationMs / 2;
  const cases: readonly { readonly name: string; readonly move: (ms: number) => number; readonly keep?: number }[] = [
    { name: 'as they are', move: (ms) => ms },
    { name: '60 s late', move: (ms) => ms + 60_000 },
    { name: '25 for 23.976', move: (ms) => (ms - 3000) / (24_000 / 1001 / 25) },
    { name: '0.5 % slow, a third missing', move: (ms) => (ms + 4000) / 1.005, keep: 0.67 },
    { name: 'a piece taken out', move: (ms) => (ms < middleMs ? ms : ms + 17_000) }
  ];
  return cases.flatMap(({ name, move, keep = 1 }): Row[] => {
    const truth = cues.filter(() => random() <= keep);
    const given = truth.map((cue) => ({ startMs: Math.round(move(cue.startMs)), endMs: Math.round(move(cue.endMs)) }));
    const from = performance.now();
    const found = estimateSync(given, speech, durationMs);
    const tookMs = performance.now() - from;
    const { segments = [{ fromMs: 0, toMs: Number.POSITIVE_INFINITY, ...found }] } = found;
    const off = given.map(({ startMs }, at) => {
      const one = segments.find(({ fromMs, toMs }) => startMs >= fromMs && startMs < toMs) ?? segments.at(-1)!;
      return Math.abs(startMs * one.speed + one.shiftMs - truth[at]!.startMs);
    });
    const meanMs = off.reduce((sum, ms) => sum + ms, 0) / off.length;
    return [
      { what: `sync of two hours, ${name}: left over on average`, value: meanMs, unit: 'ms', budget: 40 },
      { what: `sync of two hours, ${name}: found in`, value: tookMs, unit: 'ms', budget: 3000 }
    ];
  });
}

/** Half an hour of made-up sound, taken apart and put together otherwise with noise over it, and found again. */
function cutRows(): Row[] {
  const MINUTES = 30;
  const old = makeTalkSound(MINUTES * 60_000, 11);
  const fresh = makeTalkSound(20_000, 12);
  // Minutes of the old sound; every fourth piece is followed by 20 s of something else.
  const pieces = [0, 3, 1, 5, 7, 8, 12, 10, 14, 18, 20, 21, 25, 24].map((minute) => [minute, minute + 0.9] as const);
  const parts = pieces.flatMap(([from, to], at) => [
    pieceOf(old, from * 60_000, to * 60_000),
    ...(at % 4 === 3 ? [fresh] : [])
  ]);
  let newMs = 0;
  const truth = pieces.map(([from], at) => {
    const one = { newMs, oldMs: from * 60_000 };
    newMs += 54_000 + (at % 4 === 3 ? 20_000 : 0);
    return one;
  });
  const edited = wearSound(joinSounds(...parts), 13);
  const from = performance.now();
  const { shared } = compareCuts(soundOf(old), soundOf(edited));
  const tookMs = performance.now() - from;
  const off = truth.flatMap(({ newMs: wantedMs, oldMs }) => {
    const found = shared.find((one) => Math.abs(one.newMs - wantedMs) < 500 && Math.abs(one.oldMs - oldMs) < 500);
    return found === undefined ? [] : [Math.abs(found.newMs - wantedMs), Math.abs(found.oldMs - oldMs)];
  });
  return [
    {
      what: `a new cut of ${MINUTES} min in ${truth.length} pieces, 20 dB of noise: pieces found`,
      value: off.length / 2,
      unit: ''
    },
    { what: 'the same: borders off on average', value: off.reduce((sum, ms) => sum + ms, 0) / off.length, unit: 'ms' },
    { what: 'the same: found in', value: tookMs, unit: 'ms' }
  ];
}

const SETTING = { rules: HOUSE_RULES, language: 'en', speakers: [], names: [] };

export function coreRows(): Row[] {
  const talk = makeTalk(18_000);
  const passage = preparePassage(talk, SETTING);
  const share = (cues: readonly CueBreak[], isSo: (at: number) => boolean): string =>
    `${((100 * cues.filter((cue) => isSo(cue.to)).length) / cues.length).toFixed(1)} %`;
  const parts = (at: number): boolean => at + 1 < talk.length && partingCost(talk, at, 'en') >= 100;
  const breathes = (at: number): boolean =>
    at + 1 === talk.length ||
    endsWith(talk[at]!.text) !== 'nothing' ||
    LINKS.includes(talk[at + 1]!.text) ||
    talk[at + 1]!.startMs - talk[at]!.endMs > 250;
  const optimal = bestBreak(passage);
  const greedy = breakGreedily(passage);
  return [
    {
      what: 'breaking 18,000 words, optimal',
      value: time(() => bestBreak(preparePassage(talk, SETTING))),
      unit: 'ms',
      budget: 300
    },
    {
      what: 'breaking 18,000 words, greedy',
      value: time(() => breakGreedily(preparePassage(talk, SETTING))),
      unit: 'ms'
    },
    {
      what: 'cue breaks that part what belongs together, optimal / greedy',
      value: `${share(optimal, parts)} / ${share(greedy, parts)}`
    },
    {
      what: 'cue breaks at a clause end or a pause, optimal / greedy',
      value: `${share(optimal, breathes)} / ${share(greedy, breathes)}`
    },
    ...syncRows(),
    ...cutRows()
  ];
}
