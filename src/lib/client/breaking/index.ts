/** Cues broken anew beside the page. */
import type { CueId } from '$lib/core/id';
import type { Cue, Rules, Track } from '$lib/core/track';
import { answerSchema, type BreakRequest } from './messages';

export class CueBreaker {
  #worker: Worker | null = null;
  #asked = 0;

  /**
   * The cues of the track under the rules, of some cues or of all; `null` where it was asked for others meanwhile. Rejects
   * where the worker fails.
   */
  break(track: Track, rules: Rules, cueIds?: ReadonlySet<CueId>): Promise<readonly Cue[] | null> {
    const worker = (this.#worker ??= new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' }));
    const id = ++this.#asked;
    return new Promise((resolve, reject) => {
      const settle = (): void => {
        worker.removeEventListener('message', onMessage);
        worker.removeEventListener('error', onError);
      };
      const onMessage = ({ data }: MessageEvent): void => {
        const answer = answerSchema.parse(data);
        if (answer.id !== id) return;
        settle();
        resolve(id === this.#asked ? answer.cues : null);
      };
      const onError = ({ message }: ErrorEvent): void => {
        settle();
        reject(new Error(`The cues could not be broken anew: ${message}`));
      };
      worker.addEventListener('message', onMessage);
      worker.addEventListener('error', onError);
      const asked: BreakRequest = { id, track, rules, ...(cueIds !== undefined && { cueIds: [...cueIds] }) };
      worker.postMessage(asked);
    });
  }

  close(): void {
    this.#worker?.terminate();
    this.#worker = null;
  }
}
