/**
 * The tracks in hand, in memory in the core's form. Everything that changes one goes through here: one entry of its
 * log, written before it is acknowledged.
 */
import { randomUUID } from 'node:crypto';
import {
  applyEdits,
  completeEdit,
  labelEdits,
  newIdsOf,
  type ClientEdit,
  type Edit,
  type EditOf
} from '$lib/core/edits';
import { recue } from '$lib/core/cueing';
import type { CarriedOver } from '$lib/core/cuts';
import { lookUp, type Rules, type Track } from '$lib/core/track';
import type { EventStream } from '../events';
import { ApiProblem, notFound } from '../problem';
import { heardPart, type TrackEntry, type TrackStore, type Version } from '../store/tracks';

type HistoryStep = Pick<TrackEntry, 'revision' | 'label'>;

/** What undo and redo would take, as labels; `null` for nothing. */
export interface History {
  readonly undo: string | null;
  readonly redo: string | null;
}

interface OpenTrack {
  track: Track;
  revision: number;
  /** The entries that undo and redo take next, newest last. */
  undo: HistoryStep[];
  redo: HistoryStep[];
  /** Every id that the track has ever had. */
  readonly usedIds: Set<string>;
}

export interface Saved {
  readonly revision: number;
  readonly edits: readonly Edit[];
  readonly label: string;
  readonly history: History;
}

const MOST_OPEN = 24;

export class OpenTracks {
  readonly #store: TrackStore;
  readonly #events: EventStream;
  readonly #open = new Map<string, OpenTrack>();

  constructor(store: TrackStore, events: EventStream) {
    this.#store = store;
    this.#events = events;
  }

  /** The track as it is now. Throws `unknown_track`. */
  get(id: string): { readonly track: Track; readonly revision: number } {
    return this.#take(id);
  }

