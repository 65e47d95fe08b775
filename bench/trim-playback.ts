/** The gap that is heard at a join, recorded by an audio worklet in Chromium, in three ways of playing a trim. */
import type { Page } from '@playwright/test';
import { send, soundOf, startServer, upload, type Server } from '../tests/server/harness';
import { launch } from './browser';
import { at95, median } from './figures';
import type { Row } from './table';

const JOINS = 30;
/** Of a tone of 400 Hz, whole periods: what plays on without a gap has no dent in it. */
const PIECE_MS = 900;
const OUT_MS = 500;
/** Of the tone's amplitude. */
const QUIET_SHARE = 0.2;

const pieces = Array.from({ length: JOINS + 1 }, (_, at) => ({
  fromMs: at * (PIECE_MS + OUT_MS),
  toMs: at * (PIECE_MS + OUT_MS) + PIECE_MS
}));

/** Records the loudest sample of each millisecond that goes to the speakers, in `window.heard`. */
async function record(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const code = `registerProcessor('tap', class extends AudioWorkletProcessor {
      most = 0; count = 0; found = [];
      process([[channel]]) {
        for (const sample of channel ?? new Float32Array(128)) {
          this.most = Math.max(this.most, Math.abs(sample));
          if (++this.count < sampleRate / 1000) continue;
          this.found.push(this.most); this.most = 0; this.count = 0;
        }
        if (this.found.length >= 100) { this.port.postMessage(this.found); this.found = []; }
        return true;
      }
    })`;
    // The method is called on its own node below.
    // eslint-disable-next-line @typescript-eslint/unbound-method
    const connect = AudioNode.prototype.connect as (this: AudioNode, to: AudioNode) => AudioNode;
    const own = window as unknown as { heard: number[]; tapOf: (context: AudioContext) => Promise<AudioNode> };
    own.heard = [];
    const taps = new Map<AudioContext, Promise<AudioNode>>();
    own.tapOf = (context) => {
      const made =
        taps.get(context) ??
        context.audioWorklet.addModule(URL.createObjectURL(new Blob([code], { type: 'text/javascript' }))).then(() => {
          const tap = new AudioWorkletNode(context, 'tap', { channelCount: 1, channelCountMode: 'explicit' });
          // What leads nowhere is not heard: it leads to the speakers, silent.
          const silent = new GainNode(context, { gain: 0 });
          connect.call(tap, silent);
          connect.call(silent, context.destination);
          tap.port.onmessage = ({ data }: MessageEvent<number[]>) => void own.heard.push(...data);
          return tap;
        });
      taps.set(context, made);
      return made;
    };
    AudioNode.prototype.connect = function (this: AudioNode, to: AudioNode) {
      if (to instanceof AudioDestinationNode)
        void own.tapOf(this.context as AudioContext).then((tap) => connect.call(this, tap));
      return connect.call(this, to);
    } as AudioNode['connect'];
  });
}

/** Lengths of the gaps between the first sound and the last, one for each join. */
function gapsIn(heard: readonly number[]): number[] {
  const loudest = Math.max(...heard);
  if (!(loudest > 0.1)) throw new Error(`nothing was heard: ${heard.length} ms, ${loudest} at most`);
  const isQuiet = (level: number): boolean => level < loudest * QUIET_SHARE;
  const first = heard.findIndex((level) => !isQuiet(level));
  const last = heard.findLastIndex((level) => !isQuiet(level));
  const gaps: number[] = [];
  let length = 0;
  for (let at = first; at <= last; at++) {
    if (isQuiet(heard[at]!)) length++;
    else if (length > 0) {
      gaps.push(length);
      length = 0;
    }
  }
  // A join that was not heard has none.
  return [...gaps, ...Array.from({ length: Math.max(0, JOINS - gaps.length) }, () => 0)];
}

const heardOf = async (page: Page): Promise<number[]> =>
  page.evaluate(() => (window as unknown as { heard: number[] }).heard);

/** One element that is sent on at each join. */
const seeking = (page: Page, url: string): Promise<void> =>
  page.evaluate(
    async ([source, parts]) => {
      const element = new Audio(source);
      const context = new AudioContext();
      context.createMediaElementSource(element).connect(context.destination);
      await (window as unknown as { tapOf: (one: AudioContext) => Promise<unknown> }).tapOf(context);
      await element.play();
      for (const [at, { toMs }] of parts.entries()) {
        while (element.currentTime * 1000 < toMs) await new Promise(requestAnimationFrame);
        const next = parts[at + 1];
        if (next !== undefined) element.currentTime = next.fromMs / 1000;
      }
      element.pause();
      await new Promise((resolve) => setTimeout(resolve, 300));
    },
    [url, pieces] as const
  );

