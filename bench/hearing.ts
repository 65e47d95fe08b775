/** Rows of hearing: the demo's talk, against what is spoken in it, and against the engine's own command line where it is there. */
import { execFileSync, spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { countWordErrors } from '../src/lib/core/compare';
import { ask, jobEnd, newFolder, send, startServer, upload } from '../tests/server/harness';
import type { Row } from './table';

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
    language: 'en'
  });
  const job = await jobEnd(server, asked.body.job.id);
  const heardMs = Date.now() - from;
  const { track } = (await ask(server, `/api/tracks/${job.result.trackId}`)).body;
  const ours = countWordErrors(reference, track.words.map((word: { text: string }) => word.text).join(' '));
  await server.stop();
  const rows: Row[] = [
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
