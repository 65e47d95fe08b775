import { execFileSync } from 'node:child_process';
import { expect, test } from 'vitest';
import { loadDenoiser } from './denoise';

/** Ten seconds of the demo's talk. */
function talk(): Int16Array {
  const args = ['-v', 'error', '-i', 'demo/media/how-a-tower-clock-keeps-time.mp3', '-t', '10'];
  const bytes = execFileSync('ffmpeg', [...args, '-ac', '1', '-ar', '16000', '-f', 's16le', '-'], { maxBuffer: 1e7 });
  return new Int16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
}
let state = 7;
const noise = (): number => {
  state = (state * 16_807) % 2_147_483_647;
  return (state / 2_147_483_647 - 0.5) * 1500;
};
const powerOf = (samples: Int16Array): number =>
  samples.reduce((sum, sample) => sum + sample ** 2, 0) / samples.length + 1e-9;

test('noise alone goes down by 15 dB and more; of voice and noise most of the noise goes, at the same place', async () => {
  const denoise = await loadDenoiser();
  const alone = Int16Array.from({ length: 80_000 }, noise);
  expect(powerOf(denoise(alone).subarray(32_000))).toBeLessThan(powerOf(alone) / 30);

  const voice = talk();
  const noisy = voice.map((sample) => sample + 6 * noise());
  const clean = denoise(noisy);
  expect(clean).toHaveLength(noisy.length);
  const errorAt = (shift: number): number =>
    powerOf(clean.subarray(16_000, 140_000).map((sample, at) => sample - voice[16_000 + at + shift]!));
  expect(errorAt(0)).toBeLessThan(powerOf(noisy.map((sample, at) => sample - voice[at]!)) / 2);
  for (const shift of [-8, -2, 2, 8]) expect(errorAt(0)).toBeLessThan(errorAt(shift));
});
