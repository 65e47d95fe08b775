/** What happens on the server, as it happens: one stream for the whole window. */
import { z } from 'zod';
import { jobSchema, type Job } from './api';

export interface ServerListener {
  onJob?(job: Job): void;
  /** A track or a trim. */
  onDocument?(document: { readonly id: string; readonly revision: number }): void;
  onRecordings?(change: { readonly recordingId: string }): void;
  /** The stream is there again after a break: what was known may be old. */
  onReconnect?(): void;
}

const listeners = new Set<ServerListener>();
let source: EventSource | undefined;
/** Whether it has been open before: then what happened meanwhile was missed. */
let wasOpen = false;
const REOPEN_MS = 5000;

const messages = {
  job: z.object({ job: jobSchema }),
  track: z.object({ trackId: z.string(), revision: z.number() }),
  trim: z.object({ trimId: z.string(), revision: z.number() }),
  recordings: z.object({ recordingId: z.string() })
};

function open(): void {
  const stream = new EventSource('/api/events');
  source = stream;
  const on = (name: string, take: (data: unknown) => void): void =>
    stream.addEventListener(name, (event) => take(JSON.parse((event as MessageEvent<string>).data)));
  // A stream that was answered with anything but itself (401, a proxy's page) is not tried again by the browser.
  stream.onerror = () => {
    if (stream.readyState !== EventSource.CLOSED) return;
    setTimeout(() => {
      if (source === stream) open();
    }, REOPEN_MS);
  };
  stream.onopen = () => {
    if (wasOpen) listeners.forEach((listener) => listener.onReconnect?.());
    wasOpen = true;
  };
  on('reset', () => listeners.forEach((listener) => listener.onReconnect?.()));
  on('job', (data) => listeners.forEach((listener) => listener.onJob?.(messages.job.parse(data).job)));
  const tellDocument = (id: string, revision: number): void =>
    listeners.forEach((listener) => listener.onDocument?.({ id, revision }));
  on('track', (data) => {
    const { trackId, revision } = messages.track.parse(data);
    tellDocument(trackId, revision);
  });
  on('trim', (data) => {
    const { trimId, revision } = messages.trim.parse(data);
    tellDocument(trimId, revision);
  });
  on('recordings', (data) => listeners.forEach((listener) => listener.onRecordings?.(messages.recordings.parse(data))));
}

/** Returns a function that stops listening. */
export function listenToServer(listener: ServerListener): () => void {
  listeners.add(listener);
  if (source === undefined) open();
  return () => {
    listeners.delete(listener);
    if (listeners.size > 0) return;
    source?.close();
    source = undefined;
    wasOpen = false;
  };
}
