import { beforeEach, expect, test, vi } from 'vitest';
import type { Job, Recording } from '../../src/lib/client/api';
import type { ServerListener } from '../../src/lib/client/events';

let listener: ServerListener = {};
const recordings: Pick<Recording, 'id' | 'title' | 'jobId'>[] = [];
const jobs = new Map<string, Job>();
vi.mock('../../src/lib/client/events', () => ({
  listenToServer: (one: ServerListener) => {
    listener = one;
    return () => (listener = {});
  }
}));
let isAway = false;
vi.mock('../../src/lib/client/api', () => {
  class ServerProblem extends Error {}
  return {
    ServerProblem,
    api: {
      unfinishedJobs: () => {
        const open = [...jobs.values()].filter(({ state }) => state === 'queued' || state === 'running');
        return isAway ? Promise.reject(new ServerProblem('away')) : Promise.resolve(open);
      },
      recording: (id: string) => {
        const found = recordings.find((one) => one.id === id);
        return found === undefined ? Promise.reject(new Error('gone')) : Promise.resolve(found);
      }
    }
  };
});
const { work } = await import('../../src/lib/client/work.svelte');

const job = (id: string, more: Partial<Job> = {}): Job => ({
  ...{ id, kind: 'hear', recordingId: 'r1', state: 'running', progress: 0.25, stage: 'hearing' },
  ...more
});
const shown = (): string[] => work.list.map(({ job: { id, state }, title }) => `${id} ${state} ${title}`);
const settled = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

beforeEach(() => {
  for (const { job: one } of work.list) work.dismiss(one.id);
  recordings.splice(0, recordings.length, { id: 'r1', title: 'Merrowby clock', jobId: 'j1' });
  jobs.clear();
  jobs.set('j1', job('j1'));
});

test('what goes on already is looked up, followed to its end, and put away', async () => {
  const stop = work.follow();
  await settled();
  expect(shown()).toEqual(['j1 running Merrowby clock']);
  listener.onJob?.(job('j1', { progress: 0.75 }));
  expect(work.unfinished.map((one) => one.job.progress)).toEqual([0.75]);
  listener.onJob?.(job('j1', { state: 'done', progress: 1 }));
  expect([shown(), work.unfinished]).toEqual([['j1 done Merrowby clock'], []]);
  work.dismiss('j1');
  expect(shown()).toEqual([]);
  stop();
});

test('what begins later has its recording’s name; preparing and what was cancelled are no news', async () => {
  work.follow();
  await settled();
  recordings.push({ id: 'r2', title: 'A tower clock' });
  listener.onJob?.(job('j2', { recordingId: 'r2', state: 'queued' }));
  listener.onJob?.(job('j3', { kind: 'prepare', recordingId: 'r2' }));
  listener.onJob?.(job('j4', { state: 'failed', error: 'No speech.' }));
  await settled();
  expect(shown()).toEqual(['j1 running Merrowby clock', 'j2 queued A tower clock']);
  listener.onJob?.(job('j2', { recordingId: 'r2', state: 'cancelled' }));
  expect(shown()).toEqual(['j1 running Merrowby clock']);
});

test('after a break what has ended meanwhile is no longer going on', async () => {
  work.follow();
  await settled();
  jobs.set('j1', job('j1', { state: 'done', progress: 1 }));
  listener.onReconnect?.();
  await settled();
  expect(work.unfinished).toEqual([]);
});

test('where the server is away it is looked up when it is back, and the console is not troubled', async () => {
  const log = vi.spyOn(console, 'error').mockReturnValue();
  isAway = true;
  work.follow();
  await settled();
  expect([shown(), log.mock.calls]).toEqual([[], []]);
  isAway = false;
  listener.onReconnect?.();
  await settled();
  expect(shown()).toEqual(['j1 running Merrowby clock']);
});
