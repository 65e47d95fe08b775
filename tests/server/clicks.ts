/** Recordings with a click and a white picture at known times, and when those are in a file. */
import { execFileSync } from 'node:child_process';
import { media } from './harness';

/** A click of sound and a white picture every second from 0.3 s on; every fifth frame stands longer where the rate varies. */
export const SECONDS = 20;
export const CLICKS_MS = Array.from({ length: SECONDS }, (_, at) => at * 1000 + 300);
export const CLICKS = [
  '-f',
  'lavfi',
  '-i',
  `aevalsrc='if(lt(mod(t-0.3,1),0.0005)*gte(t,0.3),0.9,0)':d=${SECONDS}:s=48000`
];
const flashes = (rate: string, more: readonly string[] = []): string[] => [
  ...[
    '-f',
    'lavfi',
    '-i',
    `color=black:s=320x180:r=${rate}:d=${SECONDS},drawbox=t=fill:c=white:enable='lt(mod(t-0.3,1),0.05)*gte(t,0.29)'`
  ],
  ...CLICKS,
  ...more,
  ...['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-g', '48', '-c:a', 'aac', '-b:a', '192k']
];
export const film = (rate: string, more: readonly string[] = []): Buffer => media('mp4', flashes(rate, more));
export const varying = (): Buffer => media('mp4', flashes('25', ['-vf', "select='gt(mod(n,5),0)'", '-vsync', 'vfr']));

export const run = (tool: string, args: readonly string[]): Buffer =>
  execFileSync(tool, ['-v', 'error', ...args], { maxBuffer: 1 << 28 });

/** When each click begins, in ms, by the zero of the player. */
export function clicksIn(path: string): number[] {
  const pcm = run('ffmpeg', [
    '-i',
    path,
    '-map',
    '0:a:0',
    '-af',
    'aresample=48000:async=1:first_pts=0',
    '-ac',
    '1',
    '-f',
    's16le',
    '-'
  ]);
  const samples = new Int16Array(pcm.buffer.slice(pcm.byteOffset, pcm.byteOffset + pcm.length - (pcm.length % 2)));
  const found: number[] = [];
  samples.forEach((sample, at) => {
    const ms = at / 48;
    if (Math.abs(sample) > 5000 && (found.length === 0 || ms - found.at(-1)! > 100)) found.push(ms);
  });
  return found;
}

/** When each white picture is shown first, in ms, and how long the file is by its frames. */
export function flashesIn(path: string): { readonly at: number[]; readonly times: number[] } {
  const csv = run('ffprobe', [
    ...[
      '-f',
      'lavfi',
      '-i',
      `movie=${path},signalstats`,
      '-show_entries',
      'frame=pts_time:frame_tags=lavfi.signalstats.YAVG'
    ],
    ...['-of', 'csv=p=0']
  ]).toString();
  const frames = csv
    .trim()
    .split('\n')
    .map((line) => line.split(',').map(Number) as [number, number]);
  const at = frames.flatMap(([time, light], index) =>
    light > 128 && (frames[index - 1]?.[1] ?? 0) < 128 ? [time * 1000] : []
  );
  return { at, times: frames.map(([time]) => time * 1000) };
}
