/** Trims: the log of each, and what is made of it. */
import { randomUUID } from 'node:crypto';
import { trimKind } from '$lib/core/documents';
import { makeTrim, type Trim, type TrimChange, type TrimCommand } from '$lib/core/trims';
import { DocumentLog, type EditRequest, type Entry, type History, type SaveAnswer } from '../documents/document-log';
import type { EventStream } from '../events';
import type { LogBreak, LogStore } from '../store/log';
import type { Recording } from '../store/recordings';
import type { TrimStore } from '../store/trims';

export type SavedTrim = SaveAnswer<TrimCommand, TrimChange>;

export class OpenTrims {
  readonly #store: TrimStore;
  readonly #logs: LogStore;
  readonly #log: DocumentLog<Trim, TrimCommand, TrimChange>;

  constructor(store: TrimStore, logs: LogStore, events: EventStream) {
    this.#store = store;
    this.#logs = logs;
    this.#log = new DocumentLog({
      kind: trimKind,
      store: logs,
      isThere: (id) => store.find(id) !== null,
      summarise: (trim, revision) => store.summarise(trim, revision, Date.now()),
      onChange: (id, revision) => events.send({ name: 'trim', data: { trimId: id, revision } })
    });
  }

  /** A trim of the recording that keeps everything. */
  create({ id: recordingId, durationMs }: Recording, title: string): Trim {
    const trim = makeTrim({ id: randomUUID(), recordingId, title, recordedMs: durationMs, pieceId: randomUUID() });
    this.#logs.atOnce(() => {
      this.#log.begin(trim);
      this.#store.list(trim, 0, Date.now());
    });
    return trim;
  }

  /** The same trim once more, with its log, under a title of its own. */
  duplicate(id: string, title: string): Trim {
    const { trim } = this.get(id);
    const newId = randomUUID();
    this.#logs.atOnce(() => {
      this.#store.list({ ...trim, id: newId, title }, 0, Date.now());
      this.#log.copy(id, { id: newId }, { label: 'duplicate the trim', make: (document) => ({ ...document, title }) });
    });
    return this.get(newId).trim;
  }

  /** Throws `unknown_trim`. */
  get(id: string): { readonly trim: Trim; readonly revision: number } {
    const { document, revision } = this.#log.get(id);
    return { trim: document, revision };
  }

  /** As it was at a revision. */
  at(id: string, revision: number): Trim {
    return this.#log.get(id).revision === revision ? this.#log.get(id).document : this.#log.at(id, revision);
  }

  history(id: string): History {
    return this.#log.history(id);
  }
  breaks(id: string): readonly LogBreak[] {
    return this.#log.breaks(id);
  }

  apply(id: string, asked: EditRequest & { readonly commands: readonly TrimCommand[] }): SavedTrim {
    return this.#log.apply(id, asked);
  }
  step(id: string, which: 'undo' | 'redo', asked: EditRequest): SavedTrim {
    return this.#log.step(id, which, asked);
  }

  entriesAfter(
    id: string,
    revision: number
  ): { readonly revision: number; readonly entries: readonly Entry<TrimCommand, TrimChange>[] } {
    return this.#log.entriesAfter(id, revision);
  }

  /** Forgets those of a recording that is gone. */
  close(ids: readonly string[]): void {
    this.#log.close(ids);
  }
}
