/** A trim in this window. */
import { trimKind } from '$lib/core/documents';
import type { Trim, TrimChange, TrimCommand } from '$lib/core/trims';
import { api, type LogBreak } from '../api';
import { DocumentSession, type Transport } from './document-session.svelte';

const transport: Transport<Trim, TrimCommand, TrimChange> = {
  fetch: async (id) => {
    const { trim, revision, history } = await api.trimDocument(id);
    return { document: trim, revision, history };
  },
  entriesAfter: (id, revision) => api.trimEntriesAfter(id, revision),
  send: (id, asked) => api.editTrim(id, asked),
  step: (id, which, asked) => api.stepTrim(id, which, asked)
};

export class TrimSession extends DocumentSession<Trim, TrimCommand, TrimChange> {
  /** Stretches of its log that the server could not read. */
  readonly breaks: readonly LogBreak[];

  private constructor(opened: Awaited<ReturnType<typeof api.trimDocument>>) {
    super({ document: opened.trim, revision: opened.revision, history: opened.history }, trimKind, transport);
    this.breaks = opened.breaks;
  }

  /** Fetches the trim and takes up what an earlier window could not send. */
  static async open(id: string): Promise<TrimSession> {
    const session = new TrimSession(await api.trimDocument(id));
    await session.start();
    return session;
  }
}
