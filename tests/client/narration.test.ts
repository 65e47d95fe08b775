import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { ServerProblem } from '../../src/lib/client/api';
import { Delivery, type DeliveryState } from '../../src/lib/client/narration/delivery';
import { joinPieces, PiecesInMemory, type Piece } from '../../src/lib/client/narration/pieces';

/** Bytes that say where they stand. */
const sound = (from: number, length: number): Uint8Array<ArrayBuffer> =>
  Uint8Array.from({ length }, (_, at) => (from + at) % 251);

describe('pieces', () => {
  test('are joined from any byte on, as far as they hang together', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 20 }),
        fc.nat(400),
        fc.integer({ min: 1, max: 200 }),
        fc.nat(20),
        (lengths, from, most, hole) => {
          let at = 0;
          const pieces = lengths.map((length): Piece => {
            const piece = { offsetBytes: at, bytes: sound(at, length) };
            at += length;
            return piece;
          });
          const left = pieces.filter((_, place) => place !== hole);
          const joined = joinPieces(left, from, most);
          const first = left.find((piece) => piece.offsetBytes + piece.bytes.length > from);
          expect(joined === null).toBe(first === undefined);
          if (joined === null) return;
          expect(joined.offsetBytes).toBe(Math.max(from, first!.offsetBytes));
          expect(joined.bytes).toEqual(sound(joined.offsetBytes, joined.bytes.length));
          expect(joined.bytes.length).toBeLessThanOrEqual(most);
          const end =
            hole < lengths.length && pieces[hole]!.offsetBytes > joined.offsetBytes ? pieces[hole]!.offsetBytes : at;
          expect(joined.bytes.length).toBe(Math.min(most, end - joined.offsetBytes));
        }
      )
    );
  });
});

/** A server that stores, and does what the test says instead at the next requests. */
class Stored {
  bytes = new Uint8Array(0);
  next: ('away' | 'answer lost' | 'full' | 'over')[] = [];

  send = (offset: number, bytes: Uint8Array): Promise<number> => {
    const fate = this.next.shift();
    if (fate === 'away') return Promise.reject(new ServerProblem(0, 'unreachable', 'It cannot be reached.'));
    if (fate === 'full') return Promise.reject(new ServerProblem(507, 'disk_full', 'It is full.'));
    if (fate === 'over') return Promise.reject(new ServerProblem(404, 'unknown_narration', 'It is over.'));
    if (offset !== this.bytes.length)
      return Promise.reject(
        new ServerProblem(409, 'other_offset', 'It goes on elsewhere.', { storedBytes: this.bytes.length })
      );
    this.bytes = Uint8Array.from([...this.bytes, ...bytes]);
    return fate === 'answer lost'
      ? Promise.reject(new ServerProblem(0, 'unreachable', 'It cannot be reached.'))
      : Promise.resolve(this.bytes.length);
  };
}

async function deliver(server: Stored, store = new PiecesInMemory()) {
  const states: DeliveryState[] = [];
  const delivery = await Delivery.begin(
    {
      store,
      send: server.send,
      onState: (state) => states.push(state),
      wait: () => Promise.resolve()
    },
    server.bytes.length
  );
  return { delivery, states, store };
}

describe('the delivery of what is spoken', () => {
  test('brings all of it whatever happens on the way, once and in order', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.integer({ min: 1, max: 50 }), { minLength: 1, maxLength: 30 }),
        fc.array(fc.constantFrom('away' as const, 'answer lost' as const, 'full' as const), { maxLength: 12 }),
        async (lengths, fates) => {
          const server = new Stored();
          server.next = fates;
          const { delivery, store } = await deliver(server);
          let at = 0;
          for (const length of lengths) {
            delivery.add(sound(at, length));
            at += length;
            if (length % 3 === 0) await Promise.resolve();
          }
          await delivery.whole();
          expect(server.bytes).toEqual(sound(0, at));
          // What has arrived is forgotten.
          await expect.poll(() => store.from(0, 1000), { interval: 1 }).toBeNull();
          delivery.stop();
        }
      )
    );
  });

  test('says what holds it up, and that it goes on', async () => {
    const server = new Stored();
    server.next = ['away', 'full'];
    const { delivery, states } = await deliver(server);
    delivery.add(sound(0, 10));
    await delivery.whole();
    expect(states).toEqual(['away', 'full', 'fine']);
    delivery.stop();
  });

  test('goes on with what an earlier page kept', async () => {
    const server = new Stored();
    server.bytes = sound(0, 20);
    const store = new PiecesInMemory();
    await store.put({ offsetBytes: 10, bytes: sound(10, 15) });
    await store.put({ offsetBytes: 25, bytes: sound(25, 5) });
    const { delivery } = await deliver(server, store);
    expect(delivery.endBytes).toBe(30);
    delivery.add(sound(30, 10));
    await delivery.whole();
    expect(server.bytes).toEqual(sound(0, 40));
    delivery.stop();
  });

  test('keeps the clock where the server lost what nobody has any more', async () => {
    const server = new Stored();
    const { delivery } = await deliver(server);
    delivery.add(sound(0, 20));
    await delivery.whole();
    server.bytes = sound(0, 12);
    delivery.add(sound(20, 5));
    await delivery.whole();
    expect(server.bytes).toEqual(Uint8Array.from([...sound(0, 12), ...new Uint8Array(8), ...sound(20, 5)]));
    delivery.stop();
  });

  test('stops where another window goes on with it, or it was ended; what was not taken is kept', async () => {
    for (const fate of ['elsewhere', 'over'] as const) {
      const server = new Stored();
      const { delivery, states, store } = await deliver(server);
      if (fate === 'over') server.next = ['over'];
      else server.bytes = sound(0, 500);
      delivery.add(sound(0, 10));
      await expect.poll(() => states).toEqual([fate]);
      expect((await store.from(0, 100))!.bytes).toEqual(sound(0, 10));
    }
  });
});
