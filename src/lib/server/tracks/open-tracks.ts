/** Tracks: the log of each, and what only tracks do with it. */
import { asTrackId, type TrackId } from '$lib/core/id';
import { randomUUID } from 'node:crypto';
import type { ClientCommand, Command, CommandOf } from '$lib/core/commands';
import { recue } from '$lib/core/cueing';
import type { CarriedOver } from '$lib/core/cuts';
import { trackKind } from '$lib/core/documents';
import type { Rules, Track, TrackChange } from '$lib/core/track';
import { DocumentLog, type EditRequest, type Entry, type History, type SaveAnswer } from '../documents/document-log';
import type { EventStream } from '../events';
import { notFound } from '../problem';
import type { LogBreak, LogStore } from '../store/log';
import { heardPart, type TrackStore, type Version } from '../store/tracks';

export type SavedTrack = SaveAnswer<Command, TrackChange>;
export type TrackEntry = Entry<Command, TrackChange>;

export class OpenTracks {
  readonly #store: TrackStore;
  readonly #logs: LogStore;
  readonly #log: DocumentLog<Track, Command, TrackChange>;

  constructor(store: TrackStore, logs: LogStore, events: EventStream) {
    this.#store = store;
    this.#logs = logs;
    this.#log = new DocumentLog({
      kind: trackKind,
      store: logs,
      isThere: (id) => store.findSummary(id) !== null,
      summarise: (track, revision) => store.summarise(track, revision, Date.now()),
      onChange: (id, revision) => events.send({ name: 'track', data: { trackId: asTrackId(id), revision } })
    });
  }

  /** A new track: its draft is the first version. Throws `out_of_bounds`. */
  insert(track: Track, atMs: number): void {
    this.#logs.atOnce(() => {
      this.#log.begin(track);
      this.#store.list(track, atMs);
    });
  }

  /** The track as it is now. Throws `unknown_track`, and `unreadable` where nothing of it can be read. */
  get(id: string): { readonly track: Track; readonly revision: number } {
    const { document, revision } = this.#log.get(id);
    return { track: document, revision };
  }

  history(id: string): History {
    return this.#log.history(id);
  }
  breaks(id: string): readonly LogBreak[] {
    return this.#log.breaks(id);
  }

  applyClientCommands(id: string, asked: EditRequest & { readonly commands: readonly ClientCommand[] }): SavedTrack {
    return this.#log.apply(id, asked);
  }
  /** Commands of the server's own: retiming, what was heard. `revision`, where given, must be the present one. */
  applyOwn(id: string, make: (track: Track) => readonly Command[], revision?: number): SavedTrack {
    return this.#log.applyOwn(id, make, { revision });
  }

  /** What a hearing heard on: the part of it at a position. */
  addHeard(id: string, command: CommandOf<'addHeard'>, position: number): SavedTrack {
    return this.#log.applyOwn(id, () => [command], { kind: 'heard', batchId: heardPart(position) });
  }

  /** Cue breaks made anew; `names` are those that are expected now. */
  recue(id: string, rules: Rules, names: readonly string[], revision?: number): SavedTrack {
    const make = (track: Track): readonly Command[] => {
      const areNew = track.names.length !== names.length || names.some((name, at) => name !== track.names[at]);
      return [
        ...(areNew ? [{ type: 'setNames' as const, names }] : []),
        { type: 'setCues', cues: recue({ ...track, names }, rules, randomUUID), rules }
      ];
    };
    return this.applyOwn(id, make, revision);
  }

  undo(id: string, asked: EditRequest): SavedTrack {
    return this.#log.step(id, 'undo', asked);
  }
  redo(id: string, asked: EditRequest): SavedTrack {
    return this.#log.step(id, 'redo', asked);
  }

  entriesAfter(id: string, revision: number): { readonly revision: number; readonly entries: readonly TrackEntry[] } {
    return this.#log.entriesAfter(id, revision);
  }

  /** Throws `unknown_track`, `unknown_version`. */
  getVersion(id: string, versionId: string): Version {
    this.#log.get(id);
    const version = this.#store.findVersion(id, versionId);
    if (version === null) throw notFound('version', versionId);
    return version;
  }

  /**
   * The track as it was at a revision. At 0 it is the draft: what was heard into it meanwhile belongs to it, as far as
   * it goes in without the edits between.
   */
  trackAt(id: string, revision: number): Track {
    return this.#log.at(id, revision, ({ kind }) => revision === 0 && kind === 'heard');
  }

  /** A copy of a track with its log, for the next cut of its recording, and what it becomes there as the next entry. */
  carryOver(
    id: string,
    recordingId: string,
    carry: (track: Track) => CarriedOver,
    /** What it translates there, where it translates anything. */
    sourceTrackId: TrackId | undefined
  ): { readonly id: TrackId } & CarriedOver {
    const carried = carry(this.get(id).track);
    const newId = asTrackId(randomUUID());
    this.#logs.atOnce(() => {
      this.#store.copy(id, { id: newId, recordingId, sourceTrackId, isCarried: true }, Date.now());
      this.#log.copy(
        id,
        { id: newId, recordingId, ...(sourceTrackId !== undefined && { sourceTrackId }) },
        {
          label: 'carry over to the new cut',
          make: (track) => ({ ...track, words: carried.words, cues: carried.cues })
        }
      );
    });
    return { id: newId, ...carried };
  }

  /** The same track once more, with its log and its versions, under a title of its own; the id of the new one. */
  duplicate(id: string, title: string): TrackId {
    const { recordingId } = this.get(id).track;
    const newId = asTrackId(randomUUID());
    this.#logs.atOnce(() => {
      this.#store.copy(id, { id: newId, recordingId }, Date.now());
      this.#log.copy(id, { id: newId }, { label: 'duplicate the track', make: (track) => ({ ...track, title }) });
    });
    return newId;
  }

  /** Makes the track what it was at a revision, as one entry that can be undone. */
  goBackTo(id: string, version: Version, revision: number): SavedTrack {
    const old = this.trackAt(id, version.revision);
    return this.#log.become(id, `go back to “${version.title}”`, (track) => ({ ...old, state: track.state }), revision);
  }

  /** Forgets the tracks of a recording that is gone. */
  close(ids: readonly string[]): void {
    this.#log.close(ids);
  }
}
