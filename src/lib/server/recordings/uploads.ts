import { randomUUID } from 'node:crypto';
import { basename } from 'node:path';
import { acceptMedia } from '../media/accept';
import { probe, ToolFailure } from '../media/ffmpeg';
import type { MediaFiles } from '../media/files';
import { ApiProblem } from '../problem';
import type { RecordingStore } from '../store/recordings';
import type { ArrivedUpload } from './resumable';

interface Upload {
  readonly fileName: string;
  readonly body: ReadableStream<Uint8Array> | null;
  readonly announcedBytes: number | null;
  /** The recording that it is the next cut of. */
  readonly cutOf: string | null;
}

interface Parts {
  readonly files: MediaFiles;
  readonly recordings: RecordingStore;
}

/** Takes an uploaded file: stored, and what `takeArrived` makes of it. */
export async function takeUpload(parts: Parts, { body, announcedBytes, ...named }: Upload): Promise<string> {
  const id = randomUUID();
  const bytes = await parts.files.receive(id, body, announcedBytes);
  try {
    await takeArrived(parts, { id, path: parts.files.uploadPath(id), bytes, ...named });
  } catch (error) {
    await parts.files.dropUpload(id);
    throw error;
  }
  return id;
}

/**
 * Makes a recording, still to be prepared, of a file that has arrived: it is probed and moved. Throws
 * `unsupported_media` where it cannot be used; then it lies where it lay.
 */
export async function takeArrived(
  { files, recordings }: Parts,
  { id, path, bytes, fileName, cutOf }: ArrivedUpload,
  title = titleFromFileName(fileName)
): Promise<void> {
  try {
    const { durationMs, media, needsProxy } = acceptMedia(await probe(path));
    await files.keepUpload(id, path, () =>
      recordings.insert({
        id,
        title,
        state: 'preparing',
        durationMs,
        hasProxy: needsProxy,
        media: { ...media, bytes },
        cutOf,
        createdAtMs: Date.now()
      })
    );
  } catch (error) {
    if (!(error instanceof ToolFailure)) throw error;
    throw new ApiProblem(
      422,
      'unsupported_media',
      'This is no sound or video file that can be read. Send WAV, MP3, FLAC, MP4, MOV, MKV, WebM, Ogg, AVI or the like.'
    );
  }
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
