import { expect, test } from 'vitest';
import { EventStream, type NumberedEvent } from './events';

const about = (recordingId: string) => ({ name: 'recordings' as const, data: { recordingId } });

test('who comes back is told what was missed, in order, and nothing twice', () => {
  const stream = new EventStream();
  const heard: NumberedEvent[] = [];
  const stop = stream.listen((event) => heard.push(event));
  for (const id of ['a', 'b', 'c', 'd']) stream.send(about(id));
  stop();
  stream.send(about('e'));
  expect(heard.map(({ event }) => event.data)).toEqual(['a', 'b', 'c', 'd'].map((recordingId) => ({ recordingId })));
  expect(stream.since(heard[1]!.id)!.map(({ event }) => event.data)).toEqual(
    ['c', 'd', 'e'].map((recordingId) => ({ recordingId }))
  );
  expect(stream.since(stream.since(heard[3]!.id)![0]!.id)).toEqual([]);
});

test('what was forgotten, or numbered by a former start of the server, cannot be known', () => {
  const stream = new EventStream();
  const ids: string[] = [];
  stream.listen(({ id }) => ids.push(id));
  for (let count = 0; count < 2100; count++) stream.send(about('a'));
  expect(stream.since(ids[0]!)).toBeNull();
  expect(stream.since(ids[2000]!)).toHaveLength(99);
  expect(new EventStream().since(ids[2000]!)).toBeNull();
});
