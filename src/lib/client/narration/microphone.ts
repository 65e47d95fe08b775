/** Microphones: which there are, and what one brings. */
import { NARRATION_RATE_HZ } from '$lib/core/narration';
import captureUrl from './capture.worklet.ts?worker&url';

/** Why nothing can be heard: each has its sentence among the phrases. */
export type MicrophoneProblem = 'none' | 'refused' | 'busy' | 'insecure' | 'unplugged' | 'failed';

export interface Microphone {
  readonly id: string;
  readonly name: string;
}

/** What browsers do to a voice unless it is forbidden; it costs consonants and breaths. */
export interface Processing {
  readonly echoCancellation: boolean;
  readonly noiseSuppression: boolean;
  readonly autoGainControl: boolean;
}

export const UNTOUCHED: Processing = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };

/** Those that the browser names: none before it is allowed to use one. */
export async function listMicrophones(): Promise<Microphone[]> {
  const devices = (await mediaDevices()?.enumerateDevices()) ?? [];
  return devices
    .filter(({ kind, deviceId, label }) => kind === 'audioinput' && deviceId !== '' && label !== '')
    .map(({ deviceId: id, label: name }) => ({ id, name }));
}

/** Not there on pages that came over an open connection from elsewhere. */
const mediaDevices = (): MediaDevices | undefined =>
  (navigator as { readonly mediaDevices?: MediaDevices }).mediaDevices;

/** Calls back when one is plugged in or out; returns a function that stops. */
export function onMicrophones(change: () => void): () => void {
  const devices = mediaDevices();
  devices?.addEventListener('devicechange', change);
  return () => devices?.removeEventListener('devicechange', change);
}

export interface Taken {
  /** Samples of a tenth of a second. */
  readonly onPiece: (samples: Int16Array) => void;
  /** It was unplugged, or taken away. */
  readonly onLost: () => void;
}

export class Capture {
  readonly id: string;
  readonly #stream: MediaStream;
  readonly #context: AudioContext;
  readonly #node: AudioWorkletNode;
  #flushed: (() => void) | null = null;

  private constructor(stream: MediaStream, context: AudioContext, { onPiece, onLost }: Taken) {
    this.#stream = stream;
    this.#context = context;
    const [track] = stream.getAudioTracks();
    this.id = track?.getSettings().deviceId ?? '';
    track?.addEventListener('ended', onLost);
    this.#node = new AudioWorkletNode(context, 'capture');
    this.#node.port.onmessage = ({ data }: MessageEvent<Int16Array | null>) => {
      if (data === null) this.#flushed?.();
      else onPiece(data);
    };
    // It gives silence: what is not connected is not run.
    context.createMediaStreamSource(stream).connect(this.#node).connect(context.destination);
  }

  /** Throws a `MicrophoneError`. `id`: `null` for the one that the browser prefers. */
  static async open(id: string | null, processing: Processing, taken: Taken): Promise<Capture> {
    const devices = mediaDevices();
    if (devices === undefined) throw new MicrophoneError('insecure');
    let stream: MediaStream | null = null;
    let context: AudioContext | null = null;
    try {
      stream = await devices.getUserMedia({
        audio: { ...processing, channelCount: 1, ...(id !== null && { deviceId: { exact: id } }) }
      });
      // Microphones of other rates are resampled by the browser.
      context = new AudioContext({ sampleRate: NARRATION_RATE_HZ });
      await context.audioWorklet.addModule(captureUrl);
      await context.resume();
      return new Capture(stream, context, taken);
    } catch (cause) {
      for (const track of stream?.getTracks() ?? []) track.stop();
      void context?.close();
      throw new MicrophoneError(problemOf(cause), { cause });
    }
  }

  /** Resolves when all that came in before has been given. */
  async flush(): Promise<void> {
    await new Promise<void>((resolve) => {
      this.#flushed = resolve;
      this.#node.port.postMessage(null);
    });
  }

  close(): void {
    this.#node.port.onmessage = null;
    this.#flushed?.();
    for (const track of this.#stream.getTracks()) track.stop();
    void this.#context.close();
  }
}

export class MicrophoneError extends Error {
  readonly problem: MicrophoneProblem;
  constructor(problem: MicrophoneProblem, options?: ErrorOptions) {
    super(problem, options);
    this.problem = problem;
  }
}

function problemOf(cause: unknown): MicrophoneProblem {
  const name = cause instanceof DOMException ? cause.name : '';
  if (name === 'NotAllowedError' || name === 'SecurityError') return 'refused';
  if (name === 'NotFoundError' || name === 'OverconstrainedError') return 'none';
  return name === 'NotReadableError' || name === 'AbortError' ? 'busy' : 'failed';
}
