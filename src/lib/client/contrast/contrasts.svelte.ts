/** How well the captions of a track can be read on their picture: of every cue, and of the one in hand exactly. */
import type { CueId } from '$lib/core/id';
import {
  areasOfDrawing,
  blockOf,
  measureAdvances,
  roughAreas,
  type Advances,
  type CueContrast
} from '$lib/core/layout';
import {
  findMendings,
  FRAME_HEIGHT,
  FRAME_WIDTH,
  LEAST_CONTRAST,
  legibilityOf,
  LightMeter,
  luminanceOf,
  plainLight,
  type Legibility,
  type LightMap,
  type Mending
} from '$lib/core/light';
import type { Cue, Track } from '$lib/core/track';
import { api, type Job } from '../api';
import type { Dressing } from '../dressing.svelte';
import { listenToServer } from '../events';
import { isUnfinished } from '../is-unfinished';
import { fonts } from '../picture/fonts.svelte';
import { pictureShape } from '../picture/shape.svelte';
import type { TrackView } from '../track-view.svelte';
import { answerSchema, type ContrastRequest } from './messages';

/** After the last change of the track. */
const REST_MS = 250;

export class Contrasts {
  readonly #view: TrackView;
  readonly #dressing: Dressing;
  map: LightMap | null = $state.raw(null);
  /** The job that makes the map, while it does. */
  job: Job | null = $state.raw(null);
  failure: string | null = $state(null);
  cues: readonly CueContrast[] = $state.raw([]);
  #advances: Advances = $state.raw({});
  #worker: Worker | null = null;
  /** The light that the worker has. */
  #sent: LightMap | null = null;
  #asked = 0;
  #rest: ReturnType<typeof setTimeout> | undefined;

  constructor(view: TrackView, dressing: Dressing) {
    this.#view = view;
    this.#dressing = dressing;
  }

  /** Begins to measure; returns a function that ends it. Called in an effect's setup, it follows the track. */
  follow(): () => void {
    const { id, media } = this.#view.recording;
    const stop = listenToServer({
      onJob: (job) => {
        if (job.kind !== 'light' || job.recordingId !== id) return;
        this.job = isUnfinished(job) ? job : null;
        if (job.state === 'done') void this.#load();
        else if (job.state === 'failed') this.failure = job.error ?? '';
      }
    });
    if (media.hasVideo) void this.#load();
    return () => {
      stop();
      clearTimeout(this.#rest);
      this.#worker?.terminate();
      this.#worker = null;
      this.#sent = null;
      this.map = null;
      this.cues = [];
    };
  }

  /** The light there is behind the captions: of the picture, or of what takes its place. */
  readonly light: LightMap | null = $derived.by(() =>
    this.#view.recording.media.hasVideo ? this.map : plainLight(luminanceOf(pictureShape.background))
  );

  /** The cue on the picture, as it is laid out there. */
  readonly inHand: { readonly cue: Cue; readonly legibility: Legibility } | null = $derived.by(() => {
    const shot = this.#dressing.seen.find(({ cueId }) => cueId === this.#view.cueId) ?? this.#dressing.seen[0];
    const cue = shot === undefined ? undefined : this.#view.drawn.cues.find(({ id }) => id === shot.cueId);
    if (shot === undefined || cue === undefined || this.light === null) return null;
    const legibility = legibilityOf(areasOfDrawing(shot.composed.drawing), cue, this.light);
    return legibility === null ? null : { cue, legibility };
  });

  /** What would mend the cue in hand. */
  readonly mendings: readonly Mending[] = $derived.by(() => {
    const inHand = this.inHand;
    if (inHand === null || this.light === null || inHand.legibility.worst >= LEAST_CONTRAST.any) return [];
    const block = blockOf(this.#view.track, inHand.cue);
    return findMendings({
      look: block.look,
      during: inHand.cue,
      map: this.light,
      areasOf: (look) => roughAreas(block, this.#picture, this.#advances, look)
    });
  });

  /** Cues that cannot be read everywhere, the worst first. */
  readonly poor: readonly CueContrast[] = $derived.by(() =>
    this.cues
      .filter(({ legibility }) => legibility.worst < LEAST_CONTRAST.any)
      .sort((a, b) => a.legibility.worst - b.legibility.worst)
  );

  /** The next of them after the one in hand, round. */
  nextPoor(): CueId | null {
    const at = this.poor.findIndex(({ cueId }) => cueId === this.#view.cueId);
    return this.poor[(at + 1) % Math.max(1, this.poor.length)]?.cueId ?? null;
  }

  /** The contrast on the very frame that a video shows now, worst of the cue in hand. */
  measureFrame(video: HTMLVideoElement): number | null {
    const shot = this.#dressing.seen[0];
    if (shot === undefined || video.videoWidth === 0) return null;
    const canvas = document.createElement('canvas');
    canvas.width = FRAME_WIDTH;
    canvas.height = FRAME_HEIGHT;
    const context = canvas.getContext('2d', { willReadFrequently: true });
    if (context === null) return null;
    context.imageSmoothingEnabled = false;
    context.drawImage(video, 0, 0, FRAME_WIDTH, FRAME_HEIGHT);
    const meter = new LightMeter();
    meter.push(context.getImageData(0, 0, FRAME_WIDTH, FRAME_HEIGHT).data, 4);
    const during = { startMs: this.#view.player.nowMs, endMs: this.#view.player.nowMs };
    return legibilityOf(areasOfDrawing(shot.composed.drawing), during, { bytes: meter.finish() })?.worst ?? null;
  }

  /** Measures all cues anew, when the hands rest. */
  measure(track: Track): void {
    clearTimeout(this.#rest);
    const { light } = this;
    if (light === null) return;
    this.#rest = setTimeout(() => void this.#measure(track, light), REST_MS);
  }

  get #picture() {
    const { width = 1280, height = 720 } = this.#view.recording.media;
    return { width, height };
  }

  async #measure(track: Track, light: LightMap): Promise<void> {
    const { face, weight, italic } = track.look;
    const font = await fonts.load(face, weight, italic);
    if (font === undefined) return;
    this.#advances = measureAdvances(
      font,
      track.words.map(({ text }) => text)
    );
    const id = ++this.#asked;
    if (this.#worker === null) {
      this.#worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
      this.#worker.addEventListener('message', ({ data }) => {
        const answer = answerSchema.parse(data);
        if (answer.id === this.#asked) this.cues = answer.cues;
      });
      this.#worker.addEventListener('error', ({ message }) => (this.failure = message));
    }
    if (this.#sent !== light) this.#send({ type: 'light', bytes: light.bytes });
    this.#sent = light;
    this.#send({ type: 'measure', id, track, picture: this.#picture, advances: this.#advances });
  }

  #send(request: ContrastRequest): void {
    this.#worker?.postMessage(request);
  }

  async #load(): Promise<void> {
    try {
      const got = await api.light(this.#view.recording.id);
      if (got instanceof Uint8Array) this.map = { bytes: got };
      else this.job = got;
      this.failure = null;
    } catch (error) {
      this.failure = error instanceof Error ? error.message : String(error);
    }
  }
}
