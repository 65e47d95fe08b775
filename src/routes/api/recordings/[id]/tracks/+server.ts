import { asTrackId, trackIdSchema } from '$lib/core/id';
import { randomUUID } from 'node:crypto';
import { json } from '@sveltejs/kit';
import { z } from 'zod';
import {
  decodeText,
  ENCODINGS,
  findEncoding,
  findFormat,
  parseJson,
  trackFromFile,
  type Encoding
} from '$lib/core/formats';
import { languageTagSchema } from '$lib/core/track';
import { getApp } from '$lib/server/app';
import { answer, notSupported, readJson } from '$lib/server/http/answers';
import { ApiProblem, notFound } from '$lib/server/problem';
import { trackSummaryAnswer } from '$lib/server/recordings/answer';
import { trackAnswer } from '$lib/server/tracks/answer';
import { carryTrackOver } from '$lib/server/tracks/carry-over';
import type { RequestEvent } from './$types';

/** Those in use; `?bin=1`: those in the bin. */
export const GET = ({ params, url }: RequestEvent) =>
  answer(() => {
    const app = getApp();
    const isBinned = url.searchParams.has('bin');
    return json({
      tracks: app.trackStore.listOf(app.getRecording(params.id).id, { isBinned }).map(trackSummaryAnswer)
    });
  });

/** A track of the cut before this recording, a track of its own once more, or a captions file. */
const carryRequest = z.strictObject({ fromTrackId: trackIdSchema });
const copyRequest = z.strictObject({ copyOf: trackIdSchema, title: z.string().trim().min(1).max(300) });
const importFields = { format: z.string(), language: languageTagSchema, title: z.string().max(300).optional() };
const importRequest = z.object({ ...importFields, content: z.string() });
/** A file as it is: what is text is decoded here. */
const importBytesRequest = z.object({
  ...importFields,
  contentBase64: z.base64(),
  encoding: z.enum(ENCODINGS.map(([id]) => id) as [Encoding, ...Encoding[]]).optional()
});

export const POST = ({ params, request }: RequestEvent) =>
  answer(async () => {
    const app = getApp();
    const recording = app.getRecording(params.id);
    const asked = await readJson(request, z.union([carryRequest, copyRequest, importRequest, importBytesRequest]));
    if ('fromTrackId' in asked) {
      const id = await carryTrackOver(app, recording.id, asked.fromTrackId, request.signal);
      app.changed(recording.id);
      const { track, revision } = app.tracks.get(id);
      return json({ track: trackAnswer(track, revision), remarks: app.cutRemarks.listOf(id) }, { status: 201 });
    }
    if ('copyOf' in asked) {
      if (app.trackStore.findSummary(asked.copyOf)?.recordingId !== recording.id) throw notFound('track', asked.copyOf);
      const { track, revision } = app.tracks.get(app.tracks.duplicate(asked.copyOf, asked.title));
      app.changed(recording.id);
      return json({ track: trackAnswer(track, revision) }, { status: 201 });
    }
    const { format, language, title } = asked;
    const bytes = 'content' in asked ? null : new Uint8Array(Buffer.from(asked.contentBase64, 'base64'));
    const content = 'content' in asked ? asked.content : decodeText(bytes!, asked.encoding ?? findEncoding(bytes!));
    const { name, read } = findFormat(format) ?? {};
    if (read === undefined) return notSupported(`Reading “${format}”`);
    if (read === 'whole') {
      const whole = parseJson(content, { id: asTrackId(randomUUID()), recordingId: recording.id });
      if (!whole.ok) throw new ApiProblem(422, 'unreadable_captions', whole.problem.message);
      const track = title === undefined ? whole.value : { ...whole.value, title };
      app.tracks.insert(track, Date.now());
      app.changed(recording.id);
      return json({ track: trackAnswer(track, 0), warnings: [] }, { status: 201 });
    }
    if (typeof read === 'object' && bytes === null)
      throw new ApiProblem(400, 'bad_request', `A ${name} file is no text: send its bytes as contentBase64.`);
    const parsed = typeof read === 'object' ? read.bytes(bytes!) : read(content);
    if (parsed.cues.length === 0) {
      throw new ApiProblem(
        422,
        'unreadable_captions',
        `No cue can be read from this ${name} file.`,
        parsed.problems.slice(0, 20)
      );
    }
    const { track, problems } = trackFromFile(parsed, {
      trackId: asTrackId(randomUUID()),
      recordingId: recording.id,
      language,
      title: title ?? recording.title,
      names: app.termsFor(recording.id, undefined).map((term) => term.text),
      recordingDurationMs: recording.durationMs,
      mint: randomUUID
    });
    app.tracks.insert(track, Date.now());
    app.changed(recording.id);
    return json(
      {
        track: trackAnswer(track, 0),
        warnings: problems.map(({ line, message, code, outcome }) => ({ line, message, code, outcome }))
      },
      { status: 201 }
    );
  });
