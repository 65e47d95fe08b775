/** The sound of a microphone's track as it comes. */
import { NARRATION_RATE_HZ, type SoundBlock } from '$lib/core/narration';
import tapUrl from './tap.worklet.ts?worker&url';

/** TypeScript knows it of video alone. */
type TrackProcessor = new (of: { track: MediaStreamTrack; maxBufferSize: number }) => {
  readonly readable: ReadableStream<AudioData>;
};

/** Half a minute of stretches of 10 ms, for a page that is held up. */
const MOST_WAITING = 3000;

/**
 * Gives what comes of a stream until the function it returns is called. Straight from the track where the browser can;
 * else by way of Web Audio, whose clock is that of what is played and not the microphone's: in ten minutes seconds can
 * be missing. `onBroken`: nothing more will come.
 */
export async function tap(
  stream: MediaStream,
  onSound: (block: SoundBlock) => void,
  onBroken: () => void
): Promise<() => void> {
  const { MediaStreamTrackProcessor: Processor } = globalThis as { MediaStreamTrackProcessor?: TrackProcessor };
  const [track] = stream.getAudioTracks();
  return Processor === undefined
    ? tapByContext(stream, onSound, onBroken)
    : tapTrack(new Processor({ track: track!, maxBufferSize: MOST_WAITING }).readable, onSound, onBroken);
}

function tapTrack(
  readable: ReadableStream<AudioData>,
  onSound: (block: SoundBlock) => void,
  onBroken: () => void
): () => void {
  const reader = readable.getReader();
  let isClosed = false;
  const read = async (): Promise<void> => {
    for (let next = await reader.read(); !next.done; next = await reader.read()) {
      const { value } = next;
      const block = { samples: monoOf(value), rateHz: value.sampleRate, startMs: value.timestamp / 1000 };
      value.close();
      if (isClosed) return;
      onSound(block);
    }
    if (!isClosed) onBroken();
  };
  read().catch(onBroken);
  return () => {
    isClosed = true;
    void reader.cancel();
  };
}

function monoOf(data: AudioData): Float32Array {
  const mono = new Float32Array(data.numberOfFrames);
  const channel = new Float32Array(data.numberOfFrames);
  for (let planeIndex = 0; planeIndex < data.numberOfChannels; planeIndex++) {
    data.copyTo(channel, { planeIndex, format: 'f32-planar' });
    for (let at = 0; at < mono.length; at++) mono[at]! += channel[at]! / data.numberOfChannels;
  }
  return mono;
}

async function tapByContext(
  stream: MediaStream,
  onSound: (block: SoundBlock) => void,
  onBroken: () => void
): Promise<() => void> {
  // Microphones of other rates are resampled by the browser.
  const context = new AudioContext({ sampleRate: NARRATION_RATE_HZ });
  try {
    await context.audioWorklet.addModule(tapUrl);
    await context.resume();
    const node = new AudioWorkletNode(context, 'tap');
    node.port.onmessage = ({ data }: MessageEvent<Float32Array>) =>
      onSound({ samples: data, rateHz: NARRATION_RATE_HZ, startMs: null });
    // It gives silence: what is not connected is not run.
    context.createMediaStreamSource(stream).connect(node).connect(context.destination);
    const [track] = stream.getAudioTracks();
    track!.addEventListener('ended', onBroken);
    return () => {
      track!.removeEventListener('ended', onBroken);
      node.port.onmessage = null;
      void context.close();
    };
  } catch (error) {
    void context.close();
    throw error;
  }
}
