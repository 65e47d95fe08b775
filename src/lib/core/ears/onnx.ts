/**
 * What a model says of itself: the metadata and the names of inputs and outputs of an ONNX file (onnx.proto: `ModelProto`,
 * `GraphProto`, `ValueInfoProto`, in the wire form of Protocol Buffers). Weights are skipped, so that a file of gigabytes
 * is read in milliseconds.
 */
import { fail, ok, type Result } from '../result';

export interface OnnxFacts {
  readonly metadata: Readonly<Record<string, string>>;
  readonly inputs: readonly string[];
  readonly outputs: readonly string[];
}

/** Something whose bytes can be asked for anywhere. */
export interface ByteSource {
  readonly sizeBytes: number;
  /** As many bytes as there are, at most those asked for. */
  read(fromByte: number, length: number): Promise<Uint8Array>;
}

const MODEL = { graph: 7, metadata: 14 };
const GRAPH = { input: 11, output: 12 };
const ENTRY = { key: 1, value: 2 };
const NAME = 1;
const WIRE = { varint: 0, eight: 1, bytes: 2, four: 5 };
/** Names and metadata are short; what is longer is a file of something else. */
const LONGEST_TEXT_BYTES = 1_000_000;
const WINDOW_BYTES = 65_536;
/** A varint has at most ten bytes. */
const VARINT_BYTES = 10;

class NotOnnx extends Error {}

/** Fails with what is wrong with the file. */
export async function readOnnx(source: ByteSource): Promise<Result<OnnxFacts, string>> {
  const reader = new Reader(source);
  const metadata: Record<string, string> = {};
  const inputs: string[] = [];
  const outputs: string[] = [];
  let hasGraph = false;
  try {
    for await (const { field, from, to } of reader.fields(0, source.sizeBytes)) {
      if (field === MODEL.metadata) {
        const entry = await reader.texts(from, to);
        if (entry.has(ENTRY.key)) metadata[entry.get(ENTRY.key)!] = entry.get(ENTRY.value) ?? '';
      }
      if (field !== MODEL.graph) continue;
      hasGraph = true;
      for await (const part of reader.fields(from, to)) {
        if (part.field !== GRAPH.input && part.field !== GRAPH.output) continue;
        const name = (await reader.texts(part.from, part.to)).get(NAME);
        if (name !== undefined) (part.field === GRAPH.input ? inputs : outputs).push(name);
      }
    }
  } catch (error) {
    if (error instanceof NotOnnx) return fail(error.message);
    throw error;
  }
  return hasGraph && outputs.length > 0
    ? ok({ metadata, inputs, outputs })
    : fail('It is no ONNX file: it has no graph.');
}

interface Field {
  readonly field: number;
  readonly from: number;
  readonly to: number;
}

class Reader {
  readonly #source: ByteSource;
  #window = new Uint8Array(0);
  #windowFrom = 0;

  constructor(source: ByteSource) {
    this.#source = source;
  }

  /** The fields of a message that have bytes of their own, in order. */
  async *fields(from: number, to: number): AsyncGenerator<Field> {
    for (let at = from; at < to;) {
      const tag = await this.#varint(at, to);
      const [field, wire] = [Math.floor(tag.value / 8), tag.value % 8];
      at = tag.end;
      if (wire === WIRE.varint) at = (await this.#varint(at, to)).end;
      else if (wire === WIRE.eight) at += 8;
      else if (wire === WIRE.four) at += 4;
      else if (wire === WIRE.bytes) {
        const length = await this.#varint(at, to);
        at = length.end + length.value;
        if (at > to) throw new NotOnnx('It is cut short: copy it anew.');
        yield { field, from: length.end, to: at };
      } else throw new NotOnnx('It is no ONNX file.');
      if (at > to) throw new NotOnnx('It is cut short: copy it anew.');
    }
  }

  /** Its fields as texts, the last of each. */
  async texts(from: number, to: number): Promise<ReadonlyMap<number, string>> {
    const texts = new Map<number, string>();
    for await (const part of this.fields(from, to)) {
      if (part.to - part.from > LONGEST_TEXT_BYTES) throw new NotOnnx('It is no ONNX file: a name in it has no end.');
      texts.set(part.field, new TextDecoder().decode(await this.#bytes(part.from, part.to)));
    }
    return texts;
  }

  async #varint(from: number, to: number): Promise<{ readonly value: number; readonly end: number }> {
    const bytes = await this.#bytes(from, Math.min(to, from + VARINT_BYTES));
    let value = 0;
    for (const [at, byte] of bytes.entries()) {
      value += (byte % 128) * 2 ** (7 * at);
      if (byte < 128) return { value, end: from + at + 1 };
    }
    throw new NotOnnx(from + VARINT_BYTES > to ? 'It is cut short: copy it anew.' : 'It is no ONNX file.');
  }

  async #bytes(from: number, to: number): Promise<Uint8Array> {
    if (from < this.#windowFrom || to > this.#windowFrom + this.#window.length) {
      this.#window = new Uint8Array(await this.#source.read(from, Math.max(WINDOW_BYTES, to - from)));
      this.#windowFrom = from;
    }
    return this.#window.subarray(from - this.#windowFrom, to - this.#windowFrom);
  }
}
