/** Captions on the simulated video site: published, refused, lost on the way, compared, taken back. */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, expect, test } from 'vitest';
import {
  ask,
  jobEnd,
  media,
  newFolder,
  removeFolders,
  send,
  startServer,
  startSite,
  upload,
  type Answer,
  type Server,
  type Service
} from './harness';

const SRT = '1\n00:00:01,000 --> 00:00:02,000\nIt strikes.\n\n2\n00:00:02,500 --> 00:00:03,500\n[bell]\n';
const HEARD = 'WEBVTT\n\n00:01.000 --> 00:02.000\nit stripes\n';

const data = newFolder();
const videos = newFolder();
let site: Service;
let server: Server;
let recordingId: string;
let trackId: string;
beforeAll(async () => {
  const film = media('mp4', [
    ...['-f', 'lavfi', '-i', 'color=c=teal:s=160x90:r=10:d=4', '-f', 'lavfi', '-i', 'sine=440:duration=4'],
    ...['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'aac']
  ]);
  writeFileSync(join(videos, 'tower.mp4'), film);
  writeFileSync(join(videos, 'tower.vtt'), HEARD);
  writeFileSync(join(videos, 'bell.mp4'), film);
  site = await startSite(data, videos);
  server = await startServer(newFolder(), { VINETAP_SITE_URL: site.url });
  recordingId = (await upload(server, 'tower.mp4', film)).body.recording.id;
  trackId = await take(SRT);
});
afterAll(async () => {
  await server.stop();
  await site.stop();
  removeFolders();
});

const behave = (behaviour: object): Promise<Response> =>
  fetch(`${site.url}/behaviour`, { method: 'PUT', body: JSON.stringify({ processingMs: 20, ...behaviour }) });
beforeEach(() => behave({}));

const take = async (content: string): Promise<string> =>
  (await send(server, `/api/recordings/${recordingId}/tracks`, { format: 'srt', language: 'en', content })).body.track
    .id;
const choose = (videoId: string | null): Promise<Answer> =>
  ask(server, `/api/recordings/${recordingId}/site-video`, {
    ...{ method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ videoId }) }
  });
const onSite = async () => (await ask(server, `/api/recordings/${recordingId}/site-video`)).body;
const shown = async (): Promise<string[][]> =>
  (await onSite()).video.captions.map(({ name, state, isDefault }: Record<string, unknown>) =>
    [name, state, ...(isDefault === true ? ['by itself'] : [])].map(String)
  );
const change = (captionId: string, body: object): Promise<Answer> =>
  ask(server, `/api/recordings/${recordingId}/site-video/captions/${captionId}`, {
    ...{ method: 'PATCH', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }
  });
async function publish(more: object = {}): Promise<Answer['body']> {
  const asked = await send(server, `/api/recordings/${recordingId}/publications`, {
    ...{ trackId, videoId: 'tower', language: 'en', name: 'English', isDefault: false, isDraft: false },
    ...more
  });
  expect(asked.status, JSON.stringify(asked.body)).toBe(202);
  return jobEnd(server, asked.body.job.id);
}
const comparison = async (id: string): Promise<Answer['body']> =>
  (await ask(server, `/api/publications/${id}/comparison`)).body;
const viewersGet = async (): Promise<string> => {
  const page = await (await fetch(`${site.url}/watch/tower`)).text();
  const sources = [...page.matchAll(/<track [^>]*src="([^"]+)"/g)].map(([, src]) => src!);
  return (await Promise.all(sources.map(async (src) => (await fetch(`${site.url}${src}`)).text()))).join('\n');
};

