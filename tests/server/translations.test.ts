import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import {
  ask,
  jobEnd,
  newFolder,
  removeFolders,
  send,
  startServer,
  startService,
  tone,
  until,
  upload,
  type Answer,
  type Server,
  type Service
} from './harness';

/** Stages that stand in for engines that misbehave: each reads and writes with NULs, as the real ones do. */
const MISBEHAVING: Readonly<Record<string, string>> = {
  // Knows one word, and leaves out what speaks of winter.
  'eng-ita': `sed -u 's/bell/campana/;/winter/d'`,
  'eng-por': `tail -f '/dev/null'`,
  'eng-fra': `false`,
  'eng-ast': `sed -u 's/clock/reló/'`
};

let server: Server;
let odd: Server;
beforeAll(async () => {
  const modes = newFolder();
  mkdirSync(modes, { recursive: true });
  for (const [name, stages] of Object.entries(MISBEHAVING)) writeFileSync(join(modes, `${name}.mode`), `${stages}\n`);
  [server, odd] = await Promise.all([startServer(), startServer(newFolder(), { VINETAP_APERTIUM_MODES: modes })]);
});
afterAll(async () => {
  await Promise.all([server.stop(), odd.stop()]);
  removeFolders();
});

const LINES = [
  'The clock of Merrowby',
  'stops in winter.',
  '[bell strikes]',
  'Ines has kept it for 40 years.',
  'Do you hear the bell?'
];
const srt = (lines: readonly string[]): string =>
  lines.map((line, at) => `${at + 1}\n00:00:0${at},000 --> 00:00:0${at},900\n${line}\n`).join('\n');

async function track(on: Server, lines: readonly string[] = LINES, language = 'en'): Promise<string> {
  const { body } = await upload(on, 'clock.wav', tone(6));
  const made = await send(on, `/api/recordings/${body.recording.id}/tracks`, {
    format: 'srt',
    language,
    content: srt(lines)
  });
  expect(made.status, JSON.stringify(made.body)).toBe(201);
  return made.body.track.id as string;
}
const begin = (on: Server, id: string, asked: object): Promise<Answer> =>
  send(on, `/api/tracks/${id}/translations`, asked);
async function begun(on: Server, id: string, asked: object): Promise<string> {
  const { status, body } = await begin(on, id, asked);
  expect(status, JSON.stringify(body)).toBe(201);
  return body.track.id as string;
}
const rowsOf = async (on: Server, id: string) =>
  (await ask(on, `/api/tracks/${id}/rows`)).body.rows as {
    source: string;
    target: string;
    state: string;
    sourceChanged: boolean;
    changedFrom?: string;
    cueIds: string[];
  }[];
const edit = async (on: Server, id: string, edits: object[]): Promise<Answer> => {
  const { body } = await ask(on, `/api/tracks/${id}`);
  return send(on, `/api/tracks/${id}/edits`, { revision: body.track.revision, edits });
};

