/**
 * Makes the stored answers anew: the demo's recordings, their spoken words fitted by a running server, and a known
 * share of mistakes. `node build/make-answers.js SERVER_URL demo stand-ins/metered-service/answers`
 */
import { type Ms, msSchema } from '../../src/lib/core/time';
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import type { ServiceWord } from '$lib/server/metered/protocol';
import { levelsOf } from './answers';

/** One word of so many is another one; what was spoken stands among its alternatives. */
const MISTAKE_EVERY = 24;
/** Words that sound alike, as they are taken for each other. */
const ALIKE: Readonly<Record<string, string>> = {
  clock: 'block',
  weight: 'wait',
  wheel: 'we’ll',
  hour: 'our',
  bell: 'well',
  tower: 'power',
  wind: 'wined',
  stops: 'tops',
  teeth: 'tease',
  the: 'a',
  and: 'an',
  in: 'and',
  is: 'as',
  it: 'that',
  they: 'the',
  you: 'your',
  to: 'two',
  of: 'a'
};

const scriptsSchema = z.record(
  z.string(),
  z.object({ title: z.string(), file: z.string(), parts: z.array(z.object({ text: z.string().optional() })) })
);
const recordingsSchema = z.object({ recordings: z.array(z.object({ id: z.string(), title: z.string() })) });
const jobSchema = z.object({
  job: z.object({
    id: z.string(),
    state: z.string(),
    error: z.string().optional(),
    result: z.object({ trackId: z.string().optional() }).optional()
  })
});
const trackSchema = z.object({
  track: z.object({ words: z.array(z.object({ text: z.string(), startMs: msSchema, endMs: msSchema })) })
});

const [server, demo, out] = process.argv.slice(2) as [string, string, string];

async function call<S extends z.ZodType>(schema: S, path: string, body?: unknown): Promise<z.output<S>> {
  const response = await fetch(`${server}${path}`, {
    ...(body !== undefined && {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body)
    })
  });
  return schema.parse(await response.json());
}

function withMistakes(words: readonly { text: string; startMs: Ms; endMs: Ms }[]): ServiceWord[] {
  let sinceMistake = 0;
  return words.map(({ text, startMs, endMs }) => {
    sinceMistake++;
    const bare = text.toLowerCase().replace(/[^a-z]/g, '');
    const taken = ALIKE[bare];
    if (taken === undefined || sinceMistake < MISTAKE_EVERY || /^\p{Lu}/u.test(text))
      return { text, startMs, endMs, confidence: 0.96, alternatives: [] };
    sinceMistake = 0;
    const marks = /[^\p{L}]*$/u.exec(text)![0];
    return { text: `${taken}${marks}`, startMs, endMs, confidence: 0.41, alternatives: [text] };
  });
}

const scripts = scriptsSchema.parse(JSON.parse(readFileSync(join(demo, 'scripts.json'), 'utf8')));
const { recordings } = await call(recordingsSchema, '/api/recordings');
for (const [name, { title, file, parts }] of Object.entries(scripts)) {
  const recording = recordings.find((one) => one.title === title)!;
  const script = parts.flatMap(({ text }) => text ?? []).join('\n');
  let { job } = await call(jobSchema, `/api/recordings/${recording.id}/transcriptions`, { language: 'en', script });
  while (job.state === 'queued' || job.state === 'running') {
    await new Promise((done) => setTimeout(done, 500));
    ({ job } = await call(jobSchema, `/api/jobs/${job.id}`));
  }
  if (job.result?.trackId === undefined) throw new Error(`${title}: ${job.error ?? job.state}`);
  const { track } = await call(trackSchema, `/api/tracks/${job.result.trackId}`);
  const sound = execFileSync(
    'ffmpeg',
    ['-nostdin', '-v', 'error', '-i', join(demo, 'media', file), '-ac', '1', '-ar', '16000', '-f', 's16le', 'pipe:1'],
    { maxBuffer: 1_000_000_000 }
  );
  const samples = new Int16Array(sound.buffer.slice(sound.byteOffset, sound.byteOffset + sound.length));
  writeFileSync(
    join(out, `${name}.json`),
    `${JSON.stringify({ levels: levelsOf(samples), words: withMistakes(track.words) })}\n`
  );
}
