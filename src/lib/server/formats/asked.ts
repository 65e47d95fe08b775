/** What a request asks to be written: a format and its options. */
import { findFormat, parseOptions, usualOptions, type ExportOptions, type Format } from '$lib/core/formats';
import { ApiProblem } from '../problem';

/** Throws `not_supported`, `bad_request`. */
export function exportAsked(query: URLSearchParams): { readonly format: Format; readonly options: ExportOptions } {
  const id = query.get('format') ?? 'srt';
  const format = findFormat(id);
  if (format === undefined || query.has('trimId'))
    throw new ApiProblem(
      422,
      'not_supported',
      `Writing ${format === undefined ? `“${id}”` : 'a trim'} is not possible yet.`
    );
  const options = parseOptions(new Map(query), usualOptions(format));
  if (!options.ok)
    throw new ApiProblem(400, 'bad_request', `The file cannot be written so: ${options.problem.message}.`);
  return { format, options: options.value };
}
