/**
 * Captions files of 10,000 cues, written and read beside the usual parsers of npm, turn by turn in this process; broken
 * ones; captions inside a film; bundles.
 */
import SrtParser from 'srt-parser-2';
import { parseSync, stringifySync, type NodeList } from 'subtitle';
import webvtt from 'node-webvtt';
import Papa from 'papaparse';
import { SaxesParser } from 'saxes';
import { execFileSync } from 'node:child_process';
import { readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  formatCsv,
  formatOtio,
  FORMATS,
  formatScc,
  formatSrt,
  formatStl,
  formatTtml,
  formatWebVtt,
  parseCsv,
  parseJson,
  parseScc,
  parseSrt,
  parseStl,
  parseTtml,
  parseWebVtt,
  USUAL_OPTIONS
} from '../src/lib/core/formats';
import { captionsInside, shapePicture } from '../src/lib/core/rendering';
import { markedLines, type Track } from '../src/lib/core/track';
import { renderArguments } from '../src/lib/server/rendering/arguments';
import { sha256OfFile } from '../src/lib/server/sha256';
import { newFolder, send, startServer, tone, upload } from '../tests/server/harness';
import { trackOf } from './core';
import { median } from './figures';
import { makeTalk } from './material';
import type { Row } from './table';

const RUNS = 15;
const OPTIONS = { ...USUAL_OPTIONS, title: 'Tower', durationMs: 36_000_000 };

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

export async function formatRows(): Promise<Row[]> {
  return [...parserRows(), ...mutationRows(), ...hugeRows(), ...(await insideRows()), ...(await bundleRows())];
}

function parserRows(): Row[] {
  const track = trackOf(makeTalk(80_000));
  const [srt, vtt] = [formatSrt(track), formatWebVtt(track)];
  const [csv, ttml] = [formatCsv(track, OPTIONS), formatTtml(track, OPTIONS, 'imsc')];
  const srtParser = new SrtParser();
  const kinds: readonly {
    readonly what: string;
    readonly ours: () => unknown;
    readonly others: readonly Way[];
    /** In times of the fastest of them; 1 where it is left out. */
    readonly most?: number;
  }[] = [
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
    },
    // By the names of its columns, as a table of others is read.
    {
      what: 'reading 10,000 cues of CSV',
      ours: () => parseCsv(csv),
      others: [['a', () => Papa.parse(csv, { header: true, skipEmptyLines: 'greedy' })]]
    },
    {
      what: 'writing 10,000 cues of CSV',
      ours: () => formatCsv(track, OPTIONS),
      others: [['a', () => Papa.unparse(rowsOf(track))]]
    },
    {
      what: 'reading 10,000 cues of TTML, against the XML parser alone',
      ours: () => parseTtml(ttml),
      others: [['a', () => new SaxesParser({ xmlns: true }).write(ttml).close()]],
      most: 3
    }
  ];
  const compared = kinds.flatMap(({ what, ours, others, most = 1 }): Row[] => {
    const times = timeInTurns([['ours', ours], ...others]);
    const fastest = Math.min(...others.map(([name]) => times.get(name)!));
    return [
      { what, value: times.get('ours')!, unit: 'ms' },
      { what: '… against the fastest npm parser', value: times.get('ours')! / fastest, unit: '×', budget: most }
    ];
  });
  const [stl, scc] = [formatStl(track, OPTIONS), formatScc(track, OPTIONS)];
  const alone: readonly Way[] = [
    ['writing 10,000 cues of EBU STL', () => formatStl(track, OPTIONS)],
    ['reading 10,000 cues of EBU STL', () => parseStl(stl)],
    ['writing 10,000 cues of SCC', () => formatScc(track, OPTIONS)],
    ['reading 10,000 cues of SCC', () => parseScc(scc)],
    ['writing 10,000 cues of TTML', () => formatTtml(track, OPTIONS, 'imsc')],
    ['writing 10,000 cues of OpenTimelineIO', () => formatOtio(track, OPTIONS)]
  ];
  const aloneMs = timeInTurns(alone);
  return [...compared, ...alone.map(([what]): Row => ({ what, value: aloneMs.get(what)!, unit: 'ms' }))];
}

