import type { Format, TranscriptOptions } from '$lib/core/formats';
import type { Track } from '$lib/core/track';
import { transcriptDocx } from './docx';
import { transcriptPdf } from './pdf';

type Options = TranscriptOptions & { readonly title: string };

/** What a library of the server's writes, by the format's id. */
const WRITERS: Readonly<Record<string, (track: Track, options: Options) => Promise<Buffer>>> = {
  docx: transcriptDocx,
  pdf: transcriptPdf
};

/** Whether there is a writer of this format, here or in the core. */
export const isWritten = (format: Format): boolean => format.write !== undefined || Object.hasOwn(WRITERS, format.id);

/** The track as a file of the format. */
export async function writeFormat(format: Format, track: Track, options: Options): Promise<string | Buffer> {
  if (format.write !== undefined) return format.write(track, options);
  const write = WRITERS[format.id];
  if (write === undefined) throw new Error(`nothing writes the format ${format.id}`);
  return write(track, options);
}
