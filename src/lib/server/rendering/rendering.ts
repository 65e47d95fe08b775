/** Rendering as a kind of job: one recording, its captions burnt in or none, into one file that is kept beside it. */
import { randomUUID } from 'node:crypto';
import { mkdir, readdir, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import type { SpeechMap } from '$lib/core/audio';
import { exported, exportFileName, ownTrackName, USUAL_OPTIONS, type TitledRecording } from '$lib/core/formats';
import {
  captionsInside,
  copyPicture,
  cutPicture,
  isSteady,
  renderRequestSchema,
  shapePicture,
  SOUND_CONTAINERS,
  soundCodecFor,
  uncopiedFor,
  unfitFor,
  videoCodecFor,
  videoCodecsOf,
  type CopiedCut,
  type PicturePacket,
  type RenderRequest,
  type VideoCodec
} from '$lib/core/rendering';
import { plural } from '$lib/core/plural';
import { formatClock, wholeMs } from '$lib/core/time';
import { languageName, type Track } from '$lib/core/track';
import { mapOf, passageOf, roomSpans, trimLevels, trimTrack, type Trim } from '$lib/core/trims';
import type { Faces } from '../faces/faces';
import { going, noteHandedOver, withItsSource, type HandingOver } from '../formats/handing-over';
import { jobKind, type JobContext } from '../jobs/kind';
import { encode, ffmpegFacts, picturePackets, ToolFailure } from '../media/ffmpeg';
import { diskFull, makeWhole, type MediaFiles } from '../media/files';
import { loadSpeech, SPEECH_FRAME_MS } from '../media/prepare';
import { ApiProblem, notFound } from '../problem';
import { sha256OfFile } from '../sha256';
import type { Recording, RecordingStore } from '../store/recordings';
import type { Render, RenderStore } from '../store/renders';
import type { TrackStore } from '../store/tracks';
import { trimmedName } from '../trims/named';
import type { OpenTrims } from '../trims/open-trims';
import { BACKGROUND_RATE, renderArguments, scriptOf, type CutPlan, type RenderPlan } from './arguments';
import { startMixer } from './mixer';
import { setTextLanguages } from './mov-languages';
import { startPainter, type Painter } from './painter';
import { readSource, type RenderSource } from './source';

interface Parts extends HandingOver {
  readonly recordings: RecordingStore;
  readonly renders: RenderStore;
  readonly trackStore: TrackStore;
  readonly trims: OpenTrims;
  readonly files: MediaFiles;
  readonly faces: Faces;
}

const MIMES: Readonly<Record<RenderRequest['container'], string>> = {
  mp4: 'video/mp4',
  mov: 'video/quicktime',
  mkv: 'video/x-matroska',
  webm: 'video/webm',
  wav: 'audio/wav',
  flac: 'audio/flac',
  m4a: 'audio/mp4',
  mp3: 'audio/mpeg'
};

/** Of what stands in the place of a picture, where there is only sound. */
const BACKGROUND = { color: '#26382a', width: 1280, height: 720 };

/** Each is a reader of its own. */
const MOST_RUNS = 60;

/** So many times as long as the recording, and a while, a render may take. */
const LONGEST = { times: 40, andMs: 600_000 };

export class Rendering {
  readonly #parts: Parts;
  constructor(parts: Parts) {
    this.#parts = parts;
  }

  readonly kind = jobKind({
    kind: 'render',
    params: renderRequestSchema,
    result: z.object({ renderId: z.string() }),
    // One alone fills the machine.
    concurrency: 1,
    run: (context) => this.#run(context)
  });

  /** Throws `not_supported` or `bad_request` for what cannot be rendered. */
  check(recording: Recording, request: RenderRequest): void {
    if (request.captions === 'burned' && (request.trackIds?.length ?? 0) > 1)
      throw new ApiProblem(422, 'does_not_fit', 'One track can be burnt in; put several inside the file instead.');
    const unfit = unfitFor(request);
    if (unfit !== null) throw new ApiProblem(422, 'does_not_fit', unfit);
    if (request.captions !== 'none') this.#tracksOf(recording, request);
    if (request.video?.codec === 'copy' && !recording.media.hasVideo)
      throw new ApiProblem(422, 'does_not_fit', 'This recording has no picture that could be copied.');
    const trim = this.trimOf(recording, request);
    if (trim !== null && mapOf(trim).lengthMs === 0)
      throw new ApiProblem(
        422,
        'nothing_left',
        'Nothing is left to be rendered: everything of this stretch is taken out. Put some of it back.'
      );
    if (trim === null && (request.fromMs ?? 0) >= recording.durationMs)
      throw new ApiProblem(422, 'does_not_fit', 'The stretch begins after the end of the recording.');
  }

  /** What is asked for, of a trim that may change meanwhile: as it is now. */
  settled(request: RenderRequest): RenderRequest {
    if (request.trimId === undefined || request.trimRevision !== undefined) return request;
    return { ...request, trimRevision: this.#parts.trims.get(request.trimId).revision };
  }

  /** What is asked for of a trim; `null` where the recording is meant. Throws `unknown_trim`. */
  trimOf({ id }: Recording, { trimId, trimRevision, fromMs, toMs }: RenderRequest): Trim | null {
    if (trimId === undefined) return null;
    const { trim: present, revision } = this.#parts.trims.get(trimId);
    if (present.recordingId !== id)
      throw new ApiProblem(422, 'unknown_trim', 'This trim belongs to another recording.');
    if ((trimRevision ?? 0) > revision)
      throw new ApiProblem(404, 'unknown_revision', 'The trim has not had this revision yet.');
    const trim = trimRevision === undefined ? present : this.#parts.trims.at(trimId, trimRevision);
    if (fromMs === undefined && toMs === undefined) return trim;
    return passageOf(trim, { fromMs: fromMs ?? 0, toMs: toMs ?? mapOf(trim).lengthMs });
  }

  /** Throws `unknown_render`. */
  get(id: string): Render {
    const render = this.#parts.renders.find(id);
    const recording = render === null ? null : this.#parts.recordings.find(render.recordingId);
    if (render === null || recording === null || recording.binnedAtMs !== null) throw notFound('render', id);
    return render;
  }

  async remove(id: string): Promise<void> {
    const { recordingId } = this.get(id);
    this.#parts.renders.remove(id);
    await rm(this.#parts.files.renderPath(recordingId, id), { force: true });
  }

  /** Throws `not_supported` where this machine's ffmpeg cannot make the codec, `does_not_fit` where a picture is not copied. */
  async checkCodec(recording: Recording, request: RenderRequest): Promise<void> {
    const codec = SOUND_CONTAINERS.includes(request.container) ? 'copy' : codecFor(request, recording);
    const { available, videoCodecs } = await ffmpegFacts();
    if (!available)
      throw new ApiProblem(422, 'not_supported', 'There is no ffmpeg on this machine. Install it to render.');
    if (codec !== 'copy' && !videoCodecs.includes(codec))
      throw new ApiProblem(
        422,
        'not_supported',
        `The ffmpeg of this machine does not make ${codec}. Choose another codec.`
      );
    if (codec !== 'copy' || !recording.media.hasVideo) return;
    const uncopied = uncopiedFor(
      request.container,
      (await readSource(this.#parts.files.played(recording))).pictureCodec
    );
    if (uncopied !== null) throw new ApiProblem(422, 'does_not_fit', uncopied);
  }

  /** How the picture of a trim would be copied. Throws `does_not_fit` where it cannot be. */
  async copying(recording: Recording, trim: Trim, signal: AbortSignal): Promise<CopiedCut> {
    const source = await readSource(this.#parts.files.played(recording));
    if (source.picture === null)
      throw new ApiProblem(422, 'does_not_fit', 'This recording has no picture that could be copied.');
    return copiedOf(trim, await this.#packets(source, recording.durationMs, signal));
  }

  /** Those whose captions are asked for, one at least. */
  #tracksOf({ id }: Recording, { trackId, trackIds, withSource }: RenderRequest): readonly [Track, ...Track[]] {
    const asked = trackIds ?? (trackId === undefined ? [] : [trackId]);
    const tracks = [...new Set(asked)].map((one) => {
      const { track } = this.#parts.tracks.get(one);
      if (track.recordingId !== id)
        throw new ApiProblem(422, 'unknown_track', 'This track belongs to another recording.');
      return withSource === true ? withItsSource(this.#parts, track) : track;
    });
    const [first, ...others] = tracks;
    if (first === undefined)
      throw new ApiProblem(400, 'bad_request', 'Say by `trackId` or `trackIds` whose captions are meant.');
    return [first, ...others];
  }

  /** The captions that go inside, each in a file that is needed until they are there. */
  async #writeInside(
    recording: Recording,
    request: RenderRequest,
    renderId: string,
    tracks: readonly Track[]
  ): Promise<RenderPlan['inside']> {
    const titleOf = (track: Track): string =>
      ownTrackName(track, recording) || languageName(track.language) || recording.title;
    const folder = await this.#parts.files.scratchFolder();
    return Promise.all(
      captionsInside(tracks, request.container, request.marks ?? {}, titleOf).map(async (one, at) => {
        const path = join(folder, `${renderId}-${at}.${one.format}`);
        await writeFile(path, one.content);
        return { ...one, path };
      })
    );
  }

  async #run({ job, params: request, signal, tell }: JobContext<RenderRequest>): Promise<{ renderId: string }> {
    const { recordings, files, renders } = this.#parts;
    const recording = recordings.find(job.recordingId)!;
    this.check(recording, request);
    tell('looking at the recording', 0);
    const folder = files.rendersFolder(recording.id);
    await mkdir(folder, { recursive: true });
    await this.#sweep(folder);
    const source = await readSource(files.played(recording));
    const whole = request.captions === 'none' ? [] : this.#tracksOf(recording, request);
    const asked = this.trimOf(recording, request);
    const hasPicture = !SOUND_CONTAINERS.includes(request.container);
    const packets =
      hasPicture && source.picture !== null && (request.captions === 'burned' || asked !== null)
        ? await this.#packets(source, recording.durationMs, signal)
        : [];
    const copied = hasPicture && asked !== null && request.video?.codec === 'copy' ? copiedOf(asked, packets) : null;
    const trim = copied?.trim ?? asked;
    const tracks = trim === null ? whole : whole.map((one) => trimTrack(one, trim).track);
    const track = request.captions === 'burned' ? tracks[0] : null;
    const stretch = trim === null ? stretchOf(request, recording.durationMs) : null;
    const trimMs = trim === null ? recording.durationMs : mapOf(trim).lengthMs;
    const lengthMs = stretch === null ? trimMs : stretch.endMs - stretch.startMs;
    const renderId = randomUUID();
    // A trial leaves no house.
    const goes = stretch === null ? whole.map(({ id }) => going(this.#parts, id)) : [];
    const inside =
      request.captions === 'inside'
        ? await this.#writeInside(
            recording,
            request,
            renderId,
            tracks.map((one) => stretched(one, stretch))
          )
        : [];
    const frames = packets.map(({ shownMs }) => shownMs).sort((a, b) => a - b);
    const cut = trim === null ? null : cutOf(trim, source, frames, copied);
    const plan = planOf(recording, request, source, { stretch, inside, cut });
    const path = files.renderPath(recording.id, renderId);
    const scratch = join(await files.scratchFolder(), renderId);
    const known = trim === null ? null : await this.#soundOf(recording);
    const painter =
      track === null || plan.video === null
        ? null
        : await this.#paint(track, plan, {
            ...{ frames: cut?.frameTimesMs ?? frames, signal, tell },
            levelsPath: await this.#levelsPath(recording.id, trim, known, `${scratch}.levels`)
          });
    const mixer =
      trim === null
        ? null
        : startMixer(
            {
              trim,
              sound: { ...source, ...source.soundFormat },
              room: roomSpans(known!.levels, known!.speech)
            },
            signal
          );
    const scriptPath = `${scratch}.script`;
    try {
      const painted = withStrip(plan, painter);
      const script = scriptOf(painted);
      if (script !== '') await writeFile(scriptPath, script);
      await makeWhole(path, async (unfinished) => {
        const args = renderArguments(painted, unfinished, scriptPath);
        const encoding = encode(args, {
          signal,
          durationMs: lengthMs,
          timeoutMs: LONGEST.andMs + lengthMs * LONGEST.times,
          onProgress: (share) => tell('rendering', 0.02 + share * 0.97),
          ...(painter !== null && { input: painter.pictures }),
          ...(mixer !== null && { secondInput: mixer.samples })
        });
        await Promise.all([encoding, painter?.done, mixer?.done]);
        if (request.container === 'mov' && inside.length > 0)
          await setTextLanguages(
            unfinished,
            inside.map(({ language }) => language)
          );
      });
    } catch (error) {
      throw explain(error);
    } finally {
      painter?.end();
      mixer?.end();
      const leftovers = [scriptPath, `${scratch}.levels`, ...inside.map((one) => one.path)];
      await Promise.all(leftovers.map((one) => rm(one, { force: true })));
    }
    const { size } = await stat(path);
    const name = this.#nameOf(trim === null ? recording : trimmedName(recording, trim), track, request);
    if (goes.length > 0) {
      tell('noting what is handed over', 0.99);
      const sha256 = await sha256OfFile(path, signal);
      const file = { name, format: request.container, bytes: size, sha256, atMs: Date.now() };
      for (const one of goes) noteHandedOver(this.#parts, one, [file]);
    }
    renders.insert({
      ...{ id: renderId, recordingId: recording.id, jobId: job.id, request },
      name,
      mime: MIMES[request.container],
      bytes: size,
      durationMs: lengthMs,
      madeAtMs: Date.now()
    });
    return { renderId };
  }

  async #paint(
    track: Track,
    { video, stretch, durationMs, request, cut, source }: RenderPlan,
    {
      frames,
      levelsPath,
      signal,
      tell
    }: {
      readonly frames: readonly number[];
      readonly levelsPath: string;
      readonly signal: AbortSignal;
      readonly tell: (stage: string, progress: number) => void;
    }
  ): Promise<Painter> {
    tell('laying out the captions', 0.01);
    const all =
      source.picture === null
        ? Array.from(
            { length: Math.ceil(((cut?.lengthMs ?? durationMs) / 1000) * BACKGROUND_RATE) },
            (_, at) => (at * 1000) / BACKGROUND_RATE
          )
        : frames;
    const frameTimesMs =
      stretch === null ? all : all.filter((ms) => ms >= stretch.startMs - 1000 && ms <= stretch.endMs + 1000);
    const { width, height } = video!.geometry;
    return startPainter(
      {
        ...{ track, picture: { width, height }, frameTimesMs, ownFaces: this.#parts.faces.ownFiles() },
        wave: request.waveform === true && video!.background !== null ? { levelsPath, color: video!.background } : null
      },
      signal
    );
  }

  #packets(
    { media, picture, startSeconds }: RenderSource,
    durationMs: number,
    signal: AbortSignal
  ): Promise<PicturePacket[]> {
    return picturePackets(media, {
      ...{ stream: picture!.stream, startMs: startSeconds * 1000, signal },
      timeoutMs: LONGEST.andMs + durationMs
    });
  }

  /** Where no speech map is yet, the quietest sound stands for the room. */
  async #soundOf({
    id,
    hasSpeechMap
  }: Recording): Promise<{ readonly levels: Uint8Array; readonly speech: SpeechMap }> {
    const { files } = this.#parts;
    const [levels, speech] = await Promise.all([
      files.readLevels(id),
      hasSpeechMap ? loadSpeech(files.speechPath(id)) : { frameMs: SPEECH_FRAME_MS, probabilities: [] }
    ]);
    return { levels, speech };
  }

  /** Where the levels lie that a waveform is drawn from: of a trim they are made. */
  async #levelsPath(
    id: string,
    trim: Trim | null,
    known: { readonly levels: Uint8Array; readonly speech: SpeechMap } | null,
    scratchPath: string
  ): Promise<string> {
    if (trim === null || known === null) return this.#parts.files.levelsPath(id);
    await writeFile(scratchPath, trimLevels(known.levels, mapOf(trim), roomSpans(known.levels, known.speech)[0]));
    return scratchPath;
  }

  /** What a server that was killed left half made. */
  async #sweep(folder: string): Promise<void> {
    for (const name of await readdir(folder)) if (name.endsWith('.part')) await rm(join(folder, name), { force: true });
  }

  #nameOf(
    recording: TitledRecording & Pick<Recording, 'id'>,
    track: Track | null,
    { container, fromMs, toMs, video, captions, trimId }: RenderRequest
  ): string {
    const parts = [
      ...(captions === 'inside' ? ['captions'] : []),
      ...(video?.aspect === undefined || video.aspect === 'as is' ? [] : [video.aspect.replace(':', 'x')]),
      ...(fromMs === undefined && toMs === undefined ? [] : [trimId === undefined ? 'trial' : 'passage'])
    ];
    const extension = [...parts, container].join('.');
    if (track === null)
      return exportFileName(recording, { id: '', language: '', title: recording.title }, [], extension);
    const tracks = this.#parts.trackStore.listOf(recording.id, { isBinned: false });
    return exportFileName(recording, track, tracks, extension);
  }
}

