/** eSpeak NG through its library (speak_lib.h, version 1.51): speech with the time of each word. */
import koffi from 'koffi';

const SYNCHRONOUS = 2;
const UTF8 = 1;
const LIST_END = 0;
const WORD = 1;

export interface Spoken {
  /** 16-bit mono at `rateHz`. */
  readonly samples: Int16Array;
  /** Of each word that is said: the offset of its first character and its time. */
  readonly words: readonly { readonly offset: number; readonly startMs: number }[];
}

type Synth = (
  ...args: [text: string, size: number, from: 0, kind: 1, to: 0, flags: number, id: null, user: null]
) => number;

export class Speaker {
  readonly rateHz: number;
  readonly #synth: Synth;
  #pieces: Int16Array[] = [];
  #words: { offset: number; startMs: number }[] = [];

  /** Throws where the library, or every one of the voices, is missing. */
  constructor(voices: readonly string[]) {
    const library = koffi.load('libespeak-ng.so.1');
    const Event = koffi.struct({
      type: 'int',
      unique: 'uint',
      position: 'int',
      length: 'int',
      audioMs: 'int',
      sample: 'int',
      user: 'void *',
      id: 'int64'
    });
    const Callback = koffi.proto('SpeakCallback', 'int', ['void *', 'int', 'void *']);
    const initialise = library.func('espeak_Initialize', 'int', ['int', 'int', 'str', 'int']) as (
      ...args: [number, number, null, number]
    ) => number;
    const setCallback = library.func('espeak_SetSynthCallback', 'void', [koffi.pointer(Callback)]) as (
      callback: unknown
    ) => void;
    const setVoice = library.func('espeak_SetVoiceByName', 'int', ['str']) as (name: string) => number;
    this.#synth = library.func('espeak_Synth', 'int', [
      ...['str', 'size_t', 'uint', 'int', 'uint', 'uint', 'void *', 'void *']
    ]) as Synth;
    this.rateHz = initialise(SYNCHRONOUS, 0, null, 0);
    if (this.rateHz <= 0) throw new Error('the speech synthesiser cannot start');
    const take = koffi.register((wave: unknown, count: number, events: unknown): number => {
      if (wave !== null && count > 0)
        this.#pieces.push(Int16Array.from(koffi.decode(wave, 'int16_t', count) as ArrayLike<number>));
      for (let at = 0; ; at++) {
        const event = koffi.decode(events, at * koffi.sizeof(Event), Event) as {
          type: number;
          position: number;
          length: number;
          audioMs: number;
        };
        if (event.type === LIST_END) return 0;
        // One without length stands for the end of a sentence.
        if (event.type === WORD && event.length > 0)
          this.#words.push({ offset: event.position - 1, startMs: event.audioMs });
      }
    }, koffi.pointer(Callback));
    setCallback(take);
    if (!voices.some((voice) => setVoice(voice) === 0))
      throw new Error(`the speech synthesiser has no voice for ${voices[0]}`);
  }

  speak(text: string): Spoken {
    this.#pieces = [];
    this.#words = [];
    this.#synth(text, Buffer.byteLength(text) + 1, 0, 1, 0, UTF8, null, null);
    const samples = new Int16Array(this.#pieces.reduce((sum, piece) => sum + piece.length, 0));
    let at = 0;
    for (const piece of this.#pieces) {
      samples.set(piece, at);
      at += piece.length;
    }
    return { samples, words: this.#words };
  }
}
