/** Rows of hearing: the demo's talk, against what is spoken in it, and against the engine's own command line where it is there. */
import { execFileSync, spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { countWordErrors } from '../src/lib/core/compare';
import { ask, jobEnd, newFolder, send, speech, startServer, upload, type Server } from '../tests/server/harness';
import { NAMES_TALK } from './names';
import type { Row } from './table';

/** Words in small letters, for counting. */
const bare = (text: string): string =>
  ` ${text
    .toLowerCase()
    .replace(/[^a-z' ]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim()} `;

/** The same talk heard without and with its names to expect. */
async function namesRows(server: Server): Promise<Row[]> {
  const { terms, sentences, voice } = NAMES_TALK;
  const spoken = sentences.join(' ');
  const { body } = await upload(server, 'names.wav', speech(sentences, voice));
  const heard = async (vocabulary: readonly string[]): Promise<string> => {
    const asked = await send(server, `/api/recordings/${body.recording.id}/transcriptions`, {
      engine: 'pocketsphinx-en-us',
      language: 'en',
      figures: false,
      vocabulary
    });
    const job = await jobEnd(server, asked.body.job.id);
    const { track } = (await ask(server, `/api/tracks/${job.result.trackId}`)).body;
    return track.words.map((word: { text: string }) => word.text).join(' ');
  };
  const count = (text: string): number => terms.reduce((sum, term) => sum + bare(text).split(bare(term)).length - 1, 0);
  const rowsOf = (how: string, text: string): Row[] => [
    {
      what: `a talk of names, ${how}: word error rate`,
      value: countWordErrors(spoken, text).wordErrorRate * 100,
      unit: '%'
    },
    { what: `a talk of names, ${how}: names heard of ${count(spoken)}`, value: String(count(text)) }
  ];
  return [...rowsOf('nothing expected', await heard([])), ...rowsOf('names given', await heard(terms))];
}

export async function hearingRows(): Promise<Row[]> {
  const scripts = JSON.parse(readFileSync(resolve('demo/scripts.json'), 'utf8'));
  const media = resolve('demo/media', scripts.talk.file);
  const reference = scripts.talk.parts.map((part: { text?: string }) => part.text ?? '').join(' ');
  const server = await startServer();
  const { body } = await upload(server, scripts.talk.file, readFileSync(media));
  await ask(server, `/api/recordings/${body.recording.id}/speech`);
  const from = Date.now();
  const asked = await send(server, `/api/recordings/${body.recording.id}/transcriptions`, {
    engine: 'pocketsphinx-en-us',
    language: 'en',
    // The truth is in words.
    figures: false
  });
  const job = await jobEnd(server, asked.body.job.id);
  const heardMs = Date.now() - from;
  const { track } = (await ask(server, `/api/tracks/${job.result.trackId}`)).body;
  const ours = countWordErrors(reference, track.words.map((word: { text: string }) => word.text).join(' '));
  const names = await namesRows(server);
  await server.stop();
  const rows: Row[] = [
    ...names,
    { what: 'word error rate of the demo talk', value: ours.wordErrorRate * 100, unit: '%' },
    { what: 'hearing the demo talk (speech map ready)', value: heardMs, unit: 'ms' }
  ];
  if (spawnSync('pocketsphinx_continuous', ['-help'], { stdio: 'ignore' }).error !== undefined) return rows;
  const wav = join(newFolder(), 'talk.wav');
  execFileSync('ffmpeg', ['-nostdin', '-v', 'error', '-y', '-i', media, '-ar', '16000', '-ac', '1', wav]);
  const alone = Date.now();
  const text = execFileSync('pocketsphinx_continuous', ['-infile', wav, '-logfn', '/dev/null'], {
    encoding: 'utf8',
    maxBuffer: 1e7
  });
  const aloneMs = Date.now() - alone;
  return [
    ...rows,
    {
      what: 'word error rate of the engine’s own command line',
      value: countWordErrors(reference, text).wordErrorRate * 100,
      unit: '%'
    },
    { what: 'hearing time against the engine’s own command line', value: heardMs / aloneMs, unit: '×', budget: 0.5 }
  ];
}
