/** What of a recording's file matters for rendering it. */
import type { SourcePicture } from '$lib/core/rendering';
import { probe, type PlayableMedia, type ProbeResult } from '../media/ffmpeg';
import { ApiProblem } from '../problem';
import type { ColorMatrix, SourceStreams } from './arguments';

export interface RenderSource extends SourceStreams {
  readonly shape: SourcePicture | null;
  /** ffmpeg's names of the codecs; empty where there is no such stream. */
  readonly pictureCodec: string;
  readonly soundCodec: string;
  readonly soundFormat: { readonly rateHz: number; readonly channels: number };
  /** Frames a second as the file says it, a fraction. */
  readonly frameRate: string;
  /** All streams begin at once. */
  readonly beginsAtOnce: boolean;
}

type Stream = ProbeResult['streams'][number];

/** Of pictures that do not say it: as browsers take them. */
const HD_LINES = 720;
const AT_ONCE_SECONDS = 0.06;
const USUAL_RATE_HZ = 48_000;

/** Throws `not_supported` for what would come out wrong. */
export async function readSource(media: PlayableMedia): Promise<RenderSource> {
  const { streams, format } = await probe(media.path);
  const picture = streams.find((stream) => stream.codec_type === 'video' && stream.disposition?.attached_pic !== 1);
  const sound = streams.find((stream) => stream.codec_type === 'audio');
  if (picture !== undefined && /^(smpte2084|arib-std-b67)$/.test(picture.color_transfer ?? ''))
    throw new ApiProblem(
      422,
      'not_supported',
      'This video is in high dynamic range (PQ or HLG), whose colours would come out wrong. Convert it to standard range and bring that in.'
    );
  const starts = [picture, sound].flatMap((stream) => (stream?.start_time === undefined ? [] : [stream.start_time]));
  const shape = picture === undefined ? null : shapeOf(picture);
  return {
    media,
    startSeconds: format.start_time ?? 0,
    picture:
      picture === undefined
        ? null
        : { stream: picture.index, matrix: matrixOf(picture), hasSquarePixels: shape!.pixelAspect === 1 },
    shape,
    pictureCodec: picture?.codec_name ?? '',
    soundCodec: sound?.codec_name ?? '',
    soundFormat: { rateHz: sound?.sample_rate ?? USUAL_RATE_HZ, channels: sound?.channels ?? 1 },
    frameRate: picture?.avg_frame_rate ?? '',
    beginsAtOnce: starts.every((start) => Math.abs(start) < AT_ONCE_SECONDS)
  };
}

function shapeOf({ width = 16, height = 9, sample_aspect_ratio: ratio, side_data_list: sides }: Stream): SourcePicture {
  const [across, down] = (ratio ?? '1:1').split(':').map(Number);
  const pixelAspect = across === undefined || down === undefined || !(across > 0) || !(down > 0) ? 1 : across / down;
  const isTurned = Math.abs(sides?.find(({ rotation }) => rotation !== undefined)?.rotation ?? 0) % 180 === 90;
  return isTurned ? { width: height, height: width, pixelAspect: 1 / pixelAspect } : { width, height, pixelAspect };
}

function matrixOf({ color_space: space, height = 0 }: Stream): ColorMatrix {
  if (space === 'bt709') return 'bt709';
  if (space === 'bt2020nc' || space === 'bt2020c') return 'bt2020nc';
  if (space === 'smpte170m' || space === 'bt470bg') return 'smpte170m';
  return height >= HD_LINES ? 'bt709' : 'smpte170m';
}
