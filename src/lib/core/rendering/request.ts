import { z } from 'zod';
import { trackIdSchema } from '../id';
import { msSchema } from '../time';
import { colorSchema } from '../track';

export const ASPECTS = ['as is', '16:9', '9:16', '1:1', '4:5'] as const;
export type Aspect = (typeof ASPECTS)[number];
export const FITS = ['crop', 'pad'] as const;
export type Fit = (typeof FITS)[number];

const videoCodecSchema = z.enum(['copy', 'h264', 'h265', 'vp9', 'av1']);
export type VideoCodec = z.infer<typeof videoCodecSchema>;
const soundCodecSchema = z.enum(['copy', 'aac', 'opus', 'mp3', 'pcm']);
export type SoundCodec = z.infer<typeof soundCodecSchema>;
const containerSchema = z.enum(['mp4', 'mov', 'mkv', 'webm', 'wav', 'flac', 'm4a', 'mp3']);
export type Container = z.infer<typeof containerSchema>;

/** Of the tracks that go inside a file: which players show by themselves, always, or to those who do not hear. */
const marksSchema = z
  .object({
    defaultTrackId: trackIdSchema.nullable().optional(),
    forcedTrackIds: z.array(trackIdSchema).max(20).readonly().optional(),
    /** Left out: those that are captions. */
    hearingImpairedTrackIds: z.array(trackIdSchema).max(20).readonly().optional()
  })
  .readonly();
export type CaptionMarks = z.infer<typeof marksSchema>;

export const renderRequestSchema = z
  .object({
    trackId: trackIdSchema.optional(),
    /** Those that go inside, in this order. */
    trackIds: z.array(trackIdSchema).max(20).readonly().optional(),
    marks: marksSchema.optional(),
    captions: z.enum(['burned', 'inside', 'none']),
    container: containerSchema,
    video: z
      .object({
        codec: videoCodecSchema,
        /** From 1, small and poor, to 100, as it is. */
        quality: z.int().min(1).max(100).optional(),
        /** In place of a quality. */
        kbps: z.int().min(50).max(200_000).optional(),
        /** In lines; left out, as high as the picture. */
        height: z.int().min(64).max(4320).optional(),
        aspect: z.enum(ASPECTS).optional(),
        fit: z.enum(FITS).optional()
      })
      .readonly()
      .optional(),
    audio: z
      .object({ codec: soundCodecSchema, kbps: z.int().min(16).max(640).optional() })
      .readonly()
      .optional(),
    /** What stands in the place of a picture where there is only sound. */
    background: colorSchema.optional(),
    /** With the waveform on it. */
    waveform: z.boolean().optional(),
    /** A translation is shown with its source above it. */
    withSource: z.boolean().optional(),
    trimId: z.string().max(64).optional(),
    /** The trim as it was at this revision; left out, as it is when it is asked for. */
    trimRevision: z.int().min(0).optional(),
    /** Only this stretch: of a recording as a trial, of a trim in trimmed time. */
    fromMs: msSchema.optional(),
    toMs: msSchema.optional()
  })
  .readonly();
export type RenderRequest = z.infer<typeof renderRequestSchema>;

/** Those that hold no picture. */
export const SOUND_CONTAINERS: readonly Container[] = ['wav', 'flac', 'm4a', 'mp3'];

const VIDEO_CODECS: Readonly<Partial<Record<Container, readonly VideoCodec[]>>> = {
  mp4: ['h264', 'h265', 'av1', 'vp9'],
  mov: ['h264', 'h265'],
  mkv: ['h264', 'h265', 'vp9', 'av1'],
  webm: ['vp9', 'av1']
};
/** The codecs of a container that is made here, the usual one first. */
export const videoCodecsOf = (container: Container): readonly VideoCodec[] => VIDEO_CODECS[container] ?? [];

