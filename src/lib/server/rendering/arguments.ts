/** What ffmpeg is told to make a file: built as an array, of numbers and names of ours. */
import type {
  Area,
  CaptionsInside,
  CopiedCut,
  PictureGeometry,
  PicturePart,
  PictureRun,
  RenderRequest,
  SoundCodec,
  VideoCodec
} from '$lib/core/rendering';
import { CONCAT_INPUT, inputFrom, type PlayableMedia } from '../media/ffmpeg';

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
  /** A trim; `null`: the recording as it is. */
  readonly cut: CutPlan | null;
}

/** What of a trim is made by ffmpeg: its sound comes mixed by descriptor 3. */
export interface CutPlan {
  readonly runs: readonly PictureRun[];
  /** In place of runs: passages whose packets are copied. */
  readonly copied: Pick<CopiedCut, 'passages' | 'delayMs'> | null;
  /** Steady frames a second, as a fraction; `null`: each has its own time. */
  readonly rate: string | null;
  readonly lengthMs: number;
  readonly sound: { readonly rateHz: number; readonly channels: number };
}

/** Frames a second of a picture that is only a background. */
export const BACKGROUND_RATE = 25;
const USUAL_QUALITY = 60;

/** `scriptPath`: where what is too long for an argument lies, once `scriptOf` is written there. */
export function renderArguments(plan: RenderPlan, path: string, scriptPath: string): readonly string[] {
  const { video, source, request, stretch, cut } = plan;
  const media =
    cut === null
      ? [inputFrom(source, stretch?.startMs ?? 0)]
      : cut.copied !== null
        ? [copiedInput(cut.copied, scriptPath)]
        : cut.runs.map(({ parts }) => inputFrom(source, parts[0]!.fromMs));
  const { before, captions } = inputsOf(plan);
  const background = source.picture === null && video !== null ? backgroundInput(plan) : [];
  const strip = video?.strip == null ? [] : ['-format_whitelist', 'matroska', '-f', 'matroska', '-i', 'pipe:0'];
  return [
    ...media.flat(),
    ...background,
    ...strip,
    ...(cut === null ? [] : mixedInput(cut)),
    ...plan.inside.flatMap(captionsInput),
    ...(hasGraph(plan) ? ['-filter_complex_script', scriptPath] : []),
    ...pictureOutput(plan),
    ...soundOutput(plan, before),
    ...(plan.inside.length === 0 ? ['-sn'] : plan.inside.flatMap((one, at) => captionsOutput(one, at, captions + at))),
    ...['-dn', '-map_metadata', '-1', '-map_chapters', '-1'],
    // Else Matroska moves everything by what an encoder put ahead of the sound.
    ...(plan.inside.length === 0 ? [] : ['-avoid_negative_ts', 'disabled']),
    ...(request.container === 'mp4' || request.container === 'mov' || request.container === 'm4a'
      ? ['-movflags', '+faststart']
      : []),
    ...['-f', MUXERS[request.container], path]
  ];
}

const hasGraph = ({ video }: RenderPlan): boolean => video !== null && video.codec !== 'copy';

/** What happens to the picture, as ffmpeg's filters or as a concat list; empty where nothing does. */
export function scriptOf(plan: RenderPlan): string {
  if (plan.cut?.copied != null) return concatList(plan.cut.copied, plan.source);
  return hasGraph(plan) ? pictureGraph(plan).join(';') : '';
}

const copiedInput = ({ delayMs }: NonNullable<CutPlan['copied']>, listPath: string): readonly string[] => [
  ...['-copyts', '-itsoffset', seconds(delayMs)],
  ...[...CONCAT_INPUT, '-i', `file:${listPath}`]
];

/** Times are the file's own: of its key frames, a little behind, and of the first packet that is left out, a little ahead. */
function concatList({ passages }: NonNullable<CutPlan['copied']>, { media, startSeconds }: SourceStreams): string {
  const zero = media.byItsOwnTimes ? 0 : startSeconds;
  const own = (ms: number, besideUs: number): string => (zero + ms / 1000 + besideUs / 1e6).toFixed(6);
  const name = `file:${media.path}`.replaceAll("'", String.raw`'\''`);
  const lines = passages.flatMap(({ fromMs, untilDecodedMs, lengthMs }) => [
    ...[`file '${name}'`, `inpoint ${own(fromMs, 1)}`],
    ...(untilDecodedMs === null ? [] : [`outpoint ${own(untilDecodedMs, -1000)}`]),
    `duration ${(lengthMs / 1000).toFixed(3)}`
  ]);
  return ['ffconcat version 1.0', ...lines, ''].join('\n');
}

/** Numbers of inputs: of the mixed sound, or of what comes behind the picture's, and of the first captions. */
function inputsOf({ video, source, cut }: RenderPlan): { readonly before: number; readonly captions: number } {
  const media = cut === null || cut.copied !== null ? 1 : cut.runs.length;
  const made = source.picture === null && video !== null ? 1 : 0;
  const before = media + made + (video?.strip == null ? 0 : 1);
  return { before, captions: before + (cut === null ? 0 : 1) };
}

const mixedInput = ({ sound }: CutPlan): readonly string[] => [
  ...['-protocol_whitelist', 'pipe', '-format_whitelist', 'f32le', '-f', 'f32le'],
  ...['-ar', String(sound.rateHz), '-ac', String(sound.channels), '-i', 'pipe:3']
];

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

