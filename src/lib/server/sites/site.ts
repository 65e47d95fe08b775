/** A place where videos are watched, and their captions published. */
import type { CaptionChange, Channel, SiteCaption, SiteVideo } from './simulated/protocol';

export interface SentCaptions {
  readonly file: string;
  readonly name: string;
  readonly content: string;
  /** The same key is the same captions, however often they are sent. */
  readonly key: string;
}

/** Each throws an `ApiProblem` that says what the site answered, or that it did not. */
export interface Site {
  readonly channel: (signal: AbortSignal) => Promise<Channel>;
  readonly videos: (signal: AbortSignal) => Promise<readonly SiteVideo[]>;
  readonly video: (id: string, signal: AbortSignal) => Promise<SiteVideo>;
  readonly send: (videoId: string, captions: SentCaptions, signal: AbortSignal) => Promise<SiteCaption>;
  readonly change: (
    videoId: string,
    captionId: string,
    change: CaptionChange,
    signal: AbortSignal
  ) => Promise<SiteCaption>;
  readonly remove: (videoId: string, captionId: string, signal: AbortSignal) => Promise<void>;
  /** The captions as viewers get them, as WebVTT. */
  readonly shown: (videoId: string, captionId: string, signal: AbortSignal) => Promise<string>;
  /** The page that viewers have of the video. */
  readonly watchUrl: (videoId: string) => string;
}
