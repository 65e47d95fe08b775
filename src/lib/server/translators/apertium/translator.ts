/** Apertium, an optional package of the system: rules and dictionaries on this machine, in processes of its own. */
import { messageOf } from '$lib/core/message-of';
import type { TranslatedSentence } from '$lib/core/translating';
import { ApiProblem } from '../../problem';
import type { TranslateRequest, Translator, TranslatorFacts } from '../translator';
import { installedPairs, missingPairs, type InstalledPair } from './pairs';
import { Pipeline } from './pipeline';

export const APERTIUM_ID = 'apertium';

/** Pairs that stay ready; the one that was used longest ago gives way. */
const MOST_READY = 2;
const IDLE_MS = 300_000;
/** Sentences on their way through the stages at once. */
const AHEAD = 24;
/** Where it fails on more than so many sentences and on nothing else, it cannot work at all. */
const HOPELESS = 1;

interface Ready {
  readonly pipeline: Pipeline;
  idle: ReturnType<typeof setTimeout>;
}

export class Apertium implements Translator {
  readonly guardsNames = false;
  readonly #ready = new Map<string, Ready>();

  facts(): Promise<TranslatorFacts> {
    const pairs = installedPairs().map(({ modes: _, ...pair }) => pair);
    const available = pairs.length > 0;
    return Promise.resolve({
      ...{
        id: APERTIUM_ID,
        name: 'Apertium, on this machine',
        sendsText: false,
        pairs,
        missing: missingPairs(),
        available
      },
      ...(!available && {
        reason:
          'No pair of languages is installed: install one of the packages that are named, such as apertium-eng-spa.'
      })
    });
  }

  async translate({
    sentences,
    from,
    to,
    signal,
    onProgress
  }: TranslateRequest): Promise<readonly (TranslatedSentence | null)[]> {
    signal.throwIfAborted();
    const pair = installedPairs().find((one) => one.from === from && one.to === to);
    if (pair === undefined)
      throw new ApiProblem(422, 'pair_missing', `Apertium has no pair from ${from} to ${to} here.`);
    const abort = (): void => this.#end(pair, signal.reason as Error);
    signal.addEventListener('abort', abort, { once: true });
    try {
      const translated: (TranslatedSentence | null)[] = [];
      for (let at = 0; at < sentences.length; at += AHEAD) {
        const some = await this.#some(pair, sentences.slice(at, at + AHEAD), signal);
        translated.push(...some);
        onProgress(translated.length / sentences.length);
      }
      return translated;
    } finally {
      signal.removeEventListener('abort', abort);
    }
  }

  close(): void {
    for (const { pipeline, idle } of this.#ready.values()) {
      clearTimeout(idle);
      pipeline.end(new Error('the server ends'));
    }
    this.#ready.clear();
  }

  /** All at once; where a stage fails, one by one, so that only what it fails on is left. */
  async #some(
    pair: InstalledPair,
    sentences: readonly string[],
    signal: AbortSignal
  ): Promise<readonly (TranslatedSentence | null)[]> {
    try {
      return await Promise.all(sentences.map((sentence) => this.#send(pair, sentence)));
    } catch {
      // Which of them it was is found out below, and so is why where it is all of them.
      signal.throwIfAborted();
    }
    const answers: (TranslatedSentence | null)[] = [];
    for (const sentence of sentences) {
      const answer = await this.#send(pair, sentence).catch((error: unknown) => {
        signal.throwIfAborted();
        if (answers.length >= HOPELESS && answers.every((one) => one === null))
          throw new ApiProblem(503, 'translator_failed', `Apertium cannot translate: ${messageOf(error)}.`);
        return null;
      });
      answers.push(answer);
    }
    return answers;
  }

  async #send(pair: InstalledPair, sentence: string): Promise<TranslatedSentence> {
    return this.#pipeline(pair).send(sentence);
  }

  #pipeline(pair: InstalledPair): Pipeline {
    const key = pair.modes.join(' ');
    const known = this.#ready.get(key);
    const ready =
      known === undefined || known.pipeline.hasEnded ? { pipeline: new Pipeline(pair.modes), idle: undefined } : known;
    clearTimeout(known?.idle);
    // Taken out and put in again, it is the last that gives way.
    this.#ready.delete(key);
    const idle = setTimeout(() => this.#end(pair, new Error('it was not used for a while')), IDLE_MS);
    idle.unref();
    this.#ready.set(key, { ...ready, idle });
    const [oldest] = this.#ready.keys();
    if (this.#ready.size > MOST_READY && oldest !== undefined)
      this.#endKey(oldest, new Error('other languages are at work'));
    return ready.pipeline;
  }

  #end(pair: InstalledPair, why: Error): void {
    this.#endKey(pair.modes.join(' '), why);
  }

  #endKey(key: string, why: Error): void {
    const ready = this.#ready.get(key);
    if (ready === undefined) return;
    clearTimeout(ready.idle);
    this.#ready.delete(key);
    ready.pipeline.end(why);
  }
}
