/** Rows of what is in the sound besides voices: music and noise taken away, speech found, a script of another language. */
import { execFileSync, spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { countWordErrors } from '../src/lib/core/compare';
import { ask, jobEnd, newFolder, send, startServer, until, uploadMapped, type Server } from '../tests/server/harness';
import type { Row } from './table';

/** Nothing was tuned on these, nor on this voice over pink noise. */
const TALK = [
  'The harbor master keeps a book of every boat that came in since the great storm.',
  'When the fog is thick, he rings a bell by hand, and the fishermen steer by the sound.',
  'Nobody pays him for it, but they bring him bread and smoked fish on Sunday.',
  'In the winter the harbor freezes, so the boats stay on the shore until March.',
  'The oldest one was built by his father, who sailed her to Iceland and back.',
  'Every evening the lamp is lit, and the whole town can see it.'
];
const VOICES = ['slt', 'rms', 'awb'];

const run = (tool: string, ...args: string[]): string => execFileSync(tool, args, { encoding: 'utf8' });
const sox = (...args: string[]): string => run('sox', '-R', ...args);

interface Spoken {
  readonly wav: string;
  /** Where a voice is, of each sentence from its first to its last sound. */
  readonly spans: readonly { readonly startMs: number; readonly endMs: number }[];
  readonly lengthMs: number;
}

/** The talk with a second between its sentences; the synthesiser tells where each begins and ends. */
function speak(folder: string, voice: string): Spoken {
  const spans: { startMs: number; endMs: number }[] = [];
  let nowMs = 0;
  const parts = TALK.map((text, at) => {
    const [raw, part] = [join(folder, `${voice}-${at}-raw.wav`), join(folder, `${voice}-${at}.wav`)];
    const phones = run('flite', '-voice', voice, '-psdur', '-t', text, '-o', raw)
      .trim()
      .split(/\s+/)
      .map((pair) => ({ phone: pair.split(':')[0]!, endMs: Number(pair.split(':')[1]) * 1000 }));
    const first = phones.findIndex(({ phone }) => phone !== 'pau');
    const last = phones.findLastIndex(({ phone }) => phone !== 'pau');
    spans.push({ startMs: nowMs + (phones[first - 1]?.endMs ?? 0), endMs: nowMs + phones[last]!.endMs });
    sox(raw, '-r', '16000', '-c', '1', '-b', '16', part, 'norm', '-6', 'pad', '0', '1');
    nowMs += Number(run('soxi', '-D', part)) * 1000;
    return part;
  });
  const wav = join(folder, `${voice}.wav`);
  sox(...parts, wav);
  return { wav, spans, lengthMs: nowMs };
}

/** What sox makes by its effects, at -6 dBFS. */
function make(path: string, effects: string): string {
  sox('-n', '-r', '16000', '-c', '1', '-b', '16', path, ...effects.split(' '), 'norm', '-6');
  return path;
}

/** Chords of plucked and held tones, and steady noises, longer than the talks. */
function makeBackgrounds(folder: string): Readonly<Record<string, string>> {
  const chords = ['C3 E3 G3 C4', 'A2 C3 E3 A3', 'F2 A2 C3 F3', 'G2 B2 D3 G3', 'E3 G3 B3 E4', 'D3 F3 A3 D4'].map(
    (chord, at) => {
      const [one, two, three, four] = chord.split(' ');
      const tones = `synth 1.6 pluck ${one} synth 1.6 pluck mix ${two} synth 1.6 sine mix ${three} synth 1.6 triangle mix ${four}`;
      return make(join(folder, `chord-${at}.wav`), `${tones} fade 0.02 1.6 0.3`);
    }
  );
  const music = join(folder, 'music.wav');
  sox(...[0, 1, 2, 3, 4, 1, 5, 3].map((at) => chords[at]!), music, 'repeat', '5');
  const noise = (kind: string): string => make(join(folder, `${kind}.wav`), `synth 90 ${kind}`);
  return { music, white: noise('whitenoise'), pink: noise('pinknoise') };
}

const powerOf = (path: string): number =>
  Number(/RMS\s+amplitude:\s+(\S+)/.exec(spawnSync('sox', [path, '-n', 'stat'], { encoding: 'utf8' }).stderr)![1]) ** 2;

/** The voice with something so many dB below it. */
function mix(voice: string, under: string, belowDb: number, out: string): string {
  const gain = Math.sqrt(powerOf(voice) / powerOf(under) / 10 ** (belowDb / 10));
  sox('-m', '-v', '0.6', voice, '-v', String(gain * 0.6), under, out, 'trim', '0', run('soxi', '-D', voice).trim());
  return out;
}

const take = (server: Server, path: string): Promise<string> =>
  uploadMapped(server, path.split('/').at(-1)!, readFileSync(path));
async function heardText(server: Server, id: string, more: object = {}): Promise<string> {
  const asked = await send(server, `/api/recordings/${id}/transcriptions`, { language: 'en', figures: false, ...more });
  const job = await jobEnd(server, asked.body.job.id);
  if (job.state !== 'done') return '';
  const { words } = (await ask(server, `/api/tracks/${job.result.trackId}`)).body.track;
  return words.map((word: { text: string }) => word.text).join(' ');
}

/** F1 of the speech map by frames of 10 ms; frames within 40 ms of an edge count for neither. */
async function speechF1(server: Server, id: string, { spans, lengthMs }: Spoken): Promise<number> {
  const { regions } = (await ask(server, `/api/recordings/${id}/speech`)).body;
  let [both, found, spoken] = [0, 0, 0];
  for (let ms = 5; ms < lengthMs; ms += 10) {
    const isIn = (list: readonly { startMs: number; endMs: number }[]): boolean =>
      list.some(({ startMs, endMs }) => ms >= startMs && ms < endMs);
    if (spans.some(({ startMs, endMs }) => Math.abs(ms - startMs) < 40 || Math.abs(ms - endMs) < 40)) continue;
    const [has, wanted] = [isIn(regions), isIn(spans)];
    if (has) found++;
    if (wanted) spoken++;
    if (has && wanted) both++;
  }
  return (2 * both) / (found + spoken);
}

/** The word error rate by NIST's scorer (Debian's sctk), in per cent; `null` where it is not on this machine. */
function scoredByStandardTool(folder: string, reference: string, hypothesis: string): number | null {
  if (spawnSync('sctk', ['sclite'], { stdio: 'ignore' }).error !== undefined) return null;
  const bare = (text: string): string => text.toLowerCase().replace(/[^a-z' ]/g, '');
  const [ref, hyp] = [join(folder, 'reference.trn'), join(folder, 'hypothesis.trn')];
  writeFileSync(ref, `${bare(reference)} (talk_1)\n`);
  writeFileSync(hyp, `${bare(hypothesis)} (talk_1)\n`);
  const report = run('sctk', 'sclite', '-r', ref, 'trn', '-h', hyp, 'trn', '-i', 'rm', '-o', 'sum', 'stdout');
  const sums = report.split('\n').find((line) => line.includes('Sum/Avg'))!;
  return Number(sums.split('|')[3]!.trim().split(/\s+/)[4]);
}

export async function soundRows(): Promise<Row[]> {
  const folder = newFolder();
  const talks = VOICES.map((voice) => ({ voice, ...speak(folder, voice) }));
  const under = makeBackgrounds(folder);
  const cases = [
    { name: 'music 6 dB below', background: 'music', file: under.music!, belowDb: 6 },
    { name: 'music 10 dB below', background: 'music', file: under.music!, belowDb: 10 },
    { name: 'white noise 20 dB below', background: 'noise', file: under.white!, belowDb: 20 },
    { name: 'white noise 25 dB below', background: 'noise', file: under.white!, belowDb: 25 },
    { name: 'pink noise 15 dB below', background: 'noise', file: under.pink!, belowDb: 15 },
    { name: 'pink noise 25 dB below', background: 'noise', file: under.pink!, belowDb: 25 }
  ].map((one) => ({
    ...one,
    mixed: talks.map((talk) => mix(talk.wav, one.file, one.belowDb, join(folder, `${talk.voice} ${one.name}.wav`)))
  }));
  const server = await startServer();
  const rows: Row[] = [];
  const text = TALK.join(' ');
  const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;

  const clean: number[] = [];
  for (const talk of talks) clean.push(await speechF1(server, await take(server, talk.wav), talk));
  rows.push({ what: 'speech map, clean: F1 by frames of 10 ms', value: mean(clean) * 100, unit: '%' });
  const first = await heardText(server, await take(server, talks[0]!.wav));
  rows.push({
    what: 'word error rate by our scorer',
    value: countWordErrors(text, first).wordErrorRate * 100,
    unit: '%'
  });
  const standard = scoredByStandardTool(folder, text, first);
  if (standard !== null) rows.push({ what: 'the same by NIST’s sclite', value: standard, unit: '%' });

  for (const { name, background, mixed } of cases) {
    const [plain, cleaned, f1]: number[][] = [[], [], []];
    for (const [at, path] of mixed.entries()) {
      const id = await take(server, path);
      const errors = (said: string): number => countWordErrors(text, said).wordErrorRate * 100;
      plain!.push(errors(await heardText(server, id)));
      cleaned!.push(errors(await heardText(server, id, { background })));
      f1!.push((await speechF1(server, id, talks[at]!)) * 100);
    }
    rows.push(
      { what: `${name}: word errors as it is`, value: mean(plain!), unit: '%' },
      { what: `${name}: cleaned first`, value: mean(cleaned!), unit: '%' },
      { what: `${name}: fewer errors by cleaning`, value: 100 * (1 - mean(cleaned!) / mean(plain!)), unit: '%' },
      { what: `${name}: speech map, F1`, value: mean(f1!), unit: '%' }
    );
  }

  // Sounds that are no speech: a bell, a tone, applause.
  const noVoices = {
    bell: 'synth 3 sine 440 synth 3 sine mix 1215 fade l 0.01 3 2.8 repeat 4',
    tone: 'synth 10 sine 1000',
    applause: 'synth 12 pinknoise tremolo 17 90 fade t 1 12 4'
  };
  for (const [name, effects] of Object.entries(noVoices)) {
    const path = make(join(folder, `${name}.wav`), effects);
    const id = await take(server, path);
    const { regions } = (await ask(server, `/api/recordings/${id}/speech`)).body;
    const takenMs = regions.reduce(
      (sum: number, one: { startMs: number; endMs: number }) => sum + one.endMs - one.startMs,
      0
    );
    const lengthMs = Number(run('soxi', '-D', path)) * 1000;
    rows.push({
      what: `${name} taken for speech`,
      value: (100 * takenMs) / lengthMs,
      unit: '% of its time',
      budget: 10
    });
  }

  const long = join(folder, 'long.wav');
  sox(talks[0]!.wav, long, 'repeat', '5');
  const id = await take(server, long);
  const asked = await send(server, `/api/recordings/${id}/transcriptions`, { language: 'en' });
  const jobId = asked.body.job.id as string;
  await until(
    () => ask(server, `/api/jobs/${jobId}`),
    ({ body }) => body.job.progress > 0.1
  );
  const from = Date.now();
  await ask(server, `/api/jobs/${jobId}?keep=heard`, { method: 'DELETE' });
  rows.push({ what: 'a hearing cancelled, what was heard kept', value: Date.now() - from, unit: 'ms', budget: 2000 });
  await server.stop();
  return rows;
}
