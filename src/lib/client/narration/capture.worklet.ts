/** In the audio thread: what a microphone brings, as 16-bit mono pieces of a tenth of a second. */

// TypeScript's libraries do not know the scope of worklets.
declare abstract class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void;

const PIECE_SAMPLES = 4800;

class Capture extends AudioWorkletProcessor {
  #piece = new Int16Array(PIECE_SAMPLES);
  #filled = 0;

  constructor() {
    super();
    // Asked for what there is of a piece: an empty message behind it says that it was the last.
    this.port.onmessage = () => {
      this.#send();
      this.port.postMessage(null);
    };
  }

  process([input]: readonly (readonly Float32Array[])[]): boolean {
    const channels = input ?? [];
    const length = channels[0]?.length ?? 0;
    for (let at = 0; at < length; at++) {
      let sum = 0;
      for (const channel of channels) sum += channel[at]!;
      const sample = Math.round((sum / channels.length) * 32_768);
      this.#piece[this.#filled++] = Math.max(-32_768, Math.min(32_767, sample));
      if (this.#filled === PIECE_SAMPLES) this.#send();
    }
    return true;
  }

  #send(): void {
    if (this.#filled === 0) return;
    const piece = this.#piece.slice(0, this.#filled);
    this.#filled = 0;
    this.port.postMessage(piece, [piece.buffer]);
  }
}

registerProcessor('capture', Capture);
