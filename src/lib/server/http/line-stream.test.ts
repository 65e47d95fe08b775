import { afterEach, describe, expect, test, vi } from 'vitest';
import { ApiProblem, INTERNAL } from '../problem';
import { lineStream, NDJSON } from './line-stream';

afterEach(() => void vi.restoreAllMocks());

const linesOf = async (response: Response): Promise<unknown[]> =>
  (await response.text())
    .split('\n')
    .filter((line) => line !== '')
    .map((line) => JSON.parse(line) as unknown);

describe('an answer in lines', () => {
  test('has a line for each step, and the result as the last', async () => {
    const response = lineStream(async (write) => {
      write({ progress: 0.5 });
      await Promise.resolve();
      write({ readings: ['escapement'] });
    });
    expect(response.headers.get('content-type')).toBe(NDJSON);
    expect(await linesOf(response)).toEqual([{ progress: 0.5 }, { readings: ['escapement'] }]);
  });

  test('ends with what went wrong; the inside of the server is not told', async () => {
    const told = lineStream(() => Promise.reject(new ApiProblem(503, 'engine_unavailable', 'No recogniser.')));
    expect(await linesOf(told)).toEqual([{ error: { code: 'engine_unavailable', message: 'No recogniser.' } }]);
    const log = vi.spyOn(console, 'error').mockReturnValue();
    const broken = lineStream(() => Promise.reject(new TypeError('/secret/place')));
    expect(await linesOf(broken)).toEqual([{ error: { code: 'internal', message: INTERNAL } }]);
    expect(log).toHaveBeenCalledOnce();
  });

  test('tells the work when the caller has gone, and writes no more', async () => {
    let signal: AbortSignal | undefined;
    let write: ((value: unknown) => void) | undefined;
    const response = lineStream((writing, gone) => {
      [write, signal] = [writing, gone];
      writing({ progress: 0 });
      return new Promise(() => undefined);
    });
    const reader = response.body!.getReader();
    await reader.read();
    await reader.cancel();
    expect(signal?.aborted).toBe(true);
    expect(() => write?.({ progress: 1 })).not.toThrow();
  });
});
