/** Trims: whether sound and picture are where the map says, what is found, and how fast it is. */
import { execFile, execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { changesBetween } from '../src/lib/core/changes';
import { powerAbove6k } from '../src/lib/core/testing/high-band';
import { wholeMs } from '../src/lib/core/time';
import type { Track } from '../src/lib/core/track';
import {
  findHesitations,
  makeTrim,
  mapOf,
  mixSound,
  planSound,
  resolveTrimCommands,
  Room,
  trimShape,
  trimTrack,
  type Trim,
  type TrimCommand
} from '../src/lib/core/trims';
import { byMiddle, textOf } from '../src/lib/client/trim/text';
import { CLICKS, CLICKS_MS, clicksIn, film, flashesIn, run, SECONDS, varying } from '../tests/server/clicks';
import {
  ask,
  jobEnd,
  media,
  newFolder,
  send,
  startServer,
  upload,
  uploadMapped,
  type Server
} from '../tests/server/harness';
import { trackOf } from './core';
import { median } from './figures';
import { makeRandom, makeTalk } from './material';
import { trimBrowserRows } from './trim-browser';
import { playbackRows } from './trim-playback';
import type { Row } from './table';

const timed = (work: () => void): number => {
  const from = performance.now();
  work();
  return performance.now() - from;
};
const timedAsync = async (work: () => unknown): Promise<number> => {
  const from = performance.now();
  await work();
  return performance.now() - from;
};

const done = (trim: Trim, ...commands: readonly TrimCommand[]): Trim => {
  const made = resolveTrimCommands(trim, commands);
  if (!made.ok) throw new Error(made.problem.message);
  return made.value;
};

const HOURS_MS = 7_200_000;
const WORDS = 18_000;
const PIECES = 1000;

/** Two hours with so many places taken out. */
function longTrim(places: number): Trim {
  const whole = makeTrim({ id: 't', recordingId: 'r', title: 'Long', recordedMs: HOURS_MS, pieceId: 'p' });
  const apart = HOURS_MS / places;
  const spans = Array.from({ length: places }, (_, at) => {
    const fromMs = wholeMs(at * apart + 200);
    return { fromMs, toMs: wholeMs(fromMs + 700) };
  });
  return done(whole, { type: 'takeOut', spans, newId: 'out' });
}

function editRows(): Row[] {
  const track = trackOf(makeTalk(WORDS));
  const words = byMiddle(track);
  const trim = longTrim(PIECES);
  const parts = { speakers: new Map<string, string>() };
  let before = textOf(trim, words, { ...parts, before: null });
  const edits: number[] = [];
  const maps: number[] = [];
  for (let count = 0; count < 30; count++) {
    const fromMs = wholeMs(3_000_000 + count * 7200);
    const command: TrimCommand = {
      type: 'takeOut',
      spans: [{ fromMs, toMs: wholeMs(fromMs + 400) }],
      newId: `n${count}`
    };
    let next = trim;
    edits.push(
      timed(() => {
        next = done(trim, command);
        changesBetween(trim, next, trimShape);
        before = textOf(next, words, { ...parts, before });
      })
    );
    maps.push(timed(() => trimTrack(track, next)));
  }
  return [
    {
      what: `an edit of a trim of ${PIECES} pieces, resolved and laid out as text`,
      value: median(edits),
      unit: 'ms',
      budget: 16
    },
    { what: 'all captions of two hours through its map', value: median(maps), unit: 'ms', budget: 20 }
  ];
}

const RATE = 48_000;

function joinRows(): Row[] {
  const folder = newFolder();
  const spoken = join(folder, 'spoken.wav');
  execFileSync('flite', [
    '-voice',
    'slt',
    '-t',
    'The pendulum swings once every two seconds, and every swing lets one tooth of the wheel go past.',
    '-o',
    spoken
  ]);
  const raw = run('ffmpeg', ['-i', spoken, '-ar', String(RATE), '-ac', '1', '-f', 'f32le', '-']);
  const speech = new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.length - (raw.length % 4)));
  const random = makeRandom(5);
  const sounds: Readonly<Record<string, Float32Array>> = {
    speech,
    'a tone': Float32Array.from({ length: 5 * RATE }, (_, at) => 0.5 * Math.sin((2 * Math.PI * 440 * at) / RATE)),
    noise: Float32Array.from({ length: 5 * RATE }, () => 0.2 * (2 * random() - 1))
  };
  return Object.entries(sounds).map(([name, sound]): Row => {
    const ms = Math.floor(sound.length / 48);
    const spans = Array.from({ length: Math.floor(ms / 180) - 1 }, (_, at) => ({
      fromMs: wholeMs(at * 180 + 97),
      toMs: wholeMs(at * 180 + 180)
    }));
    const trim = done(makeTrim({ id: 't', recordingId: 'r', title: 'x', recordedMs: ms, pieceId: 'p' }), {
      ...{ type: 'takeOut', spans, newId: 'o' }
    });
    const plan = planSound(trim, RATE);
    const read = ({ from, to }: { readonly from: number; readonly to: number }) => [
      Float32Array.from({ length: to - from }, (_, at) => sound[from + at] ?? 0)
    ];
    const made = mixSound(plan, { from: 0, to: plan.length }, read, { room: new Room([], 1), channels: 1 })[0]!;
    let atJoins = 0;
    let around = 0;
    for (const { startMs } of mapOf(trim).laid.slice(2, -2)) {
      atJoins += powerAbove6k(made, startMs * 48, RATE);
      for (const awayMs of [-35, -20, 20, 35]) around += powerAbove6k(made, (startMs + awayMs) * 48, RATE) / 4;
    }
    const unit = 'dB';
    return {
      what: `above 6 kHz at joins against around them, ${name}`,
      value: 10 * Math.log10(atJoins / around),
      unit,
      budget: 3
    };
  });
}