describe('a translation', () => {
  test('begins empty or with the words of its source, and is listed with how far it is', async () => {
    const source = await track(server);
    const empty = await begun(server, source, { language: 'pt-br', from: 'empty' });
    const copied = await begun(server, source, { language: 'he', from: 'source', title: 'Hebrew, by hand' });
    expect((await rowsOf(server, empty)).map(({ target, state }) => [target, state])).toEqual([
      ['', 'empty'],
      ['', 'empty'],
      ['[bell strikes]', 'machine'],
      ['', 'empty'],
      ['', 'empty']
    ]);
    expect((await rowsOf(server, copied)).every(({ source: one, target }) => one === target)).toBe(true);
    const { body } = await ask(server, `/api/tracks/${source}/translations`);
    expect(body.translations).toMatchObject([
      { id: empty, language: 'pt-BR', progress: { rows: 5, states: { empty: 4, machine: 1, mine: 0, done: 0 } } },
      { id: copied, title: 'Hebrew, by hand', progress: { states: { machine: 5 } } }
    ]);
    expect((await ask(server, `/api/tracks/${copied}`)).body.track).toMatchObject({
      kind: 'subtitles',
      sourceTrackId: source
    });
  });

  test('is drafted on this machine, kept where a hand was, and taken back as one entry', async () => {
    const source = await track(server);
    const asked = await begin(server, source, { language: 'es', from: 'engine', engine: 'apertium' });
    expect(asked.status, JSON.stringify(asked.body)).toBe(202);
    expect(await jobEnd(server, asked.body.job.id)).toMatchObject({
      state: 'done',
      result: { trackId: asked.body.trackId, left: 0 }
    });
    const id = asked.body.trackId as string;
    const drafted = await rowsOf(server, id);
    expect(drafted.map(({ state }) => state)).toEqual(Array(5).fill('machine'));
    expect(drafted.map(({ target }) => target).join(' ')).toMatch(/Merrowby.*invierno.*\[.*\].*Ines.*40.*\?/);
    expect(drafted[4]!.target).toMatch(/^¿\p{Lu}/u);
    const { track: read } = (await ask(server, `/api/tracks/${id}`)).body;
    // What the engine did not know is doubted; a sentence that it knows is not.
    const unknown = read.words.filter((word: { confidence: number | null }) => word.confidence === 0);
    expect(unknown.map(({ text }: { text: string }) => text.replace(/\W/g, ''))).toContain('Merrowby');

    const [first] = read.cues;
    await edit(server, id, [{ type: 'setWordText', wordId: first.wordIds[0], text: 'Aquel' }]);
    const again = await send(server, `/api/tracks/${id}/drafts`, { engine: 'apertium' });
    expect(await jobEnd(server, again.body.job.id)).toMatchObject({ state: 'done' });
    const after = await rowsOf(server, id);
    expect(after[0]).toMatchObject({ state: 'mine' });
    expect(after[0]!.target).toMatch(/^Aquel/);
    expect(after[1]).toMatchObject({ state: 'machine', target: drafted[1]!.target });
    // The second draft, the word, the first draft.
    for (let step = 0; step < 3; step++) {
      const { revision } = (await ask(server, `/api/tracks/${id}`)).body.track;
      expect((await send(server, `/api/tracks/${id}/undo`, { revision })).status).toBe(200);
    }
    expect((await rowsOf(server, id)).map(({ state }) => state)).toEqual([
      'empty',
      'empty',
      'machine',
      'empty',
      'empty'
    ]);
  });

  test('tells what its source said before it was changed', async () => {
    const source = await track(server);
    const id = await begun(server, source, { language: 'ca', from: 'empty' });
    const [, second] = (await ask(server, `/api/tracks/${source}`)).body.track.cues;
    await edit(server, source, [{ type: 'setCueText', cueId: second.id, lines: ['stops in the frost.'] }]);
    expect((await rowsOf(server, id))[1]).toMatchObject({
      source: 'stops in the frost.',
      sourceChanged: true,
      changedFrom: 'stops in winter.'
    });
  });

  test('begins with captions made elsewhere, or with a plain text', async () => {
    const source = await track(server);
    const moved = srt([
      'El reloj de Merrowby',
      'se para en invierno.',
      '[campana]',
      'Ines lo cuida desde hace 40 años.',
      '¿Oyes la campana?'
    ]);
    const byTimes = await begun(server, source, {
      language: 'es',
      from: 'text',
      text: moved.replaceAll(',000', ',120')
    });
    expect((await rowsOf(server, byTimes)).map(({ target }) => target)).toEqual([
      ...[
        'El reloj de Merrowby',
        'se para en invierno.',
        '[campana]',
        'Ines lo cuida desde hace 40 años.',
        '¿Oyes la campana?'
      ]
    ]);
    const plain = await begun(server, source, {
      ...{ language: 'es', from: 'text' },
      text: 'El reloj de Merrowby se para en invierno.\n[campana]\nInes lo cuida desde hace 40 años. ¿Oyes la campana?'
    });
    const rows = await rowsOf(server, plain);
    expect(rows.map(({ target }) => target).join(' ')).toBe(
      'El reloj de Merrowby se para en invierno. [campana] Ines lo cuida desde hace 40 años. ¿Oyes la campana?'
    );
    expect(rows[3]!.target).toBe('Ines lo cuida desde hace 40 años.');
  });

  test('goes over the clipboard and back, shown before it is taken', async () => {
    const source = await track(server);
    const id = await begun(server, source, { language: 'de', from: 'empty' });
    const { parts } = (await ask(server, `/api/tracks/${id}/clipboard`)).body;
    expect(parts).toHaveLength(1);
    expect(parts[0]).toMatchObject({ firstRow: 0, rows: 5 });
    expect(parts[0].text).toContain('[4] Ines has kept it for 40 years.');
    const text = '[1] Die Uhr von Merrowby\n\n[2] steht im Winter still.\n\n[4] Ines pflegt sie seit 40 Jahren.';
    const shown = await send(server, `/api/tracks/${id}/clipboard`, { text, dryRun: true });
    expect(shown.body.rows[1]).toEqual({ row: 1, text: 'steht im Winter still.', sure: true });
    expect((await rowsOf(server, id))[1]).toMatchObject({ state: 'empty' });
    const { revision } = (await ask(server, `/api/tracks/${id}`)).body.track;
    const stale = await send(server, `/api/tracks/${id}/clipboard`, { text, revision: revision + 4 });
    expect(stale.status).toBe(409);
    const taken = await send(server, `/api/tracks/${id}/clipboard`, { text, revision, keepSource: true });
    expect(taken.body.revision).toBe(revision + 1);
    expect((await rowsOf(server, id)).map(({ target }) => target)).toEqual([
      ...['Die Uhr von Merrowby', 'steht im Winter still.', '[bell strikes]'],
      ...['Ines pflegt sie seit 40 Jahren.', 'Do you hear the bell?']
    ]);
    const huge = await send(server, `/api/tracks/${id}/clipboard`, { text: 'x '.repeat(2_500_000) });
    expect(huge).toMatchObject({ status: 422, body: { error: { code: 'too_long' } } });
  });

  test('goes out with its source above it, where that is asked for', async () => {
    const source = await track(server);
    const id = await begun(server, source, {
      language: 'es',
      from: 'text',
      text: srt(['El reloj', 'se para.', '[campana]', 'Ines', '¿Oyes?'])
    });
    const { body } = await ask(server, `/api/tracks/${id}/export?format=vtt&withSource=1`);
    expect(body).toContain('El reloj');
    expect(body).toMatch(/line:\S+[^\n]*\nThe clock of Merrowby/);
    expect((await ask(server, `/api/tracks/${id}/export?format=vtt`)).body).not.toContain('The clock');
    const alone = await ask(server, `/api/tracks/${source}/export?format=vtt&withSource=1`);
    expect(alone).toMatchObject({ status: 422, body: { error: { code: 'no_translation' } } });
  });

  test('remembers what was said before in this house, and keeps its terms', async () => {
    const source = await track(server);
    const id = await begun(server, source, { language: 'gl', from: 'empty' });
    const [first, second] = (await ask(server, `/api/tracks/${id}`)).body.track.cues;
    await edit(server, id, [
      {
        type: 'writeRows',
        cues: [
          { cueId: first.id, lines: ['O reloxo de Merrowby'], translation: { state: 'done', sourceText: LINES[0] } },
          { cueId: second.id, lines: ['borrador'], translation: { state: 'machine', sourceText: LINES[1] } }
        ]
      }
    ]);
    const again = await begun(server, await track(server, ['The old clock of Merrowby', LINES[1]!]), {
      language: 'gl',
      from: 'empty'
    });
    const { recalled } = (
      await send(server, `/api/tracks/${again}/recall`, { texts: ['The old clock of Merrowby', LINES[1], '"); DROP'] })
    ).body;
    expect(recalled[0]).toMatchObject([{ source: LINES[0], target: 'O reloxo de Merrowby' }]);
    expect(recalled[0][0].likeness).toBeGreaterThan(0.7);
    // A draft that nobody looked at is no memory.
    expect(recalled.slice(1)).toEqual([[], []]);

    const terms = [{ source: 'pallet', target: 'paleta', note: 'of the escapement' }];
    const put = await ask(server, '/api/glossary', {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ from: 'en-GB', to: 'gl', terms })
    });
    expect(put.body.terms).toEqual(terms);
    expect((await ask(server, '/api/glossary?from=en&to=gl')).body.terms).toEqual(terms);
    expect((await ask(server, '/api/glossary?from=en&to=es')).body.terms).toEqual([]);
  });

  test('is refused in plain words where it cannot be begun', async () => {
    const source = await track(server);
    const codes = async (asked: object) => {
      const { status, body } = await begin(server, source, asked);
      return [status, body.error.code];
    };
    expect(await codes({ language: 'not a tag', from: 'empty' })).toEqual([400, 'bad_request']);
    expect(await codes({ language: 'de', from: 'engine', engine: 'apertium' })).toEqual([422, 'pair_missing']);
    expect(await codes({ language: 'de', from: 'engine', engine: 'nobody' })).toEqual([422, 'unknown_engine']);
    expect(await codes({ language: 'de', from: 'text', text: ' ' })).toEqual([422, 'no_text']);
    expect((await ask(server, `/api/tracks/${source}/rows`)).body.error.code).toBe('no_translation');
    expect((await ask(server, `/api/tracks/${source}/translations`)).body.translations).toEqual([]);
    const wordless = await track(server, ['♪']);
    const drafted = await begin(server, wordless, { language: 'es', from: 'engine', engine: 'apertium' });
    expect(await jobEnd(server, drafted.body.job.id)).toMatchObject({ state: 'done' });
  });
});

