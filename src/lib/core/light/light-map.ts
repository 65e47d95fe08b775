/**
 * The light of a picture over time: every half second a grid of its relative luminance, in linear light, and of how
 * restless it is. A byte is a step of equal contrast: ln(L + 0.05), from black to white.
 */
import { linearLight } from './contrast';

export const COLUMNS = 32;
export const ROWS = 18;
const CELLS = COLUMNS * ROWS;
export const BIN_MS = 500;
/** Frames a second that are looked at: two a bin, so that what flickers is seen. */
export const FRAMES_A_SECOND = 4;
const FRAMES_A_BIN = (FRAMES_A_SECOND * BIN_MS) / 1000;
/** Frames come in this size, stretched to it, each pixel one of the picture's own. */
export const FRAME_WIDTH = 320;
export const FRAME_HEIGHT = 180;
const CELL_WIDTH = FRAME_WIDTH / COLUMNS;
const CELL_HEIGHT = FRAME_HEIGHT / ROWS;
const SAMPLES = CELL_WIDTH * CELL_HEIGHT;

/** Bytes of a cell, each at its place: steps of the 10th percentile, the mean and the 90th; the change between frames. */
export const LOW = 0;
export const MEAN = 1;
export const HIGH = 2;
export const RESTLESSNESS = 3;
const VALUES = 4;
export const BIN_BYTES = CELLS * VALUES;

const DARKEST = Math.log(0.05);
const RANGE = Math.log(1.05) - DARKEST;
export const stepOf = (luminance: number): number => Math.round(((Math.log(luminance + 0.05) - DARKEST) / RANGE) * 255);
export const luminanceOfStep = (step: number): number => Math.exp(DARKEST + (step / 255) * RANGE) - 0.05;

/** Luminance of a channel's value, by its share of it. */
const share = (weight: number): Float32Array =>
  Float32Array.from({ length: 256 }, (_, value) => weight * linearLight(value));
const RED = share(0.2126);
const GREEN = share(0.7152);
const BLUE = share(0.0722);
/** Steps of luminances in 4096ths, fine enough for the darkest ones. */
const FINE = 4096;
const STEPS = Uint8Array.from({ length: FINE + 1 }, (_, at) => stepOf(at / FINE));

/** The light of cells, bin by bin; the bins follow each other from 0 on. */
export interface LightMap {
  readonly bytes: Uint8Array;
}

export const binCount = ({ bytes }: LightMap): number => Math.floor(bytes.length / BIN_BYTES);

/** Where the values of a cell stand in the bytes. */
export const cellAt = (bin: number, cell: number): number => bin * BIN_BYTES + cell * VALUES;

/** A map that is the same everywhere, always: of a plain background. */
export function plainLight(luminance: number): LightMap {
  const step = stepOf(luminance);
  const bytes = new Uint8Array(BIN_BYTES);
  for (let at = 0; at < bytes.length; at += VALUES) bytes.set([step, step, step, 0], at);
  return { bytes };
}

/** Measures frames as they come: 24-bit RGB of `FRAME_WIDTH` × `FRAME_HEIGHT`, `FRAMES_A_SECOND`. */
export class LightMeter {
  #pieces: Uint8Array[] = [];
  #frames = 0;
  /** Of the bin that is being filled: how often each step was seen, the sum of luminances, the sum of changes. */
  readonly #seen = new Uint16Array(CELLS * 256);
  readonly #sums = new Float64Array(CELLS);
  readonly #changes = new Float64Array(CELLS);
  readonly #before = new Float64Array(CELLS);
  #hasBefore = false;

  /** `bytesAPixel`: 4 where there is an opacity too, which is not looked at. */
  push(frame: Uint8Array | Uint8ClampedArray, bytesAPixel: 3 | 4 = 3): void {
    const rowBytes = FRAME_WIDTH * bytesAPixel;
    const seen = this.#seen;
    // Cell by cell: what is counted in stays near.
    for (let cell = 0; cell < CELLS; cell++) {
      const left = (cell % COLUMNS) * CELL_WIDTH * bytesAPixel;
      const top = Math.floor(cell / COLUMNS) * CELL_HEIGHT * rowBytes;
      const counts = cell * 256;
      let sum = 0;
      for (let y = 0; y < CELL_HEIGHT; y++) {
        let at = top + y * rowBytes + left;
        for (let x = 0; x < CELL_WIDTH; x++, at += bytesAPixel) {
          const luminance = RED[frame[at]!]! + GREEN[frame[at + 1]!]! + BLUE[frame[at + 2]!]!;
          sum += luminance;
          seen[counts + STEPS[(luminance * FINE + 0.5) | 0]!]!++;
        }
      }
      const mean = sum / SAMPLES;
      this.#sums[cell]! += mean;
      if (this.#hasBefore) this.#changes[cell]! += Math.abs(mean - this.#before[cell]!);
      this.#before[cell] = mean;
    }
    this.#hasBefore = true;
    if (++this.#frames === FRAMES_A_BIN) this.#close();
  }

  /** All bins; a last one that is not full is one. */
  finish(): Uint8Array {
    if (this.#frames > 0) this.#close();
    const bytes = new Uint8Array(this.#pieces.length * BIN_BYTES);
    this.#pieces.forEach((piece, bin) => bytes.set(piece, bin * BIN_BYTES));
    return bytes;
  }

  #close(): void {
    const piece = new Uint8Array(BIN_BYTES);
    const tenth = (SAMPLES * this.#frames) / 10;
    for (let cell = 0; cell < CELLS; cell++) {
      piece[cellAt(0, cell) + LOW] = this.#percentile(cell, tenth);
      piece[cellAt(0, cell) + MEAN] = stepOf(this.#sums[cell]! / this.#frames);
      piece[cellAt(0, cell) + HIGH] = this.#percentile(cell, 9 * tenth);
      piece[cellAt(0, cell) + RESTLESSNESS] = Math.min(255, Math.round((this.#changes[cell]! / this.#frames) * 255));
    }
    this.#pieces.push(piece);
    this.#seen.fill(0);
    this.#sums.fill(0);
    this.#changes.fill(0);
    this.#frames = 0;
  }

  #percentile(cell: number, count: number): number {
    let passed = 0;
    for (let step = 0; step < 256; step++) {
      passed += this.#seen[cell * 256 + step]!;
      if (passed > count) return step;
    }
    return 255;
  }
}
