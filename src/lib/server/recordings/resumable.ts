/**
 * Uploads that go on where they broke off (tus 1.0.0, https://tus.io/protocols/resumable-upload). One that is whole
 * becomes a recording of the same id, so that a client that missed the answer finds it by asking again.
 */
import { randomUUID } from 'node:crypto';
import { FileStore } from '@tus/file-store';
import { Server, type Upload } from '@tus/server';
import { z } from 'zod';
import { messageOf } from '$lib/core/message-of';
import { problemAnswer } from '../http/answers';
import { ApiProblem, INTERNAL, notFound } from '../problem';
import type { Recording } from '../store/recordings';

/** One that nobody goes on with is kept so long. */
const KEPT_MS = 7 * 86_400_000;
const PATH = '/api/uploads';
const UUID = /^[\da-f]{8}(-[\da-f]{4}){3}-[\da-f]{12}$/;

/** What comes with an upload, in the words of its protocol. */
const metadataSchema = z.object({
  filename: z.string().max(1000).nullable().default(''),
  cutOf: z.string().max(64).nullable().default(null)
});

export interface ArrivedUpload {
  readonly id: string;
  readonly path: string;
  readonly bytes: number;
  readonly fileName: string;
  readonly cutOf: string | null;
}

interface Parts {
  /** Where they lie until they are whole. */
  readonly folder: string;
  /** Throws `disk_full` where there is no room for so many bytes. */
  readonly refuseWithoutRoom: (bytes: number) => Promise<void>;
  /** Throws `unknown_recording` where a new cut is of one that is not there. */
  readonly getRecording: (id: string) => Recording;
  readonly find: (id: string) => Recording | null;
  /** Makes a recording of what has arrived, and gives what to answer. */
  readonly take: (arrived: ArrivedUpload) => Promise<object>;
}

export class ResumableUploads {
  readonly #parts: Parts;
  readonly #store: FileStore;
  readonly #server: Server;

  constructor(parts: Parts) {
    this.#parts = parts;
    this.#store = new FileStore({ directory: parts.folder, expirationPeriodInMilliseconds: KEPT_MS });
    this.#server = new Server({
      path: PATH,
      datastore: this.#store,
      relativeLocation: true,
      allowedOrigins: [],
      namingFunction: () => randomUUID(),
      onUploadCreate: (_, upload) => this.#admit(upload),
      onUploadFinish: (_, upload) => this.#finish(upload),
      onResponseError: (_, error) => ('status_code' in error ? undefined : refusal(error))
    });
    this.#store.deleteExpired().catch((error: unknown) => console.error(messageOf(error)));
  }

  async handle(request: Request, id: string | null): Promise<Response> {
    if (id !== null) {
      const recording = UUID.test(id) ? this.#parts.find(id) : null;
      if (recording !== null && request.method === 'HEAD') return wholeAnswer(recording);
      if (!UUID.test(id) || recording !== null) return problemAnswer(notFound('upload', id));
    }
    const answer = await this.#server.handleWeb(request);
    const text = await answer.text();
    if (text === '') return new Response(null, answer);
    // What is ours is JSON; the protocol's own refusals are plain sentences.
    const headers = new Headers(answer.headers);
    headers.set('content-type', 'application/json');
    headers.delete('content-length');
    const body = text.startsWith('{')
      ? text
      : JSON.stringify({ error: { code: 'upload_refused', message: text.trim() } });
    return new Response(request.method === 'HEAD' ? null : body, { status: answer.status, headers });
  }

  async #admit(upload: Upload): Promise<Record<never, never>> {
    const { cutOf } = metadataOf(upload);
    try {
      if (cutOf !== null) this.#parts.getRecording(cutOf);
      await this.#parts.refuseWithoutRoom(upload.size ?? 0);
    } catch (error) {
      throw refusal(error);
    }
    return {};
  }

  async #finish(upload: Upload): Promise<{ status_code: number; body: string }> {
    const { filename, cutOf } = metadataOf(upload);
    const { path } = upload.storage!;
    try {
      const answer = await this.#parts.take({
        id: upload.id,
        path,
        bytes: upload.size!,
        fileName: filename ?? '',
        cutOf
      });
      return { status_code: 200, body: JSON.stringify(answer) };
    } catch (error) {
      throw refusal(error);
    } finally {
      // What became a recording has moved away; what was refused is not to be gone on with.
      await this.#store.remove(upload.id).catch(() => this.#store.configstore.delete(upload.id));
    }
  }
}

const metadataOf = (upload: Upload): z.infer<typeof metadataSchema> => metadataSchema.parse(upload.metadata ?? {});

/** A problem as the protocol's server sends it. */
class Refusal extends Error {
  readonly status_code: number;
  readonly body: string;

  constructor(cause: unknown) {
    const problem = cause instanceof ApiProblem ? cause : new ApiProblem(500, 'internal', INTERNAL);
    super(problem.message, { cause });
    this.status_code = problem.status;
    const { code, message, details } = problem;
    this.body = JSON.stringify({ error: { code, message, details } });
  }
}

function refusal(error: unknown): Refusal {
  if (error instanceof Refusal) return error;
  if (!(error instanceof ApiProblem)) console.error(error);
  return new Refusal(error);
}

function wholeAnswer({ media }: Recording): Response {
  const bytes = String(media.bytes);
  return new Response(null, {
    headers: { 'tus-resumable': '1.0.0', 'upload-offset': bytes, 'upload-length': bytes, 'cache-control': 'no-store' }
  });
}