async function render(server: Server, recordingId: string, request: object): Promise<string> {
  const asked = await send(server, `/api/recordings/${recordingId}/renders`, { captions: 'none', ...request });
  const job = await jobEnd(server, asked.body.job.id as string);
  if (job.state !== 'done') throw new Error(JSON.stringify(job));
  const file = await fetch(`${server.url}/api/renders/${job.result.renderId}/file`);
  const path = join(newFolder(), 'rendered');
  writeFileSync(path, Buffer.from(await file.arrayBuffer()));
  return path;
}

/** Away from clicks and white pictures. */
const away = (ms: number): number => (Math.abs((ms % 1000) - 340) < 110 ? ms + 220 : ms);
const spansOf = (places: number) =>
  Array.from({ length: places }, (_, at) => {
    const fromMs = away(Math.round((at * (SECONDS * 1000 - 800)) / places) + 407);
    return { fromMs, toMs: Math.max(fromMs + 5, away(fromMs + Math.round(Math.min(333, 9000 / places)))) };
  });

const worst = (found: readonly number[], wanted: readonly number[]): number =>
  found.length === wanted.length
    ? Math.max(...found.map((ms, at) => Math.abs(ms - wanted[at]!)))
    : Number.POSITIVE_INFINITY;

async function placeRows(server: Server): Promise<Row[]> {
  const rows: Row[] = [];
  const sources: readonly (readonly [string, Buffer, number, readonly string[]])[] = [
    ['sound', media('wav', CLICKS), 0, ['wav', 'm4a']],
    ['23.976', film('24000/1001'), 41.8, ['mp4']],
    ['25', film('25'), 40.1, ['mp4']],
    ['29.97', film('30000/1001'), 33.5, ['mp4']],
    ['varying', varying(), 80, ['mp4']]
  ];
  for (const [name, bytes, frameMs, containers] of sources) {
    const sourcePath = join(newFolder(), 'source');
    writeFileSync(sourcePath, bytes);
    const recordingId = (await upload(server, `${name}.mp4`, bytes)).body.recording.id as string;
    const flashes = frameMs === 0 ? [] : flashesIn(sourcePath).at;
    for (const places of [1, 50, 500]) {
      const { trim } = (await send(server, `/api/recordings/${recordingId}/trims`, { title: `${places}` })).body;
      const edits = [{ type: 'takeOut', spans: spansOf(places) }];
      await send(server, `/api/trims/${trim.id}/edits`, { revision: 0, edits });
      const { trim: document } = (await ask(server, `/api/trims/${trim.id}/document`)).body;
      const map = mapOf(document as Trim);
      const wanted = (instants: readonly number[]): number[] =>
        instants.flatMap((ms) => map.trimmedAt(ms)).sort((a, b) => a - b);
      for (const container of containers) {
        const path = await render(server, recordingId, { trimId: trim.id, container });
        const what = `${container}${frameMs === 0 ? '' : ` of ${name} frames`}, ${places} places`;
        const clicks = clicksIn(path);
        rows.push({
          what: `${what}: click off by at most`,
          value: worst(clicks, wanted(CLICKS_MS)),
          unit: 'ms',
          budget: 1
        });
        if (frameMs === 0) continue;
        const { at } = flashesIn(path);
        const frames = worst(at, wanted(flashes)) / frameMs;
        rows.push({ what: `${what}: picture off by at most`, value: frames, unit: 'frames', budget: 1 });
        const offset = (pictures: readonly number[], sounds: readonly number[]): number =>
          pictures.at(-1)! - sounds.at(-1)!;
        rows.push({
          what: `${what}: picture against sound at the end`,
          value: Math.abs(offset(at, clicks) - offset(wanted(flashes), wanted(CLICKS_MS))),
          unit: 'ms',
          budget: 20
        });
      }
    }
  }
  return rows;
}

