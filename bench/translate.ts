/** Translations: a draft of two hours, what comes back over the clipboard, sentences on their cues, the page of rows. */
import { readdirSync, readFileSync } from 'node:fs';
import { endsWith, partingCost, recue } from '../src/lib/core/cueing';
import { formatSrt } from '../src/lib/core/formats';
import { numbers } from '../src/lib/core/testing/any-talk';
import {
  DAMAGES_OF_ROWS,
  DAMAGES_OF_SIGNS,
  makePair,
  pastedText,
  saidBy,
  undamaged,
  type Damaged
} from '../src/lib/core/testing/any-translation';
import { HOUSE_RULES, lineLength, tokenize } from '../src/lib/core/track';
import { anchorsIn, readPasted } from '../src/lib/core/translating';
import { ask, send, until, type Server } from '../tests/server/harness';
import { keptServer, launch, preparedRecording, scriptPerFrame, scroll } from './browser';
import { trackOf } from './core';
import { at95, median } from './figures';
import { typeAndTime } from './keys';
import { makeTalk } from './material';
import type { Row } from './table';

const CLIPBOARD_ROWS = 500;
const OPENINGS = 7;
/** Of every pair of damages: as many are tried, in turn. */
const PAIR_ROWS = 100;

interface Tried {
  right: number;
  all: number;
  wrongButSure: number;
}

function tryPaste(
  tried: Tried,
  { sources, targets }: ReturnType<typeof makePair>,
  damage: (paste: Damaged) => Damaged
): void {
  const paste = damage(undamaged(targets));
  const read = readPasted(pastedText(paste), { sources, firstRow: 0, language: 'es' });
  if (!read.ok) throw new Error(read.problem.message);
  for (const { row, text, sure } of read.value.rows) {
    const isRight = saidBy(text) === saidBy(paste.truth[row]!);
    tried.all++;
    if (isRight) tried.right++;
    else if (sure) tried.wrongButSure++;
  }
}

/** Each damage on 500 rows, then every pair of them, those of rows first. */
function clipboardRows(): Row[] {
  const signs: Tried = { right: 0, all: 0, wrongButSure: 0 };
  const rows: Tried = { right: 0, all: 0, wrongButSure: 0 };
  const ofRows = Object.entries(DAMAGES_OF_ROWS);
  const ofSigns = Object.entries(DAMAGES_OF_SIGNS);
  let seed = 1;
  for (const [, damage] of ofSigns)
    tryPaste(signs, makePair(CLIPBOARD_ROWS, ++seed, 0.15), (paste) => damage(paste, numbers(seed)));
  for (const [, damage] of ofRows)
    tryPaste(rows, makePair(CLIPBOARD_ROWS, ++seed, 0.15), (paste) => damage(paste, numbers(seed)));
  const all = [...ofRows, ...ofSigns];
  all.forEach(([name, damage], at) => {
    for (const [, other] of all.slice(at + 1)) {
      const random = numbers(++seed);
      tryPaste(name in DAMAGES_OF_ROWS ? rows : signs, makePair(PAIR_ROWS, seed, 0.15), (paste) =>
        other(damage(paste, random), random)
      );
    }
  });
  const right = (what: string, { right: count, all: of }: Tried, budget: number): Row => ({
    what: `clipboard: rows wrong, ${what}, of ${of}`,
    value: 100 * (1 - count / of),
    unit: '%',
    budget
  });
  return [
    right(`${ofSigns.length} damages and their pairs, nothing merged`, signs, 1),
    right(`${ofRows.length} that merge or part rows, alone and with the others`, rows, 5),
    { what: 'clipboard: wrong rows taken for sure, nothing merged', value: signs.wrongButSure, unit: '', budget: 0 },
    { what: 'clipboard: wrong rows taken for sure, merged or parted', value: rows.wrongButSure, unit: '', budget: 0 }
  ];
}

/** A plain translation in paragraphs, without times. */
function plainRow(): Row {
  let [right, all] = [0, 0];
  for (let seed = 1; seed <= 5; seed++) {
    const { sources, targets, paragraphs } = makePair(200, seed, 0.05);
    const text = paragraphs.map((rows) => rows.map((row) => targets[row]).join(' ')).join('\n\n');
    const read = readPasted(text, { sources, firstRow: 0, language: 'es' });
    if (!read.ok) throw new Error(read.problem.message);
    for (const { row, text: own } of read.value.rows) {
      all++;
      if (saidBy(own) === saidBy(targets[row]!)) right++;
    }
  }
  return { what: `plain text: rows right, of ${all}`, value: `${((100 * right) / all).toFixed(1)} %` };
}

interface DraftedRow {
  readonly source: string;
  readonly target: string;
  readonly cueIds: readonly string[];
}

const LONG_WORDS = 18_000;
/** As the rules of the house break it. */
function longTalk(words: number): string {
  const spoken = makeTalk(words);
  const track = trackOf(spoken);
  let count = 0;
  const cues = recue(track, track.rules, () => `r${count++}`);
  return formatSrt({ ...track, cues });
}

