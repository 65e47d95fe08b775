/** A process that mixes the sound of a trim, as interleaved 32-bit floats on its standard output. */
import { once } from 'node:events';
import { z } from 'zod';
import { mixSound, planSound, Room, sourcesFor, trimSchema } from '$lib/core/trims';
import { HeardSoundReader } from '$lib/server/media/decode';
import { asked } from './worker';

const request = z.object({
  trim: trimSchema,
  sound: z.object({
    media: z.object({ path: z.string(), byItsOwnTimes: z.boolean() }),
    startSeconds: z.number(),
    rateHz: z.int().min(8000).max(192_000),
    channels: z.int().min(1).max(16)
  }),
  /** Where the room is heard alone, in recorded time. */
  room: z.array(z.object({ startMs: z.number(), endMs: z.number() }))
});

/** Mixed at once. */
const BLOCK_SECONDS = 0.5;

const { trim, sound, room: roomSpans } = request.parse(await asked());
const { channels, rateHz } = sound;
const { signal } = new AbortController();
const reader = new HeardSoundReader(sound, signal);
const plan = planSound(trim, rateHz);
const samples = (ms: number): number => Math.round((ms * rateHz) / 1000);
const isRoomHeard = plan.segments.some(({ plays }) => plays === 'room');
const stretches: Float32Array[][] = [];
if (isRoomHeard)
  for (const { startMs, endMs } of roomSpans) stretches.push(await reader.read(samples(startMs), samples(endMs)));
const room = new Room(stretches, channels);

function interleave(mixed: readonly Float32Array[]): Uint8Array {
  const [first] = mixed;
  const count = first?.length ?? 0;
  const woven = new Float32Array(count * channels);
  mixed.forEach((channel, offset) => {
    for (let at = 0, to = offset; at < count; at++, to += channels) woven[to] = channel[at]!;
  });
  return new Uint8Array(woven.buffer);
}

const step = Math.round(rateHz * BLOCK_SECONDS);
for (let from = 0; from < plan.length; from += step) {
  const to = Math.min(plan.length, from + step);
  const read = new Map<string, Float32Array[]>();
  for (const range of sourcesFor(plan, from, to))
    read.set(`${range.from} ${range.to}`, await reader.read(range.from, range.to));
  const mixed = mixSound(plan, { from, to }, (range) => read.get(`${range.from} ${range.to}`)!, { room, channels });
  if (!process.stdout.write(interleave(mixed))) await once(process.stdout, 'drain');
}
reader.close();
process.stdout.end(() => process.exit());
