/** What a request asks of a cut list. */
import { findFormat, frameRateOf, parseOptions, USUAL_OPTIONS } from '$lib/core/formats';
import { slug } from '$lib/core/naming';
import { CUT_LIST_FORMATS, type CutListFormat, type CutListOptions } from '$lib/core/trims';
import type { Trim } from '$lib/core/trims';
import type { App } from '../app';
import { ApiProblem } from '../problem';

interface Asked {
  readonly trim: Trim;
  readonly format: CutListFormat;
  readonly options: CutListOptions;
  readonly mime: string;
  readonly name: string;
}

/** Throws `unknown_trim`, `unknown_track`, `not_supported`, `bad_request`. */
export function cutListAsked(app: App, trimId: string, query: URLSearchParams): Asked {
  const { trim } = app.trims.get(trimId);
  const id = query.get('format') ?? 'otio';
  const format = CUT_LIST_FORMATS.find((one) => one === id);
  if (format === undefined)
    throw new ApiProblem(
      422,
      'not_supported',
      `A cut list is written as ${CUT_LIST_FORMATS.join(', ')}, not as “${id}”.`
    );
  const recording = app.getRecording(trim.recordingId);
  const options = parseOptions(new Map(query), {
    ...USUAL_OPTIONS,
    frameRate: frameRateOf(recording.media.frameRate ?? undefined)
  });
  if (!options.ok)
    throw new ApiProblem(400, 'bad_request', `The cut list cannot be written so: ${options.problem.message}.`);
  const trackId = query.get('trackId');
  const track = trackId === null ? null : app.tracks.get(trackId).track;
  if (track !== null && track.recordingId !== recording.id)
    throw new ApiProblem(422, 'unknown_track', 'This track belongs to another recording.');
  const { extension, mime } = findFormat(format)!;
  return {
    ...{ trim, format, mime, name: `${slug(`${recording.title} ${trim.title}`) || 'trim'}.${extension}` },
    options: {
      ...options.value,
      ...{ title: recording.title, track },
      ...{ hasPicture: recording.media.hasVideo, channels: recording.media.channels }
    }
  };
}
