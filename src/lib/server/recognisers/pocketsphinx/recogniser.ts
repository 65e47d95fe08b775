/** PocketSphinx in processes of its own, one a core. */
import { spellTerms, type Term } from '$lib/core/expecting';
import type { FitTask } from '$lib/core/fitting';
import { rankReadings, type HeardWord, type Reading } from '$lib/core/hearing';
import { type Span, toSpan } from '$lib/core/time';
import { messageOf } from '$lib/core/message-of';
import type {
  EngineFacts,
  FitRequest,
  HearRequest,
  LiveEar,
  LiveRequest,
  LocalRecogniser,
  ReadingsRequest
} from '../recogniser';
import { inOrder, workThrough } from '../work-through';
import { EngineProcess } from './engine-process';
import { withExpected } from './expect';
import { ListeningEngine } from './live-ear';

export const LOCAL_ENGINE_ID = 'pocketsphinx-en-us';

const LANGUAGE = 'en-US';

const NEIGHBOURS_MS = 300;
/** Of a passage heard again, from each search. */
const OTHER_READINGS = 12;

export class PocketSphinx implements LocalRecogniser {
  readonly writes = 'bare words';
  readonly listensIn = LANGUAGE;
  #facts: Promise<EngineFacts> | undefined;

  facts(): Promise<EngineFacts> {
    this.#facts ??= this.#look();
    return this.#facts;
  }

  async #look(): Promise<EngineFacts> {
    const about = {
      id: LOCAL_ENGINE_ID,
      name: 'PocketSphinx, US English, on this machine',
      kind: 'local',
      languages: [LANGUAGE],
      hears: true,
      fits: true,
      sendsSound: false
    } as const;
    const engine = new EngineProcess('hear', null);
    try {
      await engine.ready();
      return { ...about, available: true };
    } catch (error) {
      this.#facts = undefined;
      return { ...about, available: false, reason: messageOf(error) };
    } finally {
      engine.end();
    }
  }

  async hear({
    soundPath,
    chunks,
    takeChunk,
    terms,
    phrases,
    scratchFolder,
    signal,
    onChunk,
    onHeard
  }: Omit<HearRequest, 'asked' | 'regions' | 'language' | 'key'>): Promise<void> {
    const heardMs = new Map<number, number>();
    await withExpected(together(terms, phrases), scratchFolder, (expected) =>
      workThrough({
        ...inOrder(chunks),
        ...(takeChunk !== undefined && { next: takeChunk }),
        start: (until) => new EngineProcess('hear', expected, until),
        signal,
        run: async (engine, chunk) => {
          const { words } = await engine.hear({ ...chunk, soundPath }, 0, (ms) => {
            heardMs.set(chunk.position, ms);
            onHeard([...heardMs.values()].reduce((sum, one) => sum + one, 0));
          });
          onChunk(chunk.position, spellTerms(words, terms));
        },
        giveUp: (chunk) => onChunk(chunk.position, null)
      })
    );
  }

  async readings({
    soundPath,
    startMs,
    endMs,
    terms,
    scratchFolder,
    signal,
    onProgress
  }: ReadingsRequest): Promise<Reading[]> {
    const shares: number[] = [];
    const searches: { words: readonly HeardWord[]; logLikelihood: number }[][] = [];
    const isInside = (word: Span): boolean => {
      const middleMs = (word.startMs + word.endMs) / 2;
      return middleMs >= startMs && middleMs < endMs;
    };
    const search = (purpose: 'hear' | 'search', some: readonly Term[], marginMs: number): Promise<void> => {
      const at = shares.push(0) - 1;
      return withExpected(some, scratchFolder, (expected) =>
        workThrough({
          ...inOrder([
            {
              ...{ position: 0, soundPath },
              ...toSpan({ startMs: Math.max(0, startMs - marginMs), endMs: endMs + marginMs })
            }
          ]),
          start: (until) => new EngineProcess(purpose, expected, until),
          signal,
          run: async (engine, stretch) => {
            const { words, others } = await engine.hear(stretch, OTHER_READINGS, (heardMs) => {
              shares[at] = Math.min(1, heardMs / (stretch.endMs - stretch.startMs));
              onProgress(shares.reduce((sum, share) => sum + share, 0) / shares.length);
            });
            const found = [{ words, logLikelihood: 0 }, ...others];
            searches.push(found.map((one) => ({ ...one, words: spellTerms(one.words.filter(isInside), terms) })));
          },
          giveUp: () => undefined
        })
      );
    };
    // A short word is known by its neighbours; a passage that ends at its own edges by what is in it.
    await Promise.all([search('hear', terms, 0), search('search', [], 0), search('search', terms, NEIGHBOURS_MS)]);
    return rankReadings(searches);
  }

  listen(request: LiveRequest): LiveEar {
    return new ListeningEngine(request);
  }

  async fit({ soundPath, tasks, terms, phrases, scratchFolder, signal, onFitted }: FitRequest): Promise<void> {
    await withExpected(together(terms, phrases), scratchFolder, (expected) =>
      workThrough({
        ...inOrder(tasks),
        start: (until) => new EngineProcess('fit', expected, until),
        signal,
        run: async (engine, task: FitTask) => {
          const { times } = await engine.fit({ ...task, soundPath }, [...task.words]);
          onFitted(task, times);
        },
        giveUp: (task) => onFitted(task, null)
      })
    );
  }
}

const together = (terms: readonly Term[], phrases: readonly string[] = []): readonly Term[] => [
  ...terms,
  ...phrases.map((text) => ({ text, soundsLike: null }))
];
