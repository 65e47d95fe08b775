/** How long a key takes to be on the screen, by the browser's own trace. */
import type { CDPSession, Page } from '@playwright/test';

/** Between two keys: a held key repeats no faster. */
const REPEAT_MS = 33;

interface TraceEvent {
  readonly name: string;
  readonly ph: string;
  readonly pid: number;
  readonly tid: number;
  /** Microseconds. */
  readonly ts: number;
  readonly dur?: number;
  readonly args: { readonly data?: { readonly type?: string } };
}

/**
 * Milliseconds of each key from where the page is told of it to where the frame that it made is handed over to be
 * drawn. Taken from a trace: a page's own clock begins behind the handlers that were there first, and its messages wait
 * behind further keys.
 */
export async function typeAndTime(page: Page, cdp: CDPSession, letters: string): Promise<number[]> {
  const events: TraceEvent[] = [];
  const collect = ({ value }: { value: object[] }): void => void events.push(...(value as TraceEvent[]));
  cdp.on('Tracing.dataCollected', collect);
  await cdp.send('Tracing.start', {
    transferMode: 'ReportEvents',
    traceConfig: { includedCategories: ['devtools.timeline', 'disabled-by-default-devtools.timeline'] }
  });
  for (const letter of letters) {
    const nextMs = performance.now() + REPEAT_MS;
    await page.keyboard.press(letter === ' ' ? 'Space' : letter);
    await new Promise((done) => setTimeout(done, Math.max(0, nextMs - performance.now())));
  }
  const ended = new Promise((done) => cdp.once('Tracing.tracingComplete', done));
  await cdp.send('Tracing.end');
  await ended;
  cdp.off('Tracing.dataCollected', collect);

  const keys = events
    .filter(({ name, args }) => name === 'EventDispatch' && args.data?.type === 'keydown')
    .toSorted((a, b) => a.ts - b.ts);
  const [first] = keys;
  const frames = events
    .filter(({ name, pid, tid, ph }) => name === 'Commit' && pid === first?.pid && tid === first.tid && ph === 'X')
    .toSorted((a, b) => a.ts - b.ts);
  const times = keys.flatMap((key) => {
    const frame = frames.find(({ ts }) => ts >= key.ts + (key.dur ?? 0));
    return frame === undefined ? [] : [(frame.ts + (frame.dur ?? 0) - key.ts) / 1000];
  });
  if (times.length < letters.length * 0.9) throw new Error(`of ${letters.length} keys the trace shows ${times.length}`);
  return times;
}
