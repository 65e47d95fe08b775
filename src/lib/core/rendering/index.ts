/**
 * Media that goes out: what is asked for, the shape it gets, when its captions change, how large it will be. ffmpeg and
 * the painter do it (`server/rendering`).
 */
export { captionChanges, type CaptionChange, type SeenCue } from './changes';
export { cutPicture, isSteady, type PictureCut, type PicturePart, type PictureRun } from './cut';
export { copyPicture, type CopiedCut, type CopiedPassage, type PicturePacket } from './copied';
export { captionsInside, type CaptionsInside } from './inside';
export { paintWave, waveAt, type WaveState } from './wave';
export { estimateBytes } from './estimate';
export { shapePicture, shapeRatio, type Area, type PictureGeometry, type SourcePicture } from './geometry';
export {
  ASPECTS,
  encodedSoundOf,
  FITS,
  renderRequestSchema,
  soundCodecFor,
  SOUND_CONTAINERS,
  uncopiedFor,
  unfitFor,
  videoCodecFor,
  videoCodecsOf,
  type Aspect,
  type CaptionMarks,
  type Container,
  type Fit,
  type RenderRequest,
  type SoundCodec,
  type VideoCodec
} from './request';
