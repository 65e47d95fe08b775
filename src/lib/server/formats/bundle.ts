/** Many files of many tracks as one ZIP, written while it is sent, with a list of what is in it. */
import { Readable } from 'node:stream';
import { ZipArchive } from 'archiver';
import Papa from 'papaparse';
import { ownTrackName } from '$lib/core/formats';
import { nextVersion, type HandedOverFile } from '$lib/core/handed-over';
import type { TrackId } from '$lib/core/id';
import { nameFiles, type Naming } from '$lib/core/naming';
import type { App } from '../app';
import { notFound } from '../problem';
import { trimmedName } from '../trims/named';
import type { ExportAsked } from './asked';
import { going, noteHandedOver, writeGoing, type Going } from './handing-over';

export interface BundleItem extends ExportAsked {
  readonly trackId: TrackId;
}

const HEAD = ['file', 'recording', 'language', 'format', 'version', 'bytes', 'sha256'];
const CONTENTS = 'contents.csv';

/** How the files of a bundle will be called. Throws `unknown_track`. */
export function namesOf(app: App, items: readonly BundleItem[], naming: Naming, atMs = Date.now()): readonly string[] {
  const files = items.map(({ trackId, format: { extension }, trimId }) => {
    const track = app.trackStore.findSummary(trackId);
    if (track === null) throw notFound('track', trackId);
    const whole = app.getRecording(track.recordingId);
    const recording = trimId === null ? whole : trimmedName(whole, app.trims.get(trimId).trim);
    return {
      ...{ title: recording.title, track: ownTrackName(track, recording), language: track.language },
      ...{ kind: track.kind, version: nextVersion(track.handedOver), atMs, extension }
    };
  });
  return nameFiles(files, naming, [CONTENTS]);
}

/** Throws `unknown_track` before anything is sent. What is handed over is noted, file by file as it goes. */
export function bundle(
  app: App,
  items: readonly BundleItem[],
  naming: Naming,
  signal: AbortSignal
): ReadableStream<Uint8Array> {
  const atMs = Date.now();
  const names = namesOf(app, items, naming, atMs);
  const archive = new ZipArchive({ zlib: { level: 6 } });
  /** One track and one file at a time, however many there are. */
  const write = async (): Promise<void> => {
    const rows: string[][] = [];
    let goes: Going | null = null;
    let seenAs: string | null = null;
    let gone: HandedOverFile[] = [];
    const note = (): void => {
      if (goes !== null) noteHandedOver(app, goes, gone);
      gone = [];
    };
    try {
      for (const [at, { trackId, format, options, trimId, withSource }] of items.entries()) {
        signal.throwIfAborted();
        const seeing = `${trimId} ${withSource}`;
        if (goes?.track.id !== trackId || seeing !== seenAs) {
          note();
          goes = going(app, trackId, { trimId, withSource });
          seenAs = seeing;
        }
        const name = names[at]!;
        const { file, noted } = await writeGoing(goes, { format, options, name }, signal);
        await added(archive, file, name, atMs);
        gone.push(noted);
        const { track, recording, version } = goes;
        rows.push([
          ...[name, recording.title, track.language, format.id, String(version), String(file.length), noted.sha256]
        ]);
      }
    } finally {
      note();
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
