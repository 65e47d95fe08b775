/** What the stories share: servers, seeded data, a watched console, accessibility. */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { ask, BUILD, newFolder, startServer, type Server } from '../tests/server/harness';

export {
  ask,
  newFolder,
  send,
  soundOf,
  speech,
  startService,
  startSite,
  media,
  upload,
  until,
  type Server,
  type Service
} from '../tests/server/harness';
export { startServer };

/** Longer than any machine takes to hear what these stories have heard. */
export const HEARING_MS = 600_000;

/** A server with the demo's recordings: the interview heard and partly corrected, the talk by its script. */
export async function startDemo(
  env: Record<string, string> = {}
): Promise<Server & { readonly interview: { readonly recordingId: string; readonly trackId: string } }> {
  const folder = newFolder();
  execFileSync(process.execPath, [join(BUILD, 'seed.js'), resolve('demo')], {
    env: { PATH: process.env.PATH ?? '', VINETAP_DATA: folder }
  });
  const server = await startServer(folder, env);
  const { recordings } = (await ask(server, '/api/recordings')).body;
  const { interview } = JSON.parse(readFileSync(resolve('demo/scripts.json'), 'utf8'));
  const { id, tracks } = recordings.find(({ title }: { title: string }) => title === interview.title);
  return { ...server, interview: { recordingId: id, trackId: tracks[0].id } };
}

/** The same data at the same address again. */
export const restart = (server: Server): Promise<Server> =>
  startServer(server.folder, { PORT: new URL(server.url).port });

/** Fails the story on anything the console complains of, but for the requests that a dead server cannot answer. */
export function watchConsole(page: Page): void {
  page.on('console', (message) => {
    if (message.type() !== 'error' && message.type() !== 'warning') return;
    if (/Failed to load resource|ERR_CONNECTION|EventSource|net::|wasm|ArrayBuffer inst/.test(message.text())) return;
    throw new Error(`console ${message.type()}: ${message.text()}`);
  });
  page.on('pageerror', (error) => {
    throw error;
  });
}

/** axe finds nothing on what is shown, in both themes. */
export async function checkAccessible(page: Page): Promise<void> {
  // What stands in a frame is another's page; the legacy mode opens no second page, which would take the focus.
  for (const mode of ['light', 'dark']) {
    await page.evaluate((name) => (document.documentElement.dataset.mode = name), mode);
    const { violations } = await new AxeBuilder({ page }).setLegacyMode().options({ iframes: false }).analyze();
    const told = violations.map(
      ({ id, nodes }) =>
        `${id}: ${nodes.map((node) => `${node.html.slice(0, 160)} ${node.any[0]?.message ?? ''}`).join(' | ')}`
    );
    expect(told, `${page.url()} ${mode}`).toEqual([]);
  }
  await page.evaluate(() => (document.documentElement.dataset.mode = 'light'));
}

export const saved = (page: Page) => expect(page.getByTestId('save-state')).toHaveText('Saved');

/** Presses Tab until the named thing has the focus. */
export async function tabTo(page: Page, name: string | RegExp): Promise<void> {
  for (let step = 0; step < 80; step++) {
    await page.keyboard.press('Tab');
    const found = await page.evaluate(() => {
      const { activeElement: at } = document;
      const isControl = at?.matches('a, button, input, select, textarea, [role="grid"]') === true;
      return isControl ? (at.getAttribute('aria-label') ?? at.textContent ?? '').trim() : '';
    });
    if (typeof name === 'string' ? found.includes(name) : name.test(found)) return;
  }
  throw new Error(`Tab never came to ${name}`);
}

/** Where a word of the page stands on the screen. */
export async function middleOf(page: Page, text: string): Promise<{ x: number; y: number }> {
  const box = await page.getByTestId('page').evaluate((paper, wanted) => {
    const walker = document.createTreeWalker(paper, NodeFilter.SHOW_TEXT);
    for (let node = walker.nextNode(); node !== null; node = walker.nextNode()) {
      const at = node.textContent!.indexOf(wanted);
      if (at < 0) continue;
      const range = document.createRange();
      range.setStart(node, at);
      range.setEnd(node, at + wanted.length);
      const { x, y, width, height } = range.getBoundingClientRect();
      return { x: x + width / 2, y: y + height / 2 };
    }
    return null;
  }, text);
  if (box === null) throw new Error(`the page does not say “${text}”`);
  return box;
}
