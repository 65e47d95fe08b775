/** Font files unpacked to what they hold: SFNT as it is, WOFF 1 (https://www.w3.org/TR/WOFF/) and WOFF 2 by their packing. */
import { inflateSync } from 'node:zlib';

/** Why a file is not taken, as a sentence. */
export class FontRefused extends Error {}

/** Unpacked, no font may be larger. */
export const MOST_UNPACKED = 40_000_000;

const SFNT = new Set(['\0\x01\0\0', 'OTTO', 'true']);

/** Throws `FontRefused`. */
export async function unpackFont(bytes: Buffer): Promise<Uint8Array> {
  const kind = bytes.toString('latin1', 0, 4);
  if (SFNT.has(kind)) return bytes;
  if (kind === 'wOFF') return unpackWoff(bytes);
  if (kind === 'wOF2') return unpackWoff2(bytes);
  if (kind === 'ttcf')
    throw new FontRefused('This file holds several typefaces. Save the one that is wanted as a file of its own.');
  throw new FontRefused('This is no font: TTF, OTF, WOFF and WOFF2 files are taken.');
}

const tooLarge = (): FontRefused => new FontRefused(`Unpacked this font takes more than ${MOST_UNPACKED / 1e6} MB.`);
const damaged = (): FontRefused => new FontRefused('This font file is damaged or cut short. Export it again.');

function unpackWoff(bytes: Buffer): Uint8Array {
  if (bytes.length < 44) throw damaged();
  const count = bytes.readUInt16BE(12);
  const tables: { readonly tag: number; readonly checksum: number; readonly data: Uint8Array }[] = [];
  let total = 12 + count * 16;
  for (let at = 0; at < count; at++) {
    const entry = 44 + at * 20;
    if (entry + 20 > bytes.length) throw damaged();
    const [tag, from, packed, length, checksum] = [0, 4, 8, 12, 16].map((offset) => bytes.readUInt32BE(entry + offset));
    total += Math.ceil(length! / 4) * 4;
    if (total > MOST_UNPACKED) throw tooLarge();
    if (from! + packed! > bytes.length || packed! > length!) throw damaged();
    const piece = bytes.subarray(from, from! + packed!);
    tables.push({ tag: tag!, checksum: checksum!, data: packed === length ? piece : inflate(piece, length!) });
  }
  const sfnt = Buffer.alloc(total);
  bytes.copy(sfnt, 0, 4, 8);
  const power = 2 ** Math.floor(Math.log2(Math.max(1, count)));
  sfnt.writeUInt16BE(count, 4);
  sfnt.writeUInt16BE(power * 16, 6);
  sfnt.writeUInt16BE(Math.log2(power), 8);
  sfnt.writeUInt16BE(count * 16 - power * 16, 10);
  let at = 12 + count * 16;
  for (const [index, { tag, checksum, data }] of tables.entries()) {
    const entry = 12 + index * 16;
    sfnt.writeUInt32BE(tag, entry);
    sfnt.writeUInt32BE(checksum, entry + 4);
    sfnt.writeUInt32BE(at, entry + 8);
    sfnt.writeUInt32BE(data.length, entry + 12);
    sfnt.set(data, at);
    at += Math.ceil(data.length / 4) * 4;
  }
  return sfnt;
}

/** A table says how long it is: what is longer is a bomb, what is shorter is damaged. */
function inflate(packed: Uint8Array, length: number): Uint8Array {
  try {
    const data = inflateSync(packed, { maxOutputLength: length });
    if (data.length === length) return data;
  } catch {
    // Whatever is wrong with it, it is not what its head says.
  }
  throw damaged();
}

async function unpackWoff2(bytes: Buffer): Promise<Uint8Array> {
  if (bytes.length < 48) throw damaged();
  if (bytes.readUInt32BE(16) > MOST_UNPACKED) throw tooLarge();
  try {
    const { default: decompress } = await import('wawoff2/decompress.js');
    const sfnt = await decompress(bytes);
    if (sfnt.length > MOST_UNPACKED) throw tooLarge();
    return sfnt;
  } catch (error) {
    if (error instanceof FontRefused) throw error;
    throw damaged();
  }
}
