/** Checks of a track of two hours: all of them, anew after one edit, and whether planted faults are found. */
import { Checker, checkTrack, knowOnly, mend, type Finding, type Knowledge } from '../src/lib/core/checks';
import { toSpan, wholeMs } from '../src/lib/core/time';
import { formatSrt } from '../src/lib/core/formats';
import type { Cue, Sheet, Track, Word } from '../src/lib/core/track';
import { newFolder, removeFolders, send, startServer, tone, uploadMapped } from '../tests/server/harness';
import { launch, scriptPerFrame } from './browser';
import { trackOf } from './core';
import { at95, median } from './figures';
import { makeTalk } from './material';
import type { Row } from './table';

const WORDS = 18_000;
/** Every so many cues one has a fault. */
const APART = 12;

interface Parts {
  readonly cue: Cue;
  readonly words: readonly Word[];
}

/** Faults by the check that must find them, made in one cue. */
const PLANTS: Readonly<Record<string, (parts: Parts) => Partial<Parts>>> = {
  doubled_word: ({ words }) => ({
    words: words.map((word, at) => (at === 1 || at === 2 ? { ...word, text: 'clock' } : word))
  }),
  unseen: ({ words }) => ({
    words: words.map((word, at) => (at === 1 ? { ...word, text: `${word.text}\u200b` } : word))
  }),
  markup_left: ({ words }) => ({
    words: words.map((word, at) => (at === 0 ? { ...word, text: `<u>${word.text}` } : word))
  }),
  broken_sign: ({ words }) => ({
    words: words.map((word, at) => (at === 1 ? { ...word, text: `${word.text}\ufffd` } : word))
  }),
  open_bracket: ({ words }) => ({
    words: words.map((word, at) => (at === 1 ? { ...word, text: `[${word.text}` } : word))
  }),
  min_duration: ({ cue }) => ({ cue: { ...cue, endMs: wholeMs(cue.startMs + 400) } }),
  late_start: ({ cue }) => ({ cue: { ...cue, startMs: wholeMs(cue.startMs + 450) } }),
  outside: ({ cue }) => ({ cue: { ...cue, placement: { xPercent: 50, yPercent: 1 } } })
};

const placeOf = ({ rule, cueId }: Pick<Finding, 'rule' | 'cueId'>): string => `${rule} ${cueId}`;

function plant(track: Track): { readonly track: Track; readonly expected: ReadonlySet<string> } {
  const words = [...track.words];
  const cues = [...track.cues];
  const expected = new Set<string>();
  const kinds = Object.entries(PLANTS);
  let from = 0;
  track.cues.forEach((cue, at) => {
    const own = words.slice(from, from + cue.wordIds.length);
    if (at % APART === APART / 2 && own.length > 3) {
      const [rule, make] = kinds[Math.floor(at / APART) % kinds.length]!;
      const made = make({ cue, words: own });
      if (made.words !== undefined) words.splice(from, own.length, ...made.words);
      if (made.cue !== undefined) cues[at] = made.cue;
      expected.add(placeOf({ rule, cueId: cue.id }));
    }
    from += cue.wordIds.length;
  });
  return { track: { ...track, words, cues }, expected };
}

const timed = (work: () => void): number => {
  const from = performance.now();
  work();
  return performance.now() - from;
};

const SHEET: Sheet = {};

