/** The built server as a process of its own, asked by real requests, and media made on the spot. */
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

/** Tests and benches run from the project's folder. */
export const BUILD = resolve('build');

export interface Server extends Started {
  readonly folder: string;
}

const folders: string[] = [];
export function newFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'vinetap-server-'));
  folders.push(folder);
  return folder;
}
export function removeFolders(): void {
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
}

/** What the process says until it ends, for servers that must not start. */
export async function runToEnd(env: Record<string, string>): Promise<{ code: number | null; output: string }> {
  const child = spawn(process.execPath, [BUILD], { env: { PATH: process.env.PATH ?? '', ...env } });
  let output = '';
  child.stdout.on('data', (text: Buffer) => (output += text.toString()));
  child.stderr.on('data', (text: Buffer) => (output += text.toString()));
  const code = await new Promise<number | null>((done) => child.once('close', done));
  return { code, output };
}

interface Started {
  readonly url: string;
  readonly pid: number;
  readonly log: () => string;
  /** Ends the process and waits until it is gone. */
  stop(signal?: NodeJS.Signals): Promise<void>;
}

/** Starts a built program and waits until it says where it is. */
async function startProgram(path: string, env: Record<string, string>, cwd?: string): Promise<Started> {
  const child: ChildProcess = spawn(process.execPath, [path], {
    ...(cwd !== undefined && { cwd }),
    env: { PATH: process.env.PATH ?? '', ...env }
  });
  let log = '';
  const gone = new Promise<void>((done) => child.once('close', () => done()));
  const url = await new Promise<string>((done, fail) => {
    const take = (text: Buffer): void => {
      log += text.toString();
      const found = /http:\/\/\S+/.exec(log);
      if (found !== null) done(found[0].replace('0.0.0.0', '127.0.0.1'));
    };
    child.stdout?.on('data', take);
    child.stderr?.on('data', take);
    child.once('close', () => fail(new Error(`${path} ended: ${log}`)));
  });
  return {
    url,
    pid: child.pid!,
    log: () => log,
    stop: async (signal = 'SIGTERM') => {
      child.kill(signal);
      await gone;
    }
  };
}

export async function startServer(
  folder = newFolder(),
  env: Record<string, string> = {},
  cwd = folder
): Promise<Server> {
  return { ...(await startProgram(BUILD, { PORT: '0', VINETAP_DATA: folder, ...env }, cwd)), folder };
}

/** The metered service as a process of its own, in a folder of its own. */
export type Service = Pick<Started, 'url' | 'stop'>;
export const startService = (folder: string, port = '0'): Promise<Service> =>
  startProgram(join(BUILD, 'metered-service.js'), {
    VINETAP_SERVICE_PORT: port,
    VINETAP_SERVICE_DATA: folder,
    VINETAP_SERVICE_ANSWERS: 'stand-ins/metered-service/answers'
  });

/** The video site as a process of its own, with the videos of a folder. */
export const startSite = (folder: string, media: string, port = '0'): Promise<Service> =>
  startProgram(join(BUILD, 'video-site.js'), {
    VINETAP_SITE_PORT: port,
    VINETAP_SITE_DATA: folder,
    VINETAP_SITE_MEDIA: media
  });

/** Uploads a recording and waits for its speech map; gives its id. */
export async function uploadMapped(server: Server, name: string, bytes: Uint8Array): Promise<string> {
  const { body } = await upload(server, name, bytes);
  await ask(server, `/api/recordings/${body.recording.id}/speech`);
  return body.recording.id as string;
}

export interface Answer {
  readonly status: number;
  readonly headers: Headers;

  readonly body: any;
}

export async function ask(server: Server, path: string, init: RequestInit & { duplex?: 'half' } = {}): Promise<Answer> {
  const response = await fetch(`${server.url}${path}`, init);
  const text = await response.text();
  let body: unknown = text;
  if (text !== '' && response.headers.get('content-type')?.includes('json')) body = JSON.parse(text);
  return { status: response.status, headers: response.headers, body };
}

export const send = (server: Server, path: string, value: unknown): Promise<Answer> =>
  ask(server, path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(value) });

export const upload = (
  server: Server,
  name: string,
  bytes: Uint8Array,
  headers: Record<string, string> = {}
): Promise<Answer> =>
  ask(server, `/api/recordings?name=${encodeURIComponent(name)}`, { method: 'POST', body: bytes as BodyInit, headers });

/** Asks until the answer is as wanted: states are waited for, never times. */
export async function until<T>(look: () => Promise<T> | T, isThere: (found: T) => boolean): Promise<T> {
  for (;;) {
    const found = await look();
    if (isThere(found)) return found;
    await new Promise((done) => setTimeout(done, 50));
  }
}

export const jobEnd = async (server: Server, id: string): Promise<Answer['body']> =>
  (
    await until(
      () => ask(server, `/api/jobs/${id}`),
      ({ body }) => !['queued', 'running'].includes(body.job.state as string)
    )
  ).body.job;

const made = new Map<string, Buffer>();

/** Media by ffmpeg's own generators, made once. */
export function media(extension: string, args: readonly string[]): Buffer {
  const key = `${extension} ${args.join(' ')}`;
  const known = made.get(key);
  if (known !== undefined) return known;
  const path = join(newFolder(), `made.${extension}`);
  execFileSync('ffmpeg', ['-nostdin', '-v', 'error', '-y', ...args, path]);
  const bytes = readFileSync(path);
  made.set(key, bytes);
  return bytes;
}

export const tone = (seconds: number, extension = 'wav'): Buffer =>
  media(extension, ['-f', 'lavfi', '-i', `sine=440:duration=${seconds}`, '-ar', '16000']);

/** A WAV of what ffmpeg's `aevalsrc` makes of a formula in `t`, seconds. */
export const soundOf = (formula: string, seconds: number, rateHz: number): Buffer =>
  media('wav', ['-f', 'lavfi', '-i', `aevalsrc='${formula}':d=${seconds}:s=${rateHz}`, '-ac', '1']);

/** Speech by flite, sentence after sentence, with silence before and after. */
export function speech(sentences: readonly string[], voice = 'slt'): Buffer {
  const key = `speech ${voice} ${sentences.join('|')}`;
  const known = made.get(key);
  if (known !== undefined) return known;
  const folder = newFolder();
  const parts = sentences.map((text, at) => {
    const path = join(folder, `${at}.wav`);
    execFileSync('flite', ['-voice', voice, '-t', text, '-o', path]);
    return path;
  });
  const path = join(folder, 'speech.wav');
  execFileSync('sox', [...parts, path, 'pad', '0.4', '1']);
  const bytes = readFileSync(path);
  made.set(key, bytes);
  return bytes;
}

/** A directory's files, empty where it is not there. */
export const filesIn = (...path: string[]): string[] => (existsSync(join(...path)) ? readdirSync(join(...path)) : []);

/** The engine processes of a server: its children that run the engine's program. */
export function enginesOf(pid: number): number[] {
  const children = readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8')
    .trim()
    .split(' ')
    .filter(Boolean)
    .map(Number);
  return children.filter((child) => {
    try {
      return readFileSync(`/proc/${child}/cmdline`, 'utf8').includes('engine.js');
    } catch {
      return false; // It has ended meanwhile.
    }
  });
}

export const writeInto = (folder: string, name: string, text: string): string => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};
