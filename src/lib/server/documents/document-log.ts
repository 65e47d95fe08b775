/**
 * Documents of one kind and their logs, those in hand in memory. Everything that changes one goes through here: what is
 * asked is resolved to changes, checked by what reads them, and written as one entry before it is acknowledged.
 */
import { randomUUID } from 'node:crypto';
import type { ListItem } from '$lib/core/changes';
import type { DocumentKind, DoneOn } from '$lib/core/documents';
import { messageOf } from '$lib/core/message-of';
import { ApiProblem, notFound } from '../problem';
import type { EntryHead, EntryKind, LogBreak, LogStore } from '../store/log';

/** Labels of the entries that undo and redo would take; `null` if there is none. */
export interface History {
  readonly undo: string | null;
  readonly redo: string | null;
}

export interface SaveAnswer<C, Ch> {
  readonly revision: number;
  /** What was asked; of an undo or a redo what was asked in the entry it goes back to. */
  readonly commands: readonly C[];
  /** What was done. */
  readonly changes: readonly Ch[];
  readonly label: string;
  readonly history: History;
}

/** An entry as it is sent to clients that have missed it. */
export interface Entry<C, Ch> {
  readonly revision: number;
  readonly kind: EntryKind;
  readonly batchId: string | null;
  readonly label: string;
  readonly commands: readonly C[];
  readonly changes: readonly Ch[];
  readonly madeAtMs: number;
}

/** What comes with a request that changes a document. */
export interface EditRequest {
  /** The revision the caller knows; if it is not the present one, the request is refused. */
  readonly revision: number;
  /** A batch that was seen before on this document gets its first answer again. */
  readonly batchId?: string | undefined;
}

interface Open<D> {
  document: D;
  revision: number;
  /** The entries that undo and redo take next, newest last. */
  readonly undo: EntryHead[];
  readonly redo: EntryHead[];
  /** The revision of the last snapshot, and how much has been written since. */
  snapshot: { readonly revision: number; bytes: number };
}

interface Parts<D extends ListItem, C, Ch> {
  readonly kind: DocumentKind<D, C, Ch>;
  readonly store: LogStore;
  /** Whether there is a document of this kind with this id. */
  readonly isThere: (id: string) => boolean;
  /** Keeps what lists show of a document in step with it, in the transaction that writes the entry. */
  readonly summarise: (document: D, revision: number) => void;
  readonly onChange: (id: string, revision: number) => void;
}

/** Those used last stay open: many small ones, or a few of many hours. */
const MOST_OPEN = { documents: 200, items: 400_000 };
/** A new snapshot is made after this much, so that opening a document never replays more. */
const SNAPSHOT_EVERY = { entries: 100, bytes: 2_000_000 };

export class DocumentLog<D extends ListItem, C, Ch> {
  readonly #parts: Parts<D, C, Ch>;
  readonly #open = new Map<string, Open<D>>();

  constructor(parts: Parts<D, C, Ch>) {
    this.#parts = parts;
  }

  /** The document as it is now. Throws `unknown_…`, and `unreadable` where nothing of it can be read. */
  get(id: string): { readonly document: D; readonly revision: number } {
    return this.#take(id);
  }

