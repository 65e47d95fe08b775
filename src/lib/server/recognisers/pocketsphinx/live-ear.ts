/** An engine that hears on while somebody speaks, in a process of its own: one request at a time, for all there is by then. */
import { Child } from '../../children';
import type { LiveEar, LiveRequest } from '../recogniser';
import { fromEngine, type FromEngine, type ToEngine } from './messages';

export class ListeningEngine implements LiveEar {
  readonly #child: Child<FromEngine>;
  readonly #request: LiveRequest;
  #isFree = false;
  #writtenMs = 0;
  #askedMs: number;

  constructor(request: LiveRequest) {
    this.#request = request;
    this.#askedMs = request.fromMs;
    this.#child = Child.program('engine', { said: { schema: fromEngine, take: (message) => this.#take(message) } });
    void this.#child.ended.then(request.onEnd);
    this.#send({ type: 'load', purpose: 'listen', expected: null });
  }

  hearTo(ms: number): void {
    this.#writtenMs = Math.floor(ms);
    this.#ask();
  }

  end(): void {
    this.#child.end();
  }

  #take(message: FromEngine): void {
    if (message.type === 'listened') this.#request.onHeard(message.settled, message.pending);
    if (message.type !== 'listened' && message.type !== 'ready') return;
    this.#isFree = true;
    this.#ask();
  }

  #ask(): void {
    if (!this.#isFree || this.#writtenMs <= this.#askedMs) return;
    const { soundPath, fromMs } = this.#request;
    this.#isFree = false;
    this.#askedMs = this.#writtenMs;
    this.#send({ type: 'listen', soundPath, fromMs, toMs: this.#writtenMs });
  }

  #send(message: ToEngine): void {
    this.#child.send(message);
  }
}
