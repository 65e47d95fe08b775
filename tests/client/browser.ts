/** What a browser gives a session, as far as it needs it: a stored queue, locks, channels, and a server that may fail. */
import { asTrackId } from '../../src/lib/core/id';
import 'fake-indexeddb/auto';
import { vi } from 'vitest';
import type { ClientCommand } from '../../src/lib/core/commands';
import { packTrack, type Track } from '../../src/lib/core/track';
import { EventStream, type NumberedEvent } from '../../src/lib/server/events';
import { ApiProblem } from '../../src/lib/server/problem';
import { LogStore } from '../../src/lib/server/store/log';
import { TrackStore } from '../../src/lib/server/store/tracks';
import { putRecording, tempDatabase } from '../../src/lib/server/testing/temp-database';
import { savedAnswer } from '../../src/lib/server/tracks/answer';
import { OpenTracks } from '../../src/lib/server/tracks/open-tracks';

/**
 * How the next call that changes something goes wrong: it never arrives, its answer never comes back, something else
 * answers in the server's place, or it is answered with a status.
 */
export type Failure =
  | 'request lost'
  | 'answer lost'
  | 'another page answers'
  | { readonly status: number; readonly code?: string; readonly retryAfterSeconds?: number };

export class FakeServer {
  readonly tracks: OpenTracks;
  readonly store: TrackStore;
  readonly events = new EventStream();
  failures: Failure[] = [];

  #count = 0;

  constructor() {
    const db = tempDatabase();
    putRecording(db);
    this.store = new TrackStore(db);
    this.tracks = new OpenTracks(this.store, new LogStore(db), this.events);
  }

  /** Takes a track under an id of its own, which comes back. What it translates is there first. */
  put(track: Track): string {
    const id = `t${this.#count++}`;
    const { sourceTrackId } = track;
    if (sourceTrackId !== null && this.store.findSummary(sourceTrackId) === null)
      this.tracks.insert({ ...track, id: sourceTrackId, recordingId: 'r', sourceTrackId: null }, 1);
    this.tracks.insert({ ...track, id: asTrackId(id), recordingId: 'r' }, 1);
    return id;
  }

  /** In place of `fetch`. */
  readonly fetch = async (input: string | URL | Request, init: RequestInit = {}): Promise<Response> => {
    const url = new URL(input as string, 'http://127.0.0.1');
    const [, id, what] = /^\/api\/tracks\/([^/]+)\/(\w+)$/.exec(url.pathname)!;
    const failure = init.method === 'POST' ? this.failures.shift() : undefined;
    await Promise.resolve();
    if (failure === 'request lost') throw new TypeError('Failed to fetch');
    if (typeof failure === 'object') {
      const { status, code = 'some_code', retryAfterSeconds } = failure;
      const headers = retryAfterSeconds === undefined ? {} : { 'retry-after': String(retryAfterSeconds) };
      return Response.json({ error: { code, message: `Because of ${status}.` } }, { status, headers });
    }
    if (failure === 'another page answers') return new Response('<!doctype html><h1>Log in to the network</h1>');
    const response = this.#answer(id!, what!, url, init);
    if (failure === 'answer lost') throw new TypeError('Failed to fetch');
    return response;
  };

  #answer(id: string, what: string, url: URL, init: RequestInit): Response {
    const asked = JSON.parse((init.body as string | undefined) ?? 'null') as {
      revision: number;
      edits: ClientCommand[];
      batchId: string;
    };
    try {
      if (what === 'document') {
        const { track, revision } = this.tracks.get(id);
        return Response.json({ track: packTrack(track), revision, history: this.tracks.history(id) });
      }
      if (what === 'undo') return Response.json(savedAnswer(this.tracks.undo(id, asked)));
      if (what === 'redo') return Response.json(savedAnswer(this.tracks.redo(id, asked)));
      if (init.method === 'POST')
        return Response.json(savedAnswer(this.tracks.applyClientCommands(id, { ...asked, commands: asked.edits })));
      const after = Number(url.searchParams.get('after'));
      return Response.json({ ...this.tracks.entriesAfter(id, after), history: this.tracks.history(id) });
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      const { code, message, details, status } = error;
      return Response.json({ error: { code, message, details } }, { status });
    }
  }
}

/** One lock a name, handed on in order, as `navigator.locks` does. */
class Locks {
  readonly #tails = new Map<string, Promise<unknown>>();
  forget(prefix: string): void {
    for (const name of [...this.#tails.keys()]) if (name.startsWith(prefix)) this.#tails.delete(name);
  }
  query(): Promise<{ held: { name: string }[] }> {
    return Promise.resolve({ held: [...this.#tails.keys()].map((name) => ({ name })) });
  }
  request(
    name: string,
    ...[asked, then]:
      [options: { signal: AbortSignal }, work: () => Promise<void>] | [work: () => Promise<void>, nothing?: undefined]
  ): Promise<void> {
    const [signal, work] = typeof asked === 'function' ? [undefined, asked] : [asked.signal, then!];
    const before = this.#tails.get(name) ?? Promise.resolve();
    const mine = before.then(() => (signal?.aborted === true ? undefined : work()));
    this.#tails.set(
      name,
      mine.catch(() => undefined)
    );
    return mine;
  }
}

/** As `localStorage`, whose keys are its own. */
export class Storage {
  [key: string]: unknown;
  getItem(key: string): string | null {
    return (this[key] as string | undefined) ?? null;
  }
  setItem(key: string, value: string): void {
    this[key] = value;
  }
  removeItem(key: string): void {
    delete this[key];
  }
}

let locks = new Locks();
/** As when the windows that hold them are gone. */
export function forgetLocks(prefix: string): void {
  locks.forget(prefix);
}

/** Puts the globals of a browser whose server this is. */
export function installBrowser(server: FakeServer): void {
  vi.stubGlobal('fetch', server.fetch);
  locks = new Locks();
  vi.stubGlobal('navigator', { locks });
  vi.stubGlobal('localStorage', new Storage());
  vi.stubGlobal(
    'EventSource',
    class {
      onopen: (() => void) | null = null;
      readonly #stop: () => void;
      readonly #listeners = new Map<string, (event: MessageEvent<string>) => void>();
      constructor() {
        this.#stop = server.events.listen(({ event }: NumberedEvent) => {
          // As over a wire: later, and never in the middle of what the server does.
          queueMicrotask(() =>
            this.#listeners.get(event.name)?.(new MessageEvent(event.name, { data: JSON.stringify(event.data) }))
          );
        });
      }
      addEventListener(name: string, listener: (event: MessageEvent<string>) => void): void {
        this.#listeners.set(name, listener);
      }
      close(): void {
        this.#stop();
      }
    }
  );
}
