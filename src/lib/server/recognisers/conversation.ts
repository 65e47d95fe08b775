/** A program in a process of its own that is asked one thing at a time: a fault of its native library costs one answer. */
import type { z } from 'zod';
import { Child, failureOf, type ChildOptions } from '../children';

interface Waiting<From> {
  readonly take: (message: From) => void;
  readonly fail: (error: Error) => void;
}

export class Conversation<To extends object, From> {
  readonly #child: Child<From>;
  readonly #name: string;
  #waiting: Waiting<From> | null = null;
  #failure: Error | null = null;

  /** `name`: what it is, in a sentence. */
  constructor(
    program: string,
    {
      name,
      answers,
      ...options
    }: { readonly name: string; readonly answers: z.ZodType<From> } & Pick<ChildOptions<From>, 'signal' | 'mostBytes'>
  ) {
    this.#name = name;
    this.#child = Child.program(program, {
      ...options,
      said: { schema: answers, take: (message) => this.#waiting?.take(message) }
    });
    void this.#child.ended.then((end) => {
      this.#failure = failureOf(name, end);
      this.#waiting?.fail(this.#failure);
    });
  }

  /** Says something, and takes what it answers until a message settles the promise; its end, or its silence for too long, rejects it. */
  ask<T>(
    message: To,
    limitMs: number,
    onMessage: (message: From, resolve: (value: T) => void, reject: (error: Error) => void) => void
  ): Promise<T> {
    let timer: ReturnType<typeof setTimeout> | undefined;
    return new Promise<T>((resolve, reject) => {
      if (this.#failure !== null) return reject(this.#failure);
      timer = setTimeout(() => this.#child.end(new Error(`${this.#name} no longer answers`)), limitMs);
      this.#waiting = { take: (answer) => onMessage(answer, resolve, reject), fail: reject };
      this.#child.send(message);
    }).finally(() => {
      clearTimeout(timer);
      this.#waiting = null;
    });
  }

  end(): void {
    this.#child.end();
  }
}
