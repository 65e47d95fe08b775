import { BLOCK_RATE_HZ, BLOCK_SAMPLES, blockChannels } from '$lib/core/trims';
import { HeardSoundReader } from '../media/decode';
import { probe } from '../media/ffmpeg';
import type { MediaFiles } from '../media/files';
import type { Recording } from '../store/recordings';

/** A block of the sound as it is heard, in 16 bits; shorter where the recording ends. */
export async function heardBlock(
  files: MediaFiles,
  recording: Recording,
  block: number,
  signal: AbortSignal
): Promise<ArrayBuffer> {
  const channels = blockChannels(recording.media.channels);
  const from = block * BLOCK_SAMPLES;
  const to = Math.min(from + BLOCK_SAMPLES, Math.ceil((recording.durationMs * BLOCK_RATE_HZ) / 1000));
  if (to <= from) return new ArrayBuffer(0);
  const media = files.played(recording);
  const startSeconds = (await probe(media.path)).format.start_time ?? 0;
  const reader = new HeardSoundReader({ media, startSeconds, rateHz: BLOCK_RATE_HZ, channels }, signal);
  try {
    const read = await reader.read(from, to);
    const samples = new Int16Array((to - from) * channels);
    read.forEach((channel, offset) => {
      for (let at = 0, into = offset; at < channel.length; at++, into += channels)
        samples[into] = Math.max(-32_768, Math.min(32_767, Math.round(channel[at]! * 32_768)));
    });
    return samples.buffer;
  } finally {
    reader.close();
  }
}