test('a video is chosen; captions replace what the site heard, are compared, replaced after a change, and taken back', async () => {
  const { channel, videos: listed } = (await ask(server, '/api/site')).body;
  expect([channel.languages.includes('pt'), listed.map(({ id }: { id: string }) => id)]).toEqual([
    false,
    ['bell', 'tower']
  ]);
  expect((await choose('nowhere')).status).toBe(404);
  expect((await onSite()).video).toBeNull();
  await choose('tower');
  expect(await shown()).toEqual([['English (automatic)', 'automatic']]);
  expect(await viewersGet()).toContain('it stripes');

  const first = await publish({ isDefault: true });
  expect(first, JSON.stringify(first)).toMatchObject({ state: 'done' });
  expect(await shown()).toEqual([
    ['English (automatic)', 'replaced'],
    ['English', 'published', 'by itself']
  ]);
  expect(await viewersGet()).toMatch(/It strikes\.[^]*\[bell\]/);
  expect(await comparison(first.result.publicationId)).toEqual({ cues: 2, otherwise: [] });

  const { revision, cues } = (await ask(server, `/api/tracks/${trackId}`)).body.track;
  const edits = [{ type: 'setCueText', cueId: cues[0].id, lines: ['It strikes twelve.'] }];
  await send(server, `/api/tracks/${trackId}/edits`, { revision, edits });
  const second = await publish();
  expect(await shown()).toHaveLength(2);
  expect(await viewersGet()).toContain('It strikes twelve.');
  const { publications } = await onSite();
  expect(publications.map(({ version }: { version: number }) => version)).toEqual([2, 1]);
  expect(JSON.stringify(publications)).not.toContain('content');

  const back = await publish({ publicationId: first.result.publicationId });
  expect(back.state).toBe('done');
  expect(await viewersGet()).not.toContain('twelve');
  expect(await comparison(back.result.publicationId)).toMatchObject({ otherwise: [] });
  expect((await ask(server, `/api/publications/${second.result.publicationId}/comparison`)).body.error.code).toBe(
    'not_shown'
  );
  const ours = (await onSite()).video.captions.find(({ name }: { name: string }) => name === 'English');
  await change(ours.id, { state: 'draft' });
  expect(await shown()).toEqual([
    ['English (automatic)', 'automatic'],
    ['English', 'draft']
  ]);
  expect(await viewersGet()).toContain('it stripes');
  const versions = (await ask(server, `/api/tracks/${trackId}/handed-over`)).body.versions;
  expect(versions[0].files[0]).toMatchObject({ name: 'tower.en.captions.vtt', format: 'vtt' });
});

test('what the site does not take is told in its words, and leaves nothing there', async () => {
  const before = await shown();
  const why = async (more: object): Promise<string> => {
    const job = await publish(more);
    expect(job.state).toBe('failed');
    return job.error;
  };
  expect(await why({ language: 'pt' })).toContain('say pt-BR or pt-PT');
  expect(await why({ language: 'tlh' })).toContain('not one of this site’s');
  expect(await why({ name: 'E'.repeat(60) })).toContain('1 to 40 letters');
  const late = await take('1\n00:10:00,000 --> 00:10:02,000\nToo late.\n');
  expect(await why({ trackId: late })).toContain('1 of 1 captions begin after the video’s end');
  const long = await take(`1\n00:00:01,000 --> 00:00:02,000\n${'word '.repeat(90_000)}\n`);
  expect(await why({ trackId: long })).toContain('400000 bytes');
  expect(await shown()).toEqual(before);
});

test.each([
  ['asks to come later', { tooMany: 2 }],
  ['forgot that we are signed in', { signOut: true }],
  ['takes it, and the answer is lost', { lostAnswers: 2 }]
])('a site that %s gets it once', async (_, behaviour) => {
  await choose('bell');
  const content = SRT.replace('strikes', `strikes ${Object.keys(behaviour)[0]}`);
  const id = await take(content);
  await behave(behaviour);
  const job = await publish({ trackId: id, videoId: 'bell', name: Object.keys(behaviour)[0] });
  expect(job, JSON.stringify(job)).toMatchObject({ state: 'done' });
  const there = await shown();
  expect(there.filter(([name]) => name === Object.keys(behaviour)[0])).toHaveLength(1);
  expect(await comparison(job.result.publicationId)).toEqual({ cues: 2, otherwise: [] });
});

test('a site that answers nonsense, never, or is gone, is told as that; the work can be done again', async () => {
  await choose('bell');
  await behave({ nonsense: 50 });
  const strange = await ask(server, '/api/site');
  expect([strange.status, strange.body.error.code]).toEqual([502, 'site_strange']);
  const failed = await publish({ videoId: 'bell', name: 'Nonsense' });
  expect([failed.state, failed.error]).toEqual(['failed', expect.stringContaining('makes no sense')]);
  // The first call gets no answer at all, and is asked again.
  await behave({ silence: 1 });
  expect((await ask(server, '/api/site')).status).toBe(200);
  const port = new URL(site.url).port;
  await site.stop();
  const gone = await ask(server, `/api/recordings/${recordingId}/site-video`);
  expect([gone.status, gone.body.error.code]).toEqual([502, 'site_lost']);
  site = await startSite(data, videos, port);
  await behave({});
  expect((await publish({ videoId: 'bell', name: 'Again' })).state).toBe('done');
});

test('without a site nothing is begun; a page of another origin may not stand in ours', async () => {
  const policy = async (one: Server): Promise<string> =>
    (await ask(one, '/')).headers.get('content-security-policy') ?? '';
  expect(await policy(server)).toContain(`frame-src ${new URL(site.url).origin}`);
  const plain = await startServer();
  expect(await policy(plain)).not.toContain('frame-src');
  const none = await ask(plain, '/api/site');
  expect([none.status, none.body.error.code]).toEqual([422, 'no_site']);
  await plain.stop();
});
