import { trackIdSchema } from '$lib/core/id';
import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { MOST_TERMS } from '$lib/core/expecting';
import { isSpoken, readScript } from '$lib/core/fitting';
import { hearsLanguage } from '$lib/core/hearing';
import { formatClock, msSchema } from '$lib/core/time';
import { HOUSE_RULES, languageTagSchema, rulesSchema } from '$lib/core/track';
import { getApp, type App } from '$lib/server/app';
import { answer, readJson } from '$lib/server/http/answers';
import { checkSource, sourceSchema } from '$lib/server/media/sources';
import { ApiProblem, notFound } from '$lib/server/problem';
import { quoteFor, type Quote } from '$lib/server/quote';
import type { RequestEvent } from './$types';

/** Faster than the fastest speakers, and what may stand in a script beside what is spoken. */
const MOST_WORDS_A_SECOND = 8;
const SPARE_WORDS = 60;

const hearRequest = z.object({
  engine: z.string().default('pocketsphinx-en-us'),
  language: languageTagSchema,
  title: z.string().max(300).optional(),
  rules: rulesSchema.unwrap().partial().optional(),
  vocabulary: z.array(z.string().max(1000)).max(MOST_TERMS).optional(),
  script: z.string().max(2_000_000).optional(),
  figures: z.boolean().default(true),
  /** Only this stretch is heard; the whole recording where it is left out. */
  fromMs: msSchema.optional(),
  toMs: msSchema.optional(),
  speakers: z.union([z.int().min(1).max(20), z.literal('auto')]).optional(),
  /** The stream and the channel of it that hold the speech, from 0 on; the first stream, its channels together. */
  source: sourceSchema.optional(),
  /** What else is in the sound: music or noise are taken from under the voices first. */
  background: z.enum(['none', 'music', 'noise']).default('none'),
  /** What is heard is a proposal for this track, and no new one. */
  trackId: trackIdSchema.optional(),
  /** What the caller has agreed to pay, where the engine bills. */
  spendCents: z.int().min(0).optional()
});

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const recording = app.getRecording(params.id);
    const asked = await readJson(request, hearRequest);
    const facts = await app.engineFacts(asked.engine);
    if (facts === null)
      throw new ApiProblem(422, 'unknown_engine', `There is no engine “${asked.engine}”; GET /api/health lists them.`);
    if (!hearsLanguage(facts.languages, asked.language)) {
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
      if (!facts.fits)
        throw new ApiProblem(422, 'script_not_fitted', `${facts.name} fits no script; choose an engine that does.`);
      const words = readScript(asked.script, asked.language).filter(isSpoken).length;
      if (words === 0) throw new ApiProblem(422, 'empty_script', 'The script holds no words that can be spoken.');
      const lengthMs = stretch === null ? recording.durationMs : stretch.endMs - stretch.startMs;
      if (words > MOST_WORDS_A_SECOND * (lengthMs / 1000) + SPARE_WORDS)
        throw new ApiProblem(
          422,
          'script_too_long',
          `Nobody says ${words} words in ${formatClock(lengthMs)}: send the part of the script that is spoken there.`
        );
    }
    if (asked.script === undefined && facts.fits && !facts.hears)
      throw new ApiProblem(422, 'script_missing', `${facts.name}: send the script that is spoken.`);
    if (asked.source !== undefined) await checkSource(app.files, recording.id, asked.source);
    if (asked.trackId !== undefined) proposable(app, recording.id, asked);
    agreeOn(
      quoteFor(facts, stretch === null ? recording.durationMs : stretch.endMs - stretch.startMs),
      asked.spendCents
    );
    const job = app.jobs.add('hear', recording.id, {
      figures: asked.figures,
      speakers: asked.speakers ?? null,
      script: asked.script ?? null,
      stretch,
      source: asked.source ?? null,
      background: asked.background === 'none' ? null : asked.background,
      proposeFor: asked.trackId ?? null,
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

/** Throws where the track is of another recording, or there is nothing in it that could differ. */
function proposable(app: App, recordingId: string, asked: z.infer<typeof hearRequest>): void {
  const { track } = app.tracks.get(asked.trackId!);
  if (track.recordingId !== recordingId) throw notFound('track', track.id);
  if (asked.script !== undefined || track.words.length === 0)
    throw new ApiProblem(
      422,
      'nothing_to_propose',
      'A new hearing is proposed for a track with words, and without a script; have it heard as a new track.'
    );
}

/** Nothing is spent that was not agreed to. */
function agreeOn(quote: Quote | null, spendCents: number | undefined): void {
  if (quote === null) return;
  if (quote.balanceAfterCents < 0)
    throw new ApiProblem(
      402,
      'balance_too_low',
      'The balance at the metered service does not reach for this; choose a shorter stretch, or hear it on this machine.',
      quote
    );
  if (spendCents !== quote.costCents)
    throw new ApiProblem(
      402,
      'agree_to_price',
      `This costs ${quote.costCents} cents for ${quote.minutes} started minutes; send it again with "spendCents": ${quote.costCents}.`,
      quote
    );
}
