/** Languages of the captions in a QuickTime file: ffmpeg writes the few that Macintosh numbered, and leaves the others out. */
import { open, type FileHandle } from 'node:fs/promises';

interface Atom {
  readonly kind: string;
  /** Of what is in it. */
  readonly from: number;
  readonly to: number;
}

async function readBytes(file: FileHandle, from: number, length: number): Promise<Buffer> {
  const { buffer, bytesRead } = await file.read(Buffer.alloc(length), 0, length, from);
  return buffer.subarray(0, bytesRead);
}

async function atomsIn(file: FileHandle, from: number, to: number): Promise<readonly Atom[]> {
  const atoms: Atom[] = [];
  for (let at = from; at + 8 <= to;) {
    const head = await readBytes(file, at, 16);
    const short = head.readUInt32BE(0);
    const size = short === 1 ? Number(head.readBigUInt64BE(8)) : short === 0 ? to - at : short;
    if (size < 8) break;
    atoms.push({ kind: head.toString('latin1', 4, 8), from: at + (short === 1 ? 16 : 8), to: at + size });
    at += size;
  }
  return atoms;
}

/** Three letters, each in five bits from 0x60 on (QuickTime File Format, language code values). */
const packed = (language: string): number =>
  [...language].reduce((bits, letter) => (bits << 5) | (letter.charCodeAt(0) - 0x60), 0);

/** `languages`: ISO 639-2, of the tracks of text in their order. */
export async function setTextLanguages(path: string, languages: readonly string[]): Promise<void> {
  const file = await open(path, 'r+');
  try {
    const { size } = await file.stat();
    const within = async (atom: Atom, kind: string): Promise<readonly Atom[]> =>
      (await atomsIn(file, atom.from, atom.to)).filter((one) => one.kind === kind);
    let next = 0;
    for (const movie of await within({ kind: '', from: 0, to: size }, 'moov'))
      for (const track of await within(movie, 'trak'))
        for (const media of await within(track, 'mdia')) {
          const [[handler], [header]] = [await within(media, 'hdlr'), await within(media, 'mdhd')];
          if (handler === undefined || header === undefined) continue;
          const kind = (await readBytes(file, handler.from + 8, 4)).toString('latin1');
          if (kind !== 'text' && kind !== 'sbtl') continue;
          const language = Buffer.alloc(2);
          language.writeUInt16BE(packed(languages[next++] ?? 'und'));
          const isLong = (await readBytes(file, header.from, 1))[0] === 1;
          await file.write(language, 0, 2, header.from + (isLong ? 32 : 20));
        }
  } finally {
    await file.close();
  }
}
