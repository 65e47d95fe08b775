/** A server that is killed again and again: what of two writers' work is lost or doubled, and what broken is served. */
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { ask, media, newFolder, send, startServer, tone, upload, type Server } from '../tests/server/harness';
import { makeRandom } from './material';
import type { Row } from './table';

const pause = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));
/** One that adds cues for as long as it is let, each under its own batch, and sends again until it is answered. */
async function write(at: { server: Server }, trackId: string, isOver: () => boolean): Promise<string[]> {
  const acknowledged: string[] = [];
  for (let count = 0; !isOver(); count++) {
    const batchId = randomUUID();
    const startMs = 1000 + Math.floor(Math.random() * 1_000_000);
    const edits = [{ type: 'addCue', startMs, endMs: startMs + 900, lines: [`Cue ${count}`] }];
    for (;;) {
      try {
        const { revision } = (await ask(at.server, `/api/tracks/${trackId}`)).body.track;
        const { status } = await send(at.server, `/api/tracks/${trackId}/edits`, { revision, edits, batchId });
        if (status === 200) break;
      } catch {
        // The server is gone for now.
        await pause(20);
      }
    }
    acknowledged.push(batchId);
  }
  return acknowledged;
}

async function editing(kills: number, random: () => number): Promise<Row[]> {
  const at = { server: await startServer() };
  const { recording } = (await upload(at.server, 'tone.wav', tone(3))).body;
  const content = '1\n00:00:00,100 --> 00:00:00,900\nTick\n';
  const made = await send(at.server, `/api/recordings/${recording.id}/tracks`, {
    format: 'srt',
    language: 'en',
    content
  });
  const { id } = made.body.track;
  let isOver = false;
  const writers = [0, 1].map(() => write(at, id, () => isOver));
  for (let kill = 0; kill < kills; kill++) {
    await pause(100 + random() * 900);
    await at.server.stop('SIGKILL');
    at.server = await startServer(at.server.folder, { PORT: new URL(at.server.url).port });
  }
  isOver = true;
  const acknowledged = (await Promise.all(writers)).flat();
  const { entries } = (await ask(at.server, `/api/tracks/${id}/edits?after=0`)).body;
  const times = new Map<string, number>();
  for (const { batchId } of entries as { batchId: string }[]) times.set(batchId, (times.get(batchId) ?? 0) + 1);
  const { cues } = (await ask(at.server, `/api/tracks/${id}`)).body.track;
  await at.server.stop();
  return [
    { what: `killed ${kills} times in a stream of edits: acknowledged`, value: acknowledged.length },
    { what: '… and lost', value: acknowledged.filter((batch) => !times.has(batch)).length, unit: '', budget: 0 },
    { what: '… or done twice', value: [...times.values()].filter((count) => count > 1).length, unit: '', budget: 0 },
    {
      what: '… cues more or fewer than entries',
      value: Math.abs(cues.length - 1 - entries.length),
      unit: '',
      budget: 0
    }
  ];
}

/** Whether a media file that is served is whole, by its length. */
async function isWhole(server: Server, id: string, durationMs: number): Promise<boolean> {
  const response = await fetch(`${server.url}/api/recordings/${id}/media`);
  if (!response.ok) return false;
  const path = join(newFolder(), 'served');
  writeFileSync(path, Buffer.from(await response.arrayBuffer()));
  const told = execFileSync('ffprobe', ['-v', 'error', '-show_format', '-of', 'json', path]).toString();
  const { format } = JSON.parse(told) as { format: { duration: string } };
  return Math.abs(Number(format.duration) * 1000 - durationMs) < 1500;
}

async function working(kills: number, random: () => number): Promise<Row[]> {
  const film = media('avi', [
    ...['-f', 'lavfi', '-i', 'testsrc2=size=640x360:rate=25:duration=20', '-f', 'lavfi', '-i', 'sine=440:duration=20'],
    ...['-c:v', 'mpeg4', '-q:v', '15', '-c:a', 'mp3']
  ]);
  const talk = readFileSync(resolve('demo/media/how-a-tower-clock-keeps-time.mp3'));
  let server = await startServer();
  const { folder } = server;
  mkdirSync(join(folder, 'mine'));
  writeFileSync(join(folder, 'mine', 'letter.txt'), 'mine');
  let broken = 0;
  let served = 0;
  let unopened = 0;
  for (let kill = 0; kill < kills; kill++) {
    const work = [
      () => upload(server, 'film.avi', film, { prefer: 'respond-async' }),
      () => upload(server, 'talk.mp3', talk, { prefer: 'respond-async' }),
      async () => {
        const [recording] = (await ask(server, '/api/recordings')).body.recordings;
        if (recording !== undefined)
          await send(server, `/api/recordings/${recording.id}/transcriptions`, {
            engine: 'pocketsphinx-en-us',
            language: 'en'
          });
      }
    ];
    // What is asked may be cut off in the middle: that is what is tried.
    const asked = work[kill % work.length]!().catch(() => undefined);
    await pause(200 + random() * 2500);
    await server.stop('SIGKILL');
    await asked;
    server = await startServer(folder);
    const { recordings } = (await ask(server, '/api/recordings')).body;
    for (const { id, state, durationMs, tracks } of recordings) {
      if (state === 'ready' && random() < 0.3) {
        served++;
        if (!(await isWhole(server, id, durationMs))) broken++;
      }
      for (const track of tracks) if ((await ask(server, `/api/tracks/${track.id}`)).status !== 200) unopened++;
    }
    // The list stays short, so that a run ends.
    for (const { id } of recordings.slice(6))
      await ask(server, `/api/recordings/${id}?forever=1`, { method: 'DELETE' });
  }
  await server.stop();
  const isMine = readFileSync(join(folder, 'mine', 'letter.txt'), 'utf8') === 'mine';
  return [
    { what: `killed ${kills} times at work: media served afterwards`, value: served },
    { what: '… that was broken', value: broken, unit: '', budget: 0 },
    { what: '… tracks that did not open', value: unopened, unit: '', budget: 0 },
    { what: '… files of somebody else’s that were touched', value: isMine ? 0 : 1, unit: '', budget: 0 }
  ];
}

/** Kills fall anywhere; the seed makes a run repeatable as far as the machine is. */
export const killRows = async (): Promise<Row[]> => {
  const random = makeRandom(20_261_127);
  return [...(await editing(20, random)), ...(await working(50, random))];
};
