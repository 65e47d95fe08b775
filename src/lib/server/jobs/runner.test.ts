import { describe, expect, test, vi } from 'vitest';
import { EventStream } from '../events';
import { ApiProblem } from '../problem';
import { JobStore } from '../store/jobs';
import { putRecording, tempDatabase } from '../testing/temp-database';
import { z } from 'zod';
import { jobAnswer } from './answer';
import { jobKind, type JobContext, type JobKind } from './kind';
import { JobRunner } from './runner';

type Run = (context: JobContext) => Promise<object>;
const kindOf = (kind: string, run: Run, more: Partial<JobKind> = {}): JobKind =>
  jobKind({ kind, params: z.unknown(), result: z.looseObject({}), concurrency: 1, run, ...more });

/** A runner whose jobs wait until the test lets them go. */
function bench(runs: Partial<Record<'prepare' | 'hear', Run>> = {}, more: Partial<JobKind> = {}) {
  const db = tempDatabase();
  putRecording(db);
  const store = new JobStore(db);
  const events = new EventStream();
  const started: JobContext[] = [];
  const doors = new Map<string, (result: object) => void>();
  const wait: Run = (context) => {
    started.push(context);
    return new Promise((resolve) => doors.set(context.job.id, resolve));
  };
  const runner = new JobRunner(store, events, [
    kindOf('prepare', runs.prepare ?? wait, more),
    kindOf('hear', runs.hear ?? wait, more)
  ]);
  return { store, events, runner, started, finish: (id: string, result = {}) => doors.get(id)!(result) };
}

