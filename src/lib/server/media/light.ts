/** The light map of a recording's picture: made when somebody first asks for it, as a kind of job, and kept as a file. */
import { existsSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { z } from 'zod';
import { FRAME_HEIGHT, FRAME_WIDTH, FRAMES_A_SECOND, LightMeter, type LightMap } from '$lib/core/light';
import { jobKind, type JobContext } from '../jobs/kind';
import type { JobRunner } from '../jobs/runner';
import { ApiProblem } from '../problem';
import type { Job, JobStore } from '../store/jobs';
import type { Recording, RecordingStore } from '../store/recordings';
import { decodeFrames, ToolFailure } from './ffmpeg';
import { makeWhole, type MediaFiles } from './files';

const LIGHT = 'light';

interface Parts {
  readonly recordings: RecordingStore;
  readonly jobStore: JobStore;
  readonly files: MediaFiles;
  /** The runner of its kind, which is made of it. */
  readonly jobs: () => JobRunner;
}

export class Lighting {
  readonly #parts: Parts;
  constructor(parts: Parts) {
    this.#parts = parts;
  }

  readonly kind = jobKind({
    kind: LIGHT,
    params: z.object({}),
    result: z.object({}),
    concurrency: 1,
    run: (context) => this.#run(context)
  });

  /** The file of the map; `null` while it is not made. */
  findPath({ id }: Recording): string | null {
    const path = this.#parts.files.lightPath(id);
    return existsSync(path) ? path : null;
  }

  /** The job that makes it: the one under way, else a new one. Throws `no_picture`. */
  begin({ id, media }: Recording): Job {
    if (!media.hasVideo)
      throw new ApiProblem(422, 'no_picture', 'This recording has no picture: nothing lies behind its captions.');
    const { jobs, jobStore } = this.#parts;
    const going = jobStore
      .listOf(id)
      .find(({ kind, state }) => kind === LIGHT && (state === 'queued' || state === 'running'));
    return going ?? jobs().add(LIGHT, id, {});
  }

  /** Waits until it is made. Throws `no_picture`, and what it failed of. */
  async mapped(recording: Recording): Promise<LightMap> {
    const path = this.findPath(recording);
    if (path !== null) return { bytes: new Uint8Array(await readFile(path)) };
    const { state, error } = await this.#parts.jobs().ended(this.begin(recording).id);
    const made = this.findPath(recording);
    if (made === null)
      throw new ApiProblem(409, 'not_measured', `The light of this picture could not be measured: ${error ?? state}.`);
    return { bytes: new Uint8Array(await readFile(made)) };
  }

  async #run({ job, signal, tell }: JobContext<object>): Promise<object> {
    const { recordings, files } = this.#parts;
    const recording = recordings.find(job.recordingId)!;
    if (this.findPath(recording) !== null) return {};
    const meter = new LightMeter();
    const frames = Math.max(1, (recording.durationMs / 1000) * FRAMES_A_SECOND);
    let done = 0;
    tell('measuring the light of the picture', 0);
    try {
      await decodeFrames(
        files.played(recording),
        (frame) => {
          meter.push(frame);
          tell('measuring the light of the picture', Math.min(1, ++done / frames));
        },
        {
          ...{ width: FRAME_WIDTH, height: FRAME_HEIGHT, framesASecond: FRAMES_A_SECOND, signal },
          // Of many frames a second enough are left.
          skipsUnreferenced: (recording.media.frameRate ?? 0) >= 5 * FRAMES_A_SECOND,
          timeoutMs: 120_000 + recording.durationMs * 2
        }
      );
    } catch (cause) {
      if (!(cause instanceof ToolFailure)) throw cause;
      throw Object.assign(
        new ApiProblem(422, 'unsupported_media', 'The picture of this recording cannot be decoded; it may be damaged.'),
        { cause }
      );
    }
    await makeWhole(files.lightPath(recording.id), (path) => writeFile(path, meter.finish()));
    return {};
  }
}
