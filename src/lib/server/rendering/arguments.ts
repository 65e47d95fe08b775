/** What ffmpeg is told to make a file: built as an array, of numbers and names of ours. */
import type { Area, CaptionsInside, PictureGeometry, RenderRequest, SoundCodec, VideoCodec } from '$lib/core/rendering';
import { INPUT, type PlayableMedia } from '../media/ffmpeg';

/** ffmpeg's name for how colours are coded. */
export type ColorMatrix = 'bt709' | 'smpte170m' | 'bt2020nc';

export interface SourceStreams {
  readonly media: PlayableMedia;
  /** Index of the picture's stream in its file; `null`: it has none. */
  readonly picture: {
    readonly stream: number;
    readonly matrix: ColorMatrix;
    readonly hasSquarePixels: boolean;
  } | null;
  /** Where the container begins, in s. */
  readonly startSeconds: number;
}

export interface RenderPlan {
  readonly request: RenderRequest;
  readonly source: SourceStreams;
  readonly video: {
    readonly codec: VideoCodec;
    readonly geometry: PictureGeometry;
    /** Where the strip of captions lies, which comes by the standard input; `null`: there are none. */
    readonly strip: Area | null;
    /** In place of a picture; `null` where there is one. */
    readonly background: string | null;
    readonly matrix: ColorMatrix;
  } | null;
  readonly sound: SoundCodec;
  /** What goes inside, each written to a file. */
  readonly inside: readonly (CaptionsInside & { readonly path: string })[];
  /** By the zero of `currentTime`; `null`: all of it. */
  readonly stretch: { readonly startMs: number; readonly endMs: number } | null;
  readonly durationMs: number;
}

/** Frames a second of a picture that is only a background. */
export const BACKGROUND_RATE = 25;
/** Decoded ahead of a stretch, so that its first frame is there. */
const LEAD_SECONDS = 5;
const USUAL_QUALITY = 60;

export function renderArguments(plan: RenderPlan, path: string): readonly string[] {
  const { video, source, request, stretch } = plan;
  const graph = video === null || video.codec === 'copy' ? [] : pictureGraph(plan);
  const pictureInput = source.picture === null && video !== null ? backgroundInput(plan) : [];
  const strip = video?.strip == null ? [] : ['-format_whitelist', 'matroska', '-f', 'matroska', '-i', 'pipe:0'];
  const inputs = 1 + (pictureInput.length > 0 ? 1 : 0) + (strip.length > 0 ? 1 : 0);
  return [
    ...inputOf(source, stretch),
    ...pictureInput,
    ...strip,
    ...plan.inside.flatMap(captionsInput),
    ...(graph.length === 0 ? [] : ['-filter_complex', graph.join(';')]),
    ...pictureOutput(plan),
    ...soundOutput(plan),
    ...(plan.inside.length === 0 ? ['-sn'] : plan.inside.flatMap((one, at) => captionsOutput(one, at, inputs + at))),
    ...['-dn', '-map_metadata', '-1', '-map_chapters', '-1'],
    // Else Matroska moves everything by what an encoder put ahead of the sound.
    ...(plan.inside.length === 0 ? [] : ['-avoid_negative_ts', 'disabled']),
    ...(request.container === 'mp4' || request.container === 'mov' || request.container === 'm4a'
      ? ['-movflags', '+faststart']
      : []),
    ...['-f', MUXERS[request.container], path]
  ];
}

const MUXERS: Readonly<Record<RenderRequest['container'], string>> = {
  mp4: 'mp4',
  mov: 'mov',
  mkv: 'matroska',
  webm: 'webm',
  wav: 'wav',
  flac: 'flac',
  m4a: 'ipod',
  mp3: 'mp3'
};

/** All times are kept, as the browser counts them, until a stretch is cut out of them. */
function inputOf({ media, startSeconds }: SourceStreams, stretch: RenderPlan['stretch']): readonly string[] {
  const own = media.byItsOwnTimes ? ['-copyts'] : ['-copyts', '-start_at_zero'];
  // Asked for in the file's own times, of which those that do not go by them know only how far they are from the start.
  const from = stretch === null ? 0 : stretch.startMs / 1000 - LEAD_SECONDS - (media.byItsOwnTimes ? startSeconds : 0);
  return [...own, ...(from > 0 ? ['-ss', String(from)] : []), ...INPUT, '-i', `file:${media.path}`];
}

type Inside = RenderPlan['inside'][number];

const captionsInput = ({ format, path }: Inside): readonly string[] => [
  ...['-protocol_whitelist', 'file', '-format_whitelist', format],
  ...['-f', format, '-i', `file:${path}`]
];

function captionsOutput(one: Inside, at: number, input: number): readonly string[] {
  const marks = [
    ...(one.isDefault ? ['default'] : []),
    ...(one.isForced ? ['forced'] : []),
    ...(one.isForHearingImpaired ? ['hearing_impaired'] : [])
  ];
  return [
    ...['-map', `${input}:0`, `-c:s:${at}`, one.codec],
    ...[`-metadata:s:s:${at}`, `language=${one.language}`],
    ...[`-metadata:s:s:${at}`, `title=${one.title}`, `-metadata:s:s:${at}`, `handler_name=${one.title}`],
    ...[`-disposition:s:${at}`, marks.length === 0 ? '0' : marks.join('+')]
  ];
}

