import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { LEVEL_BUCKET_MS, levelsBetween } from '../../src/lib/core/audio';
import {
  ask,
  filesIn,
  jobEnd,
  media,
  newFolder,
  removeFolders,
  send,
  startServer,
  tone,
  until,
  upload,
  writeInto,
  type Server
} from './harness';

let server: Server;
beforeAll(async () => {
  server = await startServer();
});
afterAll(async () => {
  await server.stop();
  removeFolders();
});

const sine = ['-f', 'lavfi', '-i', 'sine=440:duration=3'];
const film = ['-f', 'lavfi', '-i', 'testsrc=duration=3:size=160x90:rate=10'];

describe('what cannot be used is refused with a reason, and nothing of it is left', () => {
  /** An MP4 whose sound claims to last 44,100 times as long as it does: one tick of its clock a second, no edit list. */
  function claimingHours(): Buffer {
    const bytes = Buffer.from(media('mp4', [...sine, '-ar', '44100', '-c:a', 'aac']));
    const at = bytes.indexOf('mdhd');
    bytes.writeUInt32BE(1, at + 4 + 4 + 4 + 4);
    bytes.write('free', bytes.indexOf('edts'));
    return bytes;
  }
  const secret = (): string => writeInto(newFolder(), 'secret.wav', tone(2).toString('latin1'));
  const whole = (): Buffer =>
    media('mp4', [
      ...film,
      ...sine,
      '-c:v',
      'libx264',
      '-pix_fmt',
      'yuv420p',
      '-c:a',
      'aac',
      '-movflags',
      '+faststart'
    ]);
  const cases: [name: string, bytes: () => Uint8Array, says: RegExp][] = [
    ['an empty file', () => new Uint8Array(), /empty/],
    ['a text file named .mp4', () => Buffer.from('Dear Tobin,\nthe clock is late.\n'), /no sound or video/],
    ['a video without sound', () => media('mp4', [...film, '-pix_fmt', 'yuv420p']), /no sound/],
    ['0.2 s of sound', () => tone(0.2), /too little/],
    ['an MP4 cut short', () => whole().subarray(0, Math.floor(whole().length * 0.55)), /breaks off|cannot be decoded/],
    ['an MP4 without its index', () => media('mp4', [...sine, '-c:a', 'aac']).subarray(0, 9000), /no sound or video/],
    ['a small file that claims a thousand hours', claimingHours, /hours/],
    ['a playlist named .mp4', () => Buffer.from(`#EXTM3U\n#EXTINF:2,\nfile://${secret()}\n`), /no sound or video/],
    ['a concat list named .mp4', () => Buffer.from(`ffconcat version 1.0\nfile '${secret()}'\n`), /no sound or video/]
  ];
  test.each(cases)('%s', async (_, bytes, says) => {
    for (const prefer of ['', 'respond-async']) {
      const { status, body } = await upload(server, 'bad.mp4', bytes(), { prefer });
      if (status === 202) {
        // Stored and probed; decoding tells the rest.
        const job = await jobEnd(server, body.job.id as string);
        expect(job.state).toBe('failed');
        expect(job.error).toMatch(says);
        expect((await ask(server, `/api/recordings/${body.recording.id}`)).body.recording).toMatchObject({
          state: 'failed',
          failure: expect.stringMatching(says)
        });
        expect((await ask(server, `/api/recordings/${body.recording.id}`, { method: 'DELETE' })).status).toBe(204);
        continue;
      }
      expect(status).toBe(422);
      expect(body.error.message).toMatch(says);
    }
    expect((await ask(server, '/api/recordings')).body.recordings).toEqual([]);
    expect(filesIn(server.folder, 'uploads')).toEqual([]);
    expect(filesIn(server.folder, 'recordings')).toEqual([]);
  });

  test('an upload broken off in the middle', async () => {
    const { hostname, port, host } = new URL(server.url);
    const socket = connect(Number(port), hostname);
    socket.write(`POST /api/recordings?name=half.wav HTTP/1.1\r\nHost: ${host}\r\nContent-Length: 1000000\r\n\r\n`);
    socket.write(tone(2).subarray(0, 30_000));
    await until(
      () => filesIn(server.folder, 'uploads'),
      (files) => files.length === 1
    );
    socket.destroy();
    await until(
      () => filesIn(server.folder, 'uploads'),
      (files) => files.length === 0
    );
    expect((await ask(server, '/api/recordings')).body.recordings).toEqual([]);
  });

  test('a disk without room', async () => {
    const full = await startServer(newFolder(), { VINETAP_SPARE_BYTES: '1e18' });
    const { status, body } = await upload(full, 'tone.wav', tone(2));
    expect([status, body.error.code]).toEqual([507, 'disk_full']);
    expect((await ask(full, '/api/recordings')).body.recordings).toEqual([]);
    expect(filesIn(full.folder, 'uploads')).toEqual([]);
    await full.stop();
  });
});