/** A picture that is not there is made. */
const codecFor = (request: RenderRequest, { media }: Recording): VideoCodec =>
  request.video === undefined && !media.hasVideo
    ? (videoCodecsOf(request.container)[0] ?? 'copy')
    : videoCodecFor(request);

/** Only what is seen in the stretch, from its beginning on. */
const stretched = (track: Track, stretch: RenderPlan['stretch']): Track =>
  stretch === null
    ? track
    : exported(
        {
          ...track,
          cues: track.cues
            .filter(({ startMs, endMs }) => startMs < stretch.endMs && endMs > stretch.startMs)
            .map((cue) => ({ ...cue, endMs: wholeMs(Math.min(cue.endMs, stretch.endMs)) }))
        },
        { ...USUAL_OPTIONS, offsetMs: -stretch.startMs }
      );

/** Throws `does_not_fit` where the picture cannot be parted without encoding it. */
function copiedOf(trim: Trim, packets: readonly PicturePacket[]): CopiedCut {
  if (packets[0]?.isKey !== true)
    throw new ApiProblem(
      422,
      'does_not_fit',
      'The picture of this recording does not begin with a whole frame, so it cannot be copied. Have it encoded.'
    );
  const copied = copyPicture(trim, packets);
  if ('passages' in copied) return copied;
  const [first] = copied.atMs;
  const where = plural(copied.atMs.length, 'place');
  throw new ApiProblem(
    422,
    'does_not_fit',
    `At ${where} of this trim, first at ${formatClock(first!, 1)}, the picture has no key frame in what is taken out, so it cannot be copied. Have it encoded.`
  );
}