/** Sound codecs of a container by ffmpeg's names, the one that is encoded first. */
const SOUND: Readonly<Record<Container, { readonly encoded: SoundCodec; readonly copied: readonly string[] }>> = {
  mp4: { encoded: 'aac', copied: ['aac', 'mp3', 'opus', 'ac3', 'eac3'] },
  mov: { encoded: 'aac', copied: ['aac', 'mp3', 'ac3', 'pcm_s16le', 'pcm_s24le'] },
  mkv: { encoded: 'aac', copied: ['aac', 'mp3', 'opus', 'vorbis', 'flac', 'ac3', 'eac3', 'pcm_s16le', 'pcm_s24le'] },
  // Copied sound makes browsers seek wrongly in it.
  webm: { encoded: 'opus', copied: [] },
  wav: { encoded: 'pcm', copied: [] },
  flac: { encoded: 'pcm', copied: [] },
  m4a: { encoded: 'aac', copied: ['aac'] },
  mp3: { encoded: 'mp3', copied: ['mp3'] }
};

/** What sound is made into where it is not copied. */
export const encodedSoundOf = (container: Container): SoundCodec => SOUND[container].encoded;

/** The codec of the picture where nothing is said: what goes inside a file leaves its picture as it is. */
export const videoCodecFor = ({
  video,
  container,
  captions,
  trimId
}: Pick<RenderRequest, 'video' | 'container' | 'captions' | 'trimId'>): VideoCodec =>
  video?.codec ?? (captions === 'inside' && trimId === undefined ? 'copy' : videoCodecsOf(container)[0]!);

/** By ffmpeg's names; `null`: whatever it is. */
const COPIED_PICTURES: Readonly<Partial<Record<Container, readonly string[]>>> = {
  mp4: ['h264', 'hevc', 'av1', 'vp9', 'mpeg4'],
  mov: ['h264', 'hevc', 'mpeg4', 'prores', 'mjpeg'],
  webm: ['vp8', 'vp9', 'av1']
};
/** Why a picture cannot be copied into a container, as a sentence; `null` where it can. */
export function uncopiedFor(container: Container, codec: string): string | null {
  const taken = COPIED_PICTURES[container];
  if (taken === undefined || taken.includes(codec)) return null;
  return `A ${container} file does not take this recording’s picture (${codec}) as it is. Choose another container, or have it encoded anew.`;
}

/**
 * How the sound gets into the container: copied where it can be and nobody asked otherwise. `source`: its codec by
 * ffmpeg's name. `isWhole`: from the very start of the file to its end, all streams beginning at once.
 */
export function soundCodecFor(
  { container, audio, captions }: Pick<RenderRequest, 'container' | 'audio' | 'captions'>,
  { source, isWhole }: { readonly source: string; readonly isWhole: boolean }
): SoundCodec {
  if (audio !== undefined && audio.codec !== 'copy') return audio.codec;
  // Captions go into a file that is otherwise as it was.
  const isAsItWas = captions === 'inside' && container === 'webm' && ['opus', 'vorbis'].includes(source);
  return isWhole && (isAsItWas || SOUND[container].copied.includes(source)) ? 'copy' : encodedSoundOf(container);
}

/** Why a request cannot be done, as a sentence; `null` where it can. */
export function unfitFor({ container, video, audio, captions, fromMs, toMs, trimId }: RenderRequest): string | null {
  if (fromMs !== undefined && toMs !== undefined && toMs <= fromMs) return 'The stretch ends before it starts.';
  if (trimId !== undefined && audio?.codec === 'copy')
    return 'The sound of a trim is cut to the sample, so it cannot be copied: leave the codec out, or choose one.';
  if (SOUND_CONTAINERS.includes(container)) {
    if (captions === 'inside') return `A ${container} file holds no captions: choose mp4, mov, mkv or webm.`;
    return captions === 'burned' ? `A ${container} file holds no picture that captions could be burnt into.` : null;
  }
  const codec = videoCodecFor({ video, container, captions, trimId });
  if (codec === 'copy')
    return captions === 'burned' ? 'Captions are burnt into a picture by encoding it: it cannot be copied.' : null;
  return videoCodecsOf(container).includes(codec)
    ? null
    : `A ${container} file is made with ${videoCodecsOf(container).join(', ')} here, not with ${codec}.`;
}
