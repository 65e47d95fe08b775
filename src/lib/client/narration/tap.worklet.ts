/** In the audio thread: what a microphone brings, as mono stretches of a fiftieth of a second. */

// TypeScript's libraries do not know the scope of worklets.
declare abstract class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void;

const BLOCK_SAMPLES = 960;

class Tap extends AudioWorkletProcessor {
  #block = new Float32Array(BLOCK_SAMPLES);
  #filled = 0;

  process([input]: readonly (readonly Float32Array[])[]): boolean {
    const channels = input ?? [];
    const length = channels[0]?.length ?? 0;
    for (let at = 0; at < length; at++) {
      let sum = 0;
      for (const channel of channels) sum += channel[at]!;
      this.#block[this.#filled++] = sum / channels.length;
      if (this.#filled === BLOCK_SAMPLES) this.#send();
    }
    return true;
  }

  #send(): void {
    const block = this.#block;
    this.#block = new Float32Array(BLOCK_SAMPLES);
    this.#filled = 0;
    this.port.postMessage(block, [block.buffer]);
  }
}

registerProcessor('tap', Tap);
