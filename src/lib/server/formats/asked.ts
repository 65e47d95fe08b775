/** What a request asks to be written: a format and its options. */
import { findFormat, parseOptions, usualOptions, type ExportOptions, type Format } from '$lib/core/formats';
import { ApiProblem } from '../problem';

export interface ExportAsked {
  readonly format: Format;
  readonly options: ExportOptions;
  /** The trim that it is of; `null`: as it was recorded. */
  readonly trimId: string | null;
  /** A translation with its source above it. */
  readonly withSource: boolean;
}

/** Throws `not_supported`, `bad_request`. */
export function exportAsked(query: URLSearchParams): ExportAsked {
  const id = query.get('format') ?? 'srt';
  const format = findFormat(id);
  if (format === undefined) throw new ApiProblem(422, 'not_supported', `Writing “${id}” is not possible yet.`);
  const { trimId = null, withSource, ...said } = Object.fromEntries(query);
  const options = parseOptions(new Map(Object.entries(said)), usualOptions(format));
  if (!options.ok)
    throw new ApiProblem(400, 'bad_request', `The file cannot be written so: ${options.problem.message}.`);
  return { format, options: options.value, trimId, withSource: withSource === '1' };
}
