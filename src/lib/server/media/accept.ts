/** Which media is taken: what has sound and keeps to the limits; and whether browsers play it as it is. */
import type { MediaFacts } from '../store/recordings';
import { ApiProblem } from '../problem';
import type { ProbeResult } from './ffmpeg';

const HOUR_MS = 3_600_000;
const LIMITS = { longestMs: 24 * HOUR_MS, shortestMs: 500, channels: 16, sidePx: 8192 };

type Stream = ProbeResult['streams'][number];

/** What browsers play of a container: its types for picture and sound, and the codecs in it. */
interface Container {
  readonly name: string;
  readonly demuxer: RegExp;
  readonly mime: { readonly video: string; readonly audio: string };
  readonly video: readonly string[];
  readonly audio: RegExp;
}

const CONTAINERS: readonly Container[] = [
  {
    name: 'WAV',
    demuxer: /^wav$/,
    mime: { video: '', audio: 'audio/wav' },
    video: [],
    audio: /^pcm_(u8|s16le|s24le|s32le|f32le)$/
  },
  { name: 'MP3', demuxer: /^mp3$/, mime: { video: '', audio: 'audio/mpeg' }, video: [], audio: /^mp3$/ },
  {
    name: 'MP4',
    demuxer: /\bmp4\b/,
    mime: { video: 'video/mp4', audio: 'audio/mp4' },
    video: ['h264', 'av1', 'vp9'],
    audio: /^(aac|mp3|opus|flac)$/
  },
  {
    name: 'WebM',
    demuxer: /\bwebm\b/,
    mime: { video: 'video/webm', audio: 'audio/webm' },
    video: ['vp8', 'vp9', 'av1'],
    audio: /^(opus|vorbis)$/
  },
  { name: 'Ogg', demuxer: /^ogg$/, mime: { video: '', audio: 'audio/ogg' }, video: [], audio: /^(opus|vorbis|flac)$/ },
  { name: 'FLAC', demuxer: /^flac$/, mime: { video: '', audio: 'audio/flac' }, video: [], audio: /^flac$/ },
  { name: 'AAC', demuxer: /^aac$/, mime: { video: '', audio: 'audio/aac' }, video: [], audio: /^aac$/ }
];

const PROXY_MIME = { video: 'video/mp4', audio: 'audio/mp4' };

const refuse = (message: string): ApiProblem => new ApiProblem(422, 'unsupported_media', message);

export interface Acceptance {
  readonly durationMs: number;
  /** Browsers play it only as a copy that has to be made. */
  readonly needsProxy: boolean;
  readonly media: Omit<MediaFacts, 'bytes'>;
}

/** The facts of media that is taken. Throws `unsupported_media` with what is wrong and what to do. */
export function acceptMedia(probed: ProbeResult): Acceptance {
  const sound = probed.streams.find((stream) => stream.codec_type === 'audio');
  const picture = probed.streams.find(
    (stream) => stream.codec_type === 'video' && stream.disposition?.attached_pic !== 1
  );
  if (sound === undefined)
    throw refuse('The file has no sound, so there is nothing to caption. Choose one with a sound track.');
  const container = CONTAINERS.find(({ demuxer }) => demuxer.test(probed.format.format_name));
  const isPlayable = container !== undefined && playsWhole(container, sound, picture);
  // Headers may contradict each other; the largest claim counts.
  const durationMs = Math.round(1000 * Math.max(probed.format.duration ?? 0, sound.duration ?? 0));
  if (durationMs > LIMITS.longestMs)
    throw refuse(
      `The file says it is ${Math.round(durationMs / HOUR_MS)} hours long; recordings of up to 24 hours are taken. Send it in parts, or repair its header.`
    );
  if (durationMs < LIMITS.shortestMs)
    throw refuse(
      `The file holds ${durationMs} ms of sound, too little to caption. Recordings from half a second on are taken.`
    );
  if ((sound.channels ?? 0) > LIMITS.channels)
    throw refuse(`The sound has ${sound.channels} channels; up to ${LIMITS.channels} are taken. Mix it down first.`);
  if (Math.max(picture?.width ?? 0, picture?.height ?? 0) > LIMITS.sidePx)
    throw refuse(
      `The picture is ${picture!.width} × ${picture!.height}; sides of up to ${LIMITS.sidePx} pixels are taken.`
    );
  const mime = isPlayable ? container.mime : PROXY_MIME;
  return {
    durationMs,
    needsProxy: !isPlayable,
    media: {
      mime: picture === undefined ? mime.audio : mime.video,
      hasVideo: picture !== undefined,
      width: picture?.width ?? null,
      height: picture?.height ?? null,
      frameRate: frameRate(picture?.avg_frame_rate),
      channels: sound.channels ?? 1,
      sampleRate: sound.sample_rate ?? 0
    }
  };
}

/** Whether browsers play both: HEVC, say, would be sound without a picture and no word of it. */
function playsWhole(container: Container, sound: Stream, picture: Stream | undefined): boolean {
  if (!container.audio.test(sound.codec_name ?? '')) return false;
  if (picture === undefined) return container.mime.audio !== '';
  const isPlain = picture.codec_name !== 'h264' || /^yuvj?420p$/.test(picture.pix_fmt ?? '');
  return isPlain && container.video.includes(picture.codec_name ?? '');
}

/** `30000/1001` → 29.97; `null` where it is not known. */
function frameRate(text: string | undefined): number | null {
  const found = /^(\d+)\/(\d+)$/.exec(text ?? '');
  return found === null || Number(found[2]) === 0 || Number(found[1]) === 0
    ? null
    : Math.round((Number(found[1]) / Number(found[2])) * 1000) / 1000;
}
