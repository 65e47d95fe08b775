/**
 * Pictures with their times as a Matroska stream (RFC 9559), for ffmpeg to read from a pipe: uncompressed RGBA, one block
 * a cluster, nothing to go back to.
 */

/** Of all times in it: a tenth of a millisecond. */
const TICK_NS = 100_000;
const TICKS_A_MS = 1_000_000 / TICK_NS;

/** An element: its id as it is written, its size in eight bytes, its content. */
function element(id: number, content: Uint8Array): Buffer {
  const idBytes = id > 0xffffff ? 4 : id > 0xffff ? 3 : id > 0xff ? 2 : 1;
  const head = Buffer.alloc(idBytes + 8);
  head.writeUIntBE(id, 0, idBytes);
  head.writeUInt8(0x01, idBytes);
  head.writeUIntBE(content.length, idBytes + 2, 6);
  return Buffer.concat([head, content]);
}

function unsigned(id: number, value: number): Buffer {
  const content = Buffer.alloc(8);
  content.writeBigUInt64BE(BigInt(value));
  return element(id, content);
}

const text = (id: number, value: string): Buffer => element(id, Buffer.from(value));

/** What comes first: one video track of so many pixels, a segment whose end is not known yet. */
export function matroskaHead({ width, height }: { readonly width: number; readonly height: number }): Buffer {
  const ebml = element(0x1a45dfa3, Buffer.concat([text(0x4282, 'matroska'), unsigned(0x4287, 4), unsigned(0x4285, 2)]));
  const segment = Buffer.from([0x18, 0x53, 0x80, 0x67, 0x01, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff]);
  const info = element(
    0x1549a966,
    Buffer.concat([unsigned(0x2ad7b1, TICK_NS), text(0x4d80, 'Vine Tap'), text(0x5741, 'Vine Tap')])
  );
  const video = element(0xe0, Buffer.concat([unsigned(0xb0, width), unsigned(0xba, height), text(0x2eb524, 'RGBA')]));
  const track = Buffer.concat([
    ...[unsigned(0xd7, 1), unsigned(0x73c5, 1), unsigned(0x83, 1), text(0x86, 'V_UNCOMPRESSED'), video]
  ]);
  return Buffer.concat([ebml, segment, info, element(0x1654ae6b, element(0xae, track))]);
}

/** A picture from a time on: what stands before its pixels. */
export function matroskaPicture(atMs: number, byteLength: number): Buffer {
  const time = unsigned(0xe7, Math.round(atMs * TICKS_A_MS));
  const blockHead = Buffer.from([0x81, 0x00, 0x00, 0x80]);
  const block = Buffer.alloc(9);
  block.writeUInt8(0xa3, 0);
  block.writeUInt8(0x01, 1);
  block.writeUIntBE(blockHead.length + byteLength, 3, 6);
  const cluster = Buffer.alloc(12);
  cluster.writeUInt32BE(0x1f43b675, 0);
  cluster.writeUInt8(0x01, 4);
  cluster.writeUIntBE(time.length + block.length + blockHead.length + byteLength, 6, 6);
  return Buffer.concat([cluster, time, block, blockHead]);
}
