/** Files that are read and written over the API, in every format that does both. */
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
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
  until,
  upload,
  type Answer,
  type Server
} from './harness';

let server: Server;
let recordingId: string;
beforeAll(async () => {
  server = await startServer();
  recordingId = (await upload(server, 'tower.wav', tone(20))).body.recording.id;
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

const TTML = `<?xml version="1.0" encoding="UTF-8"?>
<tt xmlns="http://www.w3.org/ns/ttml" xmlns:tts="http://www.w3.org/ns/ttml#styling" xmlns:ttm="http://www.w3.org/ns/ttml#metadata" xml:lang="en">
  <head><metadata><ttm:agent xml:id="i" type="person"><ttm:name type="full">Ines</ttm:name></ttm:agent></metadata></head>
  <body><div begin="1s">
    <p begin="0s" end="2.5s" ttm:agent="i">The <span tts:fontStyle="italic">tower</span> &amp; its<br/>clock stand.</p>
    <p begin="4s" dur="2s">[bell strikes]</p>
  </div></body>
</tt>`;

const take = (format: string, content: string): Promise<Answer> =>
  send(server, `/api/recordings/${recordingId}/tracks`, { format, language: 'en', content });
const file = (id: string, query: string): Promise<Response> => fetch(`${server.url}/api/tracks/${id}/export?${query}`);
const shown = async (id: string): Promise<unknown> =>
  (
    (await ask(server, `/api/tracks/${id}`)).body.track.cues as { startMs: number; endMs: number; lines: string[] }[]
  ).map(({ startMs, endMs, lines }) => [startMs, endMs, lines]);
const SHOWN = [
  [1000, 3500, ['The <i>tower</i> &amp; its', 'clock stand.']],
  [5000, 7000, ['[bell strikes]']]
];

test('TTML comes in, goes out in every format that is read, and comes in again as it was', async () => {
  const made = await take('ttml', TTML);
  expect([made.status, made.body.warnings]).toEqual([201, []]);
  const { id } = made.body.track;
  expect(await shown(id)).toEqual(SHOWN);
  expect(made.body.track.speakers).toEqual([expect.objectContaining({ name: 'Ines' })]);
  const { formats } = (await ask(server, '/api/formats')).body as { formats: { id: string; reads: boolean }[] };
  const read = formats.filter(({ reads }) => reads).map((one) => one.id);
  expect(read).toEqual(expect.arrayContaining(['srt', 'vtt', 'ttml', 'ebu-tt-d', 'stl', 'scc', 'csv', 'json']));
  for (const format of read) {
    const bytes = Buffer.from(await (await file(id, `format=${format}`)).arrayBuffer());
    const again = await send(server, `/api/recordings/${recordingId}/tracks`, {
      ...{ format, language: 'en', contentBase64: bytes.toString('base64') }
    });
    expect([again.status, again.body.warnings], format).toEqual([201, []]);
    // Whole pictures: 3,500 ms is half of one too early, and at 29.97 a second nothing is a whole one.
    const shape = format === 'stl' ? [[1000, 3520, SHOWN[0]![2]], SHOWN[1]] : SHOWN;
    const rounded = (await shown(again.body.track.id)) as typeof SHOWN;
    if (format === 'scc') {
      expect(rounded.map(([, , lines]) => lines)).toEqual(SHOWN.map(([, , lines]) => lines));
      rounded.forEach(([startMs], at) => expect(Math.abs(Number(startMs) - Number(SHOWN[at]![0]))).toBeLessThan(34));
    } else expect(rounded, format).toEqual(shape);
  }
  const latin = Buffer.from('1\n00:00:01,000 --> 00:00:02,000\nPi\xf9 tardi.\n', 'latin1').toString('base64');
  const decoded = await send(server, `/api/recordings/${recordingId}/tracks`, {
    ...{ format: 'srt', language: 'it', contentBase64: latin, encoding: 'windows-1252' }
  });
  expect(await shown(decoded.body.track.id)).toEqual([[1000, 2000, ['Più tardi.']]]);
  expect((await take('stl', 'text')).body.error.code).toBe('bad_request');
});

test('a file is said as its options have it; what makes no sense or is not there yet is refused', async () => {
  const { id } = (await take('ttml', TTML)).body.track;
  const text = async (query: string): Promise<string> => (await file(id, query)).text();
  expect(await text('format=srt&offsetMs=-2000&formatting=0&sounds=0')).toBe(
    '1\n00:00:00,000 --> 00:00:01,500\nThe tower & its\nclock stand.\n'
  );
  expect(await text('format=vtt&speakers=0')).not.toContain('<v ');
  const bytes = new Uint8Array(await (await file(id, 'format=srt&byteOrderMark=1&crlf=1')).arrayBuffer());
  expect([...bytes.slice(0, 6)]).toEqual([0xef, 0xbb, 0xbf, 0x31, 13, 10]);
  for (const [query, status, code] of [
    ['format=srt&offsetMs=soon', 400, 'bad_request'],
    ['format=none', 422, 'not_supported'],
    ['format=srt&trimId=x', 404, 'unknown_trim']
  ] as const) {
    const refused = await ask(server, `/api/tracks/${id}/export?${query}`);
    expect([refused.status, refused.body.error.code], query).toEqual([status, code]);
  }
  const remarks = await ask(server, `/api/tracks/${id}/export/remarks?format=csv`);
  expect(remarks.body).toEqual({ remarks: [] });
});

test('a track as JSON is whole: looks, rules and the times of words come back; what is none is refused', async () => {
  const { id } = (await take('ttml', TTML)).body.track;
  const edits = [
    { type: 'setLook', look: { color: '#ffee00' } },
    { type: 'setTitle', title: 'For the museum' }
  ];
  await send(server, `/api/tracks/${id}/edits`, { revision: 0, edits });
  const again = await take('json', await (await file(id, 'format=json')).text());
  const whole = async (of: string): Promise<object> => {
    const { track } = (await ask(server, `/api/tracks/${of}/document`)).body;
    return { ...track, id: null };
  };
  expect(await whole(again.body.track.id)).toEqual(await whole(id));
  for (const content of ['{', '{"vineTapTrack":1}', TTML]) {
    const refused = await take('json', content);
    expect([refused.status, refused.body.error.code]).toEqual([422, 'unreadable_captions']);
  }
  for (const format of ['ttml', 'csv']) expect((await take(format, 'nothing')).status, format).toBe(422);
});

describe('a bundle', () => {
  const bundle = (body: object): Promise<Response> =>
    fetch(`${server.url}/api/bundles`, {
      ...{ method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }
    });
  /** Names and texts of an archive, by a reader that is not ours. */
  function unzipped(bytes: Uint8Array): Readonly<Record<string, string>> {
    const path = join(newFolder(), 'bundle.zip');
    writeFileSync(path, bytes);
    const read = `import json, sys, zipfile
z = zipfile.ZipFile(sys.argv[1]); assert z.testzip() is None
print(json.dumps({n: z.read(n).decode('utf-8', 'replace') for n in z.namelist()}))`;
    return JSON.parse(execFileSync('python3', ['-c', read, path], { encoding: 'utf8' })) as Record<string, string>;
  }

  test('holds files of many tracks by the names that are wanted, with a list of them and their hashes', async () => {
    const ids = [(await take('ttml', TTML)).body.track.id, (await take('ttml', TTML)).body.track.id] as string[];
    const items = ids.flatMap((trackId) => [
      { trackId, format: 'srt', options: { offsetMs: 1000, formatting: false } },
      { trackId, format: 'pdf' }
    ]);
    const sent = await bundle({ items, names: '{title}/{kind}.{language}', title: 'The tower' });
    expect(sent.headers.get('content-disposition')).toContain('the-tower.zip');
    const files = unzipped(new Uint8Array(await sent.arrayBuffer()));
    const [first, , again] = Object.keys(files);
    expect(Object.keys(files)).toEqual([
      ...['tower-captions.en.srt', 'tower-captions.en.pdf', 'tower-captions.en-2.srt', 'tower-captions.en-2.pdf'],
      'contents.csv'
    ]);
    expect(files[first!]).toContain('00:00:02,000 --> 00:00:04,500\nThe tower & its');
    expect(files[again!]).toBe(files[first!]);
    const hash = createHash('sha256').update(files[first!]!).digest('hex');
    expect(files['contents.csv']).toContain(
      `tower-captions.en.srt,Tower,en,srt,1,${files[first!]!.length},${hash}\r\n`
    );
    const report = await (await fetch(`${server.url}/api/tracks/${ids[0]}/checks/report?format=html`)).text();
    expect(report).toContain(hash);
  });

  test('for a destination holds all tracks of recordings, tells its names before, and is remembered', async () => {
    const other = (await upload(server, 'bell.wav', tone(2))).body.recording.id as string;
    await send(server, `/api/recordings/${other}/tracks`, {
      ...{ format: 'srt', language: 'en', content: '1\n00:00:00,100 --> 00:00:01,000\nBell\n' }
    });
    const naming = { pattern: '{title} v{version} {language}', letters: 'as written', languages: 'eng' };
    const destination = {
      ...{ naming, sheet: null },
      formats: [
        { format: 'srt', options: { crlf: true } },
        { format: 'txt', options: {} }
      ]
    };
    const asked = { destination, recordingIds: [other] };
    const names = ['Bell v1 eng.srt', 'Bell v1 eng.txt'];
    const { last } = (await ask(server, '/api/destinations')).body;
    const told = await bundle({ ...asked, dryRun: true });
    expect([await told.json(), last]).toEqual([{ names }, null]);
    const files = unzipped(new Uint8Array(await (await bundle(asked)).arrayBuffer()));
    expect(Object.keys(files)).toEqual([...names, 'contents.csv']);
    expect(files[names[0]!]).toContain('\r\nBell\r\n');
    expect((await ask(server, '/api/destinations')).body.last).toEqual(destination);
    const empty = (await upload(server, 'silent.wav', tone(1))).body.recording.id as string;
    for (const [body, status] of [
      [{ destination, recordingIds: [empty] }, 422],
      [{ destination, recordingIds: ['none'] }, 404],
      [{ destination: { ...destination, formats: [] }, recordingIds: [other] }, 400]
    ] as const)
      expect((await bundle(body)).status).toBe(status);
  });

  test('of a track, a format or a pattern that there is not is refused before anything is sent', async () => {
    const { id: trackId } = (await take('ttml', TTML)).body.track;
    for (const [body, status] of [
      [{ items: [{ trackId: 'none', format: 'srt' }] }, 404],
      [{ items: [{ trackId, format: 'none' }] }, 422],
      [{ items: [{ trackId, format: 'srt', options: { offsetMs: 'soon' } }] }, 400],
      [{ items: [{ trackId, format: 'srt' }], names: '{titel}' }, 400],
      [{ items: [] }, 400]
    ] as const)
      expect((await bundle(body)).status, JSON.stringify(body)).toBe(status);
  });
});

test('destinations are kept by name; formats that there are not, twice the same, and names that are taken are refused', async () => {
  const put = (destinations: unknown): Promise<Answer> =>
    ask(server, '/api/destinations', {
      ...{ method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ destinations }) }
    });
  const naming = { pattern: '{title}', letters: 'small', languages: 'eng' };
  const own = (formats: unknown, name = 'Museum') => [{ name, destination: { formats, naming, sheet: 'Broadcast' } }];
  const kept = await put(own([{ format: 'srt', options: { crlf: true } }]));
  expect(kept.status).toBe(200);
  const { destinations } = (await ask(server, '/api/destinations')).body as { destinations: { name: string }[] };
  expect(destinations.find(({ name }) => name === 'Museum')).toMatchObject({
    ...{ shipped: false, version: 1 },
    destination: { formats: [{ format: 'srt', options: { crlf: true } }], naming }
  });
  for (const [wrong, status] of [
    [own([{ format: 'none', options: {} }]), 400],
    [
      own([
        { format: 'srt', options: {} },
        { format: 'srt', options: {} }
      ]),
      400
    ],
    [own([{ format: 'srt', options: {} }], 'A web site'), 422]
  ] as const)
    expect((await put(wrong)).status).toBe(status);
});

