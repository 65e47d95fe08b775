/** Captions files of 10,000 cues, written and read beside the usual parsers of npm, turn by turn in this process. */
import SrtParser from 'srt-parser-2';
import { parseSync, stringifySync, type NodeList } from 'subtitle';
import webvtt from 'node-webvtt';
import { formatSrt, formatWebVtt, parseSrt, parseWebVtt } from '../src/lib/core/formats';
import { markedLines, type Track } from '../src/lib/core/track';
import { trackOf } from './core';
import { makeTalk } from './material';
import type { Row } from './table';

const RUNS = 15;

type Way = readonly [name: string, work: () => unknown];

/** The median of each way's runs, in ms; the ways take turns, so that all meet the same machine. */
function timeInTurns(ways: readonly Way[]): ReadonlyMap<string, number> {
  const times = new Map<string, number[]>(ways.map(([name]) => [name, []]));
  for (let run = -3; run < RUNS; run++) {
    for (const [name, work] of ways) {
      const fromMs = performance.now();
      work();
      if (run >= 0) times.get(name)!.push(performance.now() - fromMs);
    }
  }
  return new Map([...times].map(([name, all]) => [name, all.sort((a, b) => a - b)[RUNS >> 1]!]));
}

/** What the parsers write from: a track's lines, which ours has to make from its words too. */
const nodesOf = (track: Track): NodeList =>
  track.cues.map((cue) => ({
    type: 'cue',
    data: { start: cue.startMs, end: cue.endMs, text: markedLines(track, cue).join('\n') }
  }));

export function fileRows(): Row[] {
  const track = trackOf(makeTalk(80_000));
  const [srt, vtt] = [formatSrt(track), formatWebVtt(track)];
  const srtParser = new SrtParser();
  const kinds: readonly { readonly what: string; readonly ours: () => unknown; readonly others: readonly Way[] }[] = [
    {
      what: 'reading 10,000 cues of SRT',
      ours: () => parseSrt(srt),
      others: [
        ['a', () => parseSync(srt)],
        ['b', () => srtParser.fromSrt(srt)]
      ]
    },
    {
      what: 'reading 10,000 cues of WebVTT',
      ours: () => parseWebVtt(vtt),
      others: [
        ['a', () => parseSync(vtt)],
        ['b', () => webvtt.parse(vtt)]
      ]
    },
    {
      what: 'writing 10,000 cues of SRT',
      ours: () => formatSrt(track),
      others: [['a', () => stringifySync(nodesOf(track), { format: 'SRT' })]]
    },
    {
      what: 'writing 10,000 cues of WebVTT',
      ours: () => formatWebVtt(track),
      others: [['a', () => stringifySync(nodesOf(track), { format: 'WebVTT' })]]
    }
  ];
  return kinds.flatMap(({ what, ours, others }): Row[] => {
    const times = timeInTurns([['ours', ours], ...others]);
    const fastest = Math.min(...others.map(([name]) => times.get(name)!));
    return [
      { what, value: times.get('ours')!, unit: 'ms', budget: 60 },
      { what: '… against the fastest npm parser', value: times.get('ours')! / fastest, unit: '×', budget: 1 }
    ];
  });
}
