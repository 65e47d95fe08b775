/**
 * A track in this window: what the server has acknowledged, and on top of it what has not been sent yet. An edit shows
 * at once, waits in the queue, and is sent by whichever window holds the track's lock.
 */
import { z } from 'zod';
import { applyEdits, completeEdit, type ClientEdit, type Edit } from '$lib/core/edits';
import type { Track } from '$lib/core/track';
import { api, ServerProblem, type Saved } from '../api';
import { listenToServer } from '../events';
import { queue, type Queued, type Rejected } from './queue';

export type SaveState = 'saved' | 'saving' | 'unreachable';

const RETRY_MS = 1000;

/** What the windows of a browser that have one track open tell each other. */
const messageSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('queued') }),
  z.object({ kind: z.literal('refused'), batchId: z.string() })
]);
type Message = z.infer<typeof messageSchema>;

/** A change that the log does not show yet, and the track as it is with it; `null` where it shows nothing here. */
interface Pending {
  readonly item: Queued;
  readonly after: Track | null;
}

const newId = (): string => crypto.randomUUID();

export class TrackSession {
  readonly trackId: string;
  #confirmed: { track: Track; revision: number };
  /** Made in this window or found in the queue, and not seen in the log yet; in order. */
  #pending: Pending[] = [];
  /** The track as it is shown. */
  track: Track = $state.raw(undefined as never);
  revision = $state(0);
  saveState: SaveState = $state('saved');
  history: { readonly undo: string | null; readonly redo: string | null } = $state.raw({ undo: null, redo: null });
  rejected: readonly Rejected[] = $state.raw([]);
  readonly #channel: BroadcastChannel;
  readonly #closing = new AbortController();
  #stopListening: () => void = () => undefined;
  #isWoken = false;
  #goOn: () => void = () => undefined;
  #catchingUp: Promise<void> | undefined;
  /** Puts into the queue, one behind the other. */
  #queuing: Promise<void> = Promise.resolve();

  private constructor(document: { track: Track; revision: number; history: TrackSession['history'] }) {
    this.trackId = document.track.id;
    this.#confirmed = { track: document.track, revision: document.revision };
    this.track = document.track;
    this.revision = document.revision;
    this.history = document.history;
    this.#channel = new BroadcastChannel(`vinetap:${this.trackId}`);
  }

  /** Fetches the track and takes up what an earlier window could not send. */
  static async open(trackId: string): Promise<TrackSession> {
    const session = new TrackSession(await api.document(trackId));
    session.#pending = (await queue.list(trackId)).map(({ item }) => ({ item, after: null }));
    session.rejected = await queue.listRejected(trackId);
    session.#rebuild();
    session.#listen();
    session.#sendWhileLeading();
    return session;
  }

  close(): void {
    this.#closing.abort();
    this.#stopListening();
    this.#channel.close();
    this.#wake();
  }

  /** Whether the edits could be applied; if not, nothing has changed. Shown at once, saved soon. */
  edit(...edits: readonly ClientEdit[]): boolean {
    const atMs = Date.now();
    const whole = edits.map((edit) => completeEdit(this.track, edit, newId, atMs));
    const applied = applyEdits(this.track, whole);
    if (!applied.ok) return false;
    this.track = applied.value.track;
    this.#put({ kind: 'edits', trackId: this.trackId, batchId: newId(), edits: whole }, this.track);
    return true;
  }

  undo(): void {
    this.#put({ kind: 'undo', trackId: this.trackId, batchId: newId() });
  }
  redo(): void {
    this.#put({ kind: 'redo', trackId: this.trackId, batchId: newId() });
  }

