import fc from 'fast-check';
import { expect, test } from 'vitest';
import { anyTrim, RECORDED_MS } from '../testing/any-trim';
import { wholeMs } from '../time';
import { makeTrim, mapOf, resolveTrimCommands, type Trim } from '../trims';
import { copyPicture, type CopiedCut, type PicturePacket } from '.';

const FRAME_MS = 40;

/** Frames as they are coded: each group begins with a key frame; frames between two others come behind the later one. */
function packetsOf(groupFrames: number, between: number): PicturePacket[] {
  const frames = RECORDED_MS / FRAME_MS;
  const order: number[] = [];
  for (let group = 0; group < frames; group += groupFrames) {
    const end = Math.min(frames, group + groupFrames);
    order.push(group);
    for (let at = group + 1; at < end; at += between + 1) {
      const last = Math.min(end - 1, at + between);
      order.push(last);
      for (let frame = at; frame < last; frame++) order.push(frame);
    }
  }
  return order.map((frame, at) => ({
    shownMs: frame * FRAME_MS,
    decodedMs: (at - between) * FRAME_MS,
    isKey: frame % groupFrames === 0
  }));
}

/** What is shown at a trimmed time, of packets as a player takes them. */
function shownAt(
  { passages, delayMs }: CopiedCut,
  packets: readonly PicturePacket[],
  trimmedMs: number
): number | null {
  let startMs: number = delayMs;
  for (const { fromMs, untilDecodedMs, lengthMs } of passages) {
    if (trimmedMs < startMs + lengthMs) {
      const first = packets.findIndex(({ shownMs, isKey }) => isKey && shownMs === fromMs);
      const own = packets
        .slice(Math.max(0, first))
        .filter(({ decodedMs }) => untilDecodedMs === null || decodedMs! < untilDecodedMs);
      const times = own.map(({ shownMs }) => shownMs).filter((ms) => ms <= trimmedMs - startMs + fromMs);
      return times.length === 0 ? null : Math.max(...times);
    }
    startMs += lengthMs;
  }
  return null;
}

/** What is heard, with the recorded time of it. */
const heard = (trim: Pick<Trim, 'pieces'>) =>
  mapOf(trim).laid.flatMap(({ plays, fromMs, startMs, endMs }) =>
    plays === 'room' ? [] : [{ plays, fromMs, lengthMs: endMs - startMs }]
  );

test('a copied picture is that of what is heard, and only the room is heard beyond it', () => {
  let copiedCount = 0;
  fc.assert(
    fc.property(anyTrim, fc.integer({ min: 1, max: 40 }), fc.integer({ min: 0, max: 3 }), (trim, group, between) => {
      const packets = packetsOf(group, between);
      const copied = copyPicture(trim, packets);
      if (!('passages' in copied)) {
        expect(copied.atMs).not.toEqual([]);
        return;
      }
      copiedCount++;
      expect(heard(copied.trim)).toEqual(heard(trim));
      const { laid, lengthMs } = mapOf(copied.trim);
      expect(copied.delayMs + copied.passages.reduce((sum, one) => sum + one.lengthMs, 0)).toBe(lengthMs);
      for (const { plays, fromMs, startMs, endMs } of laid) {
        if (plays === 'room' || fromMs === null) continue;
        for (const atMs of [startMs, Math.floor((startMs + endMs) / 2), endMs - 1]) {
          const recordedMs = fromMs + atMs - startMs;
          expect(shownAt(copied, packets, atMs), `at ${atMs}`).toBe(Math.floor(recordedMs / FRAME_MS) * FRAME_MS);
        }
      }
    })
  );
  expect(copiedCount).toBeGreaterThan(10);
});

test('it begins at the key frame before, and is refused where none is in what is taken out', () => {
  const whole = makeTrim({ id: 't', recordingId: 'r', title: 'x', recordedMs: RECORDED_MS, pieceId: 'p' });
  const without = (fromMs: number, toMs: number): Trim => {
    const spans = [{ fromMs: wholeMs(fromMs), toMs: wholeMs(toMs) }];
    const made = resolveTrimCommands(whole, [{ type: 'takeOut', spans, newId: 'n' }]);
    if (!made.ok) throw new Error(made.problem.message);
    return made.value;
  };
  const packets = packetsOf(25, 2);
  expect(copyPicture(without(1210, 3150), packets)).toMatchObject({
    passages: [
      { fromMs: 0, lengthMs: 1280 },
      { fromMs: 3000, untilDecodedMs: null, lengthMs: 7000 }
    ],
    ...{ delayMs: 0, mostEarlyMs: 150, mostLateMs: 70, earlyCount: 1 }
  });
  expect(copyPicture(without(1210, 1900), packets)).toEqual({ atMs: [1210] });
});
