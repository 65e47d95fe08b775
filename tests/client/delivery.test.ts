import { describe, expect, test, vi } from 'vitest';
import { problemFrom, ServerProblem } from '../../src/lib/client/api';
import { deliveryOf, waitAfter } from '../../src/lib/client/session/delivery';

const problem = (status: number, code = 'some_code'): ServerProblem =>
  new ServerProblem(status, code, `Because of ${status}.`);

describe('a change that is not taken', () => {
  test.each([
    [400, 'refused'],
    [404, 'refused'],
    [413, 'refused'],
    [422, 'refused'],
    [0, 'later'],
    [403, 'later'],
    [408, 'later'],
    [425, 'later'],
    [429, 'later'],
    [500, 'later'],
    [502, 'later'],
    [507, 'later'],
    [401, 'sign in']
  ])('answered with %i: %s', (status, outcome) => {
    const delivery = deliveryOf(problem(status), 0);
    expect(delivery.outcome).toBe(outcome);
    if ('reason' in delivery) expect(delivery.reason).toBe(`Because of ${status}.`);
  });

  test('made on an older revision is sent again on top of what others did', () => {
    expect(deliveryOf(problem(409, 'stale_revision'), 3)).toEqual({ outcome: 'stale' });
    expect(deliveryOf(problem(409, 'another_conflict'), 0).outcome).toBe('refused');
  });

  test('waits as long as the server says, and longer after each try in vain, up to half a minute', () => {
    const busy = problem(429);
    busy.retryAfterMs = 12_000;
    expect(deliveryOf(busy, 0)).toMatchObject({ waitMs: 12_000 });
    expect(deliveryOf(busy, 5)).toMatchObject({ waitMs: 30_000 });
    expect([0, 1, 2, 3, 4, 5, 50].map(waitAfter)).toEqual([1000, 2000, 4000, 8000, 16_000, 30_000, 30_000]);
  });

  test('for a fault of the page’s own is shown, and tried again', () => {
    const shown = vi.spyOn(console, 'error').mockReturnValue();
    const fault = new TypeError('x is not a function');
    expect(deliveryOf(fault, 0)).toMatchObject({ outcome: 'later', waitMs: 1000 });
    expect(shown).toHaveBeenCalledWith(fault);
    shown.mockRestore();
  });
});

describe('an answer that is an error', () => {
  test('of the server says its code and its words', () => {
    const told = problemFrom(422, { error: { code: 'bad_times', message: 'It ends before it starts.' } });
    expect([told.status, told.code, told.message]).toEqual([422, 'bad_times', 'It ends before it starts.']);
  });

  test.each([
    ['a page of a proxy', '<h1>Log in</h1>'],
    ['nothing', null],
    ['another shape', { error: 'no' }]
  ])('and is %s has its status alone', (_, body) => {
    const told = problemFrom(502, body);
    expect(told.status).toBe(502);
    expect(told.message).not.toBe('');
  });
});
