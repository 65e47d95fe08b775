import { randomUUID } from 'node:crypto';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import Database from 'better-sqlite3';
import { join } from 'node:path';
import { applyChanges } from '../../src/lib/core/changes';
import { clientCommandSchema, resolveCommands } from '../../src/lib/core/commands';
import { anyCommandSeed, commandFromSeed } from '../../src/lib/core/testing/any-track';
import { trackChangesSchema, trackSchema } from '../../src/lib/core/track';
import { ask, removeFolders, send, startServer, tone, upload, type Answer, type Server } from './harness';

const SRT =
  '1\n00:00:00,500 --> 00:00:02,000\nGood morning, and\nwelcome to the tower.\n\n2\n00:00:02,500 --> 00:00:04,000\nMind the <i>last</i> step.\n';

let server: Server;
let recordingId: string;
beforeAll(async () => {
  server = await startServer();
  recordingId = (await upload(server, 'tone.wav', tone(6))).body.recording.id;
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

async function newTrack(): Promise<string> {
  return (await send(server, `/api/recordings/${recordingId}/tracks`, { format: 'srt', language: 'en', content: SRT }))
    .body.track.id;
}
const get = async (id: string): Promise<Answer['body']> => (await ask(server, `/api/tracks/${id}`)).body.track;
const edit = (id: string, revision: number, edits: unknown[], batchId?: string): Promise<Answer> =>
  send(server, `/api/tracks/${id}/edits`, { revision, edits, ...(batchId && { batchId }) });

describe('a track', () => {
  test('is imported with its warnings, edited by id, exported as it is shown', async () => {
    const odd = await send(server, `/api/recordings/${recordingId}/tracks`, {
      format: 'srt',
      language: 'en',
      content: SRT.replace('00:00:04,000', '00:00:02,500')
    });
    expect(odd.status).toBe(201);
    expect(odd.body.warnings).toMatchObject([{ line: 7, message: expect.stringContaining('no length') }]);
    const id = await newTrack();
    const before = await get(id);
    expect(before).toMatchObject({
      revision: 0,
      language: 'en',
      words: expect.arrayContaining([]),
      cues: [
        { startMs: 500, endMs: 2000, lines: ['Good morning, and', 'welcome to the tower.'] },
        { lines: ['Mind the <i>last</i> step.'] }
      ]
    });
    const saved = await edit(id, 0, [
      { type: 'setWordText', wordId: before.words[1].id, text: 'evening,' },
      { type: 'splitCue', cueId: before.cues[0].id, wordId: before.words[3].id },
      { type: 'setCuePlacement', cueId: before.cues[1].id, placement: 'top left' }
    ]);
    expect(saved).toMatchObject({ status: 200, body: { revision: 1 } });
    expect(saved.body.edits[1].newCueId).toMatch(/^[0-9a-f-]{36}$/);
    const vtt = await ask(server, `/api/tracks/${id}/export?format=vtt`);
    expect(vtt.headers.get('content-disposition')).toMatch(/filename="?tone(\.\d+)?\.en\.vtt/);
    expect(vtt.body).toMatch(
      /Good evening, and\n\n00:.*\nwelcome to the tower\.\n\n00:00:02\.500 --> 00:00:04\.000 line:0 position:5% align:start\nMind the <i>last<\/i> step\.\n$/
    );
    expect((await ask(server, `/api/tracks/${id}/export?format=srt`)).body).toContain(
      '3\n00:00:02,500 --> 00:00:04,000\nMind the <i>last</i> step.\n'
    );
  });

  test('takes a batch whole or not at all, once, and never on a stale revision', async () => {
    const id = await newTrack();
    const { words, cues } = await get(id);
    const half = await edit(id, 0, [
      { type: 'setWordText', wordId: words[0].id, text: 'Fine' },
      { type: 'removeCue', cueId: 'gone' }
    ]);
    expect(half).toMatchObject({ status: 422, body: { error: { code: 'unknown_cue' } } });
    expect((await get(id)).words[0].text).toBe('Good');
    const batchId = randomUUID();
    const add = [{ type: 'addCue', startMs: 4500, endMs: 5500, lines: ['Tick & tock'] }];
    const first = await edit(id, 0, add, batchId);
    const again = await edit(id, 0, add, batchId);
    expect(again.body).toEqual(first.body);
    expect((await get(id)).cues).toHaveLength(3);
    const stale = await edit(id, 0, add);
    expect(stale).toMatchObject({ status: 409, body: { error: { code: 'stale_revision', details: { revision: 1 } } } });
    const taken = await edit(id, 1, [
      { type: 'splitCue', cueId: cues[0].id, wordId: words[2].id, newCueId: cues[1].id }
    ]);
    expect(taken).toMatchObject({ status: 422, body: { error: { code: 'id_taken' } } });
    await edit(id, 1, [{ type: 'removeCue', cueId: first.body.edits[0].newCueId }]);
    const reused = await edit(id, 2, [
      { type: 'addCue', startMs: 4500, endMs: 5500, lines: [], newCueId: first.body.edits[0].newCueId }
    ]);
    expect(reused.body.error.code).toBe('id_taken');
    expect(await edit(id, 2, [{ type: 'restore', fields: {} }])).toMatchObject({ status: 400 });
  });

  test('undoes and redoes through the server, also after it was killed', async () => {
    const id = await newTrack();
    const { words } = await get(id);
    const texts = ['One', 'Two', 'Three'];
    for (const [at, text] of texts.entries()) await edit(id, at, [{ type: 'setWordText', wordId: words[0].id, text }]);
    const step = (kind: 'undo' | 'redo', revision: number, batchId?: string) =>
      send(server, `/api/tracks/${id}/${kind}`, { revision, ...(batchId && { batchId }) });
    const first = async (): Promise<string> => (await get(id)).words[0].text;
    const batchId = randomUUID();
    expect((await step('undo', 3, batchId)).body).toMatchObject({ revision: 4, label: 'correct a word' });
    expect((await step('undo', 3, batchId)).body.revision).toBe(4);
    expect(await first()).toBe('Two');
    await server.stop('SIGKILL');
    server = await startServer(server.folder);
    expect(await first()).toBe('Two');
    expect((await step('undo', 4)).status).toBe(200);
    expect(await first()).toBe('One');
    expect((await step('redo', 5)).status).toBe(200);
    expect((await step('redo', 6)).status).toBe(200);
    expect(await first()).toBe('Three');
    expect((await step('redo', 7)).body.error.code).toBe('nothing_to_redo');
    for (let revision = 7; revision < 10; revision++) expect((await step('undo', revision)).status).toBe(200);
    expect((await step('undo', 10)).body.error.code).toBe('nothing_to_undo');
    expect(await first()).toBe('Good');
    await edit(id, 10, [{ type: 'setWordText', wordId: words[0].id, text: 'Four' }]);
    expect((await step('redo', 11)).body.error.code).toBe('nothing_to_redo');
  });

  test('is broken anew as one entry, whatever was corrected stays', async () => {
    const id = await newTrack();
    const { words } = await get(id);
    await edit(id, 0, [{ type: 'setWordText', wordId: words[6].id, text: 'belfry.' }]);
    const anew = await send(server, `/api/tracks/${id}/recue`, { rules: { maxLines: 1, maxCharsPerLine: 18 } });
    expect(anew.body.track).toMatchObject({
      revision: 2,
      rules: { maxLines: 1, maxCharsPerLine: 18, maxCharsPerSecond: 20 }
    });
    for (const cue of anew.body.track.cues) expect(cue.lines).toHaveLength(1);
    expect(anew.body.track.cues.map((cue: { lines: string[] }) => cue.lines.join(' ')).join(' ')).toContain(
      'welcome to the belfry.'
    );
    expect((await send(server, `/api/tracks/${id}/recue`, { rules: {}, revision: 0 })).status).toBe(409);
    expect((await send(server, `/api/tracks/${id}/undo`, { revision: 2 })).body.label).toBe('break anew');
    expect((await get(id)).cues).toHaveLength(2);
  });
});

test('draft and log, memory and snapshot are the same to the byte, after hundreds of edits and a kill', async () => {
  const id = await newTrack();
  let revision = 0;
  let track = trackSchema.parse((await ask(server, `/api/tracks/${id}/document`)).body.track);
  const draft = JSON.stringify(track);
  const seeds = fc.sample(anyCommandSeed, { numRuns: 520, seed: 20_261_123 });
  for (const [at, seed] of seeds.entries()) {
    if (at % 9 === 8) {
      const undone = await send(server, `/api/tracks/${id}/undo`, { revision });
      if (undone.status === 200) {
        revision = undone.body.revision;
        track = trackSchema.parse((await ask(server, `/api/tracks/${id}/document`)).body.track);
      }
      continue;
    }
    const made = clientCommandSchema.safeParse(commandFromSeed(track, { ...seed, mint: `${seed.mint}x${at}` }));
    if (!made.success) continue;
    const saved = await edit(id, revision, [made.data]);
    const own = resolveCommands(track, [made.data]);
    expect(saved.status === 200, JSON.stringify(saved.body)).toBe(own.ok);
    if (!own.ok) continue;
    track = own.value.track;
    revision = saved.body.revision;
  }
  expect(revision).toBeGreaterThan(220);
  const memory = (await ask(server, `/api/tracks/${id}/document`)).body;
  expect(JSON.stringify(trackSchema.parse(memory.track))).toBe(JSON.stringify(track));
  await server.stop('SIGKILL');

  const db = new Database(join(server.folder, 'vinetap.sqlite'), { readonly: true });
  const entries = db
    .prepare('SELECT revision, changes FROM log_entries WHERE document_id = ? ORDER BY revision')
    .all(id) as { revision: number; changes: string }[];
  const snapshots = db
    .prepare('SELECT revision, content FROM log_snapshots WHERE document_id = ? ORDER BY revision')
    .all(id) as { revision: number; content: string }[];
  expect(snapshots.length).toBeGreaterThan(1);
  expect(snapshots[0]!.content).toBe(draft);
  let replayed = trackSchema.parse(JSON.parse(draft));
  for (const entry of entries) {
    const applied = applyChanges(replayed, trackChangesSchema.parse(JSON.parse(entry.changes)));
    if (!applied.ok) throw new Error(`entry ${entry.revision}: ${applied.problem.message}`);
    replayed = applied.value.document;
    const snapshot = snapshots.find((one) => one.revision === entry.revision);
    if (snapshot !== undefined) expect(JSON.stringify(replayed)).toBe(snapshot.content);
  }
  db.close();
  expect(JSON.stringify(replayed)).toBe(JSON.stringify(track));

  server = await startServer(server.folder);
  const reloaded = (await ask(server, `/api/tracks/${id}/document`)).body;
  expect(reloaded.revision).toBe(revision);
  expect(JSON.stringify(reloaded.track)).toBe(JSON.stringify(memory.track));
});

test('the event stream tells of edits, and what was missed to those who come back', async () => {
  const id = await newTrack();
  const { words } = await get(id);
  const read = async (
    headers: Record<string, string>,
    isThere: (text: string) => boolean,
    meanwhile: () => Promise<unknown>
  ): Promise<string> => {
    const stop = new AbortController();
    const response = await fetch(`${server.url}/api/events`, { headers, signal: stop.signal });
    let text = '';
    const done = meanwhile();
    for await (const piece of response.body as unknown as AsyncIterable<Uint8Array>) {
      text += new TextDecoder().decode(piece);
      if (isThere(text)) break;
    }
    await done;
    stop.abort();
    return text;
  };
  const rename = (revision: number) =>
    edit(id, revision, [{ type: 'setWordText', wordId: words[0].id, text: `T${revision}` }]);
  const first = await read(
    {},
    (text) => text.includes('event: track'),
    () => rename(0)
  );
  expect(first).toContain(`data: {"trackId":"${id}","revision":1}`);
  const last = /id: (\S+)\nevent: track/.exec(first)![1]!;
  await rename(1);
  expect(
    await read(
      { 'last-event-id': last },
      (text) => text.includes('"revision":2'),
      async () => undefined
    )
  ).toContain(`"trackId":"${id}","revision":2`);
  expect(
    await read(
      { 'last-event-id': 'other-1' },
      (text) => text.includes('reset'),
      async () => undefined
    )
  ).toContain('event: reset');
});

describe('times', () => {
  test('are shifted and stretched in a range or in pieces, each one entry that can be undone', async () => {
    const id = await newTrack();
    const times = async () =>
      (await get(id)).cues.map((cue: { startMs: number; endMs: number }) => [cue.startMs, cue.endMs]);
    const before = await times();
    const retime = (body: object) => send(server, `/api/tracks/${id}/retime`, body);
    expect((await retime({ shiftMs: -1000 })).status).toBe(200);
    expect(await times()).toEqual([
      [0, 1000],
      [1500, 3000]
    ]);
    await send(server, `/api/tracks/${id}/undo`, { revision: 1 });
    expect(await times()).toEqual(before);
    const { body } = await retime({ shiftMs: 100, speed: 2, fromMs: 2000, toMs: 9000, revision: 2 });
    expect(body.track.cues.map((cue: { startMs: number }) => cue.startMs)).toEqual([500, 5100]);
    await retime({
      segments: [
        { fromMs: 0, toMs: 5000, shiftMs: 10_000, speed: 1 },
        { fromMs: 5000, toMs: 20_000, shiftMs: 0, speed: 1 }
      ]
    });
    expect((await get(id)).cues.map((cue: { startMs: number }) => cue.startMs)).toEqual([5100, 10_500]);
    expect((await retime({ shiftMs: 1, revision: 1 })).body.error.code).toBe('stale_revision');
    expect((await retime({ speed: 0 })).status).toBe(400);
    expect((await retime({ segments: [] })).status).toBe(400);
  });

  test('that break the rules are told', async () => {
    const id = await newTrack();
    const rules = async () =>
      (await ask(server, `/api/tracks/${id}/checks`)).body.findings
        .map((one: { rule: string }) => one.rule)
        .filter((rule: string) => ['reading_speed', 'min_duration'].includes(rule));
    expect(await rules()).toEqual(['reading_speed']);
    const { cues } = await get(id);
    await edit(id, 0, [{ type: 'setCueTimes', cueId: cues[0].id, startMs: 500, endMs: 900 }]);
    expect(await rules()).toEqual(['reading_speed', 'min_duration']);
  });

  test('of cues broken anew in the browser come as they are, with ids of their own', async () => {
    const id = await newTrack();
    const { cues, rules } = (await ask(server, `/api/tracks/${id}/document`)).body.track;
    const set = (revision: number, made: object[]) => edit(id, revision, [{ type: 'setCues', cues: made, rules }]);
    expect((await set(0, [cues[0], { ...cues[1], id: randomUUID() }])).status).toBe(200);
    expect((await set(1, [cues[0], cues[1]])).body.error.code).toBe('id_taken');
  });
});