  history(id: string): History {
    return historyOf(this.#take(id));
  }

  /** Stretches of the log that could not be read and lie aside. */
  breaks(id: string): readonly LogBreak[] {
    this.#take(id);
    return this.#parts.store.breaks(id);
  }

  /** A new document. Throws `out_of_bounds` where it could not be read again. */
  begin(document: D): void {
    const { kind, store } = this.#parts;
    const content = JSON.stringify(document);
    this.#checkReadable(() => kind.open(kind.form, JSON.parse(content)));
    store.begin(document.id, kind.name, kind.form, content);
  }

  /** The log once more, for a document of another identity, and what it becomes there as its next entry. */
  copy(
    id: string,
    identity: Readonly<Record<string, string>> & { readonly id: string },
    { label, make }: { readonly label: string; readonly make: (document: D) => D }
  ): void {
    const { kind, store } = this.#parts;
    const { document } = this.#take(id);
    store.copy(id, identity);
    this.#commitChanges(this.#take(identity.id), label, kind.between(document, make(document)));
  }

  /** What a caller asks for. */
  apply(id: string, asked: EditRequest & { readonly commands: readonly C[] }): SaveAnswer<C, Ch> {
    const { kind, store } = this.#parts;
    const open = this.#take(id);
    const answered = this.#findAnswered(id, asked.batchId);
    if (answered !== null) return answered;
    refuseStale(open, asked.revision);
    const minting = { mint: randomUUID, atMs: Date.now() };
    const commands = asked.commands.map((command) => kind.complete(open.document, command, minting));
    const minted = new Set<string>();
    for (const newId of commands.flatMap((command) => kind.newIds(open.document, command))) {
      if (minted.has(newId) || kind.hasId(open.document, newId) || store.isRetired(id, newId))
        throw new ApiProblem(422, 'id_taken', `The id ${newId} was used before in this ${kind.name}; mint another.`);
      minted.add(newId);
    }
    return this.#commit(open, { kind: 'edit', batchId: asked.batchId ?? null, commands });
  }

  /** Commands of the server's own. `revision`, where given, must be the present one. */
  applyOwn(
    id: string,
    make: (document: D) => readonly C[],
    {
      revision,
      kind = 'edit',
      batchId = null
    }: { readonly revision?: number | undefined; readonly kind?: EntryKind; readonly batchId?: string | null } = {}
  ): SaveAnswer<C, Ch> {
    const open = this.#take(id);
    if (revision !== undefined) refuseStale(open, revision);
    return this.#commit(open, { kind, batchId, commands: make(open.document) });
  }

  /** Makes it another document altogether, as one entry that can be undone. */
  become(id: string, label: string, make: (document: D) => D, revision?: number): SaveAnswer<C, Ch> {
    const open = this.#take(id);
    if (revision !== undefined) refuseStale(open, revision);
    return this.#commitChanges(open, label, this.#parts.kind.between(open.document, make(open.document)));
  }

  /** Takes back the newest entry that can be, or does again what was taken back last. Throws `nothing_to_…`. */
  step(id: string, which: 'undo' | 'redo', asked: EditRequest): SaveAnswer<C, Ch> {
    const { kind, store } = this.#parts;
    const open = this.#take(id);
    const answered = this.#findAnswered(id, asked.batchId);
    if (answered !== null) return answered;
    refuseStale(open, asked.revision);
    const target = open[which].at(-1);
    const entry = target === undefined ? null : store.findEntry(id, target.revision);
    if (entry === null)
      throw new ApiProblem(409, `nothing_to_${which}`, `There is nothing to ${which} in this ${kind.name}.`);
    const done = kind.apply(
      open.document,
      this.#read(id, entry.revision, () => kind.openChanges(entry.inverse))
    );
    if (!done.ok) throw new ApiProblem(422, done.problem.code, done.problem.message);
    return this.#write(open, done.value, {
      kind: which,
      targetRevision: entry.revision,
      batchId: asked.batchId ?? null,
      label: entry.label,
      commands: this.#read(id, entry.revision, () => kind.openCommands(entry.form, entry.commands))
    });
  }

  /** Throws `log_broken` where they cannot all be read: then the document has to be fetched anew. */
  entriesAfter(id: string, revision: number): { readonly revision: number; readonly entries: readonly Entry<C, Ch>[] } {
    const { kind, store } = this.#parts;
    const open = this.#take(id);
    const isBroken = store.breaks(id).some((one) => one.toRevision >= revision);
    if (isBroken)
      throw new ApiProblem(
        409,
        'log_broken',
        `Not all entries after ${revision} can be read; fetch the ${kind.name} anew.`
      );
    const entries = [...store.entriesAfter(id, revision)].map(({ form, commands, changes, ...head }) => ({
      ...head,
      commands: kind.openCommands(form, commands),
      changes: this.#changesOf({ form, changes })
    }));
    return { revision: open.revision, entries };
  }

  /** The document as it was at a revision, and with the entries after it that `isAlso` wants and that fit without the others. */
  at(id: string, revision: number, isAlso: (entry: EntryHead) => boolean = () => false): D {
    const { kind, store } = this.#parts;
    this.#take(id);
    for (const snapshot of store.snapshotsFrom(id, revision)) {
      let document = this.#read(id, snapshot.revision, () => kind.open(snapshot.form, snapshot.content));
      for (const entry of store.entriesAfter(id, snapshot.revision)) {
        const isBeyond = entry.revision > revision;
        if (isBeyond && !isAlso(entry)) continue;
        const applied = kind.apply(
          document,
          this.#read(id, entry.revision, () => this.#changesOf(entry))
        );
        if (applied.ok) document = applied.value.document;
        else if (!isBeyond) throw unreadable(kind.name, id, `entry ${entry.revision}: ${applied.problem.message}`);
      }
      return document;
    }
    throw unreadable(kind.name, id, 'its draft is gone');
  }

  /** Forgets documents that are gone. */
  close(ids: readonly string[]): void {
    for (const id of ids) this.#open.delete(id);
  }

  #findAnswered(id: string, batchId: string | undefined): SaveAnswer<C, Ch> | null {
    const { kind, store } = this.#parts;
    const entry = batchId === undefined ? null : store.findByBatch(id, batchId);
    if (entry === null) return null;
    const { revision, label } = entry;
    const [commands, changes] = this.#read(id, revision, () => [
      kind.openCommands(entry.form, entry.commands),
      this.#changesOf(entry)
    ]);
    return { revision, commands, changes, label, history: this.history(id) };
  }

  #commit(
    open: Open<D>,
    asked: { readonly kind: EntryKind; readonly batchId: string | null; readonly commands: readonly C[] }
  ): SaveAnswer<C, Ch> {
    const { kind } = this.#parts;
    const done = kind.resolve(open.document, asked.commands);
    if (!done.ok) throw new ApiProblem(422, done.problem.code, done.problem.message);
    return this.#write(open, done.value, { ...asked, targetRevision: null, label: kind.label(asked.commands) });
  }

  #commitChanges(open: Open<D>, label: string, changes: readonly Ch[]): SaveAnswer<C, Ch> {
    const done = this.#parts.kind.apply(open.document, changes);
    if (!done.ok) throw new ApiProblem(422, done.problem.code, done.problem.message);
    return this.#write(open, done.value, { kind: 'edit', targetRevision: null, batchId: null, label, commands: [] });
  }

  #write(
    open: Open<D>,
    done: DoneOn<D, Ch>,
    entry: Pick<EntryHead, 'kind' | 'targetRevision' | 'label'> & {
      readonly batchId: string | null;
      readonly commands: readonly C[];
    }
  ): SaveAnswer<C, Ch> {
    const { kind, store, summarise, onChange } = this.#parts;
    const { id } = open.document;
    const revision = open.revision + 1;
    const written = {
      commands: JSON.stringify(entry.commands),
      changes: JSON.stringify(done.changes),
      inverse: JSON.stringify(done.inverse)
    };
    // Checked by the schema that will read it, so that nothing unreadable is written.
    this.#checkReadable(() => {
      kind.openCommands(kind.form, JSON.parse(written.commands));
      kind.openChanges(JSON.parse(written.changes));
      kind.openChanges(JSON.parse(written.inverse));
    });
    const head = { revision, kind: entry.kind, targetRevision: entry.targetRevision, label: entry.label };
    const retired = [
      ...kind.takenIds(done.changes),
      ...entry.commands.flatMap((command) => kind.newIds(open.document, command))
    ];
    const bytes = open.snapshot.bytes + written.changes.length;
    const isSnapshot = revision - open.snapshot.revision >= SNAPSHOT_EVERY.entries || bytes >= SNAPSHOT_EVERY.bytes;
    store.atOnce(() => {
      store.append(id, kind.form, { ...head, ...written, batchId: entry.batchId, madeAtMs: Date.now() }, retired);
      summarise(done.document, revision);
      if (isSnapshot) {
        store.putSnapshot(id, { revision, form: kind.form, content: JSON.stringify(done.document) });
        store.thinSnapshots(id);
      }
    });
    open.document = done.document;
    open.revision = revision;
    open.snapshot = isSnapshot ? { revision, bytes: 0 } : { revision: open.snapshot.revision, bytes };
    note(open, head);
    onChange(id, revision);
    return { revision, commands: entry.commands, changes: done.changes, label: entry.label, history: historyOf(open) };
  }

  #checkReadable(read: () => void): void {
    try {
      read();
    } catch (cause) {
      throw Object.assign(
        new ApiProblem(
          422,
          'out_of_bounds',
          `What this would make of the ${this.#parts.kind.name} is beyond what can be kept, so nothing was changed: ${firstIssue(cause)}.`
        ),
        { cause }
      );
    }
  }

  #changesOf({ form, changes }: { readonly form: number; readonly changes: unknown }): readonly Ch[] {
    const { kind } = this.#parts;
    if (form === kind.form) return kind.openChanges(changes);
    throw new Error(`an entry of form ${form} could not be brought up to form ${kind.form}`);
  }

  #read<T>(id: string, revision: number, read: () => T): T {
    try {
      return read();
    } catch (cause) {
      throw unreadable(this.#parts.kind.name, id, `revision ${revision}: ${firstIssue(cause)}`, cause);
    }
  }

  #take(id: string): Open<D> {
    const known = this.#open.get(id);
    if (known !== undefined) {
      this.#open.delete(id);
      this.#open.set(id, known);
      return known;
    }
    if (!this.#parts.isThere(id)) throw notFound(this.#parts.kind.name, id);
    const open = this.#load(id);
    this.#open.set(id, open);
    this.#closeOldest();
    return open;
  }

  #closeOldest(): void {
    let items = 0;
    [...this.#open].reverse().forEach(([id, { document }], at) => {
      items += this.#parts.kind.sizeOf(document);
      if (at > 0 && (at >= MOST_OPEN.documents || items > MOST_OPEN.items)) this.#open.delete(id);
    });
  }

  /** From its newest snapshot that can be read and what follows, its stacks from the heads of the log. */
  #load(id: string): Open<D> {
    const { kind, store } = this.#parts;
    if (store.hasFormer(id, kind.form)) this.#raise(id);
    const heads = store.heads(id);
    const last = heads.at(-1)?.revision ?? 0;
    let failure: unknown = 'its draft is gone';
    for (const snapshot of store.snapshotsFrom(id)) {
      let document: D;
      let revision = snapshot.revision;
      let problem: unknown = null;
      try {
        document = kind.open(snapshot.form, snapshot.content);
      } catch (error) {
        failure = error;
        continue;
      }
      try {
        for (const entry of store.entriesAfter(id, revision)) {
          const applied = kind.apply(document, this.#changesOf(entry));
          if (!applied.ok) throw new Error(applied.problem.message);
          document = applied.value.document;
          revision = entry.revision;
        }
      } catch (error) {
        problem = error;
      }
      if (problem !== null) return this.#goOnFrom(document, { revision, last, problem });
      const open: Open<D> = {
        document,
        revision,
        undo: [],
        redo: [],
        snapshot: { revision: snapshot.revision, bytes: store.bytesAfter(id, snapshot.revision) }
      };
      for (const head of heads) note(open, head);
      return open;
    }
    throw unreadable(kind.name, id, firstIssue(failure), failure);
  }

  /** The document at the last state that could be read: what lies beyond stays in the log, and the document goes on behind it. */
  #goOnFrom(
    document: D,
    { revision, last, problem }: { readonly revision: number; readonly last: number; readonly problem: unknown }
  ): Open<D> {
    const { kind, store, summarise } = this.#parts;
    const next = last + 1;
    const head = {
      revision: next,
      kind: 'break' as const,
      targetRevision: revision,
      label: 'opened at the last state that could be read'
    };
    console.error(`${kind.name} ${document.id}: revisions ${revision + 1} to ${last} cannot be read:`, problem);
    store.atOnce(() => {
      const nothing = { batchId: null, commands: '[]', changes: '[]', inverse: '[]', madeAtMs: Date.now() };
      store.append(document.id, kind.form, { ...head, ...nothing }, []);
      store.putSnapshot(document.id, { revision: next, form: kind.form, content: JSON.stringify(document) });
      store.putBreak(document.id, {
        fromRevision: revision + 1,
        toRevision: last,
        problem: firstIssue(problem),
        foundAtMs: Date.now()
      });
      summarise(document, next);
    });
    return { document, revision: next, undo: [], redo: [], snapshot: { revision: next, bytes: 0 } };
  }

  /** Brings a log that was kept in an earlier form up to the present one, as far as it can be read. */
  #raise(id: string): void {
    const { kind, store } = this.#parts;
    const snapshots = new Map<number, D>();
    let failure: unknown = 'its draft is gone';
    for (const { revision, form, content } of store.snapshotsFrom(id)) {
      try {
        snapshots.set(revision, kind.open(form, content));
      } catch (error) {
        // An unreadable snapshot is skipped; the entries hold the same.
        failure = error;
      }
    }
    const draft = snapshots.get(0);
    if (draft === undefined) throw unreadable(kind.name, id, firstIssue(failure), failure);
    const entries = [...store.entriesAfter(id, 0)].map(({ revision, commands }) => ({ revision, raw: commands }));
    const raised = kind.raise(draft, entries, snapshots);
    store.atOnce(() => {
      for (const [revision, snapshot] of snapshots)
        store.putSnapshot(id, { revision, form: kind.form, content: JSON.stringify(snapshot) });
      for (const { revision, commands, changes, inverse } of raised.entries) {
        store.rewrite(id, revision, kind.form, {
          commands: JSON.stringify(commands),
          changes: JSON.stringify(changes),
          inverse: JSON.stringify(inverse)
        });
        store.retire(id, [...kind.takenIds(changes), ...commands.flatMap((command) => kind.newIds(draft, command))]);
      }
    });
  }
}

