/** Speaking into the application, end to end in Debian's Chromium with its stand-in for a microphone. */
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { narratedMs, NARRATION_RATE_HZ } from '../src/lib/core/narration';
import { ask, newFolder, send, startServer, until, type Server } from '../tests/server/harness';
import { launch } from './browser';
import { at95, median } from './figures';
import type { Row } from './table';

const TALK = 'demo/media/how-a-tower-clock-keeps-time.mp3';
const SHORT_S = 90;
/** Of the long one. */
const MINUTES = 10;
const CLICK = 32_000;
/** Of what is left of a click when the browser has resampled it, and of the silence around it. */
const HEARD = { click: 3000, silence: 300, aroundMs: 300, ringMs: 3 };
const CLICK_SAMPLES = 4;
const SILENCE_S = 3;
const LOOKS = 40;
/** Of the audio thread. */
const PIECE_MS = 100;
const HOUR_MS = 3_600_000;
const SETTLED_MS = 600_000;
const A_MS = NARRATION_RATE_HZ / 1000;

const samplesOf = (args: readonly string[]): Int16Array => {
  const bytes = execFileSync(
    'ffmpeg',
    ['-v', 'error', ...args, '-ac', '1', '-ar', String(NARRATION_RATE_HZ), '-f', 's16le', '-'],
    {
      maxBuffer: 1_000_000_000
    }
  );
  return new Int16Array(bytes.buffer, bytes.byteOffset, bytes.length >> 1);
};

/** The talk again and again for so long, quieter than the click that stands in the silence before each time. */
function microphone(seconds: number): { readonly path: string; readonly clicksMs: readonly number[] } {
  const talk = samplesOf(['-i', TALK, '-af', 'volume=-3dB']);
  const silence = SILENCE_S * NARRATION_RATE_HZ;
  const whole = new Int16Array(seconds * NARRATION_RATE_HZ);
  const clicksMs: number[] = [];
  for (let at = 0; at + silence < whole.length; at += silence + talk.length) {
    const click = at + silence / 2;
    whole.fill(CLICK, click, click + CLICK_SAMPLES);
    clicksMs.push(click / A_MS);
    whole.set(talk.subarray(0, Math.max(0, whole.length - at - silence - silence)), at + silence);
  }
  const folder = newFolder();
  const [raw, path] = [join(folder, 'raw'), join(folder, 'microphone.wav')];
  writeFileSync(raw, new Uint8Array(whole.buffer));
  execFileSync('ffmpeg', ['-v', 'error', '-f', 's16le', '-ar', String(NARRATION_RATE_HZ), '-ac', '1', '-i', raw, path]);
  return { path, clicksMs };
}

interface Seen {
  /** When the first sample came, by the page's clock. */
  readonly begunAtMs: number;
  /** Every state of the words: when, and which. */
  readonly words: readonly (readonly [number, readonly string[]])[];
}