export async function checkRows(): Promise<Row[]> {
  const track = trackOf(makeTalk(WORDS));
  const endMs = track.cues.at(-1)!.endMs;
  const knowledge: Knowledge = {
    ...knowOnly(endMs + 5000),
    speech: track.cues.map(toSpan),
    shotsMs: Array.from({ length: 900 }, (_, at) => at * 8000),
    sounds: []
  };
  const all = Array.from({ length: 7 }, () => timed(() => void checkTrack(track, knowledge, SHEET)));
  const checker = new Checker();
  checker.check(track, knowledge, SHEET);
  const anew = Array.from({ length: 40 }, (_, at) => {
    const place = (at * 397) % track.words.length;
    const words = track.words.with(place, { ...track.words[place]!, text: `again${at}` });
    return timed(() => void checker.check({ ...track, words }, knowledge, SHEET));
  });
  const planted = plant(track);
  const usual = new Set(checkTrack(track, knowledge, SHEET).findings.map(placeOf));
  const { findings } = checkTrack(planted.track, knowledge, SHEET);
  const found = new Set(findings.map(placeOf));
  const missed = [...planted.expected].filter((place) => !found.has(place));
  // A fault has its own consequences: what is too short reads too fast, and leaves speech uncovered. Other cues must not.
  const faulty = new Set([...planted.expected].map((place) => place.split(' ')[1]));
  const others = findings.filter((one) => one.cueId !== null && !faulty.has(one.cueId) && !usual.has(placeOf(one)));
  let minted = 0;
  const kind = findings.filter(({ rule }) => rule === 'min_duration');
  const mending = timed(
    () => void mend(planted.track, kind, { knowledge, sheet: SHEET, mint: () => `n${minted++}`, atMs: 0 })
  );
  return [
    { what: `all checks of ${track.cues.length} cues`, value: median(all), unit: 'ms', budget: 1000 },
    { what: 'anew after one edit: median', value: median(anew), unit: 'ms', budget: 30 },
    { what: 'anew after one edit: 95th percentile', value: at95(anew), unit: 'ms', budget: 30 },
    { what: `planted faults (${planted.expected.size}) that are not found`, value: missed.length, unit: '', budget: 0 },
    {
      what: 'findings on other cues that were not there before, for each planted',
      value: (others.length / planted.expected.size) * 100,
      unit: '%',
      budget: 2
    },
    { what: `${kind.length} findings of a kind tried and mended`, value: mending, unit: 'ms' },
    ...(await listRows(formatSrt(track)))
  ];
}

/** What the list of findings costs in Chromium while it is played, gone through and scrolled. */
async function listRows(content: string): Promise<Row[]> {
  const server = await startServer(newFolder());
  const browser = await launch([]);
  try {
    const recordingId = await uploadMapped(server, 'hours.wav', tone(60));
    const made = await send(server, `/api/recordings/${recordingId}/tracks`, {
      format: 'srt',
      language: 'en',
      content
    });
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`${server.url}/recordings/${recordingId}/tracks/${made.body.track.id}/check`);
    const left = page.getByTestId('findings-left').filter({ hasText: /\d+ findings left/ });
    await left.waitFor();
    await page.getByTestId('awaited').waitFor({ state: 'hidden' });
    const count = Number(/\d+/.exec((await left.textContent())!)![0]);
    if (count < 5000) throw new Error(`There are ${count} findings: too few to measure the list with.`);
    const list = page.getByRole('region', { name: 'Findings in the order of time' });
    await list.click({ position: { x: 10, y: 10 } });
    const cdp = await page.context().newCDPSession(page);
    await cdp.send('Performance.enable');
    await page.getByRole('button', { name: 'Play', exact: true }).click();
    const scrolled = await scriptPerFrame(page, cdp, async () => {
      await list.hover();
      for (let at = 0; at < 60; at++) {
        await page.mouse.wheel(0, at < 40 ? 400 : -300);
        await page.waitForTimeout(50);
      }
    });
    const stepped = await scriptPerFrame(page, cdp, async () => {
      for (let at = 0; at < 20; at++) {
        await page.keyboard.press('n');
        await page.waitForTimeout(150);
      }
    });
    const what = `script a frame with ${count} findings`;
    return [
      { what: `${what}, scrolled while playing`, value: scrolled, unit: 'ms', budget: 8 },
      { what: `${what}, gone through by keys`, value: stepped, unit: 'ms', budget: 8 }
    ];
  } finally {
    await browser.close();
    await server.stop();
    removeFolders();
  }
}
