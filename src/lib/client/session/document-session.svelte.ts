/**
 * A document in this window: what the server has acknowledged, and on top of it what has not been sent yet. A command is
 * resolved and shown at once, waits in the queue, and is sent by whichever window holds the document's lock. What the
 * server answers are changes, and those are taken.
 */
import { z } from 'zod';
import type { ListItem } from '$lib/core/changes';
import type { DocumentKind, DocumentProblem } from '$lib/core/documents';
import { fail, ok, type Result } from '$lib/core/result';
import { ServerProblem } from '../api';
import { listenToServer } from '../events';
import { deliveryOf, waitAfter } from './delivery';
import { leftDrafts, Mirror, type TypedText } from './drafts';
import { UnsentStore, type QueuedItem, type Refusal, type UnsentItem } from './unsent';

/** What undo and redo would take, as labels. */
export interface History {
  readonly undo: string | null;
  readonly redo: string | null;
}

export interface SaveAnswer<Ch> {
  readonly revision: number;
  readonly changes: readonly Ch[];
  readonly history: History;
}

/** How documents of a kind come from the server and go there. Each call rejects with a `ServerProblem`. */
export interface Transport<D, C, Ch> {
  fetch(id: string): Promise<{ readonly document: D; readonly revision: number; readonly history: History }>;
  entriesAfter(
    id: string,
    revision: number
  ): Promise<{
    readonly entries: readonly {
      readonly revision: number;
      readonly changes: readonly Ch[];
      readonly batchId: string | null;
    }[];
    readonly history: History;
  }>;
  send(
    id: string,
    asked: { readonly revision: number; readonly batchId: string; readonly commands: readonly C[] }
  ): Promise<SaveAnswer<Ch>>;
  step(
    id: string,
    which: 'undo' | 'redo',
    asked: { readonly revision: number; readonly batchId: string }
  ): Promise<SaveAnswer<Ch>>;
}

/** `later`: what waits is sent again by itself, `trouble` says why. `sign in`: it waits for somebody to sign in. */
export type SaveState = 'saved' | 'saving' | 'later' | 'sign in';

/** A text field while it is being typed in. */
export interface Draft<C> {
  /** Keeps what is typed by now in the browser; `null`: it is as it was. */
  mirror(typed: TypedText<C> | null): void;
  /** Puts it into the document. What finds no place any more goes to the list of what was not taken. */
  commit(typed: TypedText<C>): Result<void, DocumentProblem>;
  /** Commits, and unregisters the field. */
  close(): void;
}

/** What the windows of a browser that have one document open tell each other. */
const messageSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('queued') }),
  z.object({ kind: z.literal('refused'), batchId: z.string() })
]);
type Message = z.infer<typeof messageSchema>;

/** A change that is not in the log yet, with the document after it; `null` if it has no effect here. */
interface Pending<D, C, Ch> {
  readonly item: UnsentItem<C>;
  readonly shown: { readonly document: D; readonly changes: readonly Ch[] } | null;
}

const newId = (): string => crypto.randomUUID();

export class DocumentSession<D extends ListItem, C extends { readonly type: string }, Ch> {
  readonly id: string;
  readonly #kind: DocumentKind<D, C, Ch>;
  readonly #transport: Transport<D, C, Ch>;
  readonly #unsent: UnsentStore<C>;
  #confirmed: { readonly document: D; readonly revision: number };
  /** Made in this window or found in the queue, and not seen in the log yet; in order. */
  #pending: readonly Pending<D, C, Ch>[] = [];
  /** As it is shown. */
  document: D = $state.raw(undefined as never);
  revision = $state(0);
  saveState: SaveState = $state('saved');
  /** Why what waits has not been taken yet; `null` while it goes through. */
  trouble: string | null = $state(null);
  /** Why the browser does not keep what is unsent; `null` while it does. */
  notKept: string | null = $state(null);
  history: History = $state.raw({ undo: null, redo: null });
  refused: readonly Refusal<C>[] = $state.raw([]);
  readonly #channel: BroadcastChannel;
  readonly #closing = new AbortController();
  #stopListening: () => void = () => undefined;
  #isWoken = false;
  #goOn: () => void = () => undefined;
  #catchingUp: Promise<void> | undefined;
  /** Serialises writes to the queue. */
  #queuing: Promise<void> = Promise.resolve();
  /** How each field that is being typed in is put into the document. */
  readonly #fields = new Map<string, () => void>();
  #isFlushing = false;

