/** ONNX files as they would be made: a graph of nothing but names and weights, and metadata. */
import type { ByteSource } from '../ears';

const varint = (value: number): number[] => {
  const bytes: number[] = [];
  for (let left = value; ; left = Math.floor(left / 128)) {
    if (left < 128) return [...bytes, left];
    bytes.push((left % 128) + 128);
  }
};
const field = (number: number, bytes: Uint8Array): Uint8Array =>
  joined([Uint8Array.from([...varint(number * 8 + 2), ...varint(bytes.length)]), bytes]);
const text = (number: number, value: string): Uint8Array => field(number, new TextEncoder().encode(value));
const joined = (parts: readonly Uint8Array[]): Uint8Array => {
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
};

export interface MadeOnnx {
  readonly metadata?: Readonly<Record<string, string>>;
  readonly inputs?: readonly string[];
  readonly outputs?: readonly string[];
  readonly weightBytes?: number;
}

export function makeOnnx({ metadata = {}, inputs = ['x'], outputs = ['y'], weightBytes = 100 }: MadeOnnx): Uint8Array {
  const graph = joined([
    text(2, 'graph'),
    field(5, joined([text(8, 'weight'), field(9, new Uint8Array(weightBytes).fill(0xff))])),
    ...inputs.map((name) => field(11, joined([text(1, name), field(2, new Uint8Array(20))]))),
    ...outputs.map((name) => field(12, joined([text(1, name), field(2, new Uint8Array(20))])))
  ]);
  return joined([
    // The version of the format, a number.
    Uint8Array.from([8, 8]),
    text(2, 'somebody'),
    field(7, graph),
    field(8, Uint8Array.from([...text(1, ''), 16, 13])),
    ...Object.entries(metadata).map(([key, value]) => field(14, joined([text(1, key), text(2, value)])))
  ]);
}

/** Bytes in memory; counts how many were read. */
export function sourceOf(bytes: Uint8Array): ByteSource & { readonly readBytes: () => number } {
  let read = 0;
  return {
    sizeBytes: bytes.length,
    read: (fromByte, length) => {
      const part = bytes.slice(fromByte, fromByte + length);
      read += part.length;
      return Promise.resolve(part);
    },
    readBytes: () => read
  };
}