describe('a service that bills', () => {
  let service: Service;
  let billed: Server;
  beforeAll(async () => {
    service = await startService(newFolder());
    billed = await startServer(newFolder(), { VINETAP_METERED_URL: service.url });
  });
  afterAll(async () => {
    await Promise.all([billed.stop(), service.stop()]);
  });
  const GERMAN = [
    'Good morning, and welcome to the tower.',
    'What do you hear when something is wrong?',
    'Nobody knows this one.'
  ];
  const behave = (how: object): Promise<Response> =>
    fetch(`${service.url}/behaviour`, { method: 'PUT', body: JSON.stringify(how) });
  const balance = async (): Promise<number> =>
    ((await (await fetch(`${service.url}/account`)).json()) as { balanceCents: number }).balanceCents;

  test('tells its price first, translates, marks what it is not sure of, and bills once', async () => {
    const source = await track(billed, GERMAN);
    const before = await balance();
    const asked = { language: 'de', from: 'engine', engine: 'metered-service' };
    const refused = await begin(billed, source, asked);
    expect(refused).toMatchObject({ status: 402, body: { error: { code: 'agree_to_price' } } });
    const { costCents } = refused.body.error.details;
    expect(costCents).toBe(4);
    expect((await ask(billed, `/api/tracks/${source}/translations`)).body.translations).toEqual([]);
    const { body } = await begin(billed, source, { ...asked, spendCents: costCents });
    expect(await jobEnd(billed, body.job.id)).toMatchObject({ state: 'done', result: { left: 0 } });
    expect((await rowsOf(billed, body.trackId)).map(({ target }) => target)).toEqual([
      ...['Guten Morgen und willkommen im Turm.', 'Was hören Sie, wenn etwas nicht stimmt?', 'Nobody knows this one.']
    ]);
    const { words } = (await ask(billed, `/api/tracks/${body.trackId}`)).body.track;
    expect(words.filter(({ confidence }: { confidence: number | null }) => confidence === 0)).toHaveLength(4);
    expect(await balance()).toBe(before - costCents);
  });

  test('that breaks down, hangs or is lost for a while bills nothing for what it did not do', async () => {
    const source = await track(billed, GERMAN);
    const { body } = await send(billed, `/api/tracks/${source}/translations`, { language: 'de', from: 'empty' });
    const id = body.track.id as string;
    const before = await balance();
    const draft = async () =>
      (await send(billed, `/api/tracks/${id}/drafts`, { engine: 'metered-service', spendCents: 4 })).body.job
        .id as string;
    await behave({ next: 'fail' });
    expect(await jobEnd(billed, await draft())).toMatchObject({
      state: 'failed',
      error: expect.stringContaining('Nothing was billed')
    });
    await behave({ next: 'never end' });
    const hung = await draft();
    await until(
      async () => (await ask(billed, `/api/jobs/${hung}`)).body.job.stage,
      (stage) => stage === 'translating'
    );
    await ask(billed, `/api/jobs/${hung}`, { method: 'DELETE' });
    expect(await jobEnd(billed, hung)).toMatchObject({ state: 'cancelled' });
    await until(balance, (left) => left === before);
    await behave({ hangUps: 2 });
    expect(await jobEnd(billed, await draft())).toMatchObject({ state: 'done' });
    expect(await balance()).toBe(before - 4);
  });
});