  protected constructor(
    opened: { readonly document: D; readonly revision: number; readonly history: History },
    kind: DocumentKind<D, C, Ch>,
    transport: Transport<D, C, Ch>
  ) {
    this.id = opened.document.id;
    this.#kind = kind;
    this.#transport = transport;
    this.#unsent = new UnsentStore(this.id, kind, (why) => (this.notKept = why));
    this.#confirmed = opened;
    this.document = opened.document;
    this.revision = opened.revision;
    this.history = opened.history;
    this.#channel = new BroadcastChannel(`vinetap:${this.id}`);
  }

  /** Takes up what earlier windows could not send, and begins to listen and to send. */
  protected async start(): Promise<void> {
    const left = await leftDrafts(this.id, this.#kind);
    const queued = new Set((await this.#unsent.list()).map(({ item }) => item.batchId));
    for (const { batchId, text, commands, forget } of left) {
      if (commands !== null && !queued.has(batchId)) await this.#unsent.add({ kind: 'commands', batchId, commands });
      else if (commands === null) await this.#keep(text, 'It was typed in another version of Vine Tap.', null);
      forget();
    }
    this.#pending = [...(await this.#unsent.list()), ...this.#unsent.held()].map(({ item }) => ({ item, shown: null }));
    this.refused = await this.#unsent.listRefused();
    this.#rebuild();
    this.#listen();
    if (left.length > 0) this.#post({ kind: 'queued' });
    this.#sendWhileLeading();
    void this.#sendHeld();
  }

  close(): void {
    this.flush();
    this.#closing.abort();
    this.#stopListening();
    this.#channel.close();
    this.#wake();
  }

  /** Shown at once, saved soon; or why it cannot be done, and nothing has changed. */
  edit(...commands: readonly C[]): Result<void, DocumentProblem> {
    this.flush();
    return this.#do(commands, newId());
  }

  undo(): void {
    this.flush();
    this.#put({ kind: 'undo', batchId: newId() });
  }
  redo(): void {
    this.flush();
    this.#put({ kind: 'redo', batchId: newId() });
  }

  /** A field that is typed in; `commit` puts what it holds into the document when something else is to be done first. */
  draft(field: string, commit: () => void): Draft<C> {
    const mirror = new Mirror<C>(this.id, field, this.#kind, (why) => (this.notKept = why));
    this.#fields.set(field, commit);
    return {
      mirror: (typed) => {
        if (typed === null) mirror.clear();
        else mirror.write({ ...typed, commands: this.#complete(typed.commands) });
      },
      commit: ({ commands, text }) => {
        const { batchId, forget } = mirror.take();
        const done = this.#do(commands, batchId, forget);
        if (!done.ok)
          void this.#keep(text, 'What it was typed into was changed elsewhere meanwhile.', null).then(forget);
        return done;
      },
      close: () => {
        commit();
        if (this.#fields.get(field) === commit) this.#fields.delete(field);
      }
    };
  }

  /** Puts into the document whatever is being typed. */
  flush(): void {
    if (this.#isFlushing) return;
    this.#isFlushing = true;
    try {
      for (const commit of [...this.#fields.values()]) commit();
    } finally {
      this.#isFlushing = false;
    }
  }

  /** Resolves when everything made in this window is on the server. */
  async saved(): Promise<void> {
    await this.#queuing;
    while (this.#pending.length > 0) await new Promise((resolve) => setTimeout(resolve, 20));
  }

  /** Sends what waits without waiting any longer. */
  tryNow(): void {
    this.#wake();
  }

  /** Does what was not taken once more, on the document as it is now. */
  async tryAgain(batchId: string): Promise<Result<void, DocumentProblem>> {
    const refused = this.refused.find((one) => one.batchId === batchId);
    const done =
      refused?.commands == null
        ? fail({ code: 'nothing_to_try', message: 'This cannot be tried again by itself; copy its text.' })
        : this.edit(...refused.commands);
    if (done.ok) await this.dropRefused(batchId);
    return done;
  }

  async dropRefused(batchId: string): Promise<void> {
    await this.#unsent.dropRefused(batchId);
    this.refused = await this.#unsent.listRefused();
  }

  #complete(commands: readonly C[]): readonly C[] {
    const minting = { mint: newId, atMs: Date.now() };
    return commands.map((command) => this.#kind.complete(this.document, command, minting));
  }

  #do(commands: readonly C[], batchId: string, onKept: () => void = () => undefined): Result<void, DocumentProblem> {
    if (commands.length === 0) return fail({ code: 'nothing_to_do', message: 'There is nothing to change.' });
    const whole = this.#complete(commands);
    const done = this.#kind.resolve(this.document, whole);
    if (!done.ok) return done;
    try {
      // Nothing goes into the queue that could not be read from it again.
      this.#kind.openUnsent(this.#kind.form, whole);
    } catch (cause) {
      console.error(cause);
      return fail({ code: 'out_of_bounds', message: 'That is more than can be done at once; do it in parts.' });
    }
    const { document, changes } = done.value;
    this.document = document;
    this.#put({ kind: 'commands', batchId, commands: whole }, { shown: { document, changes }, onKept });
    return ok(undefined);
  }

  #put(
    item: UnsentItem<C>,
    {
      shown = null,
      onKept = () => undefined
    }: { readonly shown?: Pending<D, C, Ch>['shown']; readonly onKept?: () => void } = {}
  ): void {
    this.#pending = [...this.#pending, { item, shown }];
    if (this.saveState === 'saved') this.saveState = 'saving';
    this.#queuing = this.#queuing.then(async () => {
      const where = await this.#unsent.add(item);
      if (where === 'held') void this.#sendHeld();
      else onKept();
      if (this.#closing.signal.aborted) return;
      this.#post({ kind: 'queued' });
      this.#wake();
    });
  }

  async #keep(text: string, reason: string, commands: readonly C[] | null): Promise<void> {
    await this.#unsent.keep({ batchId: newId(), reason, text, atMs: Date.now(), commands });
    this.refused = await this.#unsent.listRefused();
  }

  #listen(): void {
    const { signal } = this.#closing;
    this.#channel.onmessage = (event: MessageEvent<unknown>) => {
      const message = messageSchema.safeParse(event.data);
      // Another version of the product in another window may say what this one does not know.
      if (!message.success) return;
      if (message.data.kind === 'queued') this.#wake();
      else void this.#dropAsRefused(message.data.batchId);
    };
    this.#stopListening = listenToServer({
      onDocument: ({ id, revision }) => {
        if (id === this.id && revision > this.#confirmed.revision) void this.#catchUp();
      },
      onReconnect: () => {
        void this.#catchUp();
        this.#wake();
      }
    });
    globalThis.addEventListener?.('pagehide', () => this.flush(), { signal });
    globalThis.addEventListener?.('online', () => this.#wake(), { signal });
    // Somebody may have signed in elsewhere.
    globalThis.addEventListener?.('focus', () => this.saveState === 'sign in' && this.#wake(), { signal });
  }

  #wake(): void {
    this.#isWoken = true;
    this.#goOn();
  }

  #post(message: Message): void {
    this.#channel.postMessage(message);
  }

  /** The server refused a change, whichever window made it. */
  async #dropAsRefused(batchId: string): Promise<void> {
    this.refused = await this.#unsent.listRefused();
    this.#forget(batchId);
    this.#rebuild();
  }

  /** One window of all that have the document open sends what the browser keeps; another takes over when it closes. */
  #sendWhileLeading(): void {
    const { signal } = this.#closing;
    navigator.locks
      .request(`vinetap:${this.id}`, { signal }, async () => {
        for (let tries = 0; !signal.aborted;) {
          this.#isWoken = false;
          const waitMs = await this.#drain(tries);
          if (signal.aborted) return;
          tries = waitMs === null ? 0 : tries + 1;
          // Something was put into the queue after it had been looked at.
          if (this.#isWoken && waitMs === null) continue;
          await this.#rest(waitMs);
        }
      })
      .catch((error: unknown) => {
        if (!signal.aborted) throw error;
      });
  }

  /** Until it is woken, or so long. */
  #rest(waitMs: number | null): Promise<void> {
    return new Promise((resolve) => {
      const timer = waitMs === null ? undefined : setTimeout(resolve, waitMs);
      this.#goOn = () => {
        clearTimeout(timer);
        resolve();
      };
    });
  }

  /** Sends what waits, in order. How long to wait before it is tried again; `null` where all is sent. */
  async #drain(tries: number): Promise<number | null> {
    for (;;) {
      const [next] = await this.#unsent.list();
      if (next === undefined || this.#closing.signal.aborted) return null;
      const waitMs = await this.#deliver(next, tries);
      if (waitMs !== null) return waitMs;
    }
  }

  /** Sends the changes held in memory by this window, each after those made before it. */
  async #sendHeld(): Promise<void> {
    for (let tries = 0; !this.#closing.signal.aborted;) {
      const [next] = this.#unsent.held();
      if (next === undefined) return;
      const isFirst = this.#pending[0]?.item.batchId === next.item.batchId;
      const waitMs = isFirst ? await this.#deliver(next, tries) : 200;
      tries = waitMs === null ? 0 : tries + (isFirst ? 1 : 0);
      if (waitMs !== null) await new Promise((resolve) => setTimeout(resolve, waitMs));
    }
  }