const seconds = (ms: number): string => (ms / 1000).toFixed(4);

function backgroundInput({ video, durationMs, stretch }: RenderPlan): readonly string[] {
  const { geometry, background } = video!;
  const lengthMs = stretch === null ? durationMs : stretch.endMs;
  return [
    '-f',
    'lavfi',
    '-i',
    `color=c=0x${background!.slice(1)}:s=${geometry.width}x${geometry.height}:r=${BACKGROUND_RATE}:d=${seconds(lengthMs)}`
  ];
}

/** The picture in its shape, with the strip of captions over it. */
function pictureGraph({ video, source, stretch }: RenderPlan): readonly string[] {
  const { geometry, strip, matrix } = video!;
  const { width, height, crop, at } = geometry;
  const isMade = source.picture === null;
  const input = isMade ? '[1:v]' : `[0:${source.picture.stream}]`;
  const shape = [
    ...(isMade || source.picture.hasSquarePixels ? [] : ['scale=trunc(iw*sar):ih', 'setsar=1']),
    ...(isMade ? [] : [`crop=${crop.width}:${crop.height}:${crop.x}:${crop.y}`]),
    `scale=${at.width}:${at.height}:in_color_matrix=${isMade ? matrix : source.picture.matrix}:out_color_matrix=${matrix}:out_range=tv`,
    'setsar=1',
    'format=yuv420p',
    ...(at.width === width && at.height === height ? [] : [`pad=${width}:${height}:${at.x}:${at.y}:color=black`])
  ].join(',');
  const cut =
    stretch === null
      ? 'null'
      : `trim=${seconds(stretch.startMs)}:${seconds(stretch.endMs)},setpts=PTS-${seconds(stretch.startMs)}/TB`;
  if (strip === null) return [`${input}${shape},${cut}[picture]`];
  const captions = `[${isMade ? 2 : 1}:v]scale=in_range=pc:out_range=tv:out_color_matrix=${matrix},format=yuva420p[captions]`;
  const laid = `[base][captions]overlay=x=${strip.x}:y=${strip.y}:eof_action=repeat:format=yuv420,${cut}[picture]`;
  return [`${input}${shape}[base]`, captions, laid];
}

const shareOf = (quality: number | undefined, most: number): string =>
  String(Math.round(((100 - (quality ?? USUAL_QUALITY)) / 100) * most));

function pictureOutput({ video, request, source }: RenderPlan): readonly string[] {
  if (video === null) return ['-vn'];
  if (video.codec === 'copy') return ['-map', `0:${source.picture!.stream}`, '-c:v', 'copy'];
  const { quality, kbps } = request.video ?? {};
  const rate = (crf: readonly string[]): readonly string[] => (kbps === undefined ? crf : ['-b:v', `${kbps}k`]);
  const codec = {
    h264: ['-c:v', 'libx264', '-preset', 'veryfast', ...rate(['-crf', shareOf(quality, 51)])],
    h265: [
      ...['-c:v', 'libx265', '-preset', 'fast', '-x265-params', 'log-level=error', '-tag:v', 'hvc1'],
      ...rate(['-crf', shareOf(quality, 51)])
    ],
    vp9: [
      ...['-c:v', 'libvpx-vp9', '-deadline', 'good', '-cpu-used', '4', '-row-mt', '1'],
      ...rate(['-b:v', '0', '-crf', shareOf(quality, 63)])
    ],
    av1: ['-c:v', 'libsvtav1', '-preset', '8', ...rate(['-crf', shareOf(quality, 63)])]
  }[video.codec];
  const tags = { bt709: 'bt709', smpte170m: 'smpte170m', bt2020nc: 'bt2020' }[video.matrix];
  return [
    ...['-map', '[picture]', ...codec, '-pix_fmt', 'yuv420p'],
    ...['-colorspace', video.matrix, '-color_primaries', tags, '-color_trc', tags === 'bt2020' ? 'bt709' : tags],
    ...['-color_range', 'tv', '-vsync', 'passthrough', '-enc_time_base', '1/90000']
  ];
}

function soundOutput({ sound, request, stretch }: RenderPlan): readonly string[] {
  const map = ['-map', '0:a:0'];
  if (sound === 'copy') return [...map, '-c:a', 'copy'];
  const cut =
    stretch === null
      ? []
      : [`atrim=${seconds(stretch.startMs)}:${seconds(stretch.endMs)}`, `asetpts=PTS-${seconds(stretch.startMs)}/TB`];
  const filters = ['aresample=async=1:first_pts=0', ...cut].join(',');
  const kbps = `${request.audio?.kbps ?? 160}k`;
  const codec = {
    aac: ['-c:a', 'aac', '-b:a', kbps],
    opus: ['-c:a', 'libopus', '-ar', '48000', '-b:a', kbps],
    mp3: ['-c:a', 'libmp3lame', '-b:a', kbps],
    pcm: request.container === 'flac' ? ['-c:a', 'flac'] : ['-c:a', 'pcm_s16le']
  }[sound];
  return [...map, '-af', filters, ...codec];
}