test('what was handed over is kept by version; a change is told where recordings are listed, and makes the next one', async () => {
  const { id } = (await take('srt', '1\n00:00:01,000 --> 00:00:02,000\nIt strikes.\n')).body.track;
  const versions = async (): Promise<{ version: number; revision: number; files: Record<string, unknown>[] }[]> =>
    (await ask(server, `/api/tracks/${id}/handed-over`)).body.versions;
  const listed = async () =>
    (await ask(server, `/api/recordings/${recordingId}`)).body.recording.tracks.find(
      (track: { id: string }) => track.id === id
    ).handedOver;
  expect([await versions(), await listed()]).toEqual([[], undefined]);
  const first = Buffer.from(await (await file(id, 'format=srt')).arrayBuffer());
  await file(id, 'format=vtt');
  await file(id, 'format=srt');
  const [only] = await versions();
  expect(only).toMatchObject({ version: 1, revision: 0 });
  expect(only!.files.map(({ format, bytes, sha256 }) => [format, bytes, sha256])).toContainEqual([
    ...['srt', first.length, createHash('sha256').update(first).digest('hex')]
  ]);
  expect(only!.files).toHaveLength(2);

  const edit = async (edits: object[]): Promise<void> => {
    const { revision } = (await ask(server, `/api/tracks/${id}`)).body.track;
    expect((await send(server, `/api/tracks/${id}/edits`, { revision, edits })).status).toBe(200);
  };
  const caughtUp = () =>
    until(
      () => ask(server, '/api/recordings?text=strikes'),
      ({ body }) => body.notSearchedYet === 0
    );
  // That it is ready changes nothing of what its files say.
  await edit([{ type: 'setState', state: 'ready' }]);
  await caughtUp();
  expect(await listed()).toMatchObject({ version: 1, hasChanged: false });
  const { cues } = (await ask(server, `/api/tracks/${id}`)).body.track;
  await edit([{ type: 'setCueText', cueId: cues[0].id, lines: ['It strikes twelve.'] }]);
  await caughtUp();
  expect(await listed()).toMatchObject({ version: 1, hasChanged: true });
  const changed = (await ask(server, '/api/recordings?work=changed&limit=50')).body.recordings;
  expect(changed.map((one: { id: string }) => one.id)).toContain(recordingId);
  const before = await ask(server, `/api/tracks/${id}/document?revision=0`);
  expect(before.body.track.words.map(({ text }: { text: string }) => text)).toEqual(['It', 'strikes.']);
  expect((await ask(server, `/api/tracks/${id}/document?revision=99`)).status).toBe(404);
  expect((await ask(server, `/api/tracks/${id}/document?revision=x`)).status).toBe(400);
  await file(id, 'format=srt');
  expect((await versions()).map(({ version, files }) => [version, files.length])).toEqual([
    [2, 1],
    [1, 2]
  ]);
  expect(await listed()).toMatchObject({ version: 2, hasChanged: false });
});