/** Two elements, of which one waits at the next piece. */
const inTurn = (page: Page, url: string): Promise<void> =>
  page.evaluate(
    async ([source, parts]) => {
      const context = new AudioContext();
      await (window as unknown as { tapOf: (one: AudioContext) => Promise<unknown> }).tapOf(context);
      const elements = [new Audio(source), new Audio(source)] as const;
      for (const element of elements) context.createMediaElementSource(element).connect(context.destination);
      const ready = (element: HTMLAudioElement, ms: number): Promise<unknown> => {
        const done = new Promise((resolve) => element.addEventListener('seeked', resolve, { once: true }));
        element.currentTime = ms / 1000;
        return done;
      };
      await Promise.all(elements.map((element) => new Promise((resolve) => (element.oncanplaythrough = resolve))));
      await ready(elements[0], 0);
      for (const [at, { toMs }] of parts.entries()) {
        const now = elements[at % 2]!;
        const next = elements[(at + 1) % 2]!;
        if (at === 0) await now.play();
        const following = parts[at + 1];
        if (following !== undefined) await ready(next, following.fromMs);
        while (now.currentTime * 1000 < toMs) await new Promise(requestAnimationFrame);
        if (following !== undefined) void next.play();
        now.pause();
      }
      await new Promise((resolve) => setTimeout(resolve, 300));
    },
    [url, pieces] as const
  );

async function recordingOf(server: Server): Promise<{ readonly id: string; readonly url: string }> {
  const seconds = ((JOINS + 1) * (PIECE_MS + OUT_MS)) / 1000 + 1;
  const { body } = await upload(server, 'tone.wav', soundOf('0.5*sin(2*PI*400*t)', seconds, 48_000));
  const id = body.recording.id as string;
  const srt = '1\n00:00:00,000 --> 00:00:01,000\nA tone.\n';
  const made = await send(server, `/api/recordings/${id}/tracks`, { format: 'srt', language: 'en', content: srt });
  const { trim } = (await send(server, `/api/recordings/${id}/trims`, { title: 'Tone' })).body;
  const keep = pieces.map((piece) => ({ kind: 'keep', ...piece }));
  await send(server, `/api/trims/${trim.id}/edits`, { revision: 0, edits: [{ type: 'setPieces', pieces: keep }] });
  return { id, url: `${server.url}/recordings/${id}/tracks/${made.body.track.id}/trim` };
}

export async function playbackRows(): Promise<Row[]> {
  const server = await startServer();
  const browser = await launch([]);
  const rows: Row[] = [];
  try {
    const { id, url } = await recordingOf(server);
    const context = await browser.newContext({ bypassCSP: true });
    const measure = async (what: string, play: (page: Page) => Promise<void>, isOurs: boolean): Promise<void> => {
      const page = await context.newPage();
      await record(page);
      await play(page);
      const gaps = gapsIn(await heardOf(page));
      await page.close();
      const budget = (most: number) => (isOurs ? { budget: most } : {});
      rows.push(
        { what: `gap at a join, ${what}: median of ${JOINS}`, value: median(gaps), unit: 'ms', ...budget(30) },
        { what: `gap at a join, ${what}: 95th percentile`, value: at95(gaps), unit: 'ms', ...budget(60) }
      );
    };
    const media = `${server.url}/api/recordings/${id}/media`;
    const bare = async (page: Page): Promise<void> => void (await page.goto(server.url));
    await measure('one element that seeks', async (page) => (await bare(page), seeking(page, media)), false);
    await measure('two elements in turn', async (page) => (await bare(page), inTurn(page, media)), false);
    await measure(
      'mixed, on the audio clock',
      async (page) => {
        await page.goto(url);
        await page.getByTestId('trim-clocks').waitFor();
        await page.keyboard.press('Space');
        await page.getByRole('button', { name: 'Pause' }).waitFor();
        await page.getByRole('button', { name: 'Play', exact: true }).waitFor({ timeout: 120_000 });
        await page.waitForTimeout(300);
      },
      true
    );
  } finally {
    await browser.close();
    await server.stop();
  }
  return rows;
}