/** Of the sound alone there is no picture to cut. */
function cutOf(
  trim: Trim,
  source: RenderSource,
  frames: readonly number[],
  copied: CopiedCut | null
): CutPlan & { readonly frameTimesMs: readonly number[] } {
  const sound = source.soundFormat;
  if (copied !== null)
    return { ...{ runs: [], copied, rate: null, sound, frameTimesMs: [] }, lengthMs: mapOf(trim).lengthMs };
  const [above = 0, below = 1] = source.frameRate.split('/').map(Number);
  const rate = below > 0 && above > 0 && isSteady(frames, above / below) ? above / below : null;
  const { runs, frameTimesMs, lengthMs } = cutPicture(mapOf(trim), frames, rate);
  if (runs.length > MOST_RUNS)
    throw new ApiProblem(
      422,
      'too_many',
      `This trim goes back in the recording ${runs.length} times; a video of it can be made with ${MOST_RUNS} at most. Put passages in their recorded order where that is possible.`
    );
  return {
    ...{ runs, frameTimesMs, lengthMs },
    rate: rate === null ? null : source.frameRate,
    ...{ copied, sound }
  };
}

function stretchOf({ fromMs, toMs }: RenderRequest, durationMs: number): RenderPlan['stretch'] {
  if (fromMs === undefined && toMs === undefined) return null;
  return { startMs: fromMs ?? 0, endMs: Math.min(toMs ?? durationMs, durationMs) };
}

