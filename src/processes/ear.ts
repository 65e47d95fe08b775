/** A process that hears with a model of the user's own, and dies alone where the library does. */
import { messageOf } from '$lib/core/message-of';
import { fromEar, toEar, type FromEar, type LoadedModel } from '$lib/server/recognisers/models/messages';
import { Ear } from '$lib/server/recognisers/models/native';
import { readSamples } from '$lib/server/recognisers/samples';

const FULL = 32_768;
const RATE_HZ = 16_000;

const say = (message: FromEar): void => void process.send?.(fromEar.parse(message));

function load(model: LoadedModel): Ear | null {
  try {
    const ear = new Ear(model);
    say({ type: 'ready' });
    return ear;
  } catch (error) {
    say({ type: 'unable', reason: messageOf(error) });
    return null;
  }
}

function hear(ear: Ear, samples: Float32Array): void {
  const { text, pieces, startsMs, logProbabilities } = ear.hear(samples);
  say({
    type: 'heard',
    read: { text, pieces: [...pieces], startsMs: [...startsMs], logProbabilities: [...logProbabilities] }
  });
}

let ear: Ear | null = null;
process.on('message', (raw) => {
  const message = toEar.parse(raw);
  if (message.type === 'load') ear = load(message.model);
  else if (ear === null) return;
  else if (message.type === 'probe')
    hear(
      ear,
      Float32Array.from({ length: RATE_HZ }, (_, at) => 0.1 * Math.sin((at * 2 * Math.PI * 220) / RATE_HZ))
    );
  else {
    const heard = ear;
    void readSamples(message.soundPath, message.startMs, message.endMs).then((samples) =>
      hear(
        heard,
        Float32Array.from(samples, (sample) => sample / FULL)
      )
    );
  }
});

// The server is gone: nobody is left to hear for.
process.on('disconnect', () => process.exit(0));
