/** ffmpeg and ffprobe as child processes: argument arrays, no input from the terminal, local files, accepted demuxers. */
import type { Readable } from 'node:stream';
import { z } from 'zod';
import type { PicturePacket, VideoCodec } from '$lib/core/rendering';
import type { Span } from '$lib/core/time';
import { Child } from '../children';

/** Containers that may be read. Playlists, concat lists and everything else that can name other files are not among them. */
const DEMUXERS = [
  ...['wav', 'w64', 'aiff', 'au', 'caf', 'mp3', 'flac', 'aac', 'ac3', 'eac3', 'dts', 'amr', 'ape', 'wv', 'tta'],
  ...['mov', 'matroska', 'ogg', 'avi', 'asf', 'flv', 'mpeg', 'mpegts', 'mxf', 'dv']
].join(',');
export const INPUT = ['-protocol_whitelist', 'file,pipe', '-format_whitelist', DEMUXERS];

/** Says that a tool could not do its work, with its own last words. */
export class ToolFailure extends Error {}

interface Finished {
  readonly stdout: string;
  readonly stderr: string;
}

interface Limits {
  readonly timeoutMs: number;
  readonly signal?: AbortSignal | undefined;
  /** What it reads from its standard input, and from its fourth descriptor. */
  readonly input?: Readable;
  readonly secondInput?: Readable;
}

/**
 * Runs a tool to its end, its output read as it comes; ends it when aborted. Throws `ToolFailed`, the signal's reason, and
 * what reading throws.
 */
async function run(
  tool: string,
  args: readonly string[],
  { timeoutMs, signal, input, secondInput }: Limits,
  read: (stdout: AsyncIterable<Buffer>) => Promise<void>
): Promise<{ readonly stderr: string }> {
  signal?.throwIfAborted();
  const child = Child.tool(tool, args, {
    ...{ signal, longestMs: timeoutMs },
    ...(input !== undefined && { input }),
    ...(secondInput !== undefined && { secondInput })
  });
  try {
    await read(child.stdout);
    const { code, signal: by, problem, lastWords } = await child.ended;
    signal?.throwIfAborted();
    if (problem !== null) throw Object.assign(new ToolFailure(`${tool}: ${problem.message}`), { cause: problem });
    if (code !== 0) throw new ToolFailure(`${tool} ended with ${by ?? code}: ${lastWords}`);
    return { stderr: lastWords };
  } finally {
    child.end();
  }
}

/** Runs a tool to its end, its output held to `maxBytes`. Throws `ToolFailed`. */
export async function runTool(
  tool: string,
  args: readonly string[],
  limits: Limits & { readonly maxBytes: number }
): Promise<Finished> {
  const pieces: Buffer[] = [];
  let bytes = 0;
  const { stderr } = await run(tool, args, limits, async (stdout) => {
    for await (const piece of stdout) {
      bytes += piece.length;
      if (bytes > limits.maxBytes) throw new ToolFailure(`${tool} says more than ${limits.maxBytes} bytes`);
      pieces.push(piece);
    }
  });
  return { stdout: Buffer.concat(pieces).toString('utf8'), stderr };
}

const streamSchema = z.object({
  index: z.number(),
  codec_type: z.string().optional(),
  codec_name: z.string().optional(),
  width: z.number().optional(),
  height: z.number().optional(),
  pix_fmt: z.string().optional(),
  sample_aspect_ratio: z.string().optional(),
  color_space: z.string().optional(),
  color_transfer: z.string().optional(),
  start_time: z.coerce.number().optional(),
  side_data_list: z.array(z.looseObject({ rotation: z.number().optional() })).optional(),
  channels: z.number().optional(),
  sample_rate: z.coerce.number().optional(),
  avg_frame_rate: z.string().optional(),
  duration: z.coerce.number().optional(),
  disposition: z.object({ attached_pic: z.number().optional() }).optional(),
  tags: z.object({ language: z.string().optional(), title: z.string().optional() }).optional()
});
const probeSchema = z.object({
  streams: z.array(streamSchema).default([]),
  format: z.object({
    format_name: z.string(),
    duration: z.coerce.number().optional(),
    start_time: z.coerce.number().optional()
  })
});
export type ProbeResult = z.infer<typeof probeSchema>;

