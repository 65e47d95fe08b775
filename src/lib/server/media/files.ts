/** Where the media lies: a folder a recording, named by its id alone; uploads on their way in have one of their own. */
import { createWriteStream } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { mkdir, readFile, rename, rm, statfs, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { spareBytes } from '../config';
import { ApiProblem } from '../problem';
import { ARRIVING, NARRATIONS, RESUMABLE } from '../store/data-folder';
import type { Recording } from '../store/recordings';
import type { PlayableMedia } from './ffmpeg';

/** Where decoded sound and its speech map lie. */
export interface SoundFiles {
  readonly soundPath: string;
  readonly speechPath: string;
}

/** What says by which zero its media is played. */
export type PlayedRecording = Pick<Recording, 'id' | 'hasProxy' | 'media'>;
/** Containers whose times are of their own; streams of bare frames count from their first. */
const TIMED_CONTAINERS = /mp4|webm|ogg/;

export class MediaFiles {
  readonly #root: string;
  constructor(dataFolder: string) {
    this.#root = dataFolder;
  }

  uploadPath(id: string): string {
    return join(this.#root, 'uploads', id);
  }
  /** Where uploads lie that may still go on. */
  get resumableFolder(): string {
    return join(this.#root, RESUMABLE);
  }
  /** Where what is being spoken lies. */
  narrationPath(id: string): string {
    return join(this.#root, NARRATIONS, id);
  }
  /** Where files lie that nobody needs after a restart: beside the uploads, swept with them. */
  async scratchFolder(): Promise<string> {
    await mkdir(join(this.#root, 'uploads'), { recursive: true });
    return join(this.#root, 'uploads');
  }
  folder(id: string): string {
    return join(this.#root, 'recordings', id);
  }
  mediaPath(id: string): string {
    return join(this.folder(id), 'media');
  }
  /** What was sent, by the zero that browsers play it from. */
  played({ id, hasProxy, media }: PlayedRecording): PlayableMedia {
    return { path: this.mediaPath(id), byItsOwnTimes: !hasProxy && TIMED_CONTAINERS.test(media.mime) };
  }
  /** The copy for browsers that do not play what was sent. */
  proxyPath(id: string): string {
    return join(this.folder(id), 'proxy');
  }
  soundPath(id: string): string {
    return join(this.folder(id), 'sound.s16');
  }
  /** Another sound of the recording than its first, or that one cleaned, under a name of ours. */
  otherSound(id: string, name: string): SoundFiles {
    return { soundPath: join(this.folder(id), `${name}.s16`), speechPath: join(this.folder(id), `${name}.speech`) };
  }
  mainSound(id: string): SoundFiles {
    return { soundPath: this.soundPath(id), speechPath: this.speechPath(id) };
  }
  levelsPath(id: string): string {
    return join(this.folder(id), 'levels');
  }
  /** Where the waveform crosses zero. */
  crossingsPath(id: string): string {
    return join(this.folder(id), 'crossings');
  }
  shotsPath(id: string): string {
    return join(this.folder(id), 'shots.json');
  }
  /** Where the sound of the cut before is in this one. */
  comparisonPath(id: string): string {
    return join(this.folder(id), 'cut.json');
  }
  lightPath(id: string): string {
    return join(this.folder(id), 'light');
  }
  /** Where what was rendered of a recording lies. */
  rendersFolder(id: string): string {
    return join(this.folder(id), 'renders');
  }
  renderPath(id: string, renderId: string): string {
    return join(this.rendersFolder(id), renderId);
  }
  speechPath(id: string): string {
    return join(this.folder(id), 'speech');
  }

  /** Streams an upload to disk and gives its size. Nothing is left behind where it breaks off or the disk is full. */
  async receive(id: string, body: ReadableStream<Uint8Array> | null, announcedBytes: number | null): Promise<number> {
    await this.scratchFolder();
    await this.refuseWithoutRoom(announcedBytes ?? 0);
    let bytes = 0;
    let lastLooked = 0;
    const meter = new Transform({
      transform: (piece: Buffer, _, done) => {
        bytes += piece.length;
        if (bytes - lastLooked < 64_000_000) return done(null, piece);
        lastLooked = bytes;
        this.refuseWithoutRoom(0).then(
          () => done(null, piece),
          (error: unknown) => done(error as Error)
        );
      }
    });
    try {
      if (body !== null)
        await pipeline(
          Readable.fromWeb(body as Parameters<typeof Readable.fromWeb>[0]),
          meter,
          createWriteStream(this.uploadPath(id))
        );
    } catch (error) {
      await this.dropUpload(id);
      if (error instanceof ApiProblem) throw error;
      if ((error as NodeJS.ErrnoException).code === 'ENOSPC') throw diskFull();
      throw new ApiProblem(
        400,
        'upload_broken_off',
        'The upload broke off before its end; nothing of it is kept. Send it again.'
      );
    }
    if (bytes === 0 || (announcedBytes !== null && bytes !== announcedBytes)) {
      await this.dropUpload(id);
      throw bytes === 0
        ? new ApiProblem(422, 'unsupported_media', 'The file is empty.')
        : new ApiProblem(
            400,
            'upload_broken_off',
            `Only ${bytes} of ${announcedBytes} bytes arrived; nothing of it is kept. Send it again.`
          );
    }
    return bytes;
  }

  /** Throws `disk_full` where so many bytes would not leave enough room. */
  async refuseWithoutRoom(neededBytes: number): Promise<void> {
    if ((await this.roomBytes()) < neededBytes) throw diskFull();
  }

  /** Below 0 where less is left than is to be kept free. */
  async roomBytes(): Promise<number> {
    const { bavail, bsize } = await statfs(this.#root);
    return bavail * bsize - spareBytes();
  }

  /** A file that has arrived becomes the media of a recording, once `know` has put that into the database. */
  async keepUpload(id: string, arrivedAt: string, know: () => void): Promise<void> {
    await mkdir(this.folder(id), { recursive: true });
    await writeFile(join(this.folder(id), ARRIVING), '');
    await rename(arrivedAt, this.mediaPath(id));
    try {
      know();
    } catch (error) {
      await this.dropRecording(id);
      throw error;
    }
    await rm(join(this.folder(id), ARRIVING), { force: true });
  }

  dropUpload(id: string): Promise<void> {
    return rm(this.uploadPath(id), { force: true });
  }
  /** Removes the files of a recording, once `forget` has taken it out of the database where it goes with them. */
  async dropRecording(id: string, forget: () => void = () => undefined): Promise<void> {
    await mkdir(this.folder(id), { recursive: true });
    await writeFile(join(this.folder(id), ARRIVING), '');
    forget();
    await rm(this.folder(id), { recursive: true, force: true });
  }

  readLevels(id: string): Promise<Buffer> {
    return readFile(this.levelsPath(id));
  }
  /** Speech probabilities, a byte a frame. */
  readSpeech(id: string): Promise<Buffer> {
    return readFile(this.speechPath(id));
  }
}

/** What is half made has a name of its own, until it is whole and looked at. */
const partName = (path: string): string => `${path}.${randomUUID()}.part`;

/** Makes a file under a name of its own first: a half one is never taken for a whole one. Nothing is left where it fails. */
export async function makeWhole<T>(path: string, work: (unfinished: string) => Promise<T>): Promise<T> {
  const unfinished = partName(path);
  try {
    const made = await work(unfinished);
    await rename(unfinished, path);
    return made;
  } finally {
    await rm(unfinished, { force: true });
  }
}

/** No room for what `what` says. */
export const diskFull = (what = 'for this file'): ApiProblem =>
  new ApiProblem(
    507,
    'disk_full',
    `The disk of the data folder has no room ${what}; nothing of it is kept. Make room and send it again.`
  );
