import { encodeText, exported, transcriptPaper, type Format, type WriteOptions } from '$lib/core/formats';
import type { Track } from '$lib/core/track';
import { transcriptDocx } from './docx';
import { writePdf } from './pdf';

/** What a library of the server's writes, by the format's id. */
const WRITERS: Readonly<
  Record<string, (track: Track, options: WriteOptions, signal: AbortSignal) => Promise<Uint8Array>>
> = {
  docx: transcriptDocx,
  pdf: (track, options, signal) => writePdf(transcriptPaper(track, options), signal)
};

/** Whether there is a writer of this format, here or in the core. */
export const isWritten = (format: Format): boolean => format.write !== undefined || Object.hasOwn(WRITERS, format.id);

/** The track as a file of the format, as the options have it. */
export async function writeFormat(
  format: Format,
  track: Track,
  options: WriteOptions,
  signal: AbortSignal
): Promise<Uint8Array> {
  const said = exported(track, options, format);
  if (format.write !== undefined) {
    const file = format.write(said, options);
    return typeof file === 'string' ? encodeText(file, options) : file;
  }
  const write = WRITERS[format.id];
  if (write === undefined) throw new Error(`nothing writes the format ${format.id}`);
  return write(said, options, signal);
}