/** What a media file says of itself. Throws `ToolFailed` for what is no accepted media. */
export async function probe(path: string): Promise<ProbeResult> {
  const { stdout } = await runTool(
    'ffprobe',
    ['-v', 'error', ...INPUT, '-show_streams', '-show_format', '-of', 'json', `file:${path}`],
    {
      timeoutMs: 20_000,
      maxBytes: 4_000_000
    }
  );
  return probeSchema.parse(JSON.parse(stdout));
}

/** A media file, and what its zero is. */
export interface PlayableMedia {
  readonly path: string;
  /**
   * Browsers play it as it is, by the times that stand in it: a stream that starts late is silent until then. Of others
   * they are given a copy that begins with the first stream.
   */
  readonly byItsOwnTimes: boolean;
}

/** The arguments that read it by the zero of the browser's `currentTime`. */
const inputOf = ({ path, byItsOwnTimes }: PlayableMedia): readonly string[] => [
  ...(byItsOwnTimes ? ['-copyts'] : []),
  ...INPUT,
  '-i',
  `file:${path}`
];

/** Decoded ahead of a stretch, so that its first frame is there. */
const LEAD_SECONDS = 5;

/**
 * The arguments that read it from somewhat before a time on, all times kept as the browser counts them. `startSeconds`:
 * where the container begins.
 */
export function inputFrom(
  { media, startSeconds }: { readonly media: PlayableMedia; readonly startSeconds: number },
  fromMs: number
): readonly string[] {
  const own = media.byItsOwnTimes ? ['-copyts'] : ['-copyts', '-start_at_zero'];
  // Asked for in the file's own times, of which those that do not go by them know only how far they are from the start.
  const from = fromMs / 1000 - LEAD_SECONDS - (media.byItsOwnTimes ? startSeconds : 0);
  return [...own, ...(from > 0 ? ['-ss', String(from)] : []), ...INPUT, '-i', `file:${media.path}`];
}

export const DECODED_RATE_HZ = 16_000;

/** A sound stream of a file, and one channel of it or all together; both count from 0. */
export interface SoundSource {
  readonly stream: number;
  readonly channel: number | null;
}
export const FIRST_SOURCE: SoundSource = { stream: 0, channel: null };

/**
 * A sound stream as 16-bit mono at 16 kHz, padded or shortened so that its first sample is played at `currentTime` 0.
 * Pieces come in order, of any even number of bytes. Throws `ToolFailed` where nothing can be decoded.
 */
export async function decodeSound(
  media: PlayableMedia,
  onSamples: (bytes: Buffer) => Promise<void> | void,
  options: {
    readonly timeoutMs: number;
    readonly signal: AbortSignal;
    readonly source?: SoundSource;
    /** Only this stretch. */
    readonly stretch?: Span;
  }
): Promise<void> {
  const { stream, channel } = options.source ?? FIRST_SOURCE;
  const args = [...['-nostdin', '-v', 'error', ...inputOf(media)], ...['-map', `0:a:${stream}`, '-vn', '-sn', '-dn']];
  const filters = [
    `aresample=${DECODED_RATE_HZ}:async=1:first_pts=0`,
    ...(channel === null ? [] : [`pan=mono|c0=c${channel}`]),
    ...(options.stretch === undefined
      ? []
      : [`atrim=${options.stretch.startMs / 1000}:${options.stretch.endMs / 1000}`])
  ];
  const output = ['-af', filters.join(','), '-ac', '1', '-f', 's16le', '-c:a', 'pcm_s16le', 'pipe:1'];
  await run('ffmpeg', [...args, ...output], options, async (stdout) => {
    let odd: Buffer = Buffer.alloc(0);
    for await (const piece of stdout) {
      const bytes = odd.length > 0 ? Buffer.concat([odd, piece]) : piece;
      const whole = bytes.length - (bytes.length % 2);
      odd = bytes.subarray(whole);
      if (whole > 0) await onSamples(bytes.subarray(0, whole));
    }
  });
}