/** A draft of two hours by the engine on this machine: how long, how much memory, and how it lies on its cues. */
async function draftedRows(
  server: Server
): Promise<{ readonly rows: Row[]; readonly sourceId: string; readonly recordingId: string }> {
  const recordingId = await preparedRecording(server, 7300);
  const { track } = (
    await send(server, `/api/recordings/${recordingId}/tracks`, {
      format: 'srt',
      language: 'en',
      content: longTalk(LONG_WORDS)
    })
  ).body;
  const begunMs = performance.now();
  const { body } = await send(server, `/api/tracks/${track.id}/translations`, {
    language: 'es',
    from: 'engine',
    engine: 'apertium'
  });
  let mostMb = 0;
  for (;;) {
    const { job } = (await ask(server, `/api/jobs/${body.job.id}`)).body;
    mostMb = Math.max(mostMb, stagesMb(server.pid));
    if (job.state === 'failed') throw new Error(job.error);
    if (job.state === 'done') break;
    await new Promise((done) => setTimeout(done, 100));
  }
  const tookS = (performance.now() - begunMs) / 1000;
  const { rows } = (await ask(server, `/api/tracks/${body.trackId}/rows`)).body as { rows: DraftedRow[] };
  let [breaks, poor, over, lost, anchors] = [0, 0, 0, 0, 0];
  rows.forEach(({ source, target }, at) => {
    const next = rows[at + 1];
    const around = [rows[at - 1], rows[at], next].map((row) => `a ${row?.target ?? ''}`).join(' ');
    const own = anchorsIn(source);
    anchors += own.length;
    lost += own.filter((anchor) => !anchorsIn(around).includes(anchor)).length;
    if (lineLength(target, 'es') > HOUSE_RULES.maxLines * (HOUSE_RULES.maxCharsPerLine + 1)) over++;
    if (next === undefined || target === '' || next.target === '' || endsWith(source) === 'sentence') return;
    breaks++;
    const tokens = [...tokenize(target, 'es'), ...tokenize(next.target, 'es').slice(0, 1)];
    if (endsWith(tokens.at(-2)!.text) === 'nothing' && partingCost(tokens, tokens.length - 2, 'es') >= 0) poor++;
  });
  return {
    recordingId,
    sourceId: track.id as string,
    rows: [
      { what: `draft of ${rows.length} cues by Apertium, English to Spanish`, value: tookS, unit: 's', budget: 20 },
      { what: 'the memory of its stages together', value: mostMb, unit: 'MB', budget: 200 },
      {
        what: `laying: breaks at no clause's end and before no joining word, of ${breaks} within sentences`,
        value: (100 * poor) / breaks,
        unit: '%',
        budget: 10
      },
      { what: 'laying: cues longer than their lines', value: over, unit: '', budget: 0 },
      { what: `laying: figures and names that are not there, of ${anchors}`, value: lost, unit: '', budget: 0 }
    ]
  };
}

/** What the processes take that a server has started. */
function stagesMb(serverPid: number): number {
  let mb = 0;
  for (const name of readdirSync('/proc')) {
    if (!/^\d+$/.test(name)) continue;
    try {
      const status = readFileSync(`/proc/${name}/status`, 'utf8');
      if (Number(/PPid:\s+(\d+)/.exec(status)![1]) === serverPid && !/Name:\s+node/.test(status))
        mb += Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1000;
    } catch {
      // It has ended meanwhile.
    }
  }
  return mb;
}

/** The page of all rows in Chromium. */
async function pageRows(server: Server, recordingId: string, sourceId: string): Promise<Row[]> {
  const made = await send(server, `/api/tracks/${sourceId}/translations`, { language: 'gl', from: 'source' });
  const url = `${server.url}/recordings/${recordingId}/tracks/${made.body.track.id}/translate`;
  const browser = await launch([]);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const cdp = await page.context().newCDPSession(page);
  await cdp.send('Performance.enable');
  // What was just brought in is read for searching and counting, behind whatever is asked meanwhile.
  await until(
    async () => (await ask(server, '/api/recordings?text=clock')).body.notSearchedYet as number,
    (count) => count === 0
  );
  const opened: number[] = [];
  for (let time = 0; time < OPENINGS; time++) {
    await page.goto(server.url);
    await page.getByRole('link').first().waitFor();
    const begunMs = performance.now();
    await page.goto(url, { waitUntil: 'commit' });
    await page.getByRole('listitem').nth(3).waitFor();
    opened.push(performance.now() - begunMs);
  }
  const scrolling = await scriptPerFrame(page, cdp, () => scroll(page));
  await page.getByRole('region', { name: 'Rows of source and translation' }).focus();
  await page.keyboard.press('Space');
  const playing = await scriptPerFrame(page, cdp, () => page.waitForTimeout(6000));
  await browser.close();
  const eager = await launch(['--disable-frame-rate-limit', '--disable-gpu-vsync']);
  const other = await eager.newPage({ viewport: { width: 1280, height: 800 } });
  const otherCdp = await other.context().newCDPSession(other);
  await other.goto(url);
  await other.getByRole('listitem').nth(3).waitFor();
  await other.getByRole('region', { name: 'Rows of source and translation' }).focus();
  await other.keyboard.press('Enter');
  await other.getByTestId('row-text').waitFor();
  await typeAndTime(other, otherCdp, 'abcdefghij');
  const typed = await typeAndTime(other, otherCdp, 'the clock lets one tooth of the wheel go past '.repeat(2));
  await eager.close();
  return [
    { what: 'page of two hours of rows: first rows', value: median(opened), unit: 'ms', budget: 1000 },
    { what: 'the same: script a frame while scrolling', value: scrolling, unit: 'ms', budget: 8 },
    { what: 'the same: script a frame while playing', value: playing, unit: 'ms', budget: 8 },
    { what: 'the same: a key on screen, median', value: median(typed), unit: 'ms', budget: 16 },
    { what: 'the same: a key on screen, 95th percentile', value: at95(typed), unit: 'ms' }
  ];
}

export async function translateRows(): Promise<Row[]> {
  const server = await keptServer();
  try {
    const { rows, recordingId, sourceId } = await draftedRows(server);
    return [...clipboardRows(), plainRow(), ...rows, ...(await pageRows(server, recordingId, sourceId))];
  } finally {
    await server.stop();
  }
}