/** Narrates while a file is played, and gives what was seen meanwhile. */
async function narrate(
  server: Server,
  path: string,
  seconds: number,
  { onMinute }: { readonly onMinute?: (page: Page) => Promise<void> } = {}
): Promise<{ readonly seen: Seen; readonly id: string; readonly unsentMs: number }> {
  const browser = await launch([
    '--use-fake-device-for-media-stream',
    '--use-fake-ui-for-media-stream',
    '--enable-precise-memory-info',
    '--js-flags=--expose-gc',
    `--use-file-for-fake-audio-capture=${path}%noloop`
  ]);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${server.url}/narrate`);
  await page.getByRole('combobox', { name: 'Microphone' }).waitFor();
  await page.evaluate((watchesWords) => {
    const seen = { begunAtMs: Number.POSITIVE_INFINITY, words: [] as [number, string[]][] };
    (window as unknown as { seen: typeof seen }).seen = seen;
    new MutationObserver(() => {
      const now = performance.now();
      const lengthMs = Number(document.querySelector<HTMLElement>('[data-testid=narrated]')?.dataset.ms ?? 0);
      // The piece that came fastest says best when it began.
      if (lengthMs > 0) seen.begunAtMs = Math.min(seen.begunAtMs, now - lengthMs);
      if (!watchesWords) return;
      const box = document.querySelector('[data-testid=live-words]');
      const words = [...(box?.querySelectorAll('p:not(.soft)') ?? [])].flatMap((one) =>
        one.textContent.trim().split(/\s+/)
      );
      if (words.join(' ') !== seen.words.at(-1)?.[1].join(' ')) seen.words.push([now, words]);
    }).observe(document.body, { subtree: true, childList: true, characterData: true, attributes: true });
  }, onMinute === undefined);
  await page.getByRole('button', { name: 'Record' }).click();
  const narrated = page.getByTestId('narrated');
  for (let minute = 1; minute * 60 < seconds; minute++) {
    await until(
      async () => Number(await narrated.getAttribute('data-ms')),
      (ms) => ms >= minute * 60_000
    );
    await onMinute?.(page);
  }
  await until(
    async () => Number(await narrated.getAttribute('data-ms')),
    (ms) => ms >= (seconds - 1) * 1000
  );
  const seen = await page.evaluate(() => (window as unknown as { seen: Seen }).seen);
  const [{ id }] = (await ask(server, '/api/recordings/live')).body.narrations as [{ id: string }];
  let unsentMs = 0;
  for (let look = 0; look < LOOKS; look++) {
    // The server is asked first: what the page has meanwhile counts against it.
    const { narration } = (await ask(server, `/api/recordings/live/${id}`)).body;
    const lengthMs = Number(await narrated.getAttribute('data-ms'));
    unsentMs = Math.max(unsentMs, lengthMs - narratedMs(narration.storedBytes as number));
  }
  await page.keyboard.press('r');
  await page.getByText('Paused').waitFor();
  await browser.close();
  return { seen, id, unsentMs };
}

/** How long after it was said each word that stands came onto the page. */
async function latencyRows(server: Server): Promise<Row[]> {
  const { path } = microphone(SHORT_S);
  const { seen, id, unsentMs } = await narrate(server, path, SHORT_S);
  const { words } = (await ask(server, `/api/recordings/live/${id}`)).body as {
    words: { text: string; endMs: number }[];
  };
  const late: number[] = [];
  words.forEach(({ text, endMs }, at) => {
    const first = seen.words.find(([, shown]) => shown[at]?.toLowerCase() === text.toLowerCase());
    if (first !== undefined) late.push(first[0] - seen.begunAtMs - endMs);
  });
  await ask(server, `/api/recordings/live/${id}/end`, { method: 'POST' });
  const what = `a word on the page after it was spoken, of ${late.length} of ${words.length}`;
  return [
    { what: `${what}: median`, value: median(late), unit: 'ms', budget: 700 },
    { what: `${what}: 95th percentile`, value: at95(late), unit: 'ms', budget: 1500 },
    {
      what: `not sent yet at most, of ${LOOKS} looks, with the piece that is being filled`,
      value: unsentMs + PIECE_MS,
      unit: 'ms',
      budget: 300
    }
  ];
}

/** Milliseconds of peaks with silence on both sides. */
function clicksIn(samples: Int16Array): number[] {
  const found: number[] = [];
  const around = HEARD.aroundMs * A_MS;
  const ring = HEARD.ringMs * A_MS;
  const isQuiet = (from: number, to: number): boolean => {
    for (let at = from; at < to; at++) if (Math.abs(samples[at]!) > HEARD.silence) return false;
    return true;
  };
  for (let at = around; at < samples.length - around; at++) {
    if (Math.abs(samples[at]!) < HEARD.click || !isQuiet(at - around, at - ring)) continue;
    let peak = at;
    for (let near = at; near < at + ring; near++) if (Math.abs(samples[near]!) > Math.abs(samples[peak]!)) peak = near;
    if (isQuiet(peak + ring, peak + around)) found.push(peak / A_MS);
    at = peak + around;
  }
  return found;
}

const residentMb = (pid: number): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1000;

/** Whether the recording keeps the microphone's time, and what page and server take meanwhile. */
async function longRows(server: Server): Promise<Row[]> {
  const { path, clicksMs } = microphone(MINUTES * 60);
  const memory: { page: number; server: number }[] = [];
  const { id } = await narrate(server, path, MINUTES * 60, {
    onMinute: async (page) => {
      const bytes = await page.evaluate(() => {
        (window as unknown as { gc: () => void }).gc();
        return (performance as unknown as { memory: { usedJSHeapSize: number } }).memory.usedJSHeapSize;
      });
      memory.push({ page: bytes / 1e6, server: residentMb(server.pid) });
    }
  });
  await ask(server, `/api/recordings/live/${id}/end`, { method: 'POST' });
  const found = clicksIn(samplesOf(['-i', `${server.url}/api/recordings/${id}/media`]));
  // The first may have been played before it was recorded.
  const expected = clicksMs.slice(-found.length);
  const off = found.map((ms, at) => Math.abs(ms - found[0]! - (expected[at]! - expected[0]!)));
  const [first, last] = [memory[1]!, memory.at(-1)!];
  return [
    {
      what: `the clock of ${MINUTES} minutes, of ${found.length} clicks: off by at most`,
      value: Math.max(...off),
      unit: 'ms',
      budget: 1
    },
    {
      what: `the page’s memory, grown in the last ${MINUTES - 3} minutes by`,
      value: last.page - first.page,
      unit: 'MB'
    },
    { what: 'the same of the server', value: last.server - first.server, unit: 'MB' }
  ];
}

/** What an hour of pieces takes of the server, written one after the other without a pause; nobody hears them. */
async function hourRow(server: Server): Promise<Row> {
  const { narration } = (await send(server, '/api/recordings/live', { title: 'An hour', language: 'fi' })).body;
  const id = narration.id as string;
  const piece = new Uint8Array(new Int16Array(PIECE_MS * A_MS).fill(100).buffer);
  let [afterMb, pieces] = [0, 0];
  for (; pieces * PIECE_MS < HOUR_MS; pieces++) {
    if (pieces * PIECE_MS === SETTLED_MS) afterMb = residentMb(server.pid);
    await ask(server, `/api/recordings/live/${id}/${pieces * piece.length}`, { method: 'PUT', body: piece });
  }
  return {
    what: `the server’s memory over an hour, after ${SETTLED_MS / 60_000} minutes of it: grown by`,
    value: residentMb(server.pid) - afterMb,
    unit: 'MB'
  };
}

export async function narrateRows(): Promise<Row[]> {
  const server = await startServer();
  try {
    return [...(await latencyRows(server)), ...(await longRows(server)), await hourRow(server)];
  } finally {
    await server.stop();
  }
}
