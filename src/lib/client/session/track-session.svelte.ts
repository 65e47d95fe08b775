/** A track in this window. */
import { asTrackId, type TrackId } from '$lib/core/id';
import type { Command } from '$lib/core/commands';
import { trackKind } from '$lib/core/documents';
import type { Track, TrackChange } from '$lib/core/track';
import { api, type LogBreak } from '../api';
import { DocumentSession, type Transport } from './document-session.svelte';

export type { SaveState } from './document-session.svelte';

const transport: Transport<Track, Command, TrackChange> = {
  fetch: async (id) => {
    const { track, revision, history } = await api.document(asTrackId(id));
    return { document: track, revision, history };
  },
  entriesAfter: (id, revision) => api.entriesAfter(asTrackId(id), revision),
  send: (id, asked) => api.edit(asTrackId(id), asked),
  step: (id, which, asked) => api.step(asTrackId(id), which, asked)
};

export class TrackSession extends DocumentSession<Track, Command, TrackChange> {
  /** Stretches of its log that the server could not read. */
  readonly breaks: readonly LogBreak[];

  private constructor(opened: Awaited<ReturnType<typeof api.document>>) {
    super({ document: opened.track, revision: opened.revision, history: opened.history }, trackKind, transport);
    this.breaks = opened.breaks;
  }

  /** Fetches the track and takes up what an earlier window could not send. */
  static async open(trackId: TrackId): Promise<TrackSession> {
    const session = new TrackSession(await api.document(trackId));
    await session.start();
    return session;
  }

  get trackId(): TrackId {
    return asTrackId(this.id);
  }
  /** As it is shown. */
  get track(): Track {
    return this.document;
  }
}