  history(id: string): History {
    return historyOf(this.#take(id));
  }

  applyClientEdits(
    id: string,
    request: { revision: number; edits: readonly ClientEdit[]; batchId?: string | undefined }
  ): Saved {
    const open = this.#take(id);
    const answered = this.#findAnswered(id, request.batchId);
    if (answered !== null) return answered;
    this.#refuseStale(open, request.revision);
    const atMs = Date.now();
    const edits = request.edits.map((edit) => completeEdit(open.track, edit, randomUUID, atMs));
    const minted = new Set<string>();
    const { cueAt } = lookUp(open.track);
    const isKnown = (cueId: string): boolean => cueAt.get(cueId) !== undefined;
    for (const newId of edits.flatMap((edit) => newIdsOf(edit, isKnown))) {
      if (open.usedIds.has(newId) || minted.has(newId)) {
        throw new ApiProblem(422, 'id_taken', `The id ${newId} was used before in this track; mint another.`);
      }
      minted.add(newId);
    }
    return this.#commit(open, {
      kind: 'edit',
      targetRevision: null,
      batchId: request.batchId ?? null,
      label: labelEdits(edits),
      edits
    });
  }

  /** Edits of the server's own: breaking anew, retiming. `revision`, where given, must be the present one. */
  applyOwn(id: string, make: (track: Track) => Edit | readonly Edit[], revision?: number): Saved {
    const open = this.#take(id);
    if (revision !== undefined) this.#refuseStale(open, revision);
    const edits = [make(open.track)].flat();
    return this.#commit(open, {
      kind: 'edit',
      targetRevision: null,
      batchId: null,
      label: labelEdits(edits),
      edits
    });
  }

  /** What a hearing heard on: the part of it at a position. */
  addHeard(id: string, edit: EditOf<'addHeard'>, position: number): Saved {
    return this.#commit(this.#take(id), {
      kind: 'heard',
      targetRevision: null,
      batchId: heardPart(position),
      label: labelEdits([edit]),
      edits: [edit]
    });
  }

  recue(id: string, rules: Rules, revision?: number): Saved {
    return this.applyOwn(id, (track) => ({ type: 'setCues', cues: recue(track, rules, randomUUID), rules }), revision);
  }

  undo(id: string, request: { revision: number; batchId?: string | undefined }): Saved {
    return this.#step(id, 'undo', request);
  }
  redo(id: string, request: { revision: number; batchId?: string | undefined }): Saved {
    return this.#step(id, 'redo', request);
  }

  entriesAfter(id: string, revision: number): { readonly revision: number; readonly entries: readonly TrackEntry[] } {
    const open = this.#take(id);
    return { revision: open.revision, entries: this.#store.entriesAfter(id, revision) };
  }

  /** Throws `unknown_track`, `unknown_version`. */
  getVersion(id: string, versionId: string): Version {
    this.#take(id);
    const version = this.#store.findVersion(id, versionId);
    if (version === null) throw notFound('version', versionId);
    return version;
  }

  /**
   * The track as it was at a revision. At 0 it is the draft: what was heard into it meanwhile belongs to it, as far as
   * it goes in without the edits between.
   */
  trackAt(id: string, revision: number): Track {
    this.#take(id);
    const snapshot = this.#store.getSnapshot(id, revision);
    let { track } = snapshot;
    for (const entry of this.#store.entriesAfter(id, snapshot.revision)) {
      const isDrafted = revision === 0 && entry.kind === 'heard';
      if (entry.revision > revision && !isDrafted) continue;
      const applied = applyEdits(track, entry.edits);
      if (applied.ok) track = applied.value.track;
      else if (!isDrafted) throw new Error(`track ${id}: entry ${entry.revision} of its log does not apply`);
    }
    return track;
  }

  /** A copy of a track with its log, for the next cut of its recording, and what it becomes there as the next entry. */
  carryOver(
    id: string,
    recordingId: string,
    carry: (track: Track) => CarriedOver
  ): { readonly id: string } & CarriedOver {
    const carried = carry(this.get(id).track);
    const newId = randomUUID();
    this.#store.copy(id, { id: newId, recordingId }, Date.now());
    const open = this.#take(newId);
    this.#commit(open, {
      kind: 'edit',
      targetRevision: null,
      batchId: null,
      label: 'carry over to the new cut',
      edits: [
        {
          type: 'restore',
          words: whole(open.track.words, carried.words),
          cues: whole(open.track.cues, carried.cues),
          fields: {}
        }
      ]
    });
    return { id: newId, ...carried };
  }

  /** Makes the track what it was at a revision, as one entry that can be undone. */
  goBackTo(id: string, version: number, revision: number): Saved {
    const old = this.trackAt(id, version);
    const { speakers, look, rules, title } = old;
    const make = (track: Track): Edit => ({
      type: 'restore',
      words: whole(track.words, old.words),
      cues: whole(track.cues, old.cues),
      fields: { speakers, look, rules, title }
    });
    return this.applyOwn(id, make, revision);
  }

  /** Forgets the tracks of a recording that is gone. */
  close(ids: readonly string[]): void {
    for (const id of ids) this.#open.delete(id);
  }

  #step(id: string, kind: 'undo' | 'redo', request: { revision: number; batchId?: string | undefined }): Saved {
    const open = this.#take(id);
    const answered = this.#findAnswered(id, request.batchId);
    if (answered !== null) return answered;
    this.#refuseStale(open, request.revision);
    const target = open[kind].at(-1);
    if (target === undefined)
      throw new ApiProblem(409, `nothing_to_${kind}`, `There is nothing to ${kind} in this track.`);
    const entry = this.#store.entriesAfter(id, target.revision - 1)[0]!;
    return this.#commit(open, {
      kind,
      targetRevision: target.revision,
      batchId: request.batchId ?? null,
      label: entry.label,
      edits: entry.inverses
    });
  }

  #findAnswered(id: string, batchId: string | undefined): Saved | null {
    const entry = batchId === undefined ? null : this.#store.findByBatch(id, batchId);
    if (entry === null) return null;
    const { revision, edits, label } = entry;
    return { revision, edits, label, history: this.history(id) };
  }

  #refuseStale(open: OpenTrack, revision: number): void {
    if (revision === open.revision) return;
    throw new ApiProblem(
      409,
      'stale_revision',
      `The track is at revision ${open.revision}, not ${revision}: fetch the edits since and apply yours on top.`,
      {
        revision: open.revision
      }
    );
  }

  #commit(open: OpenTrack, entry: Omit<TrackEntry, 'revision' | 'inverses' | 'madeAtMs'>): Saved {
    const applied = applyEdits(open.track, entry.edits);
    if (!applied.ok) throw new ApiProblem(422, applied.problem.code, applied.problem.message);
    const revision = open.revision + 1;
    this.#store.append(applied.value.track, {
      ...entry,
      revision,
      inverses: applied.value.inverses,
      madeAtMs: Date.now()
    });
    open.track = applied.value.track;
    open.revision = revision;
    note(open, { ...entry, revision });
    this.#events.send({ name: 'track', data: { trackId: open.track.id, revision } });
    return { revision, edits: entry.edits, label: entry.label, history: historyOf(open) };
  }

  #take(id: string): OpenTrack {
    const known = this.#open.get(id);
    if (known !== undefined) {
      this.#open.delete(id);
      this.#open.set(id, known);
      return known;
    }
    if (this.#store.findSummary(id) === null) throw notFound('track', id);
    const open = loadTrack(this.#store, id);
    this.#open.set(id, open);
    if (this.#open.size > MOST_OPEN) this.#open.delete(this.#open.keys().next().value!);
    return open;
  }
}

/** All of a list gives way to another. */
const whole = <T extends { readonly id: string }>(now: readonly T[], put: readonly T[]) => ({
  ...{ at: 0, afterId: null, removeIds: now.map((item) => item.id), put }
});

const historyOf = ({ undo, redo }: OpenTrack): History => ({
  undo: undo.at(-1)?.label ?? null,
  redo: redo.at(-1)?.label ?? null
});

/** A track from its newest snapshot and what follows, its undo stack and ids from the whole log. */
function loadTrack(store: TrackStore, id: string): OpenTrack {
  const draft = store.getSnapshot(id, 0).track;
  const snapshot = store.getSnapshot(id);
  const open: OpenTrack = {
    track: snapshot.track,
    revision: snapshot.revision,
    undo: [],
    redo: [],
    usedIds: new Set()
  };
  for (const { id: used } of [...draft.words, ...draft.cues, ...draft.speakers]) open.usedIds.add(used);
  for (const entry of store.entriesAfter(id, 0)) {
    if (entry.revision > open.revision) {
      const applied = applyEdits(open.track, entry.edits);
      if (!applied.ok)
        throw new Error(`track ${id}: entry ${entry.revision} of its log does not apply: ${applied.problem.message}`);
      open.track = applied.value.track;
      open.revision = entry.revision;
    }
    note(open, entry);
  }
  return open;
}

/** Keeps the stacks and the used ids in step with an entry of the log. */
function note(open: OpenTrack, entry: Pick<TrackEntry, 'kind' | 'revision' | 'label' | 'edits'>): void {
  if (entry.kind === 'undo') open.undo.pop();
  else if (entry.kind === 'redo') open.redo.pop();
  else if (entry.kind === 'edit') open.redo = [];
  // What a hearing goes on to put in is nobody's change: there is nothing of it to take back.
  if (entry.kind !== 'heard')
    (entry.kind === 'undo' ? open.redo : open.undo).push({ revision: entry.revision, label: entry.label });
  for (const edit of entry.edits) {
    if (edit.type === 'addHeard')
      for (const { cue, words } of edit.parts)
        for (const { id } of cue === null ? words : [cue, ...words]) open.usedIds.add(id);
    else if (edit.type === 'takeHearing') for (const { id } of edit.words) open.usedIds.add(id);
    else if (edit.type !== 'restore') for (const id of newIdsOf(edit)) open.usedIds.add(id);
  }
}
