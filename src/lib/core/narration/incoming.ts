/** What a microphone brings, as 16-bit pieces of a tenth of a second on a clock from which nothing is missing. */
import { RateConverter } from '../audio';
import { NARRATION_RATE_HZ } from './samples';

/** A stretch of mono sound, 1 for the end of the scale. */
export interface SoundBlock {
  readonly samples: Float32Array;
  readonly rateHz: number;
  /** By a clock of the microphone's own; `null` where it is not told. */
  readonly startMs: number | null;
}

const PIECE_SAMPLES = NARRATION_RATE_HZ / 10;
const FULL = 32_768;
/** On a busy machine stretches come late of which none is lost. */
const SHORTEST_HOLE_MS = 250;
/** A machine that slept has not been spoken to. */
const LONGEST_HOLE_MS = 10_000;

export class Incoming {
  readonly #onPiece: (samples: Int16Array<ArrayBuffer>) => void;
  #piece = new Int16Array(PIECE_SAMPLES);
  #filled = 0;
  #rateHz = 0;
  #converter = new RateConverter(NARRATION_RATE_HZ, NARRATION_RATE_HZ);
  /** Where what came ends by its clock. */
  #endMs: number | null = null;

  constructor(onPiece: (samples: Int16Array<ArrayBuffer>) => void) {
    this.#onPiece = onPiece;
  }

  /** What comes next; what was lost before it is silence. */
  add({ samples, rateHz, startMs }: SoundBlock): void {
    if (rateHz !== this.#rateHz) {
      this.#rateHz = rateHz;
      this.#converter = new RateConverter(rateHz, NARRATION_RATE_HZ);
    }
    if (startMs !== null) {
      const holeMs = startMs - (this.#endMs ?? startMs);
      if (holeMs >= SHORTEST_HOLE_MS && holeMs <= LONGEST_HOLE_MS)
        this.#take(new Float32Array(Math.round((holeMs * rateHz) / 1000)));
      this.#endMs = startMs + (samples.length / rateHz) * 1000;
    }
    this.#take(samples);
  }

  /** Gives what there is of a piece. */
  flush(): void {
    if (this.#filled === 0) return;
    const piece = this.#piece.slice(0, this.#filled);
    this.#filled = 0;
    this.#onPiece(piece);
  }

  #take(samples: Float32Array): void {
    const sound = this.#rateHz === NARRATION_RATE_HZ ? samples : this.#converter.push(samples);
    for (const sample of sound) {
      this.#piece[this.#filled++] = Math.max(-FULL, Math.min(FULL - 1, Math.round(sample * FULL)));
      if (this.#filled === PIECE_SAMPLES) this.flush();
    }
  }
}