const SENTENCES = [
  'The pendulum swings once every two seconds.',
  'A good clock says the same thing twice.',
  'First we clean the pivots.',
  'The baker does, and the school.',
  'Hold the rail on the way down.',
  'What do you hear when something is wrong?'
];

/** Talks with silences of known lengths: how many of those that are long enough are found, and how many that are none. */
async function pauseRows(server: Server): Promise<Row[]> {
  const random = makeRandom(8);
  let [wanted, found, wrong] = [0, 0, 0];
  for (const voice of ['slt', 'rms', 'kal16']) {
    const folder = newFolder();
    const LEAST_MS = 500;
    const gaps = Array.from({ length: 24 }, () => Math.round(120 + random() * 1800));
    const pieces: Float32Array[] = [];
    const known: { startMs: number; endMs: number }[] = [];
    let nowMs = 0;
    const push = (samples: Float32Array): void => {
      pieces.push(samples);
      nowMs += samples.length / 16;
    };
    for (const [at, gapMs] of gaps.entries()) {
      const path = join(folder, `${at}.wav`);
      execFileSync('flite', ['-voice', voice, '-t', SENTENCES[at % SENTENCES.length]!, '-o', path]);
      const filter =
        'silenceremove=start_periods=1:start_threshold=-45dB,areverse,silenceremove=start_periods=1:start_threshold=-45dB,areverse';
      const raw = run('ffmpeg', ['-i', path, '-af', filter, '-ar', '16000', '-ac', '1', '-f', 'f32le', '-']);
      push(new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.length - (raw.length % 4))));
      const startMs = nowMs;
      push(new Float32Array(Math.round(gapMs * 16)));
      known.push({ startMs, endMs: nowMs });
    }
    const all = new Int16Array(pieces.reduce((sum, one) => sum + one.length, 0));
    let to = 0;
    for (const piece of pieces)
      for (const sample of piece) all[to++] = 32_767 * (sample * 0.8 + 0.0015 * (2 * random() - 1));
    const wav = join(folder, 'talk.wav');
    execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 's16le', '-ar', '16000', '-ac', '1', '-i', 'pipe:0', wav], {
      input: Buffer.from(all.buffer)
    });
    const id = await uploadMapped(server, 'talk.wav', readFileSync(wav));
    const { trim } = (await send(server, `/api/recordings/${id}/trims`, { title: 'x' })).body;
    const { pauses } = (await ask(server, `/api/trims/${trim.id}/pauses?thresholdDb=24&leastMs=${LEAST_MS}&marginMs=0`))
      .body;
    // Within 40 ms: where a voice dies away is a matter of the threshold.
    const isSame = (one: { startMs: number; endMs: number }, other: { startMs: number; endMs: number }): boolean =>
      other.startMs > one.startMs - 60 &&
      other.endMs < one.endMs + 60 &&
      other.endMs - other.startMs > (one.endMs - one.startMs) * 0.6;
    const long = known.filter(({ startMs, endMs }) => endMs - startMs >= LEAST_MS + 60);
    wanted += long.length;
    found += long.filter((one) =>
      pauses.some((pause: { startMs: number; endMs: number }) => isSame(one, pause))
    ).length;
    wrong += pauses.filter(
      (pause: { startMs: number; endMs: number }) => !known.some((one) => isSame(one, pause))
    ).length;
  }
  return [
    { what: `pauses not found, of ${wanted}`, value: (100 * (wanted - found)) / wanted, unit: '%', budget: 2 },
    { what: 'found that are none', value: (100 * wrong) / wanted, unit: '%', budget: 1 }
  ];
}

const FILLED = ['um', 'uh', 'er', 'the the', 'I mean I mean', 'we we', 'clo- clock', 'so it so it'];

