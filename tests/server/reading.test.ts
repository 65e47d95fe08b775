import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { ask, newFolder, removeFolders, send, startServer, tone, upload, type Answer, type Server } from './harness';

let server: Server;
let recordingId: string;
beforeAll(async () => {
  server = await startServer();
  recordingId = (await upload(server, 'the_clock.wav', tone(6))).body.recording.id;
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

const cue = (at: number, text: string): string => `${at + 1}\n00:00:0${at},100 --> 00:00:0${at},900\n${text}\n`;
async function trackOf(lines: readonly string[], language = 'en'): Promise<string> {
  const content = lines.map((line, at) => cue(at, line)).join('\n');
  const made = await send(server, `/api/recordings/${recordingId}/tracks`, { format: 'srt', language, content });
  return made.body.track.id;
}
const track = async (id: string): Promise<Answer['body']> => (await ask(server, `/api/tracks/${id}`)).body.track;
const textOf = async (id: string): Promise<string> =>
  (await track(id)).words.map((word: { text: string }) => word.text).join(' ');
/** The doubts of a track: reason, words, first candidate. */
async function doubtsOf(id: string): Promise<string[][]> {
  const { words } = await track(id);
  const { doubts } = (await ask(server, `/api/tracks/${id}/doubts`)).body;
  return doubts.map((doubt: { reason: string; wordIds: string[]; candidates: { text: string }[] }) => [
    doubt.reason,
    doubt.wordIds.map((wordId) => words.find((word: { id: string }) => word.id === wordId).text).join(' '),
    doubt.candidates[0]?.text
  ]);
}
const correct = (id: string, revision: number, edits: unknown[]): Promise<Answer> =>
  send(server, `/api/tracks/${id}/edits`, { revision, edits });

describe('doubts', () => {
  test('are names by their sound, spellings of the language, repeats, capitals and ends', async () => {
    await ask(server, `/api/recordings/${recordingId}/vocabulary`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ terms: [{ text: 'escapement' }, { text: 'Merrowby' }] })
    });
    const id = await trackOf(['This is the escape meant.', 'The colour of of Merrowby', 'is recieved, i think.']);
    expect(await doubtsOf(id)).toEqual([
      ['near_miss', 'escape meant.', 'escapement.'],
      ['spelling', 'colour', 'color'],
      ['repeated', 'of of', 'of'],
      ['spelling', 'recieved,', 'received,'],
      ['capital', 'i', 'I']
    ]);
    const british = await trackOf(['The colour and the color.'], 'en-GB');
    expect(await doubtsOf(british)).toEqual([['spelling', 'color.', 'colour.']]);
  });

  test.each([
    ['de', 'Die Turmuhr geht zu spat.', 'spat.'],
    ['fr', 'L’horloge est arêtée.', 'arêtée.'],
    ['es', 'El reloj está paradu.', 'paradu.'],
    ['pt', 'O relógio está paradu.', 'paradu.'],
    ['it', 'La campana suonna ogni ora.', 'suonna'],
    ['pl', 'Zegar na wieży bije co godzzinę.', 'godzzinę.'],
    ['sv', 'Klockan i tornnet slår varje timme.', 'tornnet']
  ])('%s has its dictionary', async (language, line, wrong) => {
    const found = await doubtsOf(await trackOf([line], language));
    expect(found.map(([reason, words]) => [reason, words])).toEqual([['spelling', wrong]]);
  });

  test('a language without a dictionary has no spelling; right to left, joined and long words do no harm', async () => {
    expect(await doubtsOf(await trackOf(['الساعة متأخرة.'], 'ar'))).toEqual([]);
    const odd = await trackOf([`${'a'.repeat(300)} 🕰️ e\u0301te\u0301 <i>x</i> &.`]);
    expect((await ask(server, `/api/tracks/${odd}/doubts`)).status).toBe(200);
  });

  test('what was looked at is remembered, until its words change or it is taken back', async () => {
    const id = await trackOf(['The colour is blue.']);
    const look = async (): Promise<Answer['body']> => (await ask(server, `/api/tracks/${id}/doubts`)).body;
    const [doubt] = (await look()).doubts;
    const path = `/api/tracks/${id}/doubts/judged`;
    expect((await send(server, path, { keys: [doubt.key] })).status).toBe(204);
    expect(await look()).toMatchObject({ doubts: [], judged: 1 });
    await ask(server, path, {
      method: 'DELETE',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ keys: [doubt.key] })
    });
    expect(await look()).toMatchObject({ doubts: [{ key: doubt.key }], judged: 0 });
    await send(server, path, { keys: [doubt.key] });
    await correct(id, 0, [{ type: 'setWordText', wordId: doubt.wordIds[0], text: 'Colourr' }]);
    expect((await look()).doubts.map((one: { reason: string }) => one.reason)).toEqual(['spelling']);
    expect((await send(server, path, { keys: [] })).status).toBe(400);
    expect((await ask(server, '/api/tracks/none/doubts')).status).toBe(404);
  });
});

