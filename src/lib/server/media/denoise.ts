/**
 * RNNoise (Valin, "A Hybrid DSP/Deep Learning Approach to Real-Time Full-Band Speech Enhancement", MMSP 2018) by its
 * WebAssembly build: a small network that was taught to tell voices from noise. Only threads of their own load it.
 */
import { downsample, upsample } from '$lib/core/audio';

/** Delay of the network's output, in samples at 48 kHz. */
const DELAY = 960;

/** Gives a function that takes noise from under voices: 16 kHz, mono, as long as it was and of the same zero. */
export async function loadDenoiser(): Promise<(samples: Int16Array) => Int16Array> {
  // The build checks for a browser environment but uses nothing of it.
  Object.assign(globalThis, { WorkerGlobalScope: Object });
  const { Rnnoise } = await import('@shiguredo/rnnoise-wasm');
  const rnnoise = await Rnnoise.load();
  return (samples) => {
    const state = rnnoise.createDenoiseState();
    const wide = upsample(samples);
    const frames = Math.ceil((wide.length + DELAY) / rnnoise.frameSize);
    const clean = new Float32Array(frames * rnnoise.frameSize);
    clean.set(wide);
    for (let at = 0; at < frames; at++)
      state.processFrame(clean.subarray(at * rnnoise.frameSize, (at + 1) * rnnoise.frameSize));
    state.destroy();
    return downsample(clean, DELAY, samples.length);
  };
}