const rowsOf = (track: Track): string[][] =>
  track.cues.map((cue, at) => [
    ...[String(at + 1), String(cue.startMs), String(cue.endMs), '', markedLines(track, cue).join('\n')]
  ]);

/** A generator of whole numbers below a bound, the same at every run (mulberry32). */
function chance(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) % below;
  };
}

const MUTATED = 100_000;
const SPLICED = [
  '-->',
  '<',
  '&',
  ']]>',
  '<!DOCTYPE',
  '00:00:01,000',
  '\n\n',
  '{',
  '"',
  '\u0000',
  '\ufeff',
  '9420 ',
  '</tt>'
];

/** Files with bytes changed, taken, doubled and put in: every reader gets as many. */
function mutationRows(): Row[] {
  const track = trackOf(makeTalk(240));
  const readers = FORMATS.filter(({ read, write }) => read !== undefined && write !== undefined);
  const next = chance(20_260_101);
  const [gc] = [(globalThis as { gc?: () => void }).gc];
  let [crashes, slowestMs, peakBytes] = [0, 0, 0];
  gc?.();
  const beforeBytes = process.memoryUsage().heapUsed;
  for (const { read, write } of readers) {
    const written = write!(track, OPTIONS);
    const whole = typeof written === 'string' ? Buffer.from(written) : Buffer.from(written);
    for (let count = 0; count < MUTATED / readers.length; count++) {
      const file = mutated(whole, next);
      const fromMs = performance.now();
      try {
        if (typeof read === 'object') read.bytes(file);
        else if (read === 'whole') parseJson(file.toString(), { id: track.id, recordingId: 'r' });
        else read!(file.toString());
      } catch {
        crashes++;
      }
      slowestMs = Math.max(slowestMs, performance.now() - fromMs);
      if (count % 500 === 0) peakBytes = Math.max(peakBytes, process.memoryUsage().heapUsed - beforeBytes);
    }
  }
  return [
    {
      what: `mutated files read (${MUTATED} in ${readers.length} formats): crashes`,
      value: crashes,
      unit: '',
      budget: 0
    },
    { what: '… the slowest', value: slowestMs, unit: 'ms', budget: 500 },
    { what: '… heap above what it was, at most', value: peakBytes / 1e6, unit: 'MB', budget: 400 }
  ];
}

function mutated(whole: Buffer, next: (below: number) => number): Buffer {
  let file = Buffer.from(whole);
  for (let changes = 1 + next(8); changes > 0; changes--) {
    const at = next(file.length + 1);
    const to = Math.min(file.length, at + next(40));
    const way = next(4);
    if (way === 0) file[at] = next(256);
    else if (way === 1) file = Buffer.concat([file.subarray(0, at), file.subarray(to)]);
    else if (way === 2) file = Buffer.concat([file.subarray(0, to), file.subarray(at)]);
    else file = Buffer.concat([file.subarray(0, at), Buffer.from(SPLICED[next(SPLICED.length)]!), file.subarray(at)]);
  }
  return file;
}

/** A hundred megabytes that are nothing, and a million cues. */
function hugeRows(): Row[] {
  const rubbish = 'The rope --> of the < tower & the bell\n'.repeat(2_600_000);
  const timed = (work: () => unknown): number => {
    const fromMs = performance.now();
    work();
    return (performance.now() - fromMs) / 1000;
  };
  const readers = FORMATS.flatMap(({ id, read }) => (typeof read === 'function' ? [{ id, read }] : []));
  const times = readers.map(({ id, read }) => ({ id, seconds: timed(() => read(rubbish)) }));
  const slowest = times.reduce((most, one) => (one.seconds > most.seconds ? one : most));
  const million = Array.from({ length: 1e6 }, (_, at) => `${at}\n00:00:01,000 --> 00:00:02,000\nx\n\n`).join('');
  return [
    { what: `100 MB of rubbish, the slowest reader (${slowest.id})`, value: slowest.seconds, unit: 's', budget: 60 },
    { what: 'a million cues of SRT read', value: timed(() => parseSrt(million)), unit: 's', budget: 10 }
  ];
}

const GIGABYTE = 1e9;