describe('jobs', () => {
  test('of one kind run one behind the other, of two kinds beside each other', async () => {
    const { runner, started, finish } = bench();
    const [a, b, c] = [runner.add('hear', 'r', {}), runner.add('hear', 'r', {}), runner.add('prepare', 'r', {})];
    expect(started.map(({ job }) => job.id)).toEqual([a.id, c.id]);
    expect(runner.get(b.id).state).toBe('queued');
    finish(a.id, { trackId: 't' });
    await runner.ended(a.id);
    expect(jobAnswer(runner.get(a.id)).result).toEqual({ trackId: 't' });
    expect((await runner.ended(a.id)).state).toBe('done');
    await vi.waitFor(() => expect(started.map(({ job }) => job.id)).toEqual([a.id, c.id, b.id]));
  });

  test('tell their stage and progress, and what came of them', () => {
    const { runner, started, events } = bench();
    const told: unknown[] = [];
    events.listen(({ event }) => told.push(event.data));
    const job = runner.add('prepare', 'r', { any: 1 });
    started[0]!.tell('drawing', 0.25);
    started[0]!.tell('drawing', 7);
    started[0]!.tell('finding speech', 2);
    expect(runner.get(job.id)).toMatchObject({ stage: 'finding speech', progress: 1, params: { any: 1 } });
    // Within a stage they are told a few times a second, not at each step.
    expect(told.map((data) => (data as { job: { stage: string } }).job.stage)).toEqual([
      'waiting',
      'drawing',
      'finding speech'
    ]);
    expect(jobAnswer(runner.get(job.id))).toEqual({
      id: job.id,
      kind: 'prepare',
      recordingId: 'r',
      state: 'running',
      progress: 1,
      stage: 'finding speech'
    });
  });

  test('on a full disk fail with what to do, also where not even that can be written down', async () => {
    const full = Object.assign(new Error('database or disk is full'), { code: 'SQLITE_FULL' });
    const inThread = new Error('the thread could not go on', { cause: Object.assign(new Error(), { code: 'ENOSPC' }) });
    const error = vi.spyOn(console, 'error').mockImplementation(() => undefined);
    const one = bench({ hear: () => Promise.reject(inThread) });
    const told = await one.runner.ended(one.runner.add('hear', 'r', {}).id);
    expect(told.state).toBe('failed');
    expect(told.error).toContain('disk of the data folder is full');

    const other = bench({ hear: () => Promise.reject(full) });
    const update = other.store.update.bind(other.store);
    vi.spyOn(other.store, 'update').mockImplementation((id, change) => {
      if (change.state === 'failed') throw full;
      update(id, change);
    });
    const job = await other.runner.ended(other.runner.add('hear', 'r', {}).id);
    expect(job.state).toBe('running');
    error.mockRestore();
  });

  test('that fail say why, and the next one runs', async () => {
    const { runner, started } = bench({
      hear: () => Promise.reject(new ApiProblem(422, 'no_speech', 'There is no speech in it.'))
    });
    const job = runner.add('hear', 'r', {});
    expect(await runner.ended(job.id)).toMatchObject({ state: 'failed', error: 'There is no speech in it.' });
    const next = runner.add('prepare', 'r', {});
    expect(started.map(({ job: one }) => one.id)).toEqual([next.id]);
  });

  test('are cancelled while they wait and while they run; what they do afterwards counts no more', async () => {
    const { runner, started, finish } = bench();
    const running = runner.add('hear', 'r', {});
    const waiting = runner.add('hear', 'r', {});
    runner.cancel(waiting.id);
    expect(runner.get(waiting.id).state).toBe('cancelled');
    runner.cancel(running.id);
    expect(started[0]!.signal.aborted).toBe(true);
    expect((await runner.ended(running.id)).state).toBe('cancelled');
    started[0]!.tell('late', 1);
    finish(running.id);
    const next = runner.add('hear', 'r', {});
    await vi.waitFor(() => expect(started.map(({ job }) => job.id)).toEqual([running.id, next.id]));
    expect(runner.get(running.id)).toMatchObject({ state: 'cancelled', stage: 'cancelled' });
    expect(runner.cancel(running.id).state).toBe('cancelled');
  });

  test('that a former server left are taken up again, oldest first', () => {
    const { store, events, runner, started } = bench();
    runner.add('hear', 'r', { kept: true });
    runner.add('hear', 'r', {});
    runner.close();
    const taken: JobContext[] = [];
    const next = new JobRunner(store, events, [
      kindOf('hear', (context) => {
        taken.push(context);
        return new Promise(() => undefined);
      })
    ]);
    next.resume();
    expect(taken.map(({ job }) => job.id)).toEqual([started[0]!.job.id]);
    expect(taken[0]!.job.params).toEqual({ kept: true });
  });

  test('keep the results of their parts', () => {
    const { store, runner } = bench();
    const job = runner.add('hear', 'r', {});
    store.setChunks(job.id, [
      { startMs: 0, endMs: 5 },
      { startMs: 5, endMs: 9 }
    ]);
    store.setChunkResult(job.id, 1, '[1]');
    expect(store.chunksOf(job.id)).toEqual([
      { position: 0, startMs: 0, endMs: 5, result: null, tries: 0 },
      { position: 1, startMs: 5, endMs: 9, result: '[1]', tries: 0 }
    ]);
  });

  test('that servers ended over twice are failed with the reason, and what waits for them is told', () => {
    const givenUp: string[] = [];
    const { store, events, runner } = bench({}, { onGivenUp: (_, why) => givenUp.push(why) });
    const job = runner.add('prepare', 'r', {});
    // The server is gone without a word, and so is the next.
    const again = (): JobRunner => {
      const next = new JobRunner(store, events, [
        kindOf('prepare', () => new Promise(() => undefined), { onGivenUp: (_, why) => givenUp.push(why) })
      ]);
      next.resume();
      return next;
    };
    expect(again().get(job.id)).toMatchObject({ state: 'running', crashes: 1 });
    expect(again().get(job.id)).toMatchObject({
      state: 'failed',
      error: expect.stringContaining('ended 2 times') as unknown
    });
    expect(givenUp).toHaveLength(1);
    // One that the server ended in peace has crashed nothing.
    const other = again();
    const peaceful = other.add('prepare', 'r', {});
    other.close();
    expect(again().get(peaceful.id)).toMatchObject({ state: 'running', crashes: 0 });
  });

  test('have chunks that are leased: each to one, again when its time is over or it is given back', () => {
    const { store, runner } = bench();
    const { id } = runner.add('hear', 'r', {});
    store.setChunks(id, [
      { startMs: 0, endMs: 5 },
      { startMs: 5, endMs: 9 }
    ]);
    const lease = (owner: string, nowMs: number) => store.lease(id, { owner, nowMs, forMs: 100 })?.position ?? null;
    expect([lease('one', 1), lease('other', 1), lease('one', 50)]).toEqual([0, 1, null]);
    store.setChunkResult(id, 0, '[]');
    expect([lease('one', 200), lease('one', 200)]).toEqual([1, null]);
    store.release(id, 'one', 1);
    expect(store.lease(id, { owner: 'other', nowMs: 201, forMs: 100 })).toMatchObject({ position: 1, tries: 3 });
  });

  test('of a kind run as many at once as it may', async () => {
    const { runner, started } = bench({}, { concurrency: 2 });
    for (let count = 0; count < 3; count++) runner.add('hear', 'r', {});
    expect(started).toHaveLength(2);
    runner.cancel(started[0]!.job.id);
    await runner.ended(started[0]!.job.id);
  });
});
