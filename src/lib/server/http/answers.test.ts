import { afterEach, describe, expect, test, vi } from 'vitest';
import { z } from 'zod';
import { ApiProblem } from '../problem';
import { answer, readJson } from './answers';

const post = (body: string | ReadableStream<Uint8Array>, headers: Record<string, string> = {}): Request =>
  new Request('http://127.0.0.1/', { method: 'POST', body, headers, duplex: 'half' } as RequestInit);
const told = async (
  work: () => Promise<Response> | Response
): Promise<{ status: number; code: string; text: string }> => {
  const response = await answer(work);
  const text = await response.text();
  return { status: response.status, code: (JSON.parse(text) as { error: { code: string } }).error.code, text };
};
const schema = z.object({ startMs: z.int().min(0) });

afterEach(() => void vi.restoreAllMocks());

describe('an answer', () => {
  test('tells a problem with its status, code and details', async () => {
    expect(await told(() => Promise.reject(new ApiProblem(409, 'stale_revision', 'Old.', { revision: 3 })))).toEqual({
      status: 409,
      code: 'stale_revision',
      text: '{"error":{"code":"stale_revision","message":"Old.","details":{"revision":3}}}'
    });
  });

  test.each(['SQLITE_FULL', 'ENOSPC'])('says that the disk is full: %s', async (code) => {
    const work = () => Promise.reject(Object.assign(new Error('no room at /secret/place'), { code }));
    expect(await told(work)).toMatchObject({ status: 507, code: 'disk_full' });
  });

  test('says nothing of the inside where something broke, and logs it', async () => {
    const log = vi.spyOn(console, 'error').mockReturnValue();
    const broken = await told(() => {
      throw new TypeError('/secret/place is not a function');
    });
    expect(broken).toMatchObject({ status: 500, code: 'internal' });
    expect(broken.text).not.toContain('secret');
    expect(log).toHaveBeenCalledOnce();
  });
});

describe('a body', () => {
  test('is read as the schema has it', async () => {
    expect(await readJson(post('{"startMs":5}'), schema)).toEqual({ startMs: 5 });
  });

  test('that is no JSON, or another shape, is told apart, and the field is named', async () => {
    await expect(readJson(post('{'), schema)).rejects.toMatchObject({ status: 400, code: 'not_json' });
    await expect(readJson(post('{"startMs":-1}'), schema)).rejects.toMatchObject({
      status: 400,
      code: 'bad_request',
      message: expect.stringContaining('startMs') as string,
      details: [expect.objectContaining({ path: 'startMs' })]
    });
  });

  test('that is too large is refused, whether it says so before or not', async () => {
    await expect(readJson(post('1', { 'content-length': '40000000' }), schema)).rejects.toMatchObject({ status: 413 });
    let sent = 0;
    const endless = new ReadableStream<Uint8Array>({
      pull: (controller) => {
        sent += 1_000_000;
        controller.enqueue(new Uint8Array(1_000_000).fill(32));
      }
    });
    await expect(readJson(post(endless), schema)).rejects.toMatchObject({ status: 413 });
    expect(sent).toBeLessThan(40_000_000);
  });
});
