/** Checks over the API: found, mended as one entry of the log, let stand with a reason, by sheets that are kept. */
import { createHash } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import {
  ask,
  newFolder,
  removeFolders,
  send,
  startServer,
  tone,
  uploadMapped,
  type Answer,
  type Server
} from './harness';

let server: Server;
let recordingId: string;
beforeAll(async () => {
  server = await startServer();
  recordingId = await uploadMapped(server, 'tower.wav', tone(30));
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

const SRT = `1
00:00:01,000 --> 00:00:04,000
The tower keeps the the hours of the town.

2
00:00:05,000 --> 00:00:05,600
It strikes.

3
00:00:08,000 --> 00:00:08,500
Nobody winds it

4
00:00:29,000 --> 00:00:31,000
They climb up to oil it every sprign.
`;

const put = (path: string, value: unknown): Promise<Answer> =>
  ask(server, path, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify(value) });
async function newTrack(content = SRT): Promise<string> {
  const made = await send(server, `/api/recordings/${recordingId}/tracks`, { format: 'srt', language: 'en', content });
  return made.body.track.id as string;
}
const checks = async (id: string, query = ''): Promise<Answer['body']> =>
  (await ask(server, `/api/tracks/${id}/checks${query}`)).body;
const rulesOf = async (id: string, query = ''): Promise<string[]> =>
  ((await checks(id, query)).findings as { rule: string }[]).map(({ rule }) => rule);

describe('findings', () => {
  test('hold the cue, the figure and its limit; what could not be checked says why', async () => {
    const { findings, notChecked } = await checks(await newTrack());
    const found = (rule: string): unknown => (findings as { rule: string }[]).find((one) => one.rule === rule);
    expect(found('min_duration')).toMatchObject({
      ...{ severity: 'warning', group: 'timing', startMs: 5000, endMs: 5600, value: 600, limit: 1000, fixable: true },
      message: 'On screen for 0.60 s; the least is 1.00 s.'
    });
    for (const rule of ['doubled_word', 'spelling', 'sentence_end', 'past_end'])
      expect(found(rule), rule).toBeDefined();
    // A tone is no speech.
    expect(found('caption_unheard')).toMatchObject({ group: 'sound', value: 0, limit: 25 });
    expect(notChecked).toContainEqual({ rule: 'contrast', reason: 'The light of the picture is not measured.' });
    expect(notChecked).toContainEqual(expect.objectContaining({ rule: 'near_shot' }));
  });

  test('are mended one by one, or all of a kind, each time as one entry that is undone at once', async () => {
    const id = await newTrack();
    const { findings, revision } = await checks(id);
    const { key } = (findings as { rule: string; key: string }[]).find(({ rule }) => rule === 'doubled_word')!;
    const one = await send(server, `/api/tracks/${id}/checks/mend`, { revision, keys: [key] });
    expect(one).toMatchObject({ status: 200, body: { revision: revision + 1, mended: 1, keys: [key] } });
    expect(one.body.edits).toEqual([expect.objectContaining({ type: 'setWordsShown', shown: false })]);
    expect(await rulesOf(id)).not.toContain('doubled_word');

    const all = await send(server, `/api/tracks/${id}/checks/mend`, { revision: revision + 1, rule: 'min_duration' });
    expect(all.body).toMatchObject({ revision: revision + 2, mended: 2 });
    expect(await rulesOf(id)).not.toContain('min_duration');
    // Again there is nothing to do, and no entry is made.
    const again = await send(server, `/api/tracks/${id}/checks/mend`, { revision: revision + 2, rule: 'min_duration' });
    expect(again.body).toMatchObject({ revision: revision + 2, edits: [], mended: 0 });
    await send(server, `/api/tracks/${id}/undo`, { revision: revision + 2 });
    expect((await rulesOf(id)).filter((rule) => rule === 'min_duration')).toHaveLength(2);

    const stale = await send(server, `/api/tracks/${id}/checks/mend`, { revision, rule: 'min_duration' });
    expect(stale).toMatchObject({ status: 409, body: { error: { code: 'stale_revision' } } });
    // What is a guess is not mended unseen.
    const now = (await checks(id)).revision as number;
    expect((await send(server, `/api/tracks/${id}/checks/mend`, { revision: now, rule: 'spelling' })).body.mended).toBe(
      0
    );
    expect((await send(server, `/api/tracks/${id}/checks/mend`, { revision: now, keys: ['gone'] })).body.mended).toBe(
      0
    );
    expect((await send(server, `/api/tracks/${id}/checks/mend`, { revision: now })).status).toBe(400);
  });

  test('that are let stand keep their reason, until their text changes', async () => {
    const id = await newTrack();
    const { findings } = await checks(id);
    const finding = (findings as { rule: string; key: string; cueId: string }[]).find(
      ({ rule }) => rule === 'sentence_end'
    )!;
    const path = `/api/tracks/${id}/checks/accepted`;
    expect((await send(server, path, { keys: [finding.key], reason: 'It is a list.' })).status).toBe(204);
    const acceptedOf = async (): Promise<unknown> =>
      ((await checks(id)).findings as { rule: string; accepted?: unknown }[]).find(
        ({ rule }) => rule === 'sentence_end'
      )!.accepted;
    expect(await acceptedOf()).toEqual({ reason: 'It is a list.' });
    const { revision } = await checks(id);
    const mended = await send(server, `/api/tracks/${id}/checks/mend`, { revision, rule: 'sentence_end' });
    expect(mended.body.mended).toBe(0);
    await send(server, `/api/tracks/${id}/edits`, {
      ...{ revision, edits: [{ type: 'setCueText', cueId: finding.cueId, lines: ['Nobody winds it up'] }] }
    });
    expect(await acceptedOf()).toBeUndefined();
    await send(server, path, { keys: [finding.key] });
    const taken = await ask(server, path, {
      ...{ method: 'DELETE', headers: { 'content-type': 'application/json' } },
      body: JSON.stringify({ keys: [finding.key] })
    });
    expect(taken.status).toBe(204);
    expect((await send(server, path, { keys: [] })).status).toBe(400);
    expect((await send(server, '/api/tracks/none/checks/accepted', { keys: ['a'] })).status).toBe(404);
  });
});

describe('sheets', () => {
  test('speak of the checks that there are, each with its numbers and what it needs', async () => {
    const { checks: all } = (await ask(server, '/api/checks')).body as { checks: { id: string }[] };
    expect(all.length).toBeGreaterThan(60);
    expect(all.find(({ id }) => id === 'near_shot')).toEqual({
      ...{
        id: 'near_shot',
        group: 'timing',
        title: 'Just over a change of the picture',
        severity: 'warning',
        needs: ['shots']
      },
      ...{
        numbers: { frames: { label: 'Nearer than', unit: 'frames', least: 1, most: 50, value: 12 } },
        mends: 'unseen'
      }
    });
  });

  test('are kept, each change a version; a track copies the one it takes, and is checked by another on request', async () => {
    const own = { name: 'Museum', sheet: { min_duration: { severity: 'error', numbers: { least: 550 } } } };
    const kept = await put('/api/sheets', { sheets: [own] });
    expect(kept.status).toBe(200);
    const museum = (kept.body.sheets as { name: string; version: number }[]).find(({ name }) => name === 'Museum')!;
    expect(museum).toMatchObject({ ...own, shipped: false });
    expect((kept.body.sheets as unknown[]).length).toBeGreaterThanOrEqual(6);
    const changed = await put('/api/sheets', { sheets: [{ ...own, sheet: {} }] });
    expect((changed.body.sheets as { name: string; version: number }[]).at(-1)!.version).toBeGreaterThan(
      museum.version
    );
    await put('/api/sheets', { sheets: [own] });

    const id = await newTrack();
    const count = async (query = ''): Promise<number> =>
      (await rulesOf(id, query)).filter((rule) => rule === 'min_duration').length;
    expect(await count()).toBe(2);
    expect(await count('?sheet=Museum')).toBe(1);
    expect(await count('?sheet=Vertical%20clip')).toBe(0);
    const edits = [{ type: 'setSheet', sheet: own.sheet, from: { name: 'Museum', version: museum.version } }];
    const { revision } = await checks(id);
    expect((await send(server, `/api/tracks/${id}/edits`, { revision, edits })).status).toBe(200);
    await put('/api/sheets', { sheets: [] });
    expect(await count()).toBe(1);
    const { track } = (await ask(server, `/api/tracks/${id}`)).body;
    expect(track).toMatchObject({ sheet: own.sheet, sheetFrom: { name: 'Museum', version: museum.version } });
  });

  test('with unknown checks, absurd numbers or names that are taken are refused by name', async () => {
    const id = await newTrack();
    const { revision } = await checks(id);
    for (const [sheet, path] of [
      [{ no_such: {} }, 'no_such'],
      [{ min_gap: { numbers: { least: 1e9 } } }, 'min_gap.numbers.least']
    ] as const) {
      const refused = await put('/api/sheets', { sheets: [{ name: 'Odd', sheet }] });
      expect(refused).toMatchObject({ status: 400, body: { error: { code: 'bad_request' } } });
      expect(refused.body.error.message).toContain(path);
      const edited = await send(server, `/api/tracks/${id}/edits`, { revision, edits: [{ type: 'setSheet', sheet }] });
      expect(edited).toMatchObject({ status: 400, body: { error: { code: 'bad_request' } } });
    }
    expect((await put('/api/sheets', { sheets: [{ name: 'Broadcast', sheet: {} }] })).status).toBe(422);
    expect((await ask(server, `/api/tracks/${id}/checks?sheet=None`)).status).toBe(404);
  });
});

describe('tracks at the edge', () => {
  const removeAll = async (id: string): Promise<void> => {
    const { track } = (await ask(server, `/api/tracks/${id}`)).body;
    const edits = (track.cues as { id: string }[]).map((cue) => ({ type: 'removeCue', cueId: cue.id }));
    await send(server, `/api/tracks/${id}/edits`, { revision: track.revision, edits });
  };

  test('of no cues say that, of one are checked', async () => {
    const id = await newTrack();
    await removeAll(id);
    expect(await rulesOf(id)).toContain('no_cues');
    const { paper } = (await ask(server, `/api/tracks/${id}/checks/report`)).body;
    expect(JSON.stringify(paper)).toContain('The track has no cues.');
    const one = await newTrack('1\n00:00:01,000 --> 00:00:03,000\nThe tower stands.\n');
    expect(await rulesOf(one)).toEqual(['caption_unheard']);
  });

  test('of 10,000 cues in a minute are checked, mended where they can be, and reported', async () => {
    const clock = (ms: number): string =>
      `00:00:${String(Math.floor(ms / 1000)).padStart(2, '0')},${String(ms % 1000).padStart(3, '0')}`;
    const content = Array.from(
      { length: 10_000 },
      (_, at) => `${at + 1}\n${clock(at * 5)} --> ${clock(at * 5 + 5)}\na a b${at}\n`
    ).join('\n');
    const id = await newTrack(content);
    const { findings, revision } = await checks(id);
    expect(findings.length).toBeGreaterThan(20_000);
    const mended = await send(server, `/api/tracks/${id}/checks/mend`, { revision, rule: 'doubled_word' });
    expect(mended.body.mended).toBe(10_000);
    expect((await ask(server, `/api/tracks/${id}/checks/report?format=html`)).status).toBe(200);
  });
});

describe('the report', () => {
  test('tells what was checked by which sheet, what is left and what stands, and the hash of what was handed over', async () => {
    const id = await newTrack();
    const { findings, revision } = await checks(id);
    const { key } = (findings as { rule: string; key: string }[]).find(({ rule }) => rule === 'sentence_end')!;
    await send(server, `/api/tracks/${id}/checks/accepted`, { keys: [key], reason: 'הלקוח ביקש' });
    const reportOf = async (query = ''): Promise<string> =>
      (await fetch(`${server.url}/api/tracks/${id}/checks/report?format=html${query}`)).text();
    expect(await reportOf()).toContain('No file of this track has been handed over yet.');

    const srt = Buffer.from(await (await fetch(`${server.url}/api/tracks/${id}/export?format=srt`)).arrayBuffer());
    const hash = createHash('sha256').update(srt).digest('hex');
    const page = await reportOf();
    for (const told of [hash, '1, the one checked', 'Web video', '<html lang="en">', 'הלקוח ביקש'])
      expect(page).toContain(told);
    expect(page).toMatch(/On screen for 0\.60 s; the least is 1\.00 s\./);
    expect(page).toContain('The light of the picture is not measured.');
    expect(await reportOf('&sheet=Broadcast')).toContain('<td>Broadcast</td>');

    const path = join(newFolder(), 'report.pdf');
    const pdf = await fetch(`${server.url}/api/tracks/${id}/checks/report?format=pdf`);
    expect(pdf.headers.get('content-disposition')).toMatch(/\.check\.pdf"?$/);
    writeFileSync(path, Buffer.from(await pdf.arrayBuffer()));
    const read = execFileSync('pdfinfo', ['-struct-text', path], { encoding: 'utf8' });
    expect(read.replaceAll(/"\s+"/g, '')).toContain(hash);
    expect(read).toMatch(/Table[^]*Caption[^]*TR[^]*TH[^]*Scope \/Row[^]*TD/);

    // Another version is told apart from the one that was handed over.
    await send(server, `/api/tracks/${id}/edits`, {
      revision,
      edits: [{ type: 'setLook', look: { color: '#ffee00' } }]
    });
    expect(await reportOf()).toContain('1, not the one checked');
    expect((await ask(server, `/api/tracks/${id}/checks/report?format=doc`)).body.error.code).toBe('not_supported');
    expect((await ask(server, '/api/tracks/none/checks/report')).status).toBe(404);
  });
});
