/** The list of recordings: found, sorted, told apart by how far their work is, grouped, changed many at once. */
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import {
  ask,
  jobEnd,
  removeFolders,
  send,
  startServer,
  tone,
  until,
  upload,
  type Answer,
  type Server
} from './harness';

let server: Server;
const ids: Record<string, string> = {};
const TITLES = ['Zeiger am Turm', 'École du temps', 'Bell ringing', 'älterer Herr'];

beforeAll(async () => {
  server = await startServer();
  for (const [at, title] of TITLES.entries()) {
    const { id } = (await upload(server, 'tone.wav', tone(2 + at))).body.recording;
    await patch(`/api/recordings/${id}`, { title });
    ids[title] = id;
  }
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

const patch = (path: string, value: unknown): Promise<Answer> =>
  ask(server, path, { method: 'PATCH', headers: { 'content-type': 'application/json' }, body: JSON.stringify(value) });
const remove = (path: string): Promise<Answer> => ask(server, path, { method: 'DELETE' });
const list = async (query: string): Promise<Answer['body']> => (await ask(server, `/api/recordings?${query}`)).body;
const titles = async (query: string): Promise<string[]> =>
  (await list(query)).recordings.map((one: { title: string }) => one.title);
const work = async (title: string): Promise<string> =>
  (await list('')).recordings.find((one: { title: string }) => one.title === title).work;

async function newTrack(recordingId: string, language: string, text: string): Promise<Answer['body']> {
  const content = `1\n00:00:00,100 --> 00:00:01,900\n${text}\n`;
  return (await send(server, `/api/recordings/${recordingId}/tracks`, { format: 'srt', language, content })).body.track;
}
const setState = (id: string, revision: number, state: string): Promise<Answer> =>
  send(server, `/api/tracks/${id}/edits`, { revision, edits: [{ type: 'setState', state }] });

describe('the list', () => {
  test('is sorted by any of its columns, either way, and answered a page at a time', async () => {
    expect(await titles('sort=title')).toEqual(['älterer Herr', 'Bell ringing', 'École du temps', 'Zeiger am Turm']);
    expect(await titles('sort=length')).toEqual(TITLES.toReversed());
    expect(await titles('sort=length&reversed=1')).toEqual(TITLES);
    expect(await titles('')).toEqual(TITLES.toReversed());
    const page = await list('sort=title&limit=2&offset=1');
    expect(page).toMatchObject({ total: 4, recordings: [{ title: 'Bell ringing' }, { title: 'École du temps' }] });
    expect((await list('ids=1&sort=title')).ids).toEqual([
      ids['älterer Herr'],
      ids['Bell ringing'],
      ids['École du temps'],
      ids['Zeiger am Turm']
    ]);
    expect((await ask(server, '/api/recordings?limit=0')).status).toBe(400);
    expect((await ask(server, '/api/recordings?sort=colour')).status).toBe(400);
  });

  test('is looked through by title, whatever the case and the accents, and by what is spoken', async () => {
    expect(await titles('text=ECOLE')).toEqual(['École du temps']);
    expect(await titles('text=alter')).toEqual(['älterer Herr']);
    const track = await newTrack(ids['Bell ringing']!, 'it', 'La torre dell’orologio, "100 %" d’estate');
    const found = await until(
      () => list('text=orologio'),
      ({ notSearchedYet }) => notSearchedYet === 0
    );
    expect(found.recordings).toMatchObject([{ title: 'Bell ringing', spoken: expect.stringContaining('orologio') }]);
    // What a search language would take for its own is a text like any other.
    expect(await titles(`text=${encodeURIComponent('"100 %"')}`)).toEqual(['Bell ringing']);
    expect(await titles(`text=${encodeURIComponent('torre OR bell*')}`)).toEqual([]);
    // Shorter than the index knows.
    expect(await titles('text=l’')).toEqual(['Bell ringing']);
    const { words } = track;
    const edits = [{ type: 'setWordText', wordId: words[1].id, text: 'campana' }];
    await send(server, `/api/tracks/${track.id}/edits`, { revision: 0, edits });
    // What was edited just now is found as it is now.
    expect(await titles('text=campana')).toEqual(['Bell ringing']);
    expect(await titles('text=torre dell')).toEqual([]);
  });

  test('does not count a new cut among those that are to be heard', async () => {
    const name = `/api/recordings?name=${encodeURIComponent('Second cut.wav')}&cutOf=${ids['Zeiger am Turm']}`;
    const { body } = await ask(server, name, { method: 'POST', body: tone(1) as BodyInit });
    expect(await work('Second cut')).toBe('draft');
    expect(await titles('work=unheard')).not.toContain('Second cut');
    await remove(`/api/recordings/${body.recording.id}?forever=1`);
  });

  test('tells how far the work is, and of which languages there are tracks', async () => {
    const title = 'École du temps';
    expect(await work(title)).toBe('unheard');
    const track = await newTrack(ids[title]!, 'fr-CA', 'Bonjour à tous');
    expect(await work(title)).toBe('draft');
    expect(await titles('work=unheard')).toEqual(['älterer Herr', 'Zeiger am Turm']);
    expect(await titles('language=fr')).toEqual([title]);
    expect((await list('')).languages).toEqual(['fr-CA', 'it']);
    const { body } = await setState(track.id, 0, 'ready');
    expect(await work(title)).toBe('ready');
    expect(await titles('work=ready&language=fr-CA')).toEqual([title]);
    await send(server, `/api/tracks/${track.id}/undo`, { revision: body.revision });
    expect(await work(title)).toBe('draft');
    const started = await send(server, `/api/recordings/${ids[title]}/transcriptions`, {
      ...{ engine: 'timing-only', language: 'fr' }
    });
    const during = await work(title);
    expect(['hearing', 'draft']).toContain(during);
    await jobEnd(server, started.body.job.id);
  });
});

test('a recording that is renamed leaves its tracks without a name of their own', async () => {
  const { id } = (await upload(server, 'Bell.wav', tone(2))).body.recording;
  const track = await newTrack(id, 'en', 'Ding');
  for (const title of ['Great bell', 'Great bell', 'The bell of Merrowby'])
    await patch(`/api/recordings/${id}`, { title });
  const { recording } = (await ask(server, `/api/recordings/${id}`)).body;
  expect(recording).toMatchObject({ title: 'The bell of Merrowby', formerTitles: ['Bell', 'Great bell'] });
  const { headers } = await ask(server, `/api/tracks/${track.id}/export?format=srt`);
  expect(headers.get('content-disposition')).toContain('the-bell-of-merrowby.en.srt');
  await remove(`/api/recordings/${id}?forever=1`);
});

test('text is looked for in tracks that may say it, left-out words and those edited just now too', async () => {
  const { id } = (await upload(server, 'Search.wav', tone(2))).body.recording;
  const track = await newTrack(id, 'en', 'The weight falls slowly');
  const found = async (text: string): Promise<number[]> =>
    (await ask(server, `/api/search?text=${encodeURIComponent(text)}`)).body.tracks.map(
      (one: { count: number }) => one.count
    );
  expect(await found('weight  falls')).toEqual([1]);
  await until(
    () => list('text=weight'),
    ({ notSearchedYet }) => notSearchedYet === 0
  );
  expect(await found('WEIGHT falls')).toEqual([1]);
  expect(await found('t f')).toEqual([1]);
  expect(await found('wait')).toEqual([]);
  const edits = [
    { type: 'setWordsShown', wordIds: [track.words[1].id], shown: false },
    { type: 'setWordText', wordId: track.words[3].id, text: 'quickly' }
  ];
  await send(server, `/api/tracks/${track.id}/edits`, { revision: 0, edits });
  expect(await found('weight falls quick')).toEqual([1]);
  await remove(`/api/recordings/${id}?forever=1`);
});

describe('projects', () => {
  test('group recordings; one that is deleted lets them go', async () => {
    const { project } = (await send(server, '/api/projects', { name: ' Tower ' })).body;
    expect(project).toMatchObject({ name: 'Tower', recordingCount: 0 });
    const some = [ids['Bell ringing']!, ids['Zeiger am Turm']!];
    const changed = await patch('/api/recordings', { ids: some, projectId: project.id });
    expect(changed.body.were).toEqual(some.map((id) => ({ id, projectId: null })));
    expect(await titles(`project=${project.id}&sort=title`)).toEqual(['Bell ringing', 'Zeiger am Turm']);
    expect(await titles('project=none&sort=title')).toEqual(['älterer Herr', 'École du temps']);
    await patch(`/api/projects/${project.id}`, { name: 'The tower' });
    expect((await ask(server, '/api/projects')).body.projects).toEqual([
      { id: project.id, name: 'The tower', recordingCount: 2 }
    ]);
    expect((await patch('/api/recordings', { ids: some, projectId: 'no such' })).status).toBe(404);
    expect((await send(server, '/api/projects', { name: ' ' })).status).toBe(400);
    expect((await remove(`/api/projects/${project.id}`)).status).toBe(204);
    expect(await titles('project=none')).toHaveLength(4);
    expect((await remove(`/api/projects/${project.id}`)).status).toBe(404);
  });
});

describe('many at once', () => {
  test('go into the bin and come back; where one is not there none is touched', async () => {
    const some = [ids['Bell ringing']!, ids['älterer Herr']!];
    expect((await patch('/api/recordings', { ids: [...some, 'none'], isBinned: true })).status).toBe(404);
    expect(await titles('')).toHaveLength(4);
    expect((await patch('/api/recordings', { ids: some })).status).toBe(400);
    await patch('/api/recordings', { ids: some, isBinned: true });
    expect(await titles('sort=title')).toEqual(['École du temps', 'Zeiger am Turm']);
    expect(await titles('bin=1&sort=title')).toEqual(['älterer Herr', 'Bell ringing']);
    // Languages of what is in the bin are not offered.
    expect((await list('')).languages).toEqual(expect.not.arrayContaining(['it']));
    await patch('/api/recordings', { ids: some, isBinned: false });
    expect(await titles('')).toHaveLength(4);
  });
});

describe('a track', () => {
  test('is duplicated with its log and its versions, and goes its own way', async () => {
    const recordingId = ids['Zeiger am Turm']!;
    const track = await newTrack(recordingId, 'de', 'Guten Morgen');
    const path = `/api/recordings/${recordingId}/tracks`;
    await send(server, `/api/tracks/${track.id}/edits`, {
      ...{ revision: 0, edits: [{ type: 'setWordText', wordId: track.words[1].id, text: 'Abend' }] }
    });
    await send(server, `/api/tracks/${track.id}/versions`, { title: 'Sent' });
    const { status, body } = await send(server, path, { copyOf: track.id, title: 'For children' });
    expect(status).toBe(201);
    expect(body.track).toMatchObject({ title: 'For children', revision: 2, cues: [{ lines: ['Guten Abend'] }] });
    const { versions } = (await ask(server, `/api/tracks/${body.track.id}/versions`)).body;
    expect(versions.map((one: { title: string }) => one.title)).toEqual(['Draft', 'Sent']);
    // Back behind the copying, to what the first one was.
    await send(server, `/api/tracks/${body.track.id}/undo`, { revision: 2 });
    const undone = await send(server, `/api/tracks/${body.track.id}/undo`, { revision: 3 });
    expect(undone.status).toBe(200);
    const lines = async (id: string): Promise<string[]> =>
      (await ask(server, `/api/tracks/${id}`)).body.track.cues[0].lines;
    expect(await lines(body.track.id)).toEqual(['Guten Morgen']);
    expect(await lines(track.id)).toEqual(['Guten Abend']);
    const elsewhere = `/api/recordings/${ids['Bell ringing']}/tracks`;
    expect((await send(server, elsewhere, { copyOf: track.id, title: 'x' })).status).toBe(404);
  });

  test('goes into the bin and comes back with its log; edits that were under way are not lost', async () => {
    const recordingId = ids['älterer Herr']!;
    const track = await newTrack(recordingId, 'en', 'Mind the step');
    const tracks = async (): Promise<string[]> =>
      (await ask(server, `/api/recordings/${recordingId}`)).body.recording.tracks.map((one: { id: string }) => one.id);
    expect((await remove(`/api/tracks/${track.id}`)).status).toBe(204);
    expect(await tracks()).toEqual([]);
    expect(await work('älterer Herr')).toBe('unheard');
    expect(await titles('text=mind the step')).toEqual([]);
    const edits = [{ type: 'setWordText', wordId: track.words[0].id, text: 'Watch' }];
    expect((await send(server, `/api/tracks/${track.id}/edits`, { revision: 0, edits })).status).toBe(200);
    const binned = (await ask(server, `/api/recordings/${recordingId}/tracks?bin=1`)).body.tracks;
    expect(binned).toMatchObject([{ id: track.id, revision: 1, binnedAtMs: expect.any(Number) }]);
    await ask(server, `/api/tracks/${track.id}/restore`, { method: 'POST' });
    expect(await tracks()).toEqual([track.id]);
    expect(await titles('text=watch the step')).toEqual(['älterer Herr']);
    await remove(`/api/tracks/${track.id}?forever=1`);
    expect((await ask(server, `/api/tracks/${track.id}`)).status).toBe(404);
    expect((await ask(server, `/api/recordings/${recordingId}/tracks?bin=1`)).body.tracks).toEqual([]);
  });

  test('says how many doubts and findings are left', async () => {
    const recordingId = ids['Zeiger am Turm']!;
    const content = '1\n00:00:00,100 --> 00:00:00,300\nTwo wrods that nobody reads in so short a time\n';
    const { track } = (
      await send(server, `/api/recordings/${recordingId}/tracks`, { format: 'srt', language: 'en', content })
    ).body;
    const summary = async (): Promise<Answer['body']> =>
      (await ask(server, `/api/recordings/${recordingId}`)).body.recording.tracks.find(
        (one: { id: string }) => one.id === track.id
      );
    expect(await summary()).not.toHaveProperty('doubtCount');
    const { doubts } = (await ask(server, `/api/tracks/${track.id}/doubts`)).body;
    expect(doubts.length).toBeGreaterThan(0);
    expect((await summary()).doubtCount).toBe(doubts.length);
    await send(server, `/api/tracks/${track.id}/doubts/judged`, { keys: [doubts[0].key] });
    expect((await summary()).doubtCount).toBe(doubts.length - 1);
    await ask(server, `/api/tracks/${track.id}/doubts/judged`, {
      ...{ method: 'DELETE', headers: { 'content-type': 'application/json' } },
      body: JSON.stringify({ keys: [doubts[0].key] })
    });
    expect((await summary()).doubtCount).toBe(doubts.length);
    const told = await until(summary, ({ findingCount }) => findingCount !== undefined);
    expect(told.findingCount).toBeGreaterThan(0);
  });
});
