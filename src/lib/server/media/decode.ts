/** A recording's sound as it is heard, from any sample on: pulled as it is wanted, at any rate, with its channels. */
import { Child } from '../children';
import { inputFrom, ToolFailure, type PlayableMedia } from './ffmpeg';

export interface HeardSound {
  readonly media: PlayableMedia;
  /** Where the container begins, in s. */
  readonly startSeconds: number;
  readonly rateHz: number;
  readonly channels: number;
}

/** Decodes forward from a sample, counted from the zero of `currentTime`; to be ended. */
class Decoder {
  readonly #child: Child;
  readonly #pieces: AsyncIterator<Buffer>;
  readonly #bytesAFrame: number;
  #odd: Buffer = Buffer.alloc(0);
  #isAtEnd = false;

  constructor(sound: HeardSound, from: number, signal: AbortSignal) {
    const { rateHz, channels } = sound;
    this.#bytesAFrame = channels * 4;
    const args = [
      ...['-nostdin', '-v', 'error', ...inputFrom(sound, (from * 1000) / rateHz)],
      ...['-map', '0:a:0', '-vn', '-sn', '-dn', '-af', `aresample=${rateHz}:async=1:first_pts=${from}`],
      ...['-ac', String(channels), '-f', 'f32le', '-c:a', 'pcm_f32le', 'pipe:1']
    ];
    this.#child = Child.tool('ffmpeg', args, { signal });
    this.#pieces = this.#child.stdout[Symbol.asyncIterator]() as AsyncIterator<Buffer>;
  }

  /** The next samples, channels interleaved; `null` behind the end. Throws `ToolFailure`. */
  async next(): Promise<Float32Array | null> {
    if (this.#isAtEnd) return null;
    for (;;) {
      const piece = await this.#pieces.next();
      if (piece.done === true) break;
      const bytes = this.#odd.length > 0 ? Buffer.concat([this.#odd, piece.value]) : piece.value;
      const whole = bytes.length - (bytes.length % this.#bytesAFrame);
      this.#odd = bytes.subarray(whole);
      if (whole === 0) continue;
      return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + whole));
    }
    this.#isAtEnd = true;
    const { code, problem, lastWords } = await this.#child.ended;
    if (problem !== null) throw problem;
    if (code !== 0) throw new ToolFailure(`ffmpeg ended with ${code}: ${lastWords}`);
    return null;
  }

  end(): void {
    this.#child.end();
  }
}

interface Piece {
  readonly from: number;
  readonly samples: Float32Array;
}

/** Kept behind what was read last, for what overlaps it. */
const KEPT_SECONDS = 1;
/** Farther ahead than this the file is entered anew, not decoded through. */
const JUMP_SECONDS = 30;

/** Reads stretches of a recording's sound; fastest where each lies behind the one before. To be closed. */
export class HeardSoundReader {
  readonly #sound: HeardSound;
  readonly #signal: AbortSignal;
  #decoder: Decoder | null = null;
  #pieces: Piece[] = [];
  /** Where the decoder is. */
  #at = 0;

  constructor(sound: HeardSound, signal: AbortSignal) {
    this.#sound = sound;
    this.#signal = signal;
  }

  /** A channel each; silent outside the recording. Throws `ToolFailure`. */
  async read(from: number, to: number): Promise<Float32Array[]> {
    const { channels, rateHz } = this.#sound;
    const first = Math.max(0, from);
    const keptFrom = this.#pieces[0]?.from ?? this.#at;
    if (this.#decoder === null || first < keptFrom || first > this.#at + JUMP_SECONDS * rateHz) this.#enter(first);
    while (this.#at < to) {
      const samples = await this.#decoder!.next();
      if (samples === null) break;
      this.#pieces.push({ from: this.#at, samples });
      this.#at += samples.length / channels;
      this.#drop(Math.min(first, this.#at) - KEPT_SECONDS * rateHz);
    }
    const read = Array.from({ length: channels }, () => new Float32Array(to - from));
    for (const piece of this.#pieces) {
      const start = Math.max(from, piece.from);
      const end = Math.min(to, piece.from + piece.samples.length / channels);
      for (let channel = 0; channel < channels && end > start; channel++) {
        const into = read[channel]!;
        let source = (start - piece.from) * channels + channel;
        for (let at = start - from; at < end - from; at++, source += channels) into[at] = piece.samples[source]!;
      }
    }
    return read;
  }

  #enter(from: number): void {
    this.close();
    this.#decoder = new Decoder(this.#sound, from, this.#signal);
    this.#pieces = [];
    this.#at = from;
  }

  #drop(before: number): void {
    const { channels } = this.#sound;
    const kept = this.#pieces.findIndex(({ from, samples }) => from + samples.length / channels > before);
    if (kept > 0) this.#pieces.splice(0, kept);
  }

  close(): void {
    this.#decoder?.end();
    this.#decoder = null;
  }
}
