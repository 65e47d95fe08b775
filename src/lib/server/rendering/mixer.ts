/** The process that mixes the sound of a trim, as it comes. */
import type { Readable } from 'node:stream';
import type { Span } from '$lib/core/time';
import type { Trim } from '$lib/core/trims';
import { Child, failureOf } from '../children';
import type { HeardSound } from '../media/decode';

export interface MixRequest {
  readonly trim: Trim;
  readonly sound: HeardSound;
  /** Where the room is heard alone. */
  readonly room: readonly Span[];
}

export interface Mixer {
  /** Interleaved 32-bit floats; to be read. */
  readonly samples: Readable;
  /** Resolves when all is mixed; rejects with what went wrong. */
  readonly done: Promise<void>;
  readonly end: () => void;
}

export function startMixer(request: MixRequest, signal: AbortSignal): Mixer {
  const child = Child.program('trim-sound', { signal, writes: true });
  child.send(request);
  const done = child.ended.then((end) => {
    if (end.code !== 0) throw failureOf('the process that mixes the sound', end);
  });
  // Whoever reads on hears of a failure from `done`.
  done.catch(() => undefined);
  return { samples: child.stdout, done, end: () => child.end() };
}
