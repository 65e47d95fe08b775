/** What comes in place of a captions file: every reader gets all of it, and says what it could read. */
import { describe, expect, test } from 'vitest';
import { asTrackId } from '../id';
import { importedFrom } from '../testing/caption-files';
import { trackOfLines } from '../testing/fonts';
import { findBrokenInvariant } from '../track';
import {
  decodeText,
  findEncoding,
  FORMATS,
  formatOfFile,
  parseJson,
  USUAL_OPTIONS,
  type Format,
  type ParsedCaptions
} from '.';

const READ = FORMATS.filter(({ read }) => read !== undefined);
const OPTIONS = { ...USUAL_OPTIONS, title: 'Tower', durationMs: 60_000 };
const TRACK = trackOfLines(['It strikes <i>twelve</i>,', 'città & <late>.']);
const bytesOf = ({ write }: Format): Uint8Array => {
  const file = write!(TRACK, OPTIONS);
  return typeof file === 'string' ? new TextEncoder().encode(file) : file;
};
/** As an import reads bytes: nothing of JSON where it is not a track. */
function readBytes({ read }: Format, bytes: Uint8Array): ParsedCaptions {
  if (typeof read === 'object') return read.bytes(bytes);
  const text = decodeText(bytes, findEncoding(bytes));
  if (typeof read === 'function') return read(text);
  parseJson(text, { id: asTrackId('t'), recordingId: 'r' });
  return { cues: [], problems: [], carried: null };
}

describe.each(READ.map((format) => [format.name, format] as const))('%s', (_, format) => {
  const whole = bytesOf(format);
  const read = (bytes: Uint8Array): ParsedCaptions => {
    const parsed = readBytes(format, bytes);
    if (parsed.cues.length > 0) expect(findBrokenInvariant(importedFrom(parsed))).toBeNull();
    return parsed;
  };

  test('that is empty, cut anywhere, or no text at all', () => {
    expect(read(new Uint8Array()).cues).toEqual([]);
    for (let length = 0; length < whole.length; length += Math.ceil(whole.length / 97)) read(whole.subarray(0, length));
    read(Uint8Array.from({ length: 5000 }, (__, at) => (at * 7919) % 256));
    read(new Uint8Array(3000));
  });

  test('that is another format is read as nothing that breaks', () => {
    for (const other of READ) read(bytesOf(other));
  });

  test('in UTF-16, with its mark and without, and in Latin-1 keeps every cue', () => {
    if (typeof format.read !== 'function') return;
    const text = new TextDecoder().decode(whole);
    const wide = [...`\ufeff${text}`].flatMap((letter) => [letter.charCodeAt(0) & 0xff, letter.charCodeAt(0) >> 8]);
    const encodings = [wide, wide.slice(2), [...text].map((letter) => letter.charCodeAt(0) & 0xff)];
    const count = read(whole).cues.length;
    for (const bytes of encodings) expect(read(Uint8Array.from(bytes)).cues).toHaveLength(count);
  });

  test('is known by what it says', () => {
    if (format.isIt === undefined) return;
    const found = formatOfFile('captions', new TextDecoder().decode(whole));
    expect(found?.id).toBe(format.id);
  });
});

test('what is a hundred times as long takes no more than it has to: megabytes of rubbish, many cues', () => {
  const rubbish = 'The rope --> of the < tower & the bell\n'.repeat(50_000);
  for (const { read } of READ) if (typeof read === 'function') expect(() => read(rubbish)).not.toThrow();
  const cue = (at: number): string => `${at}\n00:00:01,000 --> 00:00:02,000\nx\n\n`;
  const srt = FORMATS.find(({ id }) => id === 'srt')!.read as (content: string) => ParsedCaptions;
  expect(srt(Array.from({ length: 100_000 }, (_, at) => cue(at)).join('')).cues).toHaveLength(100_000);
});
