/** Somebody speaks: the microphone, what is recorded, its words, and what is said anew. */
import { messageOf } from '$lib/core/message-of';
import {
  againFrom,
  hasTrouble,
  isLeftOut,
  measureInput,
  narratedMs,
  placeInScript,
  scriptWords,
  sentencesOf,
  UNWATCHED,
  watchInput,
  type InputLevel,
  type InputTrouble,
  type InputWatch,
  type LiveSentence,
  type LiveWord,
  type ScriptToken
} from '$lib/core/narration';
import { type Span, wholeMs } from '$lib/core/time';
import type { Recording } from '../api';
import { narrationCalls, type Narration, type Written } from './calls';
import { Delivery, type DeliveryState } from './delivery';
import { Capture, MicrophoneError, UNTOUCHED, type MicrophoneProblem, type Processing } from './microphone';
import { openPieces } from './pieces';

/** So many words are shown: what was said minutes ago is in the recording. */
const SHOWN_WORDS = 500;
/** And so many looked at where a sentence is said anew. */
const LOOKED_AT = 2000;

/** How often words are asked for while nothing is sent. */
const LOOK_MS = 400;

const QUIET: InputLevel = { peakDb: Number.NEGATIVE_INFINITY, rmsDb: Number.NEGATIVE_INFINITY, isClipped: false };

export class Narrating {
  /** `ending`: what is not sent yet is on its way. */
  state: 'still' | 'speaking' | 'paused' | 'ending' = $state('still');
  /** What is spoken; `null` before it begins. */
  narration: Narration | null = $state.raw(null);
  /** Whether a microphone is on. */
  isOn = $state(false);
  microphone: string | null = $state(null);
  processing: Processing = $state.raw(UNTOUCHED);
  problem: MicrophoneProblem | null = $state(null);
  level: InputLevel = $state.raw(QUIET);
  trouble: InputTrouble | null = $state(null);
  delivery: { readonly state: DeliveryState; readonly problem: string | null } = $state.raw({
    ...{ state: 'fine', problem: null }
  });
  /** Whether what is not sent outlasts the window. */
  isKept = $state(true);
  isHeard = $state(true);
  /** How much longer there is room on the server; `null` before it says. */
  roomMs: number | null = $state(null);
  lengthMs = $state(0);
  /** How much of it the server has. */
  storedMs = $state(0);
  settled: readonly LiveWord[] = $state.raw([]);
  pending: readonly LiveWord[] = $state.raw([]);
  leftOut: readonly Span[] = $state.raw([]);
  /** The word of the script that is read next. */
  scriptAt = $state(0);

  #capture: Capture | null = null;
  #delivery: Delivery | null = null;
  #watch: InputWatch = UNWATCHED;
  #areMarksSaved = true;
  #release: () => void = () => undefined;
  #look: ReturnType<typeof setInterval> | undefined;
  #cutShort: () => void = () => undefined;

  /** The words that were said last, by sentences. */
  readonly sentences: readonly LiveSentence<LiveWord>[] = $derived.by(() =>
    sentencesOf([...this.settled.slice(-SHOWN_WORDS), ...this.pending], this.leftOut)
  );
  readonly script: readonly ScriptToken[] = $derived.by(() => scriptWords(this.narration?.script ?? ''));