/** The samples of a piece that `decodeSound` gave, in memory of their own. */
export const samplesOf = (piece: Buffer): Int16Array =>
  new Int16Array(piece.buffer.slice(piece.byteOffset, piece.byteOffset + piece.length));

/**
 * Makes a file of a media file by ffmpeg's output arguments, with progress by the time that is written. Throws
 * `ToolFailed`.
 */
export async function convert(
  path: string,
  output: readonly string[],
  options: {
    readonly durationMs: number;
    readonly timeoutMs: number;
    readonly signal: AbortSignal;
    readonly onProgress: (progress: number) => void;
  }
): Promise<void> {
  await encode([...INPUT, '-i', `file:${path}`, ...output], options);
}

/**
 * Runs ffmpeg with arguments that write a file, with progress by the time that is written. Throws `ToolFailed`.
 */
export async function encode(
  args: readonly string[],
  options: Limits & { readonly durationMs: number; readonly onProgress: (progress: number) => void }
): Promise<void> {
  const all = ['-nostdin', '-v', 'error', '-y', '-progress', 'pipe:1', ...args];
  await run('ffmpeg', all, options, async (stdout) => {
    for await (const piece of stdout) {
      const writtenUs = /out_time_us=(\d+)/.exec(piece.toString())?.[1];
      if (writtenUs !== undefined) options.onProgress(Math.min(1, Number(writtenUs) / 1000 / options.durationMs));
    }
  });
}

/**
 * Frames of the picture as 24-bit RGB, so many a second from `currentTime` 0 on, stretched to a size; each pixel is one of
 * the picture's own, none is mixed of several. Frames that no other is decoded from can be skipped: it takes half the
 * time, and the next frame stands for them. Throws `ToolFailed`.
 */
export async function decodeFrames(
  media: PlayableMedia,
  onFrame: (rgb: Uint8Array) => void,
  {
    width,
    height,
    framesASecond,
    skipsUnreferenced,
    ...limits
  }: Limits & {
    readonly width: number;
    readonly height: number;
    readonly framesASecond: number;
    readonly skipsUnreferenced: boolean;
  }
): Promise<void> {
  const filters = `fps=${framesASecond}:start_time=0,scale=${width}:${height}:flags=neighbor,format=rgb24`;
  const skipped = skipsUnreferenced ? ['-skip_frame', 'noref'] : [];
  const args = ['-nostdin', '-v', 'error', ...skipped, ...inputOf(media), '-map', '0:V:0', '-an', '-sn', '-dn'];
  await run('ffmpeg', [...args, '-vf', filters, '-f', 'rawvideo', 'pipe:1'], limits, async (stdout) => {
    const frame = new Uint8Array(width * height * 3);
    let filled = 0;
    for await (const piece of stdout) {
      for (let at = 0; at < piece.length;) {
        const count = Math.min(piece.length - at, frame.length - filled);
        frame.set(piece.subarray(at, at + count), filled);
        at += count;
        filled += count;
        if (filled < frame.length) continue;
        onFrame(frame);
        filled = 0;
      }
    }
  });
}

/** A concat list of ours: the files that it names are held to the same containers as others. */
export const CONCAT_INPUT = [
  ...['-protocol_whitelist', 'file', '-format_whitelist', `concat,${DEMUXERS}`],
  ...['-f', 'concat', '-safe', '0']
];

/**
 * The frames of a picture stream that are shown, as they are coded in the file, in ms by the zero of `currentTime`.
 * `startMs`: where the container begins, for media that do not go by their own times. Throws `ToolFailed`.
 */
