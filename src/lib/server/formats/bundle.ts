/** Many files of many tracks as one ZIP, written while it is sent, with a list of what is in it. */
import { Readable } from 'node:stream';
import { ZipArchive } from 'archiver';
import Papa from 'papaparse';
import { ownTrackName, type ExportOptions, type Format } from '$lib/core/formats';
import type { TrackId } from '$lib/core/id';
import { nameFiles, type Naming } from '$lib/core/naming';
import type { App } from '../app';
import { going, handOver } from './handing-over';

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
  const tracks = new Map([...new Set(items.map(({ trackId }) => trackId))].map((id) => [id, going(app, id)]));
  const files = items.map(({ trackId, ...rest }) => ({ ...rest, goes: tracks.get(trackId)! }));
  const names = nameFiles(
    files.map(({ goes: { track, recording, version }, format: { extension } }) => ({
      ...{ title: recording.title, track: ownTrackName(track, recording), language: track.language },
      ...{ kind: track.kind, version, atMs, extension }
    })),
    naming,
    [CONTENTS]
  );
  const archive = new ZipArchive({ zlib: { level: 6 } });
  /** One after the other: no more than one file is held. */
  const write = async (): Promise<void> => {
    const rows: string[][] = [];
    for (const [at, { goes, format, options }] of files.entries()) {
      signal.throwIfAborted();
      const name = names[at]!;
      const { file, sha256 } = await handOver(app, goes, { format, options, name }, signal);
      await added(archive, file, name, atMs);
      const { track, recording, version } = goes;
      rows.push([name, recording.title, track.language, format.id, String(version), String(file.length), sha256]);
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
