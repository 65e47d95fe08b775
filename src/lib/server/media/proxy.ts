/** A copy that browsers play, of media that they do not play as it was sent: with the same zero and the same length. */
import { ApiProblem } from '../problem';
import { convert, probe, ToolFailure } from './ffmpeg';
import { diskFull, makeWhole, type MediaFiles } from './files';

/** Wide enough to caption by, small enough to be made quickly. */
const WIDEST_PX = 1920;

interface ProxyOptions {
  readonly hasVideo: boolean;
  readonly durationMs: number;
  readonly signal: AbortSignal;
  /** 0 to 1. */
  readonly onProgress: (progress: number) => void;
}

/** Makes the copy: AAC, and H.264 of 8 bits, in MP4. Throws `unsupported_media` or `disk_full`. */
export async function makeProxy(files: MediaFiles, id: string, options: ProxyOptions): Promise<void> {
  const { streams } = await probe(files.mediaPath(id));
  const picture = streams.find((stream) => stream.codec_type === 'video' && stream.disposition?.attached_pic !== 1);
  const isPlainH264 = picture?.codec_name === 'h264' && /^yuvj?420p$/.test(picture.pix_fmt ?? '');
  const video = isPlainH264
    ? ['-c:v', 'copy']
    : [
        ...['-vf', `scale=w='trunc(min(${WIDEST_PX},iw)/2)*2':h=-2`, '-vsync', 'vfr'],
        ...['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '23', '-pix_fmt', 'yuv420p']
      ];
  // As the sound is decoded for hearing: its first sample is played at 0.
  const sound = ['-af', 'aresample=48000:async=1:first_pts=0', '-ac', '2', '-c:a', 'aac', '-b:a', '160k'];
  const hasPicture = options.hasVideo && picture !== undefined;
  try {
    await makeWhole(files.proxyPath(id), async (unfinished) => {
      await convert(
        files.mediaPath(id),
        [
          ...(hasPicture ? ['-map', `0:${picture.index}`, ...video] : ['-vn']),
          ...['-map', '0:a:0', ...sound, '-sn', '-dn', '-map_metadata', '-1'],
          ...['-movflags', '+faststart', '-f', 'mp4', unfinished]
        ],
        { ...options, timeoutMs: 600_000 + options.durationMs * 10 }
      );
      const made = await probe(unfinished);
      const kinds = made.streams.map(({ codec_type: kind }) => kind);
      const isWhole =
        Math.abs((made.format.duration ?? 0) * 1000 - options.durationMs) < 2000 + options.durationMs / 50;
      if (!kinds.includes('audio') || (hasPicture && !kinds.includes('video')) || !isWhole)
        throw new ToolFailure('the copy is not what was asked for');
    });
  } catch (error) {
    if (!(error instanceof ToolFailure)) throw error;
    if (/No space left on device/.test(error.message)) throw diskFull('for a copy of this file that plays here');
    throw new ApiProblem(
      422,
      'unsupported_media',
      'Browsers do not play this file, and no copy that they play could be made of it; it may be damaged. Convert it to MP4 and send it again.'
    );
  }
}
