/** Many files of many tracks as one ZIP, written while it is sent, with a list of what is in it. */
import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import { ZipArchive } from 'archiver';
import Papa from 'papaparse';
import { ownTrackName, type ExportOptions, type Format } from '$lib/core/formats';
import type { TrackId } from '$lib/core/id';
import { nameFiles, type Naming } from '$lib/core/naming';
import type { App } from '../app';
import { writeFormat } from './write';

export interface BundleItem {
  readonly trackId: TrackId;
  readonly format: Format;
  readonly options: ExportOptions;
}

const HEAD = ['file', 'recording', 'language', 'format', 'version', 'bytes', 'sha256'];
const CONTENTS = 'contents.csv';

/** Throws `unknown_track` before anything is sent. What is handed over is noted, file by file as it goes. */
export function bundle(
  app: App,
  items: readonly BundleItem[],
  naming: Naming,
  signal: AbortSignal
): ReadableStream<Uint8Array> {
  const atMs = Date.now();
  const files = items.map(({ trackId, ...rest }) => {
    const { track, revision } = app.tracks.get(trackId);
    const recording = app.getRecording(track.recordingId);
    return { ...rest, track, revision, recording };
  });
  const names = nameFiles(
    files.map(({ track, revision, recording, format: { extension } }) => ({
      ...{ title: recording.title, track: ownTrackName(track, recording), language: track.language },
      ...{ kind: track.kind, version: revision, atMs, extension }
    })),
    naming,
    [CONTENTS]
  );
  const archive = new ZipArchive({ zlib: { level: 6 } });
  /** One after the other: no more than one file is held. */
  const write = async (): Promise<void> => {
    const rows: string[][] = [];
    for (const [at, { track, revision, recording, format, options }] of files.entries()) {
      signal.throwIfAborted();
      const name = names[at]!;
      const { title, durationMs } = recording;
      const file = await writeFormat(format, track, { ...options, title, durationMs }, signal);
      const sha256 = createHash('sha256').update(file).digest('hex');
      await added(archive, file, name, atMs);
      app.handedOver.note(track.id, { name, format: format.id, revision, bytes: file.length, sha256, atMs });
      rows.push([name, title, track.language, format.id, String(revision), String(file.length), sha256]);
    }
    const contents = Papa.unparse([HEAD, ...rows], { newline: '\r\n', escapeFormulae: true });
    await added(archive, new TextEncoder().encode(`${contents}\r\n`), CONTENTS, atMs);
    await archive.finalize();
  };
  write().catch((error: unknown) => archive.destroy(error instanceof Error ? error : new Error(String(error))));
  return Readable.toWeb(archive) as ReadableStream<Uint8Array>;
}

/** Resolves when the file is in the archive, which waits for whoever reads it. */
function added(archive: ZipArchive, file: Uint8Array, name: string, atMs: number): Promise<void> {
  return new Promise((resolve, reject) => {
    const done = (): void => {
      archive.off('error', reject);
      resolve();
    };
    archive.once('error', reject).once('entry', done);
    archive.append(Buffer.from(file), { name, date: new Date(atMs) });
  });
}
