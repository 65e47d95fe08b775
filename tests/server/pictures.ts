import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { newFolder } from './harness';

export interface Picture {
  readonly width: number;
  readonly height: number;
  /** Three bytes a pixel. */
  readonly rgb: Uint8Array;
}

/** A picture, or the first frame that ffmpeg's arguments let through of a video, whose own colour tags decide. */
export function readPicture(file: string, ...args: readonly string[]): Picture {
  const path = join(newFolder(), 'picture.ppm');
  const output = ['-frames:v', '1', '-f', 'image2', '-c:v', 'ppm', path];
  execFileSync('ffmpeg', ['-nostdin', '-v', 'error', '-y', '-i', file, ...args, ...output]);
  const bytes = readFileSync(path);
  const [, width, height] = /^P6\s(\d+) (\d+)\s255\s/.exec(bytes.toString('latin1', 0, 40))!.map(Number);
  return { width: width!, height: height!, rgb: bytes.subarray(bytes.length - width! * height! * 3) };
}

/** The frame that is on the picture at `seconds`. */
export const frameAt = (file: string, seconds: number): Picture =>
  readPicture(file, '-vf', `select=gte(t\\,${seconds})`);

/** The pixels of a canvas without their opacity. */
export function withoutAlpha(rgba: Uint8Array | Uint8ClampedArray): Uint8Array {
  const rgb = new Uint8Array((rgba.length / 4) * 3);
  for (let at = 0; at < rgba.length / 4; at++)
    for (let part = 0; part < 3; part++) rgb[at * 3 + part] = rgba[at * 4 + part]!;
  return rgb;
}

/**
 * Structural similarity of two RGB pictures of one size, by their light, in windows of 8 × 8 pixels: 1 for equal ones.
 * Wang et al., Image quality assessment: from error visibility to structural similarity, 2004.
 */
export function structuralSimilarity(
  one: Uint8Array,
  other: Uint8Array,
  { width, height }: { readonly width: number; readonly height: number }
): number {
  const WINDOW = 8;
  const C1 = (0.01 * 255) ** 2;
  const C2 = (0.03 * 255) ** 2;
  const lightOf = (rgb: Uint8Array, at: number): number =>
    0.299 * rgb[at * 3]! + 0.587 * rgb[at * 3 + 1]! + 0.114 * rgb[at * 3 + 2]!;
  let sum = 0;
  let count = 0;
  for (let top = 0; top + WINDOW <= height; top += WINDOW / 2)
    for (let left = 0; left + WINDOW <= width; left += WINDOW / 2) {
      let [a, b, aa, bb, ab] = [0, 0, 0, 0, 0];
      for (let y = top; y < top + WINDOW; y++)
        for (let x = left; x < left + WINDOW; x++) {
          const [p, q] = [lightOf(one, y * width + x), lightOf(other, y * width + x)];
          a += p;
          b += q;
          aa += p * p;
          bb += q * q;
          ab += p * q;
        }
      const n = WINDOW * WINDOW;
      const [ma, mb] = [a / n, b / n];
      const [va, vb, cov] = [aa / n - ma * ma, bb / n - mb * mb, ab / n - ma * mb];
      sum += ((2 * ma * mb + C1) * (2 * cov + C2)) / ((ma * ma + mb * mb + C1) * (va + vb + C2));
      count++;
    }
  return sum / count;
}

/**
 * How many pixels of bright text in one picture have none within a pixel of them in the other, either way: 0 where no edge
 * is off by more than a pixel. Both are bright on dark.
 */
export function strayPixels(
  one: Uint8Array,
  other: Uint8Array,
  { width, height }: { readonly width: number; readonly height: number }
): number {
  const SURE = 200;
  const HALF = 128;
  const strays = (from: Uint8Array, to: Uint8Array): number => {
    let count = 0;
    for (let y = 1; y < height - 1; y++)
      for (let x = 1; x < width - 1; x++) {
        if (from[(y * width + x) * 3 + 1]! < SURE) continue;
        let isNear = false;
        for (let down = -1; down <= 1; down++)
          for (let right = -1; right <= 1; right++) isNear ||= to[((y + down) * width + x + right) * 3 + 1]! > HALF;
        if (!isNear) count++;
      }
    return count;
  };
  return strays(one, other) + strays(other, one);
}
