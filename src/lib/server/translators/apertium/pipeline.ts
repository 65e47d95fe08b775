/**
 * The stages of a pair, kept alive one behind the other: texts go in and come out with a NUL behind each (the flag `-z`
 * of every program of Apertium 3.8).
 */
import { readFileSync } from 'node:fs';
import { PassThrough } from 'node:stream';
import type { TranslatedSentence } from '$lib/core/translating';
import { Child, failureOf, type End } from '../../children';
import { fromStream, toStream } from './stream';

/** Of one stage; all of a pair together took 43 to 177 MB here. */
const MOST_BYTES = 600_000_000;
/** A sentence takes milliseconds. */
const LONGEST_MS = 10_000;

/** What each stage is started with. Throws where the file cannot be read or says nothing. */
export function readStages(path: string): readonly (readonly string[])[] {
  const stages = readFileSync(path, 'utf8')
    .trim()
    .split('|')
    .map((stage) => [...stage.matchAll(/'([^']*)'|"([^"]*)"|(\S+)/g)].map((part) => part[1] ?? part[2] ?? part[3]!));
  if (stages.some(([program]) => program === undefined)) throw new Error(`${path} names no stages`);
  // `$1`: what is generated is marked where it was not known; `$2`: nothing for the tagger.
  return stages.map(([program, ...args]) => [
    program!,
    '-z',
    ...args.filter((arg) => arg !== '$2').map((arg) => (arg === '$1' ? '-g' : arg))
  ]);
}

interface Waiting {
  readonly number: number;
  readonly resolve: (translated: TranslatedSentence) => void;
  readonly reject: (error: Error) => void;
  readonly timer: ReturnType<typeof setTimeout>;
}

export class Pipeline {
  readonly #input = new PassThrough();
  readonly #children: readonly Child[];
  readonly #waiting: Waiting[] = [];
  #text = '';
  #sent = 0;
  #end: Error | null = null;

  constructor(modes: readonly string[]) {
    const children: Child[] = [];
    for (const [program, ...args] of modes.flatMap(readStages)) {
      const input = children.at(-1)?.stdout ?? this.#input;
      children.push(Child.tool(program!, args, { input, mostBytes: MOST_BYTES }));
    }
    this.#children = children;
    for (const child of children) void child.ended.then((end) => this.#broke(end));
    children
      .at(-1)!
      .stdout.setEncoding('utf8')
      .on('data', (text: string) => this.#take(text));
  }

  get hasEnded(): boolean {
    return this.#end !== null;
  }

  /** Rejects where a stage ends, takes too long, or leaves one out. */
  send(sentence: string): Promise<TranslatedSentence> {
    if (this.#end !== null) return Promise.reject(this.#end);
    return new Promise((resolve, reject) => {
      const timer = setTimeout(
        () => this.end(new Error(`the translator said nothing for ${LONGEST_MS / 1000} s`)),
        LONGEST_MS
      );
      const number = this.#sent++;
      this.#waiting.push({ number, resolve, reject, timer });
      this.#input.write(`${toStream(sentence, number)}\0`);
    });
  }

  end(why: Error): void {
    if (this.#end !== null) return;
    this.#end = why;
    for (const child of this.#children) child.end();
    for (const { reject, timer } of this.#waiting.splice(0)) {
      clearTimeout(timer);
      reject(why);
    }
  }

  #broke(end: End): void {
    this.end(failureOf('a stage of the translator', end));
  }

  #take(text: string): void {
    const parts = (this.#text + text).split('\0');
    this.#text = parts.pop()!;
    for (const part of parts) {
      const waiting = this.#waiting.shift();
      const translated = waiting === undefined ? null : fromStream(part, waiting.number);
      clearTimeout(waiting?.timer);
      if (translated === null) {
        const why = new Error('the translator left out a sentence, or said what was not asked');
        waiting?.reject(why);
        return this.end(why);
      }
      waiting!.resolve(translated);
    }
  }
}
