/** A track on the video site: refused and mended, watched in two languages, compared, replaced, taken back and down. */
import { resolve } from 'node:path';
import { expect, test, type FrameLocator, type Page } from '@playwright/test';
import { ask, checkAccessible, newFolder, send, startDemo, startSite, watchConsole, type Service } from './support';

let site: Service;
let server: Awaited<ReturnType<typeof startDemo>>;
test.beforeAll(async () => {
  site = await startSite(newFolder(), resolve('demo/media'));
  server = await startDemo({ VINETAP_SITE_URL: site.url });
});
test.afterAll(async () => {
  await server.stop();
  await site.stop();
});

const pageOf = (page: Page): FrameLocator => page.frameLocator('[data-testid=site-page]');
const choose = async (page: Page, name: string): Promise<void> => {
  await pageOf(page).locator('#captions').click();
  await pageOf(page).getByRole('menuitemradio', { name, exact: true }).click();
};
/** What the player shows at a time. */
const shownAt = (page: Page, seconds: number): Promise<string> =>
  pageOf(page)
    .locator('video')
    .evaluate(async (video: HTMLVideoElement, at) => {
      const track = [...video.textTracks].find(({ mode }) => mode === 'showing');
      while (track?.cues == null || track.cues.length === 0) await new Promise(requestAnimationFrame);
      const moved = new Promise((done) => video.addEventListener('seeked', done, { once: true }));
      video.currentTime = at;
      await moved;
      while ((track.activeCues?.length ?? 0) === 0) await new Promise(requestAnimationFrame);
      return [...track.activeCues!]
        .map((cue) => (cue as VTTCue).getCueAsHTML().textContent)
        .join(' ')
        .replaceAll(/\s+/g, ' ');
    }, seconds);

test('a track is published, looked at as its viewers do, replaced after a change, taken back and taken down', async ({
  page
}) => {
  watchConsole(page);
  const { recordingId, trackId } = server.interview;
  const german = (
    await send(server, `/api/recordings/${recordingId}/tracks`, {
      ...{
        format: 'srt',
        language: 'de',
        content: '1\n00:00:01,000 --> 00:00:04,000\nWir stehen hinter dem Zifferblatt.\n'
      }
    })
  ).body.track.id as string;
  const open = async (id: string): Promise<void> => {
    await page.goto(`${server.url}/recordings/${recordingId}/tracks/${id}/hand-over`);
    await page.getByRole('tab', { name: 'Site' }).click();
  };
  const captions = page.getByTestId('site-captions').getByRole('listitem');
  const publish = page.getByRole('button', { name: /^Publish( anew)?$/ });
  const compared = page.getByTestId('site-compared');

  await open(trackId);
  await page.getByTestId('site-video').selectOption('winding-the-merrowby-clock');
  await expect(captions).toContainText(['English (automatic)']);
  await choose(page, 'English (automatic)');
  expect(await shownAt(page, 2)).toContain('merry be clock');

  await page.getByTestId('site-name').fill('English for everybody who comes to see the clock');
  await publish.click();
  await expect(page.getByTestId('site-refused')).toContainText('1 to 40 letters');
  await page.getByTestId('site-name').fill('English');
  await publish.click();
  await expect(compared).toHaveText(/^All \d+ cues are shown as they were handed over\.$/);
  await expect(captions).toContainText(['put away', 'ours, version 1, shown by itself']);
  await checkAccessible(page);
  expect(await shownAt(page, 2)).toContain('behind the face of the Merrowby clock.');

  await open(german);
  await page.getByLabel('shown by itself').uncheck();
  await publish.click();
  await expect(compared).toHaveText('The cue is shown as it was handed over.');
  await choose(page, 'German');
  expect(await shownAt(page, 2)).toBe('Wir stehen hinter dem Zifferblatt.');

  const { revision, cues } = (await ask(server, `/api/tracks/${trackId}`)).body.track;
  const edits = [
    { type: 'setCueText', cueId: cues[0].id, lines: ['We are standing right behind', 'the face of the clock.'] }
  ];
  await send(server, `/api/tracks/${trackId}/edits`, { revision, edits });
  await open(trackId);
  await page.getByRole('tab', { name: 'Handed over' }).click();
  await expect(page.getByTestId('since-handed-over')).toContainText('Changed since version 1 was handed over.');
  await expect(page.getByRole('list', { name: 'Changed since version 1' })).toContainText('right behind');
  await checkAccessible(page);
  await page.getByRole('tab', { name: 'Site' }).click();
  await publish.click();
  await expect(captions).toContainText(['put away', 'German', 'ours, version 2']);
  await expect(compared).toHaveText(/^All \d+ cues/);
  expect(await shownAt(page, 2)).toContain('right behind');

  // A mistake: back to what was there before.
  await page.getByRole('button', { name: 'Publish version 1 again' }).click();
  await expect(captions).toContainText(['put away', 'German', 'ours, version 1']);
  await expect(compared).toHaveText(/^All \d+ cues/);
  expect(await shownAt(page, 2)).toContain('Merrowby');
  await page.getByRole('button', { name: 'Take down: English', exact: true }).click();
  await expect(captions).toContainText(['heard by the site, shown', 'published', 'sent, not shown']);
});