const historyOf = ({ undo, redo }: Pick<Open<unknown>, 'undo' | 'redo'>): History => ({
  undo: undo.at(-1)?.label ?? null,
  redo: redo.at(-1)?.label ?? null
});

/** Keeps the stacks in step with an entry of the log. */
function note({ undo, redo }: Pick<Open<unknown>, 'undo' | 'redo'>, head: EntryHead): void {
  switch (head.kind) {
    case 'undo':
      undo.pop();
      redo.push(head);
      break;
    case 'redo':
      redo.pop();
      undo.push(head);
      break;
    case 'edit':
      redo.length = 0;
      undo.push(head);
      break;
    case 'heard':
      break;
    case 'break':
      undo.length = 0;
      redo.length = 0;
      break;
  }
}

function refuseStale(open: Pick<Open<unknown>, 'revision'>, revision: number): void {
  if (revision === open.revision) return;
  throw new ApiProblem(
    409,
    'stale_revision',
    `The present revision is ${open.revision}, not ${revision}: fetch the edits since and apply yours on top.`,
    { revision: open.revision }
  );
}

const unreadable = (kind: string, id: string, why: string, cause?: unknown): ApiProblem =>
  Object.assign(
    new ApiProblem(
      422,
      'unreadable',
      `What is kept of the ${kind} ${id} cannot be read (${why}). It lies in the database as it was; the other ${kind}s are not touched.`
    ),
    { cause }
  );

/** The first problem a schema found, in a few words; for other errors, their message. */
function firstIssue(error: unknown): string {
  if (error instanceof Error && 'issues' in error && Array.isArray(error.issues)) {
    const [issue] = error.issues as { path: PropertyKey[]; message: string }[];
    if (issue !== undefined) return `${issue.path.map(String).join('.')}: ${issue.message}`;
  }
  return messageOf(error);
}