/** Captions put into a film of a gigabyte, beside copying it with the same tool. */
async function insideRows(): Promise<Row[]> {
  const folder = newFolder();
  const [short, film] = [join(folder, 'short.mp4'), join(folder, 'film.mp4')];
  const run = (args: readonly string[]): void => void execFileSync('ffmpeg', ['-v', 'error', '-y', ...args]);
  const noise = 'testsrc2=s=1280x720:r=25:d=20,noise=alls=60:allf=t';
  run([
    ...['-f', 'lavfi', '-i', noise, '-f', 'lavfi', '-i', 'sine=d=20', '-c:v', 'libx264', '-preset', 'ultrafast'],
    ...['-b:v', '24M', '-pix_fmt', 'yuv420p', '-c:a', 'aac', short]
  ]);
  const loops = Math.ceil(GIGABYTE / statSync(short).size);
  run(['-stream_loop', String(loops), '-i', short, '-c', 'copy', film]);
  const track = trackOf(makeTalk(4000));
  const written = captionsInside([track, { ...track, language: 'fr' }], 'mp4', {}, ({ language }) => language);
  const inside = written.map((one, at) => {
    const path = join(folder, `${at}.srt`);
    writeFileSync(path, one.content);
    return { ...one, path };
  });
  const request = { captions: 'inside', container: 'mp4' } as const;
  const args = renderArguments(
    {
      ...{ request, inside, stretch: null, cut: null, sound: 'copy', durationMs: 20_000 * loops },
      source: {
        media: { path: film, byItsOwnTimes: true },
        picture: { stream: 0, matrix: 'bt709', hasSquarePixels: true },
        startSeconds: 0
      },
      video: {
        ...{ codec: 'copy', strip: null, background: null, matrix: 'bt709' },
        geometry: shapePicture({ width: 1280, height: 720, pixelAspect: 1 }, {})
      }
    },
    join(folder, 'inside.mp4'),
    join(folder, 'graph')
  );
  const copy = [
    '-i',
    film,
    '-map',
    '0:v',
    '-map',
    '0:a',
    '-c',
    'copy',
    '-movflags',
    '+faststart',
    join(folder, 'copy.mp4')
  ];
  const timed = async (work: () => unknown): Promise<number> => {
    const fromMs = performance.now();
    await work();
    return performance.now() - fromMs;
  };
  const ratios: number[] = [];
  for (let count = 0; count < 3; count++) {
    const copied = await timed(() => run(copy));
    // With the hash that is noted of what goes out.
    const put = await timed(() => (run(args), sha256OfFile(join(folder, 'inside.mp4'))));
    ratios.push(put / copied);
  }
  rmSync(folder, { recursive: true });
  return [
    {
      what: 'captions in two languages put into 1 GB, against copying it',
      value: median(ratios),
      unit: '×',
      budget: 1.5
    }
  ];
}

/** A bundle over HTTP from a server of its own. */
async function bundleRows(): Promise<Row[]> {
  const server = await startServer();
  const { recording } = (await upload(server, 'talk.wav', tone(60))).body;
  const srt = formatSrt(trackOf(makeTalk(2400)));
  const ids: string[] = [];
  for (let at = 0; at < 50; at++) {
    const made = await send(server, `/api/recordings/${recording.id}/tracks`, {
      ...{ format: 'srt', language: 'en', content: srt, title: `Track ${at}` }
    });
    ids.push(made.body.track.id);
  }
  const items = ids.flatMap((trackId) => ['srt', 'vtt', 'ttml'].map((format) => ({ trackId, format })));
  const memory = (): number =>
    Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))![1]) / 1000;
  const take = async (): Promise<number> => {
    const fromMs = performance.now();
    const response = await fetch(`${server.url}/api/bundles`, {
      ...{ method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ items }) }
    });
    await response.arrayBuffer();
    return performance.now() - fromMs;
  };
  const times = [await take(), await take(), await take()];
  const before = memory();
  for (let count = 0; count < 5; count++) await take();
  const grown = memory() - before;
  await server.stop();
  return [
    { what: 'a bundle of 50 tracks × 3 formats (300 cues each)', value: median(times), unit: 'ms', budget: 2000 },
    { what: '… memory after five more, against before them', value: grown, unit: 'MB', budget: 60 }
  ];
}
