/** Where the media lies: a folder a recording, named by its id alone; uploads on their way in have one of their own. */
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, readFile, rename, rm, statfs } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { spareBytes } from '../config';
import { ApiProblem } from '../problem';

/** Where decoded sound and its speech map lie. */
export interface SoundFiles {
  readonly soundPath: string;
  readonly speechPath: string;
}

export class MediaFiles {
  readonly #root: string;
  constructor(dataFolder: string) {
    this.#root = dataFolder;
  }

  uploadPath(id: string): string {
    return join(this.#root, 'uploads', id);
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
  shotsPath(id: string): string {
    return join(this.folder(id), 'shots.json');
  }
  /** Where the sound of the cut before is in this one. */
  comparisonPath(id: string): string {
    return join(this.folder(id), 'cut.json');
  }
  speechPath(id: string): string {
    return join(this.folder(id), 'speech');
  }

  /** Streams an upload to disk and gives its size. Nothing is left behind where it breaks off or the disk is full. */
  async receive(id: string, body: ReadableStream<Uint8Array> | null, announcedBytes: number | null): Promise<number> {
    await this.scratchFolder();
    await this.#refuseWithoutRoom(announcedBytes ?? 0);
    let bytes = 0;
    let lastLooked = 0;
    const meter = new Transform({
      transform: (piece: Buffer, _, done) => {
        bytes += piece.length;
        if (bytes - lastLooked < 64_000_000) return done(null, piece);
        lastLooked = bytes;
        this.#refuseWithoutRoom(0).then(
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

  async #refuseWithoutRoom(neededBytes: number): Promise<void> {
    const { bavail, bsize } = await statfs(this.#root);
    if (bavail * bsize - neededBytes < spareBytes()) throw diskFull();
  }

  /** An upload that is taken becomes the media of a recording. */
  async keepUpload(id: string): Promise<void> {
    await mkdir(this.folder(id), { recursive: true });
    await rename(this.uploadPath(id), this.mediaPath(id));
  }

  dropUpload(id: string): Promise<void> {
    return rm(this.uploadPath(id), { force: true });
  }
  dropRecording(id: string): Promise<void> {
    return rm(this.folder(id), { recursive: true, force: true });
  }

  readLevels(id: string): Promise<Buffer> {
    return readFile(this.levelsPath(id));
  }
  /** Speech probabilities, a byte a frame. */
  readSpeech(id: string): Promise<Buffer> {
    return readFile(this.speechPath(id));
  }

  /** At start: uploads that never ended, and folders of recordings that are not known, go. */
  async sweep(knownIds: ReadonlySet<string>): Promise<void> {
    await rm(join(this.#root, 'uploads'), { recursive: true, force: true });
    const folders = await readdir(join(this.#root, 'recordings')).catch(() => []);
    await Promise.all(folders.filter((id) => !knownIds.has(id)).map((id) => this.dropRecording(id)));
  }
}

/** No room for what `what` says. */
export const diskFull = (what = 'for this file'): ApiProblem =>
  new ApiProblem(
    507,
    'disk_full',
    `The disk of the data folder has no room ${what}; nothing of it is kept. Make room and send it again.`
  );