  /** `null`: it is done with, or was stale and can be sent at once; else how long to wait before it is sent again. */
  async #deliver(queued: QueuedItem<C>, tries: number): Promise<number | null> {
    const { item, key } = queued;
    try {
      this.#take(item, await this.#send(item));
      await this.#unsent.remove(key);
      this.trouble = null;
      return null;
    } catch (error) {
      const delivery = deliveryOf(error, tries);
      switch (delivery.outcome) {
        case 'stale':
          return (await this.#catchUp()) ? null : waitAfter(tries);
        case 'refused':
          await this.#refuse(queued, delivery.reason);
          return null;
        case 'later':
          this.saveState = 'later';
          this.trouble = delivery.reason;
          return delivery.waitMs;
        case 'sign in':
          this.saveState = 'sign in';
          this.trouble = 'The server wants its passphrase again.';
          return delivery.waitMs;
      }
    }
  }

  #send(item: UnsentItem<C>): Promise<SaveAnswer<Ch>> {
    const asked = { revision: this.#confirmed.revision, batchId: item.batchId };
    return item.kind === 'commands'
      ? this.#transport.send(this.id, { ...asked, commands: item.commands })
      : this.#transport.step(this.id, item.kind, asked);
  }

  /** An answer of the server: the next revision where it follows ours, else a sign to fetch what we missed. */
  #take(item: UnsentItem<C>, saved: SaveAnswer<Ch>): void {
    if (saved.revision === this.#confirmed.revision + 1) {
      this.history = saved.history;
      this.#advance([{ revision: saved.revision, changes: saved.changes, batchId: item.batchId }]);
    } else if (saved.revision <= this.#confirmed.revision) {
      this.#forget(item.batchId);
      this.#rebuild();
    } else void this.#catchUp();
  }

  async #refuse({ key, item }: QueuedItem<C>, reason: string): Promise<void> {
    if (item.kind === 'commands') {
      const { batchId, commands } = item;
      await this.#unsent.refuse(key, { batchId, reason, text: textOf(commands), atMs: Date.now(), commands });
    } else await this.#unsent.remove(key);
    this.#post({ kind: 'refused', batchId: item.batchId });
    await this.#dropAsRefused(item.batchId);
  }

  /** Fetches the log since the last acknowledged revision. False where the server could not be asked. */
  #catchUp(): Promise<boolean> {
    const caughtUp = (this.#catchingUp ??= this.#fetchMissed().finally(() => (this.#catchingUp = undefined)));
    return caughtUp.then(
      () => true,
      (error: unknown) => {
        if (!(error instanceof ServerProblem)) console.error(error);
        this.saveState = error instanceof ServerProblem && error.status === 401 ? 'sign in' : 'later';
        this.trouble = error instanceof ServerProblem ? error.message : 'What others changed could not be taken over.';
        this.#wakeLater();
        return false;
      }
    );
  }

  async #fetchMissed(): Promise<void> {
    try {
      const { entries, history } = await this.#transport.entriesAfter(this.id, this.#confirmed.revision);
      this.#advance(entries.filter((entry) => entry.revision > this.#confirmed.revision));
      this.history = history;
    } catch (error) {
      // If entries cannot be read or do not fit, the whole document is fetched.
      const isBroken = !(error instanceof ServerProblem) || error.code === 'log_broken';
      if (!isBroken) throw error;
      const { document, revision, history } = await this.#transport.fetch(this.id);
      this.#confirmed = { document, revision };
      this.history = history;
      this.#rebuild();
    }
  }

  #wakeLater(): void {
    const timer = setTimeout(() => void (this.saveState !== 'saved' && this.#catchUp()), 5000);
    this.#closing.signal.addEventListener('abort', () => clearTimeout(timer), { once: true });
  }

  #advance(
    entries: readonly {
      readonly revision: number;
      readonly changes: readonly Ch[];
      readonly batchId: string | null;
    }[]
  ): void {
    let isAsShown = true;
    for (const entry of entries) {
      const [first] = this.#pending;
      const own: Pending<D, C, Ch>['shown'] = isAsShown && first?.item.batchId === entry.batchId ? first.shown : null;
      const shown: Pending<D, C, Ch>['shown'] = isSame(own?.changes, entry.changes) ? own : null;
      isAsShown &&= shown !== null;
      this.#confirmed = { document: shown?.document ?? this.#applied(entry), revision: entry.revision };
      if (entry.batchId !== null) this.#forget(entry.batchId);
    }
    if (!isAsShown) this.#rebuild();
    this.revision = this.#confirmed.revision;
    this.#tellState();
  }

  #applied(entry: { readonly revision: number; readonly changes: readonly Ch[] }): D {
    const applied = this.#kind.apply(this.#confirmed.document, entry.changes);
    if (applied.ok) return applied.value.document;
    throw new Error(`revision ${entry.revision} does not apply to what this window has: ${applied.problem.message}`);
  }

  #forget(batchId: string): void {
    this.#pending = this.#pending.filter(({ item }) => item.batchId !== batchId);
  }

  /** What is shown: the acknowledged document with the pending commands on top, by id; those whose target is gone do nothing here. */
  #rebuild(): void {
    let { document } = this.#confirmed;
    this.#pending = this.#pending.map(({ item }) => {
      const done = item.kind === 'commands' ? this.#kind.resolve(document, item.commands) : null;
      if (done?.ok !== true) return { item, shown: null };
      document = done.value.document;
      return { item, shown: done.value };
    });
    this.document = document;
    this.revision = this.#confirmed.revision;
    this.#tellState();
  }

  #tellState(): void {
    this.saveState = this.#pending.length === 0 ? 'saved' : 'saving';
    if (this.saveState === 'saved') this.trouble = null;
  }
}

const isSame = (shown: readonly unknown[] | undefined, answered: readonly unknown[]): boolean =>
  shown !== undefined && JSON.stringify(shown) === JSON.stringify(answered);

/** The text that commands carry, for the list of what was not taken. */
function textOf(commands: readonly { readonly type: string }[]): string {
  return commands
    .map((command) => {
      if ('text' in command && typeof command.text === 'string') return command.text;
      if ('lines' in command && Array.isArray(command.lines)) return command.lines.join(' / ');
      if ('name' in command && typeof command.name === 'string') return command.name;
      return command.type;
    })
    .join('; ');
}
