import { randomUUID } from 'node:crypto';
import { basename } from 'node:path';
import { acceptMedia } from '../media/accept';
import { probe, ToolFailure } from '../media/ffmpeg';
import type { MediaFiles } from '../media/files';
import { ApiProblem } from '../problem';
import type { RecordingStore } from '../store/recordings';

interface Upload {
  readonly fileName: string;
  readonly body: ReadableStream<Uint8Array> | null;
  readonly announcedBytes: number | null;
  /** The recording that it is the next cut of. */
  readonly cutOf: string | null;
}

/**
 * Takes an uploaded file: stored, probed, and a recording that is still to be prepared, whose id comes back. Throws
 * `unsupported_media` and keeps nothing where it cannot be used.
 */
export async function takeUpload(
  { files, recordings }: { readonly files: MediaFiles; readonly recordings: RecordingStore },
  { fileName, body, announcedBytes, cutOf }: Upload
): Promise<string> {
  const id = randomUUID();
  const bytes = await files.receive(id, body, announcedBytes);
  try {
    const { durationMs, media, needsProxy } = acceptMedia(await probe(files.uploadPath(id)));
    await files.keepUpload(id, () =>
      recordings.insert({
        id,
        title: titleFromFileName(fileName),
        state: 'preparing',
        durationMs,
        hasProxy: needsProxy,
        media: { ...media, bytes },
        cutOf,
        createdAtMs: Date.now()
      })
    );
  } catch (error) {
    await files.dropUpload(id);
    if (!(error instanceof ToolFailure)) throw error;
    throw new ApiProblem(
      422,
      'unsupported_media',
      'This is no sound or video file that can be read. Send WAV, MP3, FLAC, MP4, MOV, MKV, WebM, Ogg, AVI or the like.'
    );
  }
  return id;
}

/** `../My_talk-2.final.mp4` → `My talk 2.final`. Only ever a title, never a path. */
export function titleFromFileName(name: string): string {
  const stem = basename(name.replaceAll('\\', '/'))
    .replace(/\.[a-z0-9]{2,5}$/i, '')
    .replace(/[_\s-]+/g, ' ')
    .replace(/\p{Cc}/gu, '')
    .trim()
    .slice(0, 200);
  return stem === '' ? 'Untitled recording' : stem.replace(/^\p{Ll}/u, (letter) => letter.toUpperCase());
}
