/** A speech model of the user's own as an engine: hears chunks in a process that holds it, with a thread for each core. */
import { availableParallelism, freemem } from 'node:os';
import { join } from 'node:path';
import { wordsOfStretch, type ModelPlan } from '$lib/core/ears';
import { spellTerms } from '$lib/core/expecting';
import { ANY_LANGUAGE } from '$lib/core/hearing';
import { messageOf } from '$lib/core/message-of';
import { primarySubtag } from '$lib/core/track';
import { ApiProblem } from '../../problem';
import type { EngineFacts, HearRequest, Recogniser } from '../recogniser';
import { inOrder, workThrough } from '../work-through';
import { EarProcess } from './ear-process';
import type { LookedAt } from './look';
import type { LoadedModel } from './messages';

/** What a model takes of memory against its files. */
const MEMORY_FACTOR = 1.3;

/** What trying it out has shown: how long it took, or why it cannot be used. */
export type Tried = { readonly ok: true; readonly loadMs: number } | { readonly ok: false; readonly reason: string };

export class ModelEar implements Recogniser {
  readonly id: string;
  readonly folder: string;
  readonly looked: LookedAt;
  readonly writes: 'bare words' | 'text';
  readonly #path: string;
  #tried: Promise<Tried> | null = null;
  #triedAs: Tried | null = null;

  constructor(path: string, folder: string, looked: LookedAt) {
    this.id = `model-${folder}`;
    this.folder = folder;
    this.looked = looked;
    this.#path = path;
    this.writes = looked.plan.ok ? looked.plan.value.writes : 'text';
  }

  get name(): string {
    return this.looked.settings.name ?? this.folder;
  }
  /** BCP 47; any where neither the model nor its owner says. */
  get languages(): readonly string[] {
    const { settings, plan } = this.looked;
    const told = settings.languages ?? (plan.ok ? plan.value.languages : []);
    return told.length > 0 ? told : [ANY_LANGUAGE];
  }
  /** What was found when it was tried; `null` while that goes on. */
  get tried(): Tried | null {
    return this.#triedAs;
  }

  /** Loads it once in a process of its own, and has it hear a second. */
  tryOut(): Promise<Tried> {
    this.#tried ??= this.#try().then((tried) => (this.#triedAs = tried));
    return this.#tried;
  }

  async #try(): Promise<Tried> {
    const { plan, sizeBytes } = this.looked;
    if (!plan.ok) return { ok: false, reason: plan.problem };
    const lacks = this.#lacksMemory();
    if (lacks !== null) return { ok: false, reason: lacks };
    const begunMs = performance.now();
    const ear = new EarProcess(this.#model(plan.value, null), { sizeBytes });
    try {
      await ear.ready();
      const loadMs = performance.now() - begunMs;
      await ear.probe();
      return { ok: true, loadMs };
    } catch (error) {
      return { ok: false, reason: `It cannot be loaded: ${messageOf(error)}` };
    } finally {
      ear.end();
    }
  }

  /** As far as it is known: it is told that it is still being tried out. */
  facts(): Promise<EngineFacts> {
    const about: Omit<EngineFacts, 'available'> = {
      ...{ id: this.id, name: `${this.name}, your own model`, kind: 'local', languages: this.languages },
      ...{ isOwn: true, hears: true, fits: false, sendsSound: false }
    };
    const tried = this.#triedAs ?? { ok: false, reason: 'It is being tried out: ask again in a moment.' };
    return Promise.resolve(
      tried.ok ? { ...about, available: true } : { ...about, available: false, reason: tried.reason }
    );
  }

  async hear({
    soundPath,
    regions,
    language,
    chunks,
    takeChunk,
    terms,
    signal,
    onChunk,
    onHeard
  }: HearRequest): Promise<void> {
    const { plan, sizeBytes } = this.looked;
    if (!plan.ok) throw new ApiProblem(503, 'engine_unavailable', plan.problem);
    const lacks = this.#lacksMemory();
    if (lacks !== null) throw new ApiProblem(503, 'engine_unavailable', lacks);
    const model = this.#model(plan.value, language);
    let heardMs = 0;
    await workThrough({
      ...inOrder(chunks),
      ...(takeChunk !== undefined && { next: takeChunk }),
      // A model can be gigabytes: it is held once.
      engines: 1,
      start: (until) => new EarProcess(model, { sizeBytes, signal: until }),
      signal,
      run: async (ear, chunk) => {
        const { read } = await ear.hear({ soundPath, startMs: chunk.startMs, endMs: chunk.endMs });
        heardMs += chunk.endMs - chunk.startMs;
        onHeard(heardMs);
        const words = wordsOfStretch(read, { stretch: chunk, regions, language });
        onChunk(chunk.position, this.writes === 'bare words' ? spellTerms(words.map(small), terms) : words);
      },
      giveUp: (chunk) => onChunk(chunk.position, null)
    });
  }

  #model({ family, files, hearsBy, modelType, choosesLanguage }: ModelPlan, language: string | null): LoadedModel {
    const paths = Object.entries(files).map(([role, name]) => [role, join(this.#path, name)]);
    return {
      ...{ family, hearsBy, modelType, files: Object.fromEntries(paths) as Record<string, string> },
      tokensPath: join(this.#path, 'tokens.txt'),
      language: choosesLanguage && language !== null ? primarySubtag(language) : null,
      threads: availableParallelism()
    };
  }

  /** That it does not fit is told before the machine is brought to its knees. */
  #lacksMemory(): string | null {
    const wantedMb = Math.ceil((this.looked.sizeBytes * MEMORY_FACTOR) / 1e6);
    const freeMb = Math.floor(freemem() / 1e6);
    return wantedMb <= freeMb
      ? null
      : `It takes some ${wantedMb} MB of memory, and ${freeMb} MB are free: end other programs, or take a smaller model.`;
  }
}

/** Models that write no marks often write in capitals alone. */
const small = <W extends { readonly text: string }>(word: W): W => ({ ...word, text: word.text.toLowerCase() });