/** Texts with hesitations put in at known places, and words said twice on purpose. */
function hesitationRows(): Row[] {
  const random = makeRandom(21);
  const clean = makeTalk(3000);
  let [found, wrong] = [0, 0];
  const words: Track['words'][number][] = [];
  const known = new Set<string>();
  for (const [at, word] of clean.entries()) {
    words.push(word);
    if (at % 11 !== 10) continue;
    const parts = FILLED[Math.floor(random() * FILLED.length)]!.split(' ');
    const isTwice = parts.length > 1;
    for (const [step, text] of parts.entries()) {
      const id = `h${at}-${step}` as Track['words'][number]['id'];
      words.push({ ...word, id, text, startMs: word.endMs, endMs: word.endMs });
      if (!isTwice || step < parts.length / 2) known.add(id);
    }
  }
  const track = { ...trackOf(clean), words, cues: [] };
  const taken = new Set(findHesitations(track, []).flatMap(({ wordIds }) => wordIds));
  const wanted = known.size;
  for (const id of known) if (taken.has(id as Track['words'][number]['id'])) found++;
  const told = new Set(clean.filter((word, at) => at > 0 && clean[at - 1]!.text === word.text).map(({ id }) => id));
  for (const id of taken) if (!known.has(id) && !told.has(id)) wrong++;
  return [
    {
      what: `words of hesitations not found, of ${wanted}`,
      value: (100 * (wanted - found)) / wanted,
      unit: '%',
      budget: 10
    },
    { what: 'other words taken for one', value: wrong, unit: 'words' }
  ];
}

/** Against ffmpeg alone, each in turn. */
async function renderRows(server: Server): Promise<Row[]> {
  const minutes = 20;
  const folder = newFolder();
  const [short, long] = [join(folder, 'short.mp4'), join(folder, 'long.mp4')];
  // Held up, this process would not hear that the server has closed its idle connections.
  const make = (args: readonly string[]): Promise<unknown> =>
    promisify(execFile)('ffmpeg', ['-v', 'error', '-y', ...args]);
  await make([
    ...['-f', 'lavfi', '-i', 'testsrc2=s=640x360:r=25:d=60,noise=alls=6:allf=t'],
    ...['-f', 'lavfi', '-i', 'anoisesrc=d=60:r=48000:a=0.2,aformat=channel_layouts=stereo'],
    ...['-c:v', 'libx264', '-preset', 'veryfast', '-pix_fmt', 'yuv420p', '-c:a', 'aac', short]
  ]);
  await make(['-stream_loop', String(minutes - 1), '-i', short, '-c', 'copy', long]);
  const recordingId = (await upload(server, 'long.mp4', readFileSync(long))).body.recording.id as string;
  const { trim } = (await send(server, `/api/recordings/${recordingId}/trims`, { title: 'Long' })).body;
  const places = 200;
  const apart = (minutes * 60_000) / places;
  const spans = Array.from({ length: places }, (_, at) => ({
    fromMs: Math.round(at * apart + 300),
    toMs: Math.round(at * apart + 700)
  }));
  await send(server, `/api/trims/${trim.id}/edits`, { revision: 0, edits: [{ type: 'takeOut', spans }] });
  const ours = { sound: 0, video: 0 };
  const plain = { sound: 0, video: 0 };
  const length = String((minutes * 60 * (apart - 400)) / apart);
  plain.sound = await timedAsync(() =>
    make(['-i', long, '-t', length, '-vn', '-c:a', 'aac', '-b:a', '160k', join(folder, 'plain.m4a')])
  );
  ours.sound = await timedAsync(() => render(server, recordingId, { trimId: trim.id, container: 'm4a' }));
  plain.video = await timedAsync(() =>
    make([
      '-i',
      long,
      '-t',
      length,
      '-c:v',
      'libx264',
      '-preset',
      'veryfast',
      '-crf',
      '20',
      '-c:a',
      'aac',
      '-b:a',
      '160k',
      join(folder, 'plain.mp4')
    ])
  );
  ours.video = await timedAsync(() =>
    render(server, recordingId, { trimId: trim.id, container: 'mp4', video: { codec: 'h264', quality: 60 } })
  );
  return [
    {
      what: `sound of ${minutes} min with ${places} joins against ffmpeg alone`,
      value: ours.sound / plain.sound,
      unit: '×',
      budget: 1.3
    },
    {
      what: `video of ${minutes} min with ${places} joins: time against its plain re-encode`,
      value: ours.video / plain.video,
      unit: '×',
      budget: 1.25
    }
  ];
}

const served = (rows: (server: Server) => Promise<Row[]>) => async (): Promise<Row[]> => {
  const server = await startServer();
  try {
    return await rows(server);
  } finally {
    await server.stop();
  }
};

export const trimParts = [
  editRows,
  joinRows,
  hesitationRows,
  served(pauseRows),
  served(placeRows),
  served(renderRows),
  playbackRows,
  trimBrowserRows
];
