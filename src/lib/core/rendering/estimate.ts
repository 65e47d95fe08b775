import { videoCodecFor, SOUND_CONTAINERS, type RenderRequest, type VideoCodec } from './request';

/** Bits a pixel of moving picture at a quality of 60, by codec: what speech and rooms take, measured on such. */
const BITS_PER_PIXEL: Readonly<Record<Exclude<VideoCodec, 'copy'>, number>> = {
  h264: 0.045,
  h265: 0.03,
  vp9: 0.03,
  av1: 0.022
};
/** So much of the quality doubles the bits. */
const DOUBLING = 12;
const USUAL_QUALITY = 60;
const USUAL_SOUND_KBPS = 160;

interface Facts {
  readonly width: number;
  readonly height: number;
  readonly frameRate: number;
  readonly lengthMs: number;
  /** Of the recording as it is, for what is copied. */
  readonly sourceBytesPerMs: number;
}

/** How large a file will be, in bytes: the right order of it. */
export function estimateBytes(request: RenderRequest, facts: Facts): number {
  const { container, video, audio } = request;
  const soundBytes = (((audio?.kbps ?? USUAL_SOUND_KBPS) * 1000) / 8) * (facts.lengthMs / 1000);
  if (SOUND_CONTAINERS.includes(container))
    return Math.round(container === 'wav' || container === 'flac' ? facts.lengthMs * 192 : soundBytes);
  const codec = videoCodecFor(request);
  if (codec === 'copy') return Math.round(facts.sourceBytesPerMs * facts.lengthMs);
  const bitsPerSecond =
    video?.kbps === undefined
      ? facts.width *
        facts.height *
        facts.frameRate *
        BITS_PER_PIXEL[codec] *
        2 ** (((video?.quality ?? USUAL_QUALITY) - USUAL_QUALITY) / DOUBLING)
      : video.kbps * 1000;
  return Math.round((bitsPerSecond / 8) * (facts.lengthMs / 1000) + soundBytes);
}