  /** Resolves when everything made in this window is on the server. */
  async saved(): Promise<void> {
    await this.#queuing;
    while (this.#pending.length > 0) await new Promise((resolve) => setTimeout(resolve, 20));
  }

  /** Keeps a text that found no place any more in the list of what could not be applied. */
  async keepText(text: string): Promise<void> {
    const reason = 'What it was typed into was changed elsewhere meanwhile.';
    await queue.keep({ trackId: this.trackId, batchId: newId(), reason, text, atMs: Date.now() });
    this.rejected = await queue.listRejected(this.trackId);
  }

  async dropRejected(batchId: string): Promise<void> {
    await queue.dropRejected(batchId);
    this.rejected = await queue.listRejected(this.trackId);
  }

  #put(item: Queued, after: Track | null = null): void {
    this.#pending.push({ item, after });
    if (this.saveState === 'saved') this.saveState = 'saving';
    this.#queuing = this.#queuing.then(async () => {
      await queue.add(item);
      if (this.#closing.signal.aborted) return;
      this.#post({ kind: 'queued' });
      this.#wake();
    });
  }

  #listen(): void {
    this.#channel.onmessage = (event: MessageEvent<unknown>) => {
      const message = messageSchema.parse(event.data);
      if (message.kind === 'queued') this.#wake();
      else void this.#dropRefused(message.batchId);
    };
    this.#stopListening = listenToServer({
      onTrack: ({ trackId, revision }) => {
        if (trackId === this.trackId && revision > this.#confirmed.revision) void this.#catchUp();
      },
      onReconnect: () => {
        void this.#catchUp();
        this.#wake();
      }
    });
  }

  #wake(): void {
    this.#isWoken = true;
    this.#goOn();
  }

  #post(message: Message): void {
    this.#channel.postMessage(message);
  }

  /** The server refused a change, whichever window made it. */
  async #dropRefused(batchId: string): Promise<void> {
    this.rejected = await queue.listRejected(this.trackId);
    this.#forget(batchId);
    this.#rebuild();
  }

  /** One window of all that have the track open sends; another takes over when it closes. */
  #sendWhileLeading(): void {
    const { signal } = this.#closing;
    navigator.locks
      .request(`vinetap:${this.trackId}`, { signal }, async () => {
        while (!signal.aborted) {
          this.#isWoken = false;
          const wasAllSent = await this.#drain();
          if (signal.aborted) return;
          // Something was put into the queue after it had been looked at.
          if (this.#isWoken) continue;
          await new Promise<void>((resolve) => {
            const timer = wasAllSent ? undefined : setTimeout(resolve, RETRY_MS);
            this.#goOn = () => {
              clearTimeout(timer);
              resolve();
            };
          });
        }
      })
      .catch((error: unknown) => {
        if (!signal.aborted) throw error;
      });
  }

  /** Sends what waits, in order. False where the server could not be reached. */
  async #drain(): Promise<boolean> {
    for (;;) {
      const [next] = await queue.list(this.trackId);
      if (next === undefined || this.#closing.signal.aborted) return true;
      try {
        this.#take(next.item, await this.#send(next.item));
        await queue.remove(next.key);
      } catch (error) {
        if (!(error instanceof ServerProblem)) throw error;
        if (error.status === 0 || error.status >= 500) {
          this.saveState = 'unreachable';
          return false;
        }
        if (error.code === 'stale_revision') await this.#catchUp();
        else await this.#rejectItem(next, error);
      }
    }
  }

  #send(item: Queued): Promise<Saved> {
    const { batchId } = item;
    const { revision } = this.#confirmed;
    return item.kind === 'edits'
      ? api.edit(this.trackId, { revision, edits: item.edits, batchId })
      : api.step(this.trackId, item.kind, { revision, batchId });
  }

  /** An answer of the server: the next revision where it follows ours, else a sign to fetch what we missed. */
  #take(item: Queued, saved: Saved): void {
    if (saved.revision === this.#confirmed.revision + 1) {
      this.history = saved.history;
      this.#advance([{ revision: saved.revision, edits: saved.edits, batchId: item.batchId }]);
    } else if (saved.revision <= this.#confirmed.revision) {
      this.#forget(item.batchId);
      this.#rebuild();
    } else void this.#catchUp();
  }

  async #rejectItem(queued: { key: number; item: Queued }, problem: ServerProblem): Promise<void> {
    const { item, key } = queued;
    if (item.kind === 'edits') {
      const rejected = {
        trackId: this.trackId,
        batchId: item.batchId,
        reason: problem.message,
        text: describe(item.edits),
        atMs: Date.now()
      };
      await queue.reject(key, rejected);
    } else await queue.remove(key);
    this.#post({ kind: 'refused', batchId: item.batchId });
    await this.#dropRefused(item.batchId);
  }

  /** Fetches the log since the last acknowledged revision. */
  #catchUp(): Promise<void> {
    this.#catchingUp ??= (async () => {
      try {
        const { entries, history } = await api.entriesAfter(this.trackId, this.#confirmed.revision);
        this.#advance(entries.filter((entry) => entry.revision > this.#confirmed.revision));
        this.history = history;
      } catch (error) {
        if (!(error instanceof ServerProblem)) throw error;
        this.saveState = 'unreachable';
      } finally {
        this.#catchingUp = undefined;
      }
    })();
    return this.#catchingUp;
  }

  #advance(entries: readonly { revision: number; edits: readonly Edit[]; batchId: string | null }[]): void {
    let isAsShown = true;
    for (const entry of entries) {
      const [first] = this.#pending;
      const own: Track | null = isAsShown && first?.item.batchId === entry.batchId ? first.after : null;
      isAsShown &&= own !== null;
      this.#confirmed = { track: own ?? this.#appliedEntry(entry), revision: entry.revision };
      if (entry.batchId !== null) this.#forget(entry.batchId);
    }
    if (!isAsShown) this.#rebuild();
    this.revision = this.#confirmed.revision;
    this.#tellState();
  }

  #appliedEntry(entry: { readonly revision: number; readonly edits: readonly Edit[] }): Track {
    const applied = applyEdits(this.#confirmed.track, entry.edits);
    if (applied.ok) return applied.value.track;
    throw new Error(`revision ${entry.revision} does not apply to what this window has: ${applied.problem.message}`);
  }

  #forget(batchId: string): void {
    this.#pending = this.#pending.filter(({ item }) => item.batchId !== batchId);
  }

  /** What is shown: the acknowledged track with the pending edits on top, by id; those whose target is gone do nothing here. */
  #rebuild(): void {
    let { track } = this.#confirmed;
    this.#pending = this.#pending.map(({ item }) => {
      const applied = item.kind === 'edits' ? applyEdits(track, item.edits) : null;
      if (applied?.ok !== true) return { item, after: null };
      track = applied.value.track;
      return { item, after: track };
    });
    this.track = track;
    this.revision = this.#confirmed.revision;
    this.#tellState();
  }

  #tellState(): void {
    this.saveState = this.#pending.length === 0 ? 'saved' : 'saving';
  }
}

/** The text an edit carried, for the list of what could not be applied. */
function describe(edits: readonly ClientEdit[]): string {
  return edits
    .map((edit) =>
      'text' in edit ? edit.text : 'lines' in edit ? edit.lines.join(' / ') : 'name' in edit ? edit.name : edit.type
    )
    .join('; ');
}
