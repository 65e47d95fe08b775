/** Publishing as a kind of job: captions are sent, looked at by the site, and shown in the place of what was there. */
import { randomUUID } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import { z } from 'zod';
import { findFormat, parseWebVtt, usualOptions } from '$lib/core/formats';
import { nameFiles, USUAL_NAMING } from '$lib/core/naming';
import { compareShown, publishRequestSchema, type PublishRequest, type ShownOtherwise } from '$lib/core/publishing';
import { going, noteHandedOver, writeGoing, type HandingOver } from '../formats/handing-over';
import { jobKind, type JobContext } from '../jobs/kind';
import { ApiProblem, notFound } from '../problem';
import { sha256Of } from '../sha256';
import type { Publication, PublicationStore } from '../store/publications';
import type { Site } from './site';
import type { SiteCaption } from './simulated/protocol';

const LOOK_AGAIN_MS = 300;
const LEAVE_WITHIN_MS = 5000;
/** The part of a file's name that says what it is for. */
const PATTERN = '{title}.{language}.{kind}';

interface Parts extends HandingOver {
  readonly publications: PublicationStore;
}

export class Publishing {
  readonly #parts: Parts;
  readonly #site: Site | null;
  constructor(parts: Parts, site: Site | null) {
    this.#parts = parts;
    this.#site = site;
  }

  readonly kind = jobKind({
    kind: 'publish',
    params: publishRequestSchema,
    result: z.object({ publicationId: z.string() }),
    // One after the other: each may take down the one before it.
    concurrency: 1,
    run: (context) => this.#run(context)
  });

  /** Throws `no_site`. */
  get site(): Site {
    if (this.#site === null)
      throw new ApiProblem(
        422,
        'no_site',
        'No video site is set up. Start the server with VINETAP_SITE_URL, VINETAP_SITE_USER and VINETAP_SITE_SECRET.'
      );
    return this.#site;
  }

  /** Throws `unknown_publication`. */
  get(id: string): Publication {
    const publication = this.#parts.publications.find(id);
    if (publication === null) throw notFound('publication', id);
    return publication;
  }

  /** What viewers get otherwise than it was handed over, and how many cues they should get. */
  async compare(
    id: string,
    signal: AbortSignal
  ): Promise<{ readonly cues: number; readonly otherwise: readonly ShownOtherwise[] }> {
    const { videoId, captionId, content } = this.get(id);
    const shown = await this.site.shown(videoId, captionId, signal);
    const handedOver = parseWebVtt(content).cues;
    return { cues: handedOver.length, otherwise: compareShown(handedOver, parseWebVtt(shown).cues) };
  }

  async #run({ job, params: request, signal, tell }: JobContext<PublishRequest>): Promise<{ publicationId: string }> {
    const { site } = this;
    const { videoId, name, isDefault, isDraft } = request;
    tell('writing the file', 0.05);
    const sent = await this.#written(request, signal);
    tell('sending it to the site', 0.2);
    // The same captions under the same name are the same, however often this is begun.
    const key = sha256Of(JSON.stringify([job.id, videoId, sent.file, name, sent.content]));
    let caption = await site.send(videoId, { ...sent, name, key }, signal);
    try {
      while (caption.state === 'processing') {
        tell('the site looks into it', 0.5);
        await pause(LOOK_AGAIN_MS, undefined, { signal });
        caption = await this.#look(videoId, caption.id, signal);
      }
    } catch (error) {
      // What was cancelled leaves nothing there; where the server ends, it is taken up again.
      if (signal.aborted) await site.remove(videoId, caption.id, AbortSignal.timeout(LEAVE_WITHIN_MS));
      throw error;
    }
    if (caption.state === 'refused') {
      await site.remove(videoId, caption.id, signal);
      throw new ApiProblem(422, 'site_refused', `The video site refused it: ${caption.reasons.join(' ')}`);
    }
    if (!isDraft) {
      tell('publishing it', 0.8);
      caption = await site.change(videoId, caption.id, { state: 'published', ...(isDefault && { isDefault }) }, signal);
      tell('taking down the one before', 0.9);
      await this.#takeDownBefore(request, caption.id, signal);
    }
    const publication = {
      ...{ id: randomUUID(), trackId: request.trackId, videoId, captionId: caption.id, name },
      ...{ language: caption.language, file: sent.file, content: sent.content, version: sent.version },
      publishedAtMs: Date.now()
    };
    this.#parts.publications.insert(publication);
    this.#parts.changed(job.recordingId);
    return { publicationId: publication.id };
  }

  /** As it was published before, or the track as it is, which is noted as handed over. */
  async #written(
    { trackId, language, publicationId }: PublishRequest,
    signal: AbortSignal
  ): Promise<Pick<Publication, 'file' | 'content' | 'version'>> {
    if (publicationId !== undefined) return this.get(publicationId);
    const format = findFormat('vtt')!;
    const goes = going(this.#parts, trackId);
    const { track, recording, version } = goes;
    const [file = ''] = nameFiles(
      [
        {
          ...{ title: recording.title, track: '', language, kind: track.kind, version },
          ...{ atMs: Date.now(), extension: format.extension }
        }
      ],
      { ...USUAL_NAMING, pattern: PATTERN }
    );
    const asked = { format, options: usualOptions(format), name: file };
    const { file: bytes, noted } = await writeGoing(goes, asked, signal);
    noteHandedOver(this.#parts, goes, [noted]);
    return { file, content: new TextDecoder().decode(bytes), version };
  }

  async #look(videoId: string, captionId: string, signal: AbortSignal): Promise<SiteCaption> {
    const { captions } = await this.site.video(videoId, signal);
    const caption = captions.find(({ id }) => id === captionId);
    if (caption === undefined)
      throw new ApiProblem(409, 'site_lost_it', 'The captions were taken away on the site while it looked into them.');
    return caption;
  }

  /** What was published of the same track stands there no longer. */
  async #takeDownBefore({ trackId, videoId }: PublishRequest, captionId: string, signal: AbortSignal): Promise<void> {
    const { recordingId } = this.#parts.tracks.get(trackId).track;
    const former = new Set(
      this.#parts.publications
        .listOf(recordingId, videoId)
        .filter((one) => one.trackId === trackId && one.captionId !== captionId)
        .map((one) => one.captionId)
    );
    const { captions } = await this.site.video(videoId, signal);
    for (const { id } of captions) if (former.has(id)) await this.site.remove(videoId, id, signal);
  }
}
