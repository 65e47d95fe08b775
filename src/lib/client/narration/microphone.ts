/** Microphones: which there are, and what one brings. */
import { Incoming } from '$lib/core/narration';
import { tap } from './tap';

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
  readonly #incoming: Incoming;
  readonly #untap: () => void;

  private constructor(stream: MediaStream, incoming: Incoming, untap: () => void) {
    this.id = stream.getAudioTracks()[0]?.getSettings().deviceId ?? '';
    this.#stream = stream;
    this.#incoming = incoming;
    this.#untap = untap;
  }

  /** Throws a `MicrophoneError`. `id`: `null` for the one that the browser prefers. */
  static async open(id: string | null, processing: Processing, { onPiece, onLost }: Taken): Promise<Capture> {
    const devices = mediaDevices();
    if (devices === undefined) throw new MicrophoneError('insecure');
    let stream: MediaStream | null = null;
    try {
      stream = await devices.getUserMedia({
        audio: { ...processing, channelCount: 1, ...(id !== null && { deviceId: { exact: id } }) }
      });
      const incoming = new Incoming(onPiece);
      return new Capture(stream, incoming, await tap(stream, (block) => incoming.add(block), onLost));
    } catch (cause) {
      for (const track of stream?.getTracks() ?? []) track.stop();
      throw new MicrophoneError(problemOf(cause), { cause });
    }
  }

  /** Gives what came and is no whole piece yet. */
  flush(): void {
    this.#incoming.flush();
  }

  close(): void {
    this.#untap();
    for (const track of this.#stream.getTracks()) track.stop();
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
