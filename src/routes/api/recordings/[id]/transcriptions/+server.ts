import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { MOST_TERMS } from '$lib/core/expecting';
import { readScript } from '$lib/core/fitting';
import { HOUSE_RULES, rulesSchema } from '$lib/core/track';
import { getApp } from '$lib/server/app';
import { answer, notSupported, readJson } from '$lib/server/http/answers';
import { ApiProblem } from '$lib/server/problem';
import { ANY_LANGUAGE } from '$lib/server/recognisers/recogniser';
import { TIMING_ENGINE } from '$lib/server/recognisers/timing';
import type { RequestEvent } from './$types';

const hearRequest = z.object({
  engine: z.string().default('pocketsphinx-en-us'),
  language: z.string().regex(/^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$/, 'must be a BCP 47 tag such as en or en-CA'),
  title: z.string().max(300).optional(),
  rules: rulesSchema.unwrap().partial().optional(),
  vocabulary: z.array(z.string().max(1000)).max(MOST_TERMS).optional(),
  script: z.string().max(2_000_000).optional(),
  figures: z.boolean().default(true),
  /** Only this stretch is heard; the whole recording where it is left out. */
  fromMs: z.int().min(0).optional(),
  toMs: z.int().min(1).optional(),
  speakers: z.union([z.int().min(1).max(20), z.literal('auto')]).optional(),
  trackId: z.string().optional()
});

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const recording = app.getRecording(params.id);
    const asked = await readJson(request, hearRequest);
    if (asked.trackId !== undefined) return notSupported('Hearing with “trackId”');
    const facts = await app.engineFacts(asked.engine);
    if (facts === null)
      throw new ApiProblem(422, 'unknown_engine', `There is no engine “${asked.engine}”; GET /api/health lists them.`);
    const primary = (tag: string): string => tag.split('-')[0]!.toLowerCase();
    const hears = (tag: string): boolean => tag === ANY_LANGUAGE || primary(tag) === primary(asked.language);
    if (!facts.languages.some(hears)) {
      throw new ApiProblem(
        422,
        'language_not_heard',
        `${facts.name} does not hear ${asked.language}; it hears ${facts.languages.join(', ')}.`
      );
    }
    if (!facts.available)
      throw new ApiProblem(503, 'engine_unavailable', facts.reason ?? 'The recogniser is not available.');
    if (recording.state === 'failed')
      throw new ApiProblem(422, 'unsupported_media', recording.failure ?? 'The recording failed.');
    const rules = { ...HOUSE_RULES, ...(asked.rules as Partial<typeof HOUSE_RULES> | undefined) };
    const stretch =
      asked.fromMs === undefined && asked.toMs === undefined
        ? null
        : { startMs: asked.fromMs ?? 0, endMs: Math.min(asked.toMs ?? recording.durationMs, recording.durationMs) };
    if (stretch !== null && stretch.startMs >= stretch.endMs)
      throw new ApiProblem(
        422,
        'bad_times',
        'The stretch to be heard has to end after it begins, within the recording.'
      );
    if (asked.script !== undefined) {
      if (asked.engine === TIMING_ENGINE.id)
        throw new ApiProblem(
          422,
          'script_not_fitted',
          `${facts.name} fits no script; choose an engine that hears words.`
        );
      if (readScript(asked.script).every((word) => word.forms.length === 0))
        throw new ApiProblem(422, 'empty_script', 'The script holds no words that can be spoken.');
    }
    const job = app.jobs.add('hear', recording.id, {
      figures: asked.figures,
      speakers: asked.speakers ?? null,
      script: asked.script ?? null,
      stretch,
      engine: asked.engine,
      language: asked.language,
      title: asked.title ?? recording.title,
      rules,
      // Those that come with the request, else those that were written down before.
      terms: app.termsFor(recording.id, asked.vocabulary)
    });
    app.changed(recording.id);
    return json({ job: app.jobs.answerOf(job) }, { status: 202 });
  });