export async function picturePackets(
  { path, byItsOwnTimes }: PlayableMedia,
  { stream, startMs, ...limits }: Limits & { readonly stream: number; readonly startMs: number }
): Promise<PicturePacket[]> {
  const asked = [
    '-select_streams',
    String(stream),
    '-show_entries',
    'packet=pts_time,dts_time,flags',
    '-of',
    'csv=p=0'
  ];
  const packets: PicturePacket[] = [];
  const zeroMs = byItsOwnTimes ? 0 : startMs;
  const msOf = (seconds: string | undefined): number => Number(seconds) * 1000 - zeroMs;
  let rest = '';
  await run('ffprobe', ['-v', 'error', ...INPUT, ...asked, `file:${path}`], limits, async (stdout) => {
    for await (const piece of stdout) {
      const lines = (rest + piece.toString()).split('\n');
      rest = lines.pop()!;
      for (const line of lines) {
        const [shown, decoded, flags = ''] = line.split(',');
        const [shownMs, decodedMs] = [msOf(shown), msOf(decoded)];
        // Frames marked `D` are decoded, but not shown.
        if (Number.isFinite(shownMs) && !flags.includes('D'))
          packets.push({
            shownMs,
            decodedMs: Number.isFinite(decodedMs) ? decodedMs : null,
            isKey: flags.includes('K')
          });
      }
    }
  });
  return packets;
}

/** Share of the picture that changes at a cut, as ffmpeg's `scene` counts it; a pan stays below. */
const SHOT_CHANGE_FROM = 0.3;
/** Frames are compared at this width. */
const COMPARED_PX = 160;

/** When one frame of the picture has little in common with the one before it, in ms, in order. Throws `ToolFailed`. */
export async function sceneChanges(
  media: PlayableMedia,
  { timeoutMs }: { readonly timeoutMs: number }
): Promise<number[]> {
  const filters = `scale=${COMPARED_PX}:-2,select=gt(scene\\,${SHOT_CHANGE_FROM}),metadata=print:file=-`;
  const args = ['-nostdin', '-v', 'error', ...inputOf(media), '-an', '-sn', '-dn', '-vf', filters];
  const { stdout } = await runTool('ffmpeg', [...args, '-f', 'null', '-'], { timeoutMs, maxBytes: 20_000_000 });
  return [...stdout.matchAll(/pts_time:(\d+(?:\.\d+)?)/g)].map(([, seconds]) => Math.round(Number(seconds) * 1000));
}

/** Whether ffmpeg is there, which, and the video codecs that it can make. */
export interface FfmpegFacts {
  readonly available: boolean;
  readonly version?: string;
  readonly videoCodecs: readonly Exclude<VideoCodec, 'copy'>[];
}

const ENCODERS = { h264: 'libx264', h265: 'libx265', vp9: 'libvpx-vp9', av1: 'libsvtav1' } as const;

let known: Promise<FfmpegFacts> | undefined;

/** Asked once. */
export function ffmpegFacts(): Promise<FfmpegFacts> {
  known ??= askFfmpeg().catch(() => ({ available: false, videoCodecs: [] }));
  return known;
}

async function askFfmpeg(): Promise<FfmpegFacts> {
  const limits = { timeoutMs: 10_000, maxBytes: 1_000_000 };
  const [version, encoders] = await Promise.all([
    runTool('ffmpeg', ['-version'], limits),
    runTool('ffmpeg', ['-hide_banner', '-encoders'], limits)
  ]);
  const videoCodecs = (['h264', 'h265', 'vp9', 'av1'] as const).filter((codec) =>
    new RegExp(`^ V\\S* ${ENCODERS[codec]} `, 'm').test(encoders.stdout)
  );
  return { available: true, version: /version (\S+)/.exec(version.stdout)?.[1] ?? 'unknown', videoCodecs };
}
