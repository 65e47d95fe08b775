/**
 * Makes the demo's media anew from `demo/scripts.json`: voices by flite, sounds and picture by the scripts beside this
 * one, put together by ffmpeg. Its results are shipped, so only who changes the demo needs it: `node demo/make/make.mjs`.
 */
import { execFileSync, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { drawFrame, FRAMES_A_SECOND, HEIGHT, WIDTH } from './picture.mjs';
import { formatWav, mixInto, RATE_HZ, strike, ticking } from './sounds.mjs';

const here = new URL('..', import.meta.url).pathname;
const scripts = JSON.parse(readFileSync(join(here, 'scripts.json'), 'utf8'));
const work = mkdtempSync(join(tmpdir(), 'vinetap-demo-'));
const VOICES = { 'Ines Calder': 'slt', 'Tobin Ashe': 'rms' };

/** 16-bit mono samples of a spoken text, -1 to 1. */
function speak(text, speaker) {
  const spoken = join(work, 'spoken.wav');
  const raw = join(work, 'spoken.raw');
  execFileSync('flite', ['-voice', VOICES[speaker], '--setf', 'duration_stretch=1.14', '-t', text, '-o', spoken]);
  execFileSync('ffmpeg', [
    '-nostdin',
    '-v',
    'error',
    '-y',
    '-i',
    spoken,
    '-ar',
    String(RATE_HZ),
    '-ac',
    '1',
    '-f',
    's16le',
    raw
  ]);
  const bytes = readFileSync(raw);
  return Float32Array.from({ length: bytes.length / 2 }, (_, at) => bytes.readInt16LE(at * 2) / 32_768);
}

function layOut(script) {
  const pieces = [];
  let at = Math.round(0.8 * RATE_HZ);
  for (const part of script.parts) {
    const samples = part.sound === undefined ? speak(part.text, part.speaker) : strike(part.sound);
    pieces.push({ at, samples });
    at += samples.length + Math.round((part.pauseMs / 1000) * RATE_HZ);
  }
  const out = new Float32Array(at + RATE_HZ);
  for (const { at: from, samples } of pieces) mixInto(out, samples, from);
  return out;
}

function run(args, input) {
  return new Promise((resolve, reject) => {
    const child = spawn('ffmpeg', ['-nostdin', '-v', 'error', '-y', ...args], {
      stdio: ['pipe', 'inherit', 'inherit']
    });
    child.once('error', reject);
    child.once('close', (code) => (code === 0 ? resolve() : reject(new Error(`ffmpeg ended with ${code}`))));
    void input(child.stdin);
  });
}

try {
  const interview = layOut(scripts.interview);
  mixInto(interview, ticking(interview.length, 0.03), 0);
  writeFileSync(join(work, 'interview.wav'), formatWav(interview));
  const frames = Math.ceil((interview.length / RATE_HZ) * FRAMES_A_SECOND);
  await run(
    [
      ...[
        '-f',
        'rawvideo',
        '-pix_fmt',
        'rgb24',
        '-s',
        `${WIDTH}x${HEIGHT}`,
        '-r',
        String(FRAMES_A_SECOND),
        '-i',
        'pipe:0'
      ],
      ...[
        '-i',
        join(work, 'interview.wav'),
        '-c:v',
        'libx264',
        '-pix_fmt',
        'yuv420p',
        '-crf',
        '30',
        '-g',
        '48',
        '-preset',
        'slow'
      ],
      ...[
        '-c:a',
        'aac',
        '-ar',
        '44100',
        '-b:a',
        '72k',
        '-movflags',
        '+faststart',
        join(here, 'media', scripts.interview.file)
      ]
    ],
    async (stdin) => {
      for (let frame = 0; frame < frames; frame++) {
        if (!stdin.write(drawFrame(frame / FRAMES_A_SECOND)))
          await new Promise((resolve) => stdin.once('drain', resolve));
      }
      stdin.end();
    }
  );
  writeFileSync(join(work, 'talk.wav'), formatWav(layOut(scripts.talk)));
  await run(
    ['-i', join(work, 'talk.wav'), '-ar', '44100', '-b:a', '80k', join(here, 'media', scripts.talk.file)],
    (stdin) => stdin.end()
  );
} finally {
  rmSync(work, { recursive: true });
}
