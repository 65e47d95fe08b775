/** What the video site and this application say to each other: JSON over HTTP, caption files as they are. */
import { z } from 'zod';

/** `automatic`: the site's own; `replaced`: automatic, while one that was published stands in its place. */
export const CAPTION_STATES = ['automatic', 'replaced', 'processing', 'refused', 'draft', 'published'] as const;

export const siteCaptionSchema = z
  .object({
    id: z.string().min(1).max(100),
    /** BCP 47. */
    language: z.string(),
    /** As viewers read it in the menu. */
    name: z.string(),
    kind: z.enum(['captions', 'subtitles']),
    state: z.enum(CAPTION_STATES),
    /** Why it was refused, a sentence each. */
    reasons: z.array(z.string()).readonly(),
    /** Shown by itself. */
    isDefault: z.boolean(),
    file: z.string(),
    bytes: z.int().min(0)
  })
  .readonly();
export type SiteCaption = z.infer<typeof siteCaptionSchema>;

export const siteVideoSchema = z
  .object({
    id: z.string().min(1).max(100),
    title: z.string(),
    durationMs: z.int().min(0),
    captions: z.array(siteCaptionSchema).readonly()
  })
  .readonly();
export type SiteVideo = z.infer<typeof siteVideoSchema>;

export const channelSchema = z
  .object({
    name: z.string(),
    /** Tags that captions may be in; some languages only as those of a country. */
    languages: z.array(z.string()).readonly(),
    mostNameLength: z.int(),
    mostBytes: z.int()
  })
  .readonly();
export type Channel = z.infer<typeof channelSchema>;

/** `POST /sign-in` */
export const signInRequest = z.object({ user: z.string(), secret: z.string() });
export const signedInSchema = z.object({ token: z.string(), lastsMs: z.int() });

/** `PATCH /videos/ID/captions/ID` */
export const captionChange = z
  .object({ state: z.enum(['published', 'draft']).optional(), isDefault: z.boolean().optional() })
  .readonly();
export type CaptionChange = z.infer<typeof captionChange>;

export const videosSchema = z.object({ videos: z.array(siteVideoSchema).readonly() });
export const captionAnswer = z.object({ caption: siteCaptionSchema });
export const siteRefusal = z.object({ error: z.object({ code: z.string(), message: z.string() }) });