function planOf(
  recording: Recording,
  request: RenderRequest,
  source: RenderSource,
  { stretch, inside, cut }: Pick<RenderPlan, 'stretch' | 'inside' | 'cut'>
): RenderPlan {
  // What is copied with its picture keeps its distance from it.
  const isWhole = stretch === null && cut === null && (source.beginsAtOnce || inside.length > 0);
  const plan = {
    ...{ request, source, stretch, inside, cut, durationMs: recording.durationMs },
    sound: soundCodecFor(request, { source: source.soundCodec, isWhole })
  };
  if (SOUND_CONTAINERS.includes(request.container)) return { ...plan, video: null };
  const shape = source.shape ?? { width: BACKGROUND.width, height: BACKGROUND.height, pixelAspect: 1 };
  return {
    ...plan,
    video: {
      codec: codecFor(request, recording),
      geometry: shapePicture(shape, request.video ?? {}),
      strip: null,
      background: source.picture === null ? (request.background ?? BACKGROUND.color) : null,
      matrix: source.picture?.matrix ?? 'bt709'
    }
  };
}

const withStrip = (plan: RenderPlan, painter: Painter | null): RenderPlan =>
  plan.video === null || painter === null ? plan : { ...plan, video: { ...plan.video, strip: painter.strip } };

function explain(error: unknown): unknown {
  if (!(error instanceof ToolFailure)) return error;
  if (/No space left on device/.test(error.message)) return diskFull('for this video');
  return Object.assign(
    new ApiProblem(
      422,
      'not_rendered',
      `ffmpeg could not make this file: ${error.message.split('\n').at(-1)!.slice(0, 300)}. Try another codec, or bring the recording in again.`
    ),
    { cause: error }
  );
}