describe('what is taken', () => {
  test.each([
    ['WAV', () => tone(2), 'audio/wav'],
    ['MP3', () => media('mp3', [...sine]), 'audio/mpeg'],
    ['M4A', () => media('m4a', [...sine, '-c:a', 'aac']), 'audio/mp4'],
    ['MP4', () => media('mp4', [...film, ...sine, '-pix_fmt', 'yuv420p', '-c:a', 'aac']), 'video/mp4'],
    ['WebM', () => media('webm', [...film, ...sine, '-c:v', 'libvpx', '-c:a', 'libopus']), 'video/webm'],
    ['Ogg Opus', () => media('ogg', [...sine, '-c:a', 'libopus']), 'audio/ogg']
  ])('%s, with its type, length, waveform and speech map; a name is never a path', async (_, bytes, mime) => {
    const { status, body } = await upload(server, '../../etc/my_🕰️ talk.final.wav', bytes());
    expect(status).toBe(201);
    const { recording } = body;
    expect(recording).toMatchObject({ title: 'My 🕰️ talk.final', state: 'ready', media: { mime } });
    expect(Math.abs(recording.durationMs - (mime === 'audio/wav' ? 2000 : 3000))).toBeLessThan(120);
    const levels = await fetch(`${server.url}/api/recordings/${recording.id}/levels`);
    const measured = new Uint8Array(await levels.arrayBuffer());
    expect(Math.abs((measured.length / 3) * LEVEL_BUCKET_MS - recording.durationMs)).toBeLessThan(120);
    expect(levelsBetween(measured, 800, 1200).greatest).toBeCloseTo(0.125, 1);
    const speech = (await ask(server, `/api/recordings/${recording.id}/speech`)).body;
    expect(speech.frameMs).toBe(32);
    expect(speech.probabilities.length).toBeGreaterThan(60);
    const part = await ask(server, `/api/recordings/${recording.id}/media`, { headers: { range: 'bytes=2-5' } });
    expect([part.status, part.headers.get('content-range'), part.headers.get('content-type')]).toEqual([
      206,
      `bytes 2-5/${bytes().length}`,
      mime
    ]);
    expect(
      (await ask(server, `/api/recordings/${recording.id}/media`, { headers: { range: `bytes=${bytes().length}-` } }))
        .status
    ).toBe(416);
    expect(
      (await ask(server, `/api/recordings/${recording.id}/media`, { headers: { range: 'bytes=-3' } })).headers.get(
        'content-length'
      )
    ).toBe('3');
    await ask(server, `/api/recordings/${recording.id}?forever=1`, { method: 'DELETE' });
    expect(filesIn(server.folder, 'recordings')).toEqual([]);
  });

  test.each([
    ['AVI', () => media('avi', [...film, ...sine, '-c:v', 'mpeg4', '-c:a', 'mp3']), 'video/mp4'],
    [
      'MKV',
      () => media('mkv', [...film, ...sine, '-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'ac3']),
      'video/mp4'
    ],
    ['MOV', () => media('mov', [...film, ...sine, '-c:v', 'prores_ks', '-c:a', 'pcm_s16be']), 'video/mp4'],
    [
      'a picture of odd sides',
      () => media('mkv', [...film, ...sine, '-vf', 'crop=81:45', '-c:v', 'ffv1', '-c:a', 'flac']),
      'video/mp4'
    ],
    [
      'H.264 with ten bits',
      () => media('mp4', [...film, ...sine, '-c:v', 'libx264', '-pix_fmt', 'yuv420p10le', '-c:a', 'aac']),
      'video/mp4'
    ],
    [
      'MPEG-TS that does not begin at zero',
      () => media('ts', [...film, ...sine, '-c:v', 'mpeg2video', '-c:a', 'mp2', '-output_ts_offset', '3600']),
      'video/mp4'
    ],
    ['sound that browsers do not play', () => media('mp4', [...sine, '-c:a', 'ac3']), 'audio/mp4'],
    ['AIFF', () => media('aiff', sine), 'audio/mp4']
  ])('%s is given to browsers as a copy of the same zero and length', async (_, bytes, mime) => {
    const { status, body } = await upload(server, 'talk.bin', bytes());
    expect([status, body.recording?.state, body.recording?.media.mime], JSON.stringify(body)).toEqual([
      201,
      'ready',
      mime
    ]);
    const path = join(newFolder(), 'played.mp4');
    const played = await fetch(`${server.url}/api/recordings/${body.recording.id}/media`);
    expect(played.headers.get('content-type')).toBe(mime);
    writeFileSync(path, Buffer.from(await played.arrayBuffer()));
    const { streams, format } = JSON.parse(
      execFileSync('ffprobe', ['-v', 'error', '-show_streams', '-show_format', '-of', 'json', path], {
        encoding: 'utf8'
      })
    );
    const codecs = streams.map((stream: { codec_name: string }) => stream.codec_name).sort();
    expect(codecs).toEqual(mime === 'video/mp4' ? ['aac', 'h264'] : ['aac']);
    for (const stream of streams) {
      if (stream.codec_type === 'video')
        expect([stream.pix_fmt, stream.width % 2, stream.height % 2]).toEqual(['yuv420p', 0, 0]);
      expect(Math.abs(Number(stream.start_time))).toBeLessThan(0.11);
    }
    expect(Math.abs(Number(format.duration) * 1000 - body.recording.durationMs)).toBeLessThan(120);
    await ask(server, `/api/recordings/${body.recording.id}?forever=1`, { method: 'DELETE' });
    expect(filesIn(server.folder, 'recordings')).toEqual([]);
  });

  test.each([
    ['telephone sound of 8 kHz', ['-ar', '8000']],
    ['192 kHz', ['-ar', '192000']],
    ['eight channels', ['-ac', '8']],
    ['clipped sound', ['-af', 'volume=60dB']]
  ])('WAV of %s', async (_, how) => {
    const { status, body } = await upload(server, 'odd.wav', media('wav', [...sine, ...how]));
    expect([status, body.recording?.state], JSON.stringify(body)).toEqual([201, 'ready']);
    expect(Math.abs(body.recording.durationMs - 3000)).toBeLessThan(120);
    await ask(server, `/api/recordings/${body.recording.id}?forever=1`, { method: 'DELETE' });
  });

  test('goes into the bin and comes back as it was', async () => {
    const { body } = await upload(server, 'bin.wav', tone(2));
    const id = body.recording.id as string;
    await ask(server, `/api/recordings/${id}/speech`);
    await send(server, `/api/recordings/${id}/tracks`, {
      format: 'srt',
      language: 'en',
      content: '1\n00:00:00,100 --> 00:00:01,000\nTick\n'
    });
    expect((await ask(server, `/api/recordings/${id}`, { method: 'DELETE' })).status).toBe(204);
    expect((await ask(server, '/api/recordings')).body.recordings).toEqual([]);
    expect((await ask(server, `/api/recordings/${id}`)).status).toBe(404);
    expect((await ask(server, '/api/recordings?bin=1')).body.recordings).toHaveLength(1);
    const back = await ask(server, `/api/recordings/${id}/restore`, { method: 'POST' });
    expect(back.body.recording).toMatchObject({ id, tracks: [{ cueCount: 1 }] });
    expect((await ask(server, `/api/recordings/${id}/media`)).status).toBe(200);
    await ask(server, `/api/recordings/${id}?forever=1`, { method: 'DELETE' });
  });

  test('an upload that grows to hundreds of megabytes is not held in memory', async () => {
    // A WAV whose header announces what follows.
    const bytes = 400_000_000;
    const head = Buffer.from(tone(2).subarray(0, tone(2).indexOf('data') + 8));
    head.writeUInt32LE(bytes, head.length - 4);
    head.writeUInt32LE(bytes + head.length - 8, 4);
    const chunk = Buffer.alloc(4_000_000);
    const body = new ReadableStream<Uint8Array>({
      start: (controller) => controller.enqueue(head),
      pull(controller) {
        if (sent === bytes) return controller.close();
        sent += chunk.length;
        controller.enqueue(chunk);
      }
    });
    let sent = 0;
    let peak = 0;
    const watch = setInterval(() => (peak = Math.max(peak, residentBytes(server.pid))), 20);
    const before = residentBytes(server.pid);
    const { status } = await ask(server, '/api/recordings?name=big.wav', {
      method: 'POST',
      body,
      duplex: 'half',
      headers: { prefer: 'respond-async' }
    }).finally(() => clearInterval(watch));
    expect(status).toBe(202);
    expect(peak - before).toBeLessThan(200_000_000);
    for (const recording of (await ask(server, '/api/recordings')).body.recordings as { id: string }[]) {
      await ask(server, `/api/recordings/${recording.id}?forever=1`, { method: 'DELETE' });
    }
  });
});

const residentBytes = (pid: number): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(join('/proc', String(pid), 'status'), 'utf8'))![1]) * 1024;
