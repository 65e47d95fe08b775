/**
 * Files sent so that they go on where they broke off, after a lost connection as after a reload (tus 1.0.0). What has
 * begun is remembered in the browser's storage until it is whole.
 */
import { defaultOptions, DetailedError, Upload, type PreviousUpload } from 'tus-js-client';
import { z } from 'zod';
import { api, problemFrom, recordingSchema, ServerProblem, type Recording } from './api';

const ENDPOINT = '/api/uploads';
/** Small enough that room on the disk is looked at now and then, large enough that nobody waits for the next. */
const CHUNK_BYTES = 64_000_000;
/** Tried again after these, and anew whenever something got through: some ten minutes without a connection. */
const RETRY_DELAYS_MS = [0, 1000, 3000, 5000, ...Array.from({ length: 60 }, () => 10_000)];
const SERVER_TROUBLE = [0, 423, 429, 502, 503, 504];

export interface Sending {
  /** The recording that it is the next cut of. */
  readonly cutOf: string | null;
  /** 0 to 1. */
  readonly onProgress: (share: number) => void;
  /** The connection is lost; it is tried again. */
  readonly onBroken: () => void;
  readonly signal: AbortSignal;
}

/** One that was begun in this browser and that no window sends now. */
export interface Interrupted {
  readonly key: string;
  readonly name: string;
  readonly bytes: number;
  readonly share: number;
}

const answerSchema = z.object({ recording: recordingSchema });
const nameOf = ({ metadata }: Pick<PreviousUpload, 'metadata'>): string => metadata.filename ?? '';
const lockOf = (url: string): string => `upload ${new URL(url, location.href).pathname}`;

/** Sends a file, or what is missing of it. Rejects with a `ServerProblem`; aborting rejects and leaves nothing on the server. */
export async function sendFile(file: File, { cutOf, onProgress, onBroken, signal }: Sending): Promise<Recording> {
  let release = (): void => undefined;
  const held = new Promise<void>((resolve) => (release = resolve));
  try {
    return await new Promise<Recording>((resolve, reject) => {
      const upload = new Upload(file, {
        endpoint: ENDPOINT,
        chunkSize: CHUNK_BYTES,
        retryDelays: RETRY_DELAYS_MS,
        removeFingerprintOnSuccess: true,
        metadata: { filename: file.name, ...(cutOf !== null && { cutOf }) },
        onProgress: (sent, all) => onProgress(all === 0 ? 0 : sent / all),
        onUploadUrlAvailable: () => void navigator.locks.request(lockOf(upload.url!), () => held),
        onShouldRetry: (error) => {
          const status = error.originalResponse?.getStatus() ?? 0;
          const mayPass = SERVER_TROUBLE.includes(status) && problemOf(error).code !== 'disk_full';
          if (mayPass) onBroken();
          return mayPass;
        },
        onError: (error) => reject(problemOf(error)),
        onSuccess: ({ lastResponse }) => {
          const body = lastResponse.getBody();
          // It was whole before, and its answer got lost on the way.
          if (body === '') api.recording(upload.url!.split('/').at(-1)!).then(resolve, reject);
          else resolve(answerSchema.parse(JSON.parse(body)).recording);
        }
      });
      signal.addEventListener(
        'abort',
        () => {
          reject(new DOMException('Aborted', 'AbortError'));
          // What cannot be reached now is cleared away by the server later.
          upload.abort(true).catch(() => undefined);
        },
        { once: true }
      );
      upload
        .findPreviousUploads()
        .then(([previous]) => {
          if (signal.aborted) return;
          if (previous !== undefined) upload.resumeFromPreviousUpload(previous);
          upload.start();
        })
        .catch(reject);
    });
  } finally {
    release();
  }
}

function problemOf(error: Error | DetailedError): ServerProblem {
  const response = error instanceof DetailedError ? error.originalResponse : null;
  if (response === null || response.getStatus() === 0)
    return Object.assign(
      new ServerProblem(
        0,
        'unreachable',
        'The upload broke off: the server cannot be reached. Choose the file again to go on.'
      ),
      { cause: error }
    );
  let body: unknown = null;
  try {
    body = JSON.parse(response.getBody());
  } catch {
    // Something other than the server answered; the status says what there is to say.
  }
  return problemFrom(response.getStatus(), body);
}

/** What was begun in this browser and is not whole; what the server has no more is forgotten. */
export async function findInterrupted(): Promise<Interrupted[]> {
  const { held = [] } = await navigator.locks.query();
  const sent = new Set(held.map(({ name }) => name));
  const all = await defaultOptions.urlStorage.findAllUploads();
  const found = await Promise.all(
    all.map(async (previous): Promise<Interrupted[]> => {
      const { uploadUrl, urlStorageKey, size } = previous;
      if (uploadUrl === null || sent.has(lockOf(uploadUrl))) return [];
      const answer = await fetch(uploadUrl, { method: 'HEAD', headers: { 'tus-resumable': '1.0.0' } });
      const at = Number(answer.headers.get('upload-offset') ?? Number.NaN);
      if (answer.ok && Number.isFinite(at) && at < (size ?? 0))
        return [{ key: urlStorageKey, name: nameOf(previous), bytes: size!, share: at / size! }];
      if (answer.ok || answer.status === 404 || answer.status === 410)
        await defaultOptions.urlStorage.removeUpload(urlStorageKey);
      return [];
    })
  );
  return found.flat();
}

/** Forgets one that is not gone on with, here and on the server. */
export async function dropInterrupted(key: string): Promise<void> {
  const all = await defaultOptions.urlStorage.findAllUploads();
  const url = all.find(({ urlStorageKey }) => urlStorageKey === key)?.uploadUrl;
  await defaultOptions.urlStorage.removeUpload(key);
  if (url !== undefined && url !== null) await Upload.terminate(url);
}
