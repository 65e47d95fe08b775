import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { tempFolder } from '../testing/temp-database';
import { MediaFiles } from './files';

let folder: string;
let files: MediaFiles;
beforeEach(() => {
  vi.stubEnv('VINETAP_SPARE_BYTES', '0');
  folder = tempFolder();
  files = new MediaFiles(folder);
});
afterEach(() => void vi.unstubAllEnvs());

const uploads = (): string[] => (existsSync(join(folder, 'uploads')) ? readdirSync(join(folder, 'uploads')) : []);
const body = (...pieces: readonly string[]): ReadableStream<Uint8Array> => new Blob([...pieces]).stream();

describe('an upload', () => {
  test('lies on the disk as it came, and becomes the media of its recording', async () => {
    expect(await files.receive('a', body('one ', 'two'), 7)).toBe(7);
    expect(readFileSync(files.uploadPath('a'), 'utf8')).toBe('one two');
    await files.keepUpload('a', files.uploadPath('a'), () => undefined);
    expect(readFileSync(files.mediaPath('a'), 'utf8')).toBe('one two');
    expect(uploads()).toEqual([]);
    await files.dropRecording('a');
    expect(existsSync(files.folder('a'))).toBe(false);
  });

  test.each<[string, () => ReadableStream<Uint8Array> | null, number | null, string]>([
    ['of nothing', () => null, null, 'unsupported_media'],
    ['that is shorter than it said', () => body('one'), 9, 'upload_broken_off'],
    [
      'that breaks off',
      () =>
        new ReadableStream({
          start: (controller) => {
            controller.enqueue(new Uint8Array(10));
            controller.error(new Error('gone'));
          }
        }),
      null,
      'upload_broken_off'
    ]
  ])('%s leaves nothing behind', async (_, make, announced, code) => {
    await expect(files.receive('a', make(), announced)).rejects.toMatchObject({ code });
    expect(uploads()).toEqual([]);
  });

  test('for which there is no room is refused before a byte of it is read', async () => {
    vi.stubEnv('VINETAP_SPARE_BYTES', '1e18');
    let isRead = false;
    const unread = new ReadableStream<Uint8Array>(
      {
        pull: () => {
          isRead = true;
        }
      },
      { highWaterMark: 0 }
    );
    await expect(files.receive('a', unread, 5)).rejects.toMatchObject({ status: 507, code: 'disk_full' });
    expect([isRead, uploads()]).toEqual([false, []]);
  });
});