  /** Switches a microphone on, or another one, also while somebody speaks. */
  async switchOn(id: string | null, processing: Processing = this.processing): Promise<void> {
    this.#switchOff();
    this.processing = processing;
    this.problem = null;
    try {
      this.#capture = await Capture.open(id, processing, {
        onPiece: (samples) => this.#take(samples),
        onLost: () => this.#lose()
      });
      this.microphone = this.#capture.id;
      this.isOn = true;
    } catch (error) {
      this.problem = error instanceof MicrophoneError ? error.problem : 'failed';
    }
  }

  /** Begins one, or goes on with one that was broken off. Throws what the server refuses. */
  async begin(asked: Pick<Narration, 'title' | 'language' | 'script'> | Narration): Promise<void> {
    const narration = 'id' in asked ? asked : await narrationCalls.begin(asked);
    await this.take(narration);
    if (this.isOn) this.state = 'speaking';
    else this.#rest();
  }

  /** Takes one in hand, without a microphone. */
  async take({ id }: Narration): Promise<void> {
    const { narration, words } = await narrationCalls.get(id, 0);
    await this.#holdAlone(id);
    const store = await openPieces(id);
    this.isKept = store.isKept;
    this.settled = words;
    this.leftOut = narration.leftOut;
    this.narration = narration;
    this.#delivery = await Delivery.begin(
      {
        store,
        send: async (offsetBytes, bytes) => {
          const known = this.settled.length;
          const written = await narrationCalls.write(id, offsetBytes, bytes, known);
          this.#hear(written, known);
          return written.storedBytes;
        },
        onState: (state, problem) => this.#tell(state, problem),
        wait: (ms) =>
          new Promise((resolve) => {
            const timer = setTimeout(resolve, ms);
            this.#cutShort = () => {
              clearTimeout(timer);
              resolve();
            };
          })
      },
      narration.storedBytes
    );
    this.storedMs = narratedMs(narration.storedBytes);
    this.lengthMs = narratedMs(this.#delivery.endBytes);
    this.#followScript();
  }

  pause(): void {
    if (this.state !== 'speaking') return;
    this.#capture?.flush();
    this.#rest();
  }
  goOn(): void {
    if (this.state !== 'paused' || !this.isOn) return;
    clearInterval(this.#look);
    this.state = 'speaking';
  }

  /** The last sentence is said anew: what was said of it is left out. */
  again(): boolean {
    const words = [...this.settled.slice(-LOOKED_AT), ...this.pending];
    const span = againFrom(words, this.leftOut, wholeMs(Math.round(this.lengthMs)));
    if (span === null) return false;
    this.#mark([...this.leftOut, span]);
    const out = words.filter((word) => isLeftOut(word, [span])).length;
    this.scriptAt = Math.max(0, this.scriptAt - out);
    this.#followScript();
    return true;
  }
  /** What was left out last stands again. */
  putBack(): void {
    this.#mark(this.leftOut.slice(0, -1));
  }

  /** Where somebody goes on reading, by hand. */
  readOnAt(word: number): void {
    this.scriptAt = word;
  }

  /** Ends it, once the server has all of it; it is a recording then. Throws what the server refuses. */
  async end(): Promise<Recording> {
    const before = this.state;
    try {
      this.pause();
      clearInterval(this.#look);
      this.state = 'ending';
      await this.#delivery!.whole();
      const { id } = this.narration!;
      await narrationCalls.setLeftOut(id, this.leftOut);
      const recording = await narrationCalls.end(id);
      this.close();
      return recording;
    } catch (error) {
      if (before === 'still') this.state = 'still';
      else this.#rest();
      throw error;
    }
  }

  /** Lets go of everything; what was not sent is kept by the browser. */
  close(): void {
    clearInterval(this.#look);
    this.#switchOff();
    this.#delivery?.stop();
    this.#cutShort();
    this.#release();
  }

  #switchOff(): void {
    this.#capture?.close();
    this.#capture = null;
    this.isOn = false;
    this.level = QUIET;
    this.trouble = null;
    this.#watch = UNWATCHED;
  }

  #lose(): void {
    this.#switchOff();
    this.problem = 'unplugged';
    if (this.state === 'speaking') this.#rest();
  }

  #rest(): void {
    this.state = 'paused';
    clearInterval(this.#look);
    this.#look = setInterval(() => void this.#lookForWords(), LOOK_MS);
  }

  #take(samples: Int16Array): void {
    this.level = measureInput(samples);
    this.#watch = watchInput(this.#watch, this.level, narratedMs(samples.byteLength));
    this.trouble = hasTrouble(this.#watch);
    if (this.state !== 'speaking' || this.#delivery === null) return;
    this.#delivery.add(new Uint8Array(samples.buffer as ArrayBuffer));
    this.lengthMs = narratedMs(this.#delivery.endBytes);
  }

  /** What was said last is heard when nothing more is sent. */
  async #lookForWords(): Promise<void> {
    const known = this.settled.length;
    // The delivery tells where the server is away.
    const heard = await narrationCalls.get(this.narration!.id, known).catch(() => null);
    if (heard !== null && this.state === 'paused') this.#takeWords(heard.words, heard.pending, known);
  }

  /** `known`: how many words stood when these were asked for; what came meanwhile is not taken twice. */
  #takeWords(settled: readonly LiveWord[], pending: readonly LiveWord[], known: number): void {
    if (this.settled.length !== known) return;
    if (settled.length > 0) this.settled = [...this.settled, ...settled];
    this.pending = pending;
    this.#followScript();
  }

  #hear({ settled, pending, isHeard, roomMs, storedBytes }: Written, known: number): void {
    this.#takeWords(settled, pending, known);
    this.isHeard = isHeard;
    this.roomMs = roomMs;
    this.storedMs = narratedMs(storedBytes);
    if (!this.#areMarksSaved) this.#saveMarks();
  }

  #followScript(): void {
    if (this.script.length === 0) return;
    const last = [...this.settled.slice(-40), ...this.pending].filter((word) => !isLeftOut(word, this.leftOut));
    this.scriptAt = placeInScript(
      this.script,
      last.map(({ text }) => text),
      this.scriptAt
    );
  }

  #tell(state: DeliveryState, problem: string | null): void {
    this.delivery = { state, problem };
    if ((state === 'elsewhere' || state === 'over') && this.state === 'speaking') this.#rest();
  }

  #mark(leftOut: readonly Span[]): void {
    this.leftOut = leftOut;
    this.#saveMarks();
  }

  /** Where it does not arrive it goes with the next piece, and at the end. */
  #saveMarks(): void {
    const { leftOut } = this;
    this.#areMarksSaved = true;
    narrationCalls.setLeftOut(this.narration!.id, leftOut).catch((error: unknown) => {
      this.#areMarksSaved = false;
      if (this.delivery.state === 'fine') this.delivery = { state: 'away', problem: messageOf(error) };
    });
  }

  /** Throws where another window of this browser has it. */
  async #holdAlone(id: string): Promise<void> {
    await new Promise<void>((held, refuse) => {
      void navigator.locks.request(lockName(id), { ifAvailable: true }, (lock) => {
        if (lock === null) return refuse(new Error('Another window of this browser goes on with it.'));
        held();
        return new Promise<void>((release) => (this.#release = () => release()));
      });
    });
  }
}

const lockName = (id: string): string => `vinetap-narration-${id}`;

/** Those that windows of this browser have in hand. */
export async function heldNarrations(): Promise<ReadonlySet<string>> {
  const { held = [] } = await navigator.locks.query();
  return new Set(held.map(({ name }) => (name ?? '').replace(lockName(''), '')));
}
