/** A process that computes the speech map: the probability of speech of every 32 ms, by the Silero model. */
import { createReadStream } from 'node:fs';
import { stat, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import * as ort from 'onnxruntime-web';
import { z } from 'zod';
import { asked, tellDone, tellProgress } from './worker';

const SAMPLES = 512;
/** The model hears each frame together with the end of the one before. */
const CONTEXT = 64;
const RATE_HZ = 16_000;

const { soundPath, speechPath } = z.object({ soundPath: z.string(), speechPath: z.string() }).parse(await asked());

async function main(): Promise<void> {
  // More threads are slower on frames this small.
  ort.env.wasm.numThreads = 1;
  const model = join(dirname(createRequire(import.meta.url).resolve('@ricky0123/vad-web')), 'silero_vad_v5.onnx');
  const session = await ort.InferenceSession.create(model);
  const rate = new ort.Tensor('int64', BigInt64Array.from([BigInt(RATE_HZ)]), []);
  let state = new ort.Tensor('float32', new Float32Array(2 * 128), [2, 1, 128]);
  let filled = 0;
  let frame = new Float32Array(CONTEXT + SAMPLES);
  const probabilities: number[] = [];
  const finishFrame = async (): Promise<void> => {
    const out = await session.run({ input: new ort.Tensor('float32', frame, [1, CONTEXT + SAMPLES]), state, sr: rate });
    state = out.stateN as ort.TypedTensor<'float32'>;
    probabilities.push(Math.round((out.output!.data as Float32Array)[0]! * 255));
    const next = new Float32Array(CONTEXT + SAMPLES);
    next.set(frame.subarray(SAMPLES), 0);
    frame = next;
    filled = 0;
  };

  const stream = createReadStream(soundPath, { highWaterMark: SAMPLES * 2 * 256 });
  const { size } = await stat(soundPath);
  let read = 0;
  for await (const piece of stream as AsyncIterable<Buffer>) {
    for (let at = 0; at + 1 < piece.length; at += 2) {
      frame[CONTEXT + filled++] = piece.readInt16LE(at) / 32_768;
      if (filled === SAMPLES) await finishFrame();
    }
    read += piece.length;
    tellProgress(Math.min(1, read / Math.max(1, size)));
  }
  if (filled > 0) await finishFrame();
  await writeFile(speechPath, Uint8Array.from(probabilities));
  tellDone();
}

await main();
