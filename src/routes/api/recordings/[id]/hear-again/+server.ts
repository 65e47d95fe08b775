import { msSchema, toSpan } from '$lib/core/time';
import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { MOST_TERMS } from '$lib/core/expecting';
import type { Reading } from '$lib/core/hearing';
import { getApp } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { lineStream, NDJSON } from '$lib/server/http/line-stream';
import { ApiProblem } from '$lib/server/problem';
import type { RequestEvent } from './$types';

/** A passage is heard as one stretch. */
const LONGEST_MS = 30_000;

const passage = z.object({
  fromMs: msSchema,
  toMs: msSchema,
  vocabulary: z.array(z.string().max(1000)).max(MOST_TERMS).optional()
});

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const recording = app.getRecording(params.id);
    const asked = await readJson(request, passage);
    const endMs = Math.min(asked.toMs, recording.durationMs);
    if (asked.fromMs >= endMs || endMs - asked.fromMs > LONGEST_MS)
      throw new ApiProblem(
        422,
        'bad_times',
        `A passage to be heard again lies within the recording and is at most ${LONGEST_MS / 1000} s long.`
      );
    const recogniser = app.localRecogniser;
    const facts = await recogniser.facts();
    if (!facts.available)
      throw new ApiProblem(503, 'engine_unavailable', facts.reason ?? 'The recogniser is not available.');
    await app.preparing.prepared(recording.id, request.signal);
    const scratchFolder = await app.files.scratchFolder();
    const hear = (onProgress: (share: number) => void, signal: AbortSignal) =>
      recogniser.readings({
        soundPath: app.files.soundPath(recording.id),
        scratchFolder,
        ...toSpan({ startMs: asked.fromMs, endMs }),
        terms: app.termsFor(recording.id, asked.vocabulary),
        ...{ signal, onProgress }
      });
    if (request.headers.get('accept') === NDJSON)
      return lineStream(async (write, signal) => {
        const readings = await hear((progress) => write({ progress }), AbortSignal.any([signal, request.signal]));
        write({ readings: readings.map(told) });
      });
    const readings = await hear(() => undefined, request.signal);
    return json({ readings: readings.map(told) });
  });

const told = ({ text, confidence, words }: Reading) => ({
  text,
  confidence,
  words: words.map(({ text: word, startMs, endMs, confidence: sureness }) => ({
    text: word,
    startMs,
    endMs,
    confidence: sureness
  }))
});