describe('finding in all tracks', () => {
  test('tells where a text stands, and writes another there, each track with one step to undo', async () => {
    const [one, other] = [await trackOf(['A quartz movement.']), await trackOf(['Quartz,', 'no quartz here.'])];
    const found = (await ask(server, '/api/search?text=quartz&wholeWord=1')).body.tracks;
    expect(found.map(({ trackId, count }: { trackId: string; count: number }) => [trackId, count])).toEqual([
      [one, 1],
      [other, 2]
    ]);
    expect(found[1].hits[1]).toMatchObject({ before: 'Quartz, no ', found: 'quartz', after: ' here.', startMs: 1278 });
    const query = { text: 'quartz', matchCase: false, wholeWord: true, soundsLike: false };
    const done = await send(server, '/api/search/replace', { query, replacement: 'spring', trackIds: [one, other] });
    expect(done.body.tracks.map((each: { replaced: number }) => each.replaced)).toEqual([1, 2]);
    expect(await textOf(other)).toBe('Spring, no spring here.');
    await send(server, `/api/tracks/${other}/undo`, { revision: 1 });
    expect(await textOf(other)).toBe('Quartz, no quartz here.');
    expect((await ask(server, '/api/search?text=')).status).toBe(400);
  });
});

describe('versions', () => {
  test('are compared, kept by name, and gone back to', async () => {
    const id = await trackOf(['the club keeps time', 'all day']);
    const words = (await track(id)).words;
    await correct(id, 0, [{ type: 'setWordText', wordId: words[1].id, text: 'clock' }]);
    const [draft] = (await ask(server, `/api/tracks/${id}/versions`)).body.versions;
    expect(draft).toMatchObject({ title: 'Draft', revision: 0 });
    const compare = async (asked: object): Promise<Answer['body']> =>
      (await send(server, `/api/tracks/${id}/compare`, asked)).body;
    expect(await compare({ versionId: draft.id })).toEqual({
      ...{ words: 6, substitutions: 1, insertions: 0, deletions: 0 },
      wordErrorRate: 1 / 6
    });
    expect(await compare({ reference: 'The clock keeps the time, all day.' })).toMatchObject({
      words: 7,
      deletions: 1
    });
    expect((await send(server, `/api/tracks/${id}/compare`, {})).status).toBe(400);
    expect((await send(server, `/api/tracks/${id}/compare`, { versionId: 'none' })).status).toBe(404);

    const named = await send(server, `/api/tracks/${id}/versions`, { title: 'After the first look' });
    expect(named).toMatchObject({ status: 201, body: { version: { revision: 1 } } });
    const back = await send(server, `/api/tracks/${id}/versions/${draft.id}/restore`, { revision: 1 });
    expect([back.status, await textOf(id)]).toEqual([200, 'the club keeps time all day']);
    await send(server, `/api/tracks/${id}/undo`, { revision: 2 });
    expect(await textOf(id)).toBe('the clock keeps time all day');
    const old = (await ask(server, `/api/tracks/${id}/versions/${draft.id}`)).body.track;
    expect(old.words[1].text).toBe('club');
  });
});

