/** A log says the same wherever it is read: changes that Node resolved give the same bytes in Chromium. */
import { expect, test } from '@playwright/test';
import fc from 'fast-check';
import { resolve } from 'node:path';
import { build, type Rolldown } from 'vite';
import { resolveCommands, type Command } from '../src/lib/core/commands';
import { anyCommandSeed, anyTrack, commandFromSeed } from '../src/lib/core/testing/any-track';
import type { Track } from '../src/lib/core/track';

/** Scripts without spaces, which engines part in their own ways: Lao, Thai, Khmer, Burmese, Japanese. */
const UNSPACED = ['ພາສາລາວສວຍງາມ', 'ภาษาไทยสวยงาม', 'ភាសាខ្មែរស្អាត', 'မြန်မာဘာသာ', '時計の針が動く'];

test('changes resolved by one engine give the same bytes in the other', async ({ page }) => {
  const made = (await build({
    configFile: false,
    logLevel: 'silent',
    build: {
      write: false,
      lib: { entry: resolve('e2e/engines/applying.ts'), formats: ['iife'], name: 'applying', fileName: 'applying' }
    }
  })) as Rolldown.RolldownOutput[];
  const [chunk] = made[0]!.output;
  await page.goto('about:blank');
  await page.addScriptTag({ content: chunk.code });

  const tracks = fc.sample(anyTrack, { numRuns: 40, seed: 20_261_127 });
  const seeds = fc.sample(anyCommandSeed, { numRuns: 1000, seed: 20_261_127 });
  let entries = 0;
  for (const [at, start] of tracks.entries()) {
    const language = ['en', 'lo', 'th', 'km', 'my', 'ja'][at % 6]!;
    const draft: Track = { ...start, language };
    let now = draft;
    const changes: string[] = [];
    const bytes: string[] = [];
    for (const [step, seed] of seeds.slice(at * 25, at * 25 + 25).entries()) {
      const text = UNSPACED[(at + step) % UNSPACED.length]!;
      const written =
        language === 'en' ? seed : { ...seed, lines: [text, ...seed.lines], phrase: `${text} ${seed.phrase}` };
      const command: Command = commandFromSeed(now, { ...written, mint: `${seed.mint}-${step}` });
      const done = resolveCommands(now, [command]);
      if (!done.ok) continue;
      now = done.value.track;
      changes.push(JSON.stringify(done.value.changes));
      bytes.push(JSON.stringify(now));
    }
    entries += changes.length;
    const there = await page.evaluate(
      ([track, list]) =>
        (
          window as unknown as { applying: { apply(track: string, changes: readonly string[]): string[] } }
        ).applying.apply(track, list),
      [JSON.stringify(draft), changes] as const
    );
    expect(there).toEqual(bytes);
  }
  expect(entries).toBeGreaterThan(500);
});
