/** An engine process: loads the recogniser, hears the chunks it is sent, and dies alone if the library does. */
import { toSpan } from '$lib/core/time';
import { fromEngine, toEngine, type FromEngine, type ToEngine } from '$lib/server/recognisers/pocketsphinx/messages';
import type { HeardWord } from '$lib/core/hearing';
import { messageOf } from '$lib/core/message-of';
import { Listener } from '$lib/server/recognisers/pocketsphinx/listener';
import { Decoder } from '$lib/server/recognisers/pocketsphinx/native';
import { readSamples } from '$lib/server/recognisers/samples';

const say = (message: FromEngine): void => void process.send?.(fromEngine.parse(message));

function load(asked: Extract<ToEngine, { type: 'load' }>): Decoder | null {
  try {
    const decoder = new Decoder(asked.purpose, asked.expected);
    say({ type: 'ready' });
    return decoder;
  } catch (error) {
    say({
      type: 'unable',
      reason: `The recogniser is not on this machine: ${messageOf(error)}`
    });
    return null;
  }
}

async function hear(decoder: Decoder, asked: Extract<ToEngine, { type: 'hear' }>): Promise<void> {
  const { position, soundPath, startMs, endMs } = asked;
  const samples = await readSamples(soundPath, startMs, endMs);
  const inRecording = (words: readonly HeardWord[]) =>
    words.map((word) => ({
      ...word,
      alternatives: [...word.alternatives],
      ...toSpan({ startMs: word.startMs + startMs, endMs: word.endMs + startMs })
    }));
  const words = decoder.hear(samples, (heardMs) => say({ type: 'progress', position, heardMs }));
  const others = decoder.others(asked.others);
  say({
    type: 'heard',
    position,
    words: inRecording(words),
    others: others.map((other) => ({ ...other, words: inRecording(other.words) }))
  });
}

async function fit(decoder: Decoder, asked: Extract<ToEngine, { type: 'fit' }>): Promise<void> {
  const { position, soundPath, startMs, endMs } = asked;
  const times = decoder.fit(await readSamples(soundPath, startMs, endMs), asked.words);
  say({
    type: 'fitted',
    position,
    times:
      times?.map((time) => time && toSpan({ startMs: time.startMs + startMs, endMs: time.endMs + startMs })) ?? null
  });
}

let listener: Listener | null = null;

async function listen(decoder: Decoder, { soundPath, fromMs, toMs }: Extract<ToEngine, { type: 'listen' }>) {
  listener ??= new Listener(decoder, fromMs);
  say({ type: 'listened', ...(await listener.hearTo(soundPath, toMs)) });
}

let decoder: Decoder | null = null;
process.on('message', (raw) => {
  const message = toEngine.parse(raw);
  if (message.type === 'load') decoder = load(message);
  else if (decoder === null) return;
  else if (message.type === 'hear') void hear(decoder, message);
  else if (message.type === 'listen') void listen(decoder, message);
  else void fit(decoder, message);
});

// The server is gone: nobody is left to hear for.
process.on('disconnect', () => process.exit(0));
