import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { tempFolder } from '../testing/temp-database';
import { Child, failureOf } from './child';
import { openRegister } from './register';

const folder = tempFolder();
openRegister(folder);
const registered = (): string[] => readdirSync(join(folder, 'children'));

test('a tool that is not there ends with its reason, and throws nowhere', async () => {
  const { code, problem } = await Child.tool('no-such-tool', []).ended;
  expect(code).toBeNull();
  expect(problem?.message).toContain('ENOENT');
});

test('one that runs stands in the register until it has ended', async () => {
  const child = Child.tool('sleep', ['60']);
  expect(registered()).toHaveLength(1);
  child.end(new Error('enough'));
  const end = await child.ended;
  expect(end).toMatchObject({ signal: 'SIGKILL', problem: { message: 'enough' } });
  expect(failureOf('the tool', end).message).toBe('enough');
  expect(registered()).toEqual([]);
});

test('one that takes too long, or is aborted before or while it runs, is ended', async () => {
  expect((await Child.tool('sleep', ['60'], { longestMs: 50 }).ended).problem?.message).toContain('longer than');
  const reason = new Error('cancelled');
  expect((await Child.tool('sleep', ['60'], { signal: AbortSignal.abort(reason) }).ended).problem).toBe(reason);
  const stop = new AbortController();
  const { ended } = Child.tool('sleep', ['60'], { signal: stop.signal });
  stop.abort(reason);
  expect((await ended).problem).toBe(reason);
});

test('what it said last tells why it ended; a full disk is told as such', async () => {
  const end = await Child.tool('sh', ['-c', 'echo No space left on device >&2; exit 3']).ended;
  expect(end).toMatchObject({ code: 3, lastWords: 'No space left on device' });
  expect(failureOf('the tool', end)).toMatchObject({
    code: 'ENOSPC',
    message: expect.stringContaining('ended (3)') as unknown
  });
});

test('what it said before anybody read is there when it has ended', async () => {
  const child = Child.tool('sh', ['-c', 'head -c 50000 /dev/zero; echo said']);
  await child.ended;
  let said = '';
  for await (const part of child.stdout) said += String(part);
  expect(said).toHaveLength(50_005);
  expect(said.endsWith('said\n')).toBe(true);
});

test('the register ends only what is still the process that was noted', async () => {
  const child = Child.tool('sleep', ['60']);
  // As a server does that starts after this one was killed.
  openRegister(folder);
  expect((await child.ended).signal).toBe('SIGKILL');
  expect(registered()).toEqual([]);
});