describe('transcripts', () => {
  let id: string;
  beforeAll(async () => {
    id = await trackOf(['Who winds R&D < 3?', '[bell]', 'I do.']);
    const { words } = await track(id);
    const speaker = (name: string, newSpeakerId: string) => ({ type: 'addSpeaker', name, newSpeakerId });
    const says = (speakerId: string, ...at: number[]) => ({
      ...{ type: 'setSpeaker', speakerId },
      wordIds: at.map((place) => words[place].id)
    });
    await correct(id, 0, [
      speaker('Ines & Co', 's1'),
      speaker('Tobin', 's2'),
      says('s1', 0, 1, 2, 3, 4),
      says('s2', 6, 7)
    ]);
  });
  const file = (format: string, of = id): Promise<Response> =>
    fetch(`${server.url}/api/tracks/${of}/export?format=${format}`);
  async function pdfFile(of: string): Promise<string> {
    const path = join(newFolder(), 'transcript.pdf');
    writeFileSync(path, Buffer.from(await (await file('pdf', of)).arrayBuffer()));
    return path;
  }
  /** What a reader of PDF that is not ours says of a file. */
  const pdfSays = (tool: 'pdfinfo' | 'pdftotext', args: readonly string[]): string =>
    execFileSync(tool, args, { encoding: 'utf8' });

  test('as plain text, with or without times and speakers', async () => {
    const text = async (more: string): Promise<string> => (await file(`txt${more}`)).text();
    expect(await text('')).toBe('Ines & Co: Who winds R&D < 3?\n\n[bell]\n\nTobin: I do.\n');
    expect(await text('&times=1&speakers=0')).toBe('0:00 Who winds R&D < 3?\n\n0:01 [bell]\n\n0:02 I do.\n');
    const { headers } = await file('txt');
    expect(headers.get('content-disposition')).toMatch(/filename="?the-clock(\.\d+)?\.en\.txt/);
  });

  test('as a page in which no text is read as markup', async () => {
    const page = await (await file('html')).text();
    expect(page).toContain('<html lang="en">');
    expect(page).toContain('<h2>Ines &amp; Co</h2>');
    expect(page).toContain('Who winds R&amp;D &lt; 3?');
    expect(page).not.toContain('< 3');
  });

  test('as a Word document and as a PDF that hold the words', async () => {
    const path = join(newFolder(), 'transcript.docx');
    writeFileSync(path, Buffer.from(await (await file('docx')).arrayBuffer()));
    const read = 'import sys, zipfile; print(zipfile.ZipFile(sys.argv[1]).read("word/document.xml").decode())';
    const xml = execFileSync('python3', ['-c', read, path], { encoding: 'utf8' });
    expect(xml).toContain('Who winds R&amp;D &lt; 3?');
    expect(xml).toContain('Tobin');

    const pdf = await pdfFile(id);
    // Tagged, so that a screen reader can read it.
    const tags = pdfSays('pdfinfo', ['-struct-text', pdf]);
    for (const part of ['H1 (block)', 'H2 (block)\n    "Ines & Co"', 'P (block)\n    "Who winds R&D < 3?"'])
      expect(tags).toContain(part);
    expect(pdfSays('pdfinfo', [pdf])).toMatch(/Title: +The clock[^]*Tagged: +yes[^]*Pages: +1\b[^]*PDF version: +1\.7/);
    expect(readFileSync(pdf, 'latin1')).toContain('/Lang (en)');
  });

  test('of many words run over pages, and are read back in any script, in their own order', async () => {
    const { words, revision } = await track(id);
    const text = Array.from({ length: 2000 }, (_, at) => `żółw${at}`).join(' ');
    await correct(id, revision, [{ type: 'replaceWords', wordIds: [words[7].id], text }]);
    const long = await pdfFile(id);
    expect(pdfSays('pdftotext', [long, '-']).match(/żółw\d+/g)).toEqual(text.split(' '));
    expect(Number(/Pages: +(\d+)/.exec(pdfSays('pdfinfo', [long]))![1])).toBeGreaterThan(4);

    const scripts: Readonly<Record<string, string>> = {
      he: 'השעון מאחר.',
      ar: 'الساعة متأخرة اثنتي عشرة دقيقة.',
      hi: 'घड़ी बारह मिनट पीछे है।',
      th: 'นาฬิกาช้าไปสิบสองนาที',
      ja: '時計は十二分遅れています。',
      el: 'Το ρολόι πάει πίσω.'
    };
    for (const [language, line] of Object.entries(scripts)) {
      const read = pdfSays('pdftotext', [await pdfFile(await trackOf([line], language)), '-']);
      // It tells directions by signs of its own.
      expect(read.replaceAll(/[\u202a-\u202e]/g, '')).toContain(line.replace(/[.।]$/, ''));
    }
  });
});
