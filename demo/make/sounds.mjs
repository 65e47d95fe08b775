/** The sounds of the tower, made from sines: samples of one channel, -1 to 1. */

export const RATE_HZ = 16_000;

/** A bell: partials of a struck bell (hum, prime, tierce, quint, nominal), each fading at its own pace. */
export function bell(seconds, baseHz, level) {
  const partials = [
    [0.5, 0.5, 1.1],
    [1, 1, 1.6],
    [1.19, 0.8, 2.2],
    [1.5, 0.4, 2.6],
    [2, 0.9, 3.2],
    [2.74, 0.3, 5]
  ];
  return Float32Array.from({ length: Math.round(seconds * RATE_HZ) }, (_, at) => {
    const t = at / RATE_HZ;
    return (
      level *
      partials.reduce(
        (sum, [ratio, part, fade]) => sum + part * Math.exp(-fade * t) * Math.sin(2 * Math.PI * baseHz * ratio * t),
        0
      ) *
      0.25
    );
  });
}

/** The quarters: four notes, twice; the hour: eleven strokes of the low bell, the first few of which are kept. */
export function strike(which) {
  const notes = which === 'quarters' ? [622, 554, 494, 415, 494, 554] : [196, 196, 196];
  const gap = which === 'quarters' ? 0.62 : 1.7;
  const out = new Float32Array(Math.round((notes.length * gap + 1.6) * RATE_HZ));
  notes.forEach((hz, at) =>
    mixInto(out, bell(which === 'quarters' ? 1.6 : 3, hz, 0.6), Math.round(at * gap * RATE_HZ))
  );
  return out;
}

/** A tick every second: a short burst of fading noise, low under what is said. */
export function ticking(length, level) {
  const out = new Float32Array(length);
  let seed = 7;
  const noise = () => {
    seed = (seed * 16_807) % 2_147_483_647;
    return seed / 1_073_741_823.5 - 1;
  };
  for (let start = 0, n = 0; start < length; start += RATE_HZ, n++) {
    for (let at = 0; at < 400 && start + at < length; at++) {
      out[start + at] =
        level * Math.exp(-at / 60) * (noise() * 0.6 + Math.sin((2 * Math.PI * (n % 2 ? 1500 : 1900) * at) / RATE_HZ));
    }
  }
  return out;
}

export function mixInto(out, samples, from) {
  for (let at = 0; at < samples.length && from + at < out.length; at++) out[from + at] += samples[at];
}

/** 16-bit mono WAV. */
export function formatWav(samples, rateHz = RATE_HZ) {
  const bytes = Buffer.alloc(44 + samples.length * 2);
  bytes.write('RIFF', 0);
  bytes.writeUInt32LE(36 + samples.length * 2, 4);
  bytes.write('WAVEfmt ', 8);
  bytes.writeUInt32LE(16, 16);
  bytes.writeUInt16LE(1, 20);
  bytes.writeUInt16LE(1, 22);
  bytes.writeUInt32LE(rateHz, 24);
  bytes.writeUInt32LE(rateHz * 2, 28);
  bytes.writeUInt16LE(2, 32);
  bytes.writeUInt16LE(16, 34);
  bytes.write('data', 36);
  bytes.writeUInt32LE(samples.length * 2, 40);
  samples.forEach((sample, at) =>
    bytes.writeInt16LE(Math.round(Math.max(-1, Math.min(1, sample)) * 32_767), 44 + at * 2)
  );
  return bytes;
}