function backgroundInput({ video, durationMs, stretch, cut }: RenderPlan): readonly string[] {
  const { geometry, background } = video!;
  const lengthMs = cut?.lengthMs ?? (stretch === null ? durationMs : stretch.endMs);
  return [
    '-f',
    'lavfi',
    '-i',
    `color=c=0x${background!.slice(1)}:s=${geometry.width}x${geometry.height}:r=${BACKGROUND_RATE}:d=${seconds(lengthMs)}`
  ];
}

/** The picture in its shape, with the strip of captions over it. */
function pictureGraph(plan: RenderPlan): readonly string[] {
  const { video, source, stretch, cut } = plan;
  const { geometry, strip, matrix } = video!;
  const { width, height, crop, at } = geometry;
  const isMade = source.picture === null;
  const media = cut === null ? 1 : cut.runs.length;
  const joined = cut === null || isMade ? [] : cutGraph(cut, source.picture.stream);
  const input = isMade ? `[${media}:v]` : cut === null ? `[0:${source.picture.stream}]` : '[cut]';
  const shape = [
    ...(isMade || source.picture.hasSquarePixels ? [] : ['scale=trunc(iw*sar):ih', 'setsar=1']),
    ...(isMade ? [] : [`crop=${crop.width}:${crop.height}:${crop.x}:${crop.y}`]),
    `scale=${at.width}:${at.height}:in_color_matrix=${isMade ? matrix : source.picture.matrix}:out_color_matrix=${matrix}:out_range=tv`,
    'setsar=1',
    'format=yuv420p',
    ...(at.width === width && at.height === height ? [] : [`pad=${width}:${height}:${at.x}:${at.y}:color=black`])
  ].join(',');
  const within =
    stretch === null
      ? 'null'
      : `trim=${seconds(stretch.startMs)}:${seconds(stretch.endMs)},setpts=PTS-${seconds(stretch.startMs)}/TB`;
  if (strip === null) return [...joined, `${input}${shape},${within}[picture]`];
  const captions = `[${media + (isMade ? 1 : 0)}:v]scale=in_range=pc:out_range=tv:out_color_matrix=${matrix},format=yuva420p[captions]`;
  const laid = `[base][captions]overlay=x=${strip.x}:y=${strip.y}:eof_action=repeat:format=yuv420,${within}[picture]`;
  return [...joined, `${input}${shape}[base]`, captions, laid];
}

/** The frames of all runs, each at its trimmed time, to the end of the trim. */
function cutGraph({ runs, rate, lengthMs }: CutPlan, stream: number): readonly string[] {
  const heads = runs.map(({ parts }, at) => {
    const shown = stepwise(parts, 't', () => '1');
    const time = stepwise(parts, 'T', ({ sourceMs, shownMs }) => `${seconds(shownMs)}+max(T-${seconds(sourceMs)},0)`);
    return `[${at}:${stream}]settb=1/90000,select='${shown}',setpts='(${time})/TB'[run${at}]`;
  });
  const all = runs.map((_, at) => `[run${at}]`).join('');
  const order = runs.length === 1 ? `${all}null` : `${all}interleave=nb_inputs=${runs.length}`;
  const steady = rate === null ? '' : `,fps=${rate}:start_time=0`;
  // Behind its last frame the picture stands still as long as there is sound.
  const rest = seconds(lengthMs + 1000);
  const end = `tpad=stop_mode=clone:stop_duration=${rest},trim=end=${seconds(lengthMs)}`;
  return [...heads, `${order}${steady},${end}[cut]`];
}

/** An expression that has a value in each part and is 0 between them, found by halves: there may be thousands. */
function stepwise(parts: readonly PicturePart[], time: string, valueOf: (part: PicturePart) => string): string {
  const within = (from: number, to: number): string => {
    if (to - from === 1) {
      const part = parts[from]!;
      return `if(gte(${time},${seconds(part.fromMs)})*lt(${time},${seconds(part.toMs)}),${valueOf(part)},0)`;
    }
    const middle = (from + to) >> 1;
    return `if(lt(${time},${seconds(parts[middle]!.fromMs)}),${within(from, middle)},${within(middle, to)})`;
  };
  return within(0, parts.length);
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

/** `mixed`: the number of the input that a trim's sound comes by. */
function soundOutput({ sound, request, stretch, cut }: RenderPlan, mixed: number): readonly string[] {
  const map = ['-map', cut === null ? '0:a:0' : `${mixed}:a:0`];
  if (sound === 'copy') return [...map, '-c:a', 'copy'];
  const within =
    stretch === null
      ? []
      : [`atrim=${seconds(stretch.startMs)}:${seconds(stretch.endMs)}`, `asetpts=PTS-${seconds(stretch.startMs)}/TB`];
  const filters = cut === null ? ['-af', ['aresample=async=1:first_pts=0', ...within].join(',')] : [];
  const kbps = `${request.audio?.kbps ?? 160}k`;
  const codec = {
    aac: ['-c:a', 'aac', '-b:a', kbps],
    opus: ['-c:a', 'libopus', '-ar', '48000', '-b:a', kbps],
    mp3: ['-c:a', 'libmp3lame', '-b:a', kbps],
    pcm:
      request.container === 'flac'
        ? ['-c:a', 'flac', ...(cut === null ? [] : ['-sample_fmt', 's16'])]
        : ['-c:a', 'pcm_s16le']
  }[sound];
  return [...map, ...filters, ...codec];
}
