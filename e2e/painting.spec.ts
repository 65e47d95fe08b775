/** The preview and the burnt-in video are painted by two engines, and are the same to the eye and to the pixel. */
import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { expect, test } from '@playwright/test';
import { build, type Rolldown } from 'vite';
import { parseFontKey } from '../src/lib/core/faces';
import { DRESSED_CUES, paintCue, shelf } from '../src/lib/core/testing/fonts';
import { makeCue, makeTrack, makeWord, type Track } from '../src/lib/core/track';
import { shippedFontPath } from '../src/lib/server/faces/shipped';
import { structuralSimilarity, withoutAlpha } from '../tests/server/pictures';

const SIZE = { width: 640, height: 360 };
function dressedTrack(): Track {
  const cues = DRESSED_CUES.map(({ lines, look, placement }, at) => {
    const times = { startMs: at * 1000, endMs: at * 1000 + 900 };
    const words = lines.map((line) =>
      line.split(' ').map((text, place) => makeWord({ id: `w${at}-${line}-${place}`, text, ...times, timing: 'heard' }))
    );
    const cue = makeCue({
      ...{ id: `c${String(at).padStart(2, '0')}`, ...times, look, placement },
      wordIds: words.flat().map(({ id }) => id),
      lineStarts: words.slice(1).map(([first]) => first!.id)
    });
    return { words: words.flat(), cue };
  });
  return makeTrack({
    ...{ id: 't', recordingId: 'r', language: 'en', title: '' },
    words: cues.flatMap(({ words }) => words),
    cues: cues.map(({ cue }) => cue)
  });
}

test('forty cues come out of both as one', async ({ page }) => {
  const track = dressedTrack();
  const used = new Set<string>();
  const fonts = {
    ...shelf,
    find: (key: string) => {
      used.add(key);
      return shelf.find(key);
    }
  };
  const here = track.cues.map((cue) => {
    const context = paintCue(track, cue, SIZE, '#557766', fonts);
    return withoutAlpha(context.getImageData(0, 0, SIZE.width, SIZE.height).data);
  });

  // A page of its own, with the bundle and what it fetches, which no server serves.
  const made = (await build({
    configFile: false,
    logLevel: 'silent',
    build: { write: false, target: 'esnext', rolldownOptions: { input: resolve('e2e/engines/painting.ts') } }
  })) as Rolldown.RolldownOutput;
  const parts = new Map(
    made.output.map((part) => [`/${part.fileName}`, part.type === 'chunk' ? part.code : Buffer.from(part.source)])
  );
  const entry = made.output.find((part) => part.type === 'chunk' && part.isEntry)!.fileName;
  await page.route('http://painting.localhost/**', (route) => {
    const { pathname } = new URL(route.request().url());
    const part = parts.get(pathname);
    const contentType = pathname.endsWith('.js')
      ? 'text/javascript'
      : pathname.endsWith('.wasm')
        ? 'application/wasm'
        : 'text/html';
    return route.fulfill({ contentType, body: part ?? `<script type="module" src="/${entry}"></script>` });
  });
  await page.goto('http://painting.localhost/');
  await page.waitForFunction(() => 'painting' in window);
  const files = Object.fromEntries(
    [...used].map((key) => [key, readFileSync(shippedFontPath(parseFontKey(key)!)!).toString('base64')])
  );
  const there = await page.evaluate(
    ([asked, size, given]) =>
      (
        window as unknown as { painting: { paint(track: string, size: object, fonts: object): string[] } }
      ).painting.paint(asked, size, given),
    [JSON.stringify(track), SIZE, files] as const
  );
  for (const [at, pixels] of there.entries()) {
    const rgb = withoutAlpha(Buffer.from(pixels, 'base64'));
    expect(structuralSimilarity(here[at]!, rgb, SIZE), `cue ${at}`).toBeGreaterThan(0.999);
  }
});