describe('translators', () => {
  test('say what is here, what could be, and how good it is', async () => {
    const [apertium] = (await ask(server, '/api/translators')).body.translators;
    expect(apertium).toMatchObject({ id: 'apertium', available: true, sendsText: false });
    expect(apertium.pairs).toContainEqual({ from: 'en', to: 'es', worth: 'rough' });
    expect(apertium.pairs).toContainEqual({ from: 'es', to: 'ca', worth: 'good' });
    expect(apertium.missing).toContainEqual({ from: 'sv', to: 'da', worth: 'good', install: 'apertium-swe-dan' });
  });

  test('that leave a sentence out, say nothing or die are an outcome, and nothing is lost', async () => {
    const source = await track(odd);
    const drafted = async (language: string) => {
      const { body } = await begin(odd, source, { language, from: 'engine', engine: 'apertium' });
      return { id: body.trackId as string, job: await jobEnd(odd, body.job.id) };
    };
    const left = await drafted('it');
    expect(left.job).toMatchObject({ state: 'done', result: { left: 1 } });
    expect((await rowsOf(odd, left.id)).map(({ target }) => target)).toEqual([
      ...['', '', '[campana strikes]', 'Ines has kept it for 40 years.', 'Do you hear the campana?']
    ]);
    const dead = await drafted('fr');
    expect(dead.job.state).toBe('failed');
    expect(dead.job.error).toMatch(/Apertium cannot translate/);
    expect((await rowsOf(odd, dead.id)).map(({ state }) => state)).toEqual([
      'empty',
      'empty',
      'machine',
      'empty',
      'empty'
    ]);
  });

  test('are cancelled at once, hung or not', async () => {
    const source = await track(odd);
    const { body } = await begin(odd, source, { language: 'pt', from: 'engine', engine: 'apertium' });
    await until(
      async () => (await ask(odd, `/api/jobs/${body.job.id}`)).body.job.stage,
      (stage) => stage === 'translating'
    );
    expect((await ask(odd, `/api/jobs/${body.job.id}`, { method: 'DELETE' })).status).toBe(202);
    expect(await jobEnd(odd, body.job.id)).toMatchObject({ state: 'cancelled' });
  });
});
