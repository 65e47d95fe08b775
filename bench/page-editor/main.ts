/**
 * The page's editor, measured two ways on 18,000 words: one editor document with `content-visibility` (the product's),
 * against virtual paragraphs of which only the one in hand is editable (virtual.html).
 */
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import type { CDPSession, Page } from '@playwright/test';
import { paragraphsOf } from '../../src/lib/ui/read/page-model';
import type { Track } from '../../src/lib/core/track';
import { at95 } from '../figures';
import { typeAndTime } from '../keys';
import type { Row } from '../table';

export interface Way {
  readonly openMs: number;
  readonly typing: readonly number[];
  readonly heapMb: number;
  readonly selected: number;
  readonly heardByReaders: number;
  readonly composed: boolean;
}

const PHRASE = 'the clock lets one tooth of the wheel go past ';

/** Types, selects all, asks what a screen reader is told, and composes a text, in whatever page is open and focused. */
export async function measureWay(page: Page, cdp: CDPSession, openMs: number): Promise<Way> {
  const typing = await typeAndTime(page, cdp, PHRASE);
  await cdp.send('Input.imeSetComposition', { text: 'とけい', selectionStart: 3, selectionEnd: 3 });
  await cdp.send('Input.insertText', { text: '時計' });
  const composed = await page.evaluate(() => document.activeElement?.textContent?.includes('時計') === true);
  await page.keyboard.press('Control+a');
  const selected = await page.evaluate(() => getSelection()!.toString().split(/\s+/).length);
  await cdp.send('HeapProfiler.collectGarbage');
  const heapMb = await page.evaluate(
    () => (performance as unknown as { memory: { usedJSHeapSize: number } }).memory.usedJSHeapSize / 1e6
  );
  const { nodes } = (await cdp.send('Accessibility.getFullAXTree')) as unknown as {
    nodes: { role?: { value: string }; name?: { value: string } }[];
  };
  const heardByReaders = nodes
    .filter((node) => node.role?.value === 'StaticText')
    .reduce((sum, node) => sum + (node.name?.value.split(/\s+/).length ?? 0), 0);
  return { openMs, typing, heapMb, selected, heardByReaders, composed };
}

export async function openVirtual(page: Page, track: Track): Promise<number> {
  const texts = paragraphsOf(track).map((paragraph) => paragraph.text);
  await page.setContent(readFileSync(resolve('bench/page-editor/virtual.html'), 'utf8'));
  return page.evaluate(async (given) => {
    const from = performance.now();
    (window as unknown as { openPage(texts: string[]): void }).openPage(given);
    await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
    (window as unknown as { take(at: number): void }).take(0);
    return performance.now() - from;
  }, texts);
}

export function wayRows(name: string, way: Way): Row[] {
  return [
    { what: `page, ${name}: opened`, value: way.openMs, unit: 'ms' },
    { what: `page, ${name}: key to frame, 95th percentile`, value: at95(way.typing), unit: 'ms' },
    { what: `page, ${name}: script heap`, value: way.heapMb, unit: 'MB' },
    { what: `page, ${name}: words that Select all holds`, value: String(way.selected) },
    { what: `page, ${name}: words in the accessibility tree`, value: String(way.heardByReaders) },
    { what: `page, ${name}: a composed text arrives whole`, value: way.composed ? 'yes' : 'no' }
  ];
}
