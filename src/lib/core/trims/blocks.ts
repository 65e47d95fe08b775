/** Sound that is fetched in blocks, as it is heard: interleaved 16-bit samples, one channel or two. */

export const BLOCK_RATE_HZ = 48_000;
export const BLOCK_MS = 8000;
export const BLOCK_SAMPLES = (BLOCK_RATE_HZ * BLOCK_MS) / 1000;
/** More channels are mixed down. */
export const MOST_BLOCK_CHANNELS = 2;

export const blockChannels = (channels: number): number => Math.max(1, Math.min(MOST_BLOCK_CHANNELS, channels));

/** Numbers of the blocks that hold recorded samples. */
export function blocksOf({ from, to }: { readonly from: number; readonly to: number }): number[] {
  const first = Math.max(0, Math.floor(from / BLOCK_SAMPLES));
  const last = Math.ceil(Math.max(0, to) / BLOCK_SAMPLES);
  return Array.from({ length: Math.max(0, last - first) }, (_, at) => first + at);
}

/** The samples of a stretch out of the blocks that are there; silent where there is none. */
export function readBlocks(
  blocks: ReadonlyMap<number, Int16Array>,
  { from, to }: { readonly from: number; readonly to: number },
  channels: number
): Float32Array[] {
  const read = Array.from({ length: channels }, () => new Float32Array(Math.max(0, to - from)));
  for (const number of blocksOf({ from, to })) {
    const block = blocks.get(number);
    if (block === undefined) continue;
    const start = number * BLOCK_SAMPLES;
    const first = Math.max(from, start);
    const last = Math.min(to, start + block.length / channels);
    for (let channel = 0; channel < channels; channel++) {
      const into = read[channel]!;
      let source = (first - start) * channels + channel;
      for (let at = first - from; at < last - from; at++, source += channels) into[at] = block[source]! / 32_768;
    }
  }
  return read;
}
