import type { Render } from '../store/renders';

/** What was rendered, as the API tells it. */
export const renderAnswer = ({ id, recordingId, name, bytes, mime, durationMs, request, madeAtMs }: Render) => ({
  ...{ id, recordingId, state: 'done' as const, name, bytes, mime, durationMs, madeAtMs },
  captions: request.captions,
  trackId: request.trackId ?? null,
  trimId: request.trimId ?? null
});
