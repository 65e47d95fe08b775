/** Checking a track with all that the server knows of its recording, and mending what is found. */
import { randomUUID } from 'node:crypto';
import { findSounds, speechRegions } from '$lib/core/audio';
import {
  checkTrack,
  isMendedUnseen,
  mend,
  MISSING,
  SHIPPED_SHEETS,
  type Finding,
  type KeptSheet,
  type Knowledge
} from '$lib/core/checks';
import type { Sheet, Track } from '$lib/core/track';
import { mapOf, trimInstants, trimSpans, type Trim } from '$lib/core/trims';
import type { App } from '../app';
import { dictionaryFor } from '../doubts/dictionaries';
import { loadSpeech } from '../media/prepare';
import { findShots } from '../media/shots';
import { asSeen } from '../formats/handing-over';
import { ApiProblem, notFound } from '../problem';
import { savedAnswer } from './answer';
import { contrastOfTrack } from './contrast';

/** A usual rate, where a recording has no picture. */
const USUAL_FRAME_MS = 40;

export const keptSheets = (app: App): readonly KeptSheet[] => [
  ...SHIPPED_SHEETS,
  ...app.ownSheets.list().map(({ content, ...kept }) => ({ ...kept, sheet: content, shipped: false }))
];

/** The sheet of that name; the track's own without one. Throws `unknown_sheet`. */
export function sheetFor(app: App, track: Track, name: string | null): Sheet {
  if (name === null) return track.sheet;
  const kept = keptSheets(app).find((one) => one.name === name);
  if (kept === undefined) throw notFound('sheet', name);
  return kept.sheet;
}

/**
 * What is known of a track's recording: waits for its sound to be prepared, and for its doubts; the light of its
 * picture is known where it was measured.
 */
export async function knowledgeOf(app: App, track: Track, signal: AbortSignal): Promise<Knowledge> {
  const recording = await app.preparing.prepared(track.recordingId, signal);
  await app.preparing.speechMapped(recording.id, signal);
  const speech = speechRegions(await loadSpeech(app.files.speechPath(recording.id)), recording.durationMs);
  const lightPath = recording.media.hasVideo ? app.lighting.findPath(recording) : null;
  const judged = app.judgedDoubts.keysOf(track.id);
  const doubts = await app.doubtFinder.find(track, app.termsFor(track.recordingId, undefined), {
    signal,
    onProgress: () => undefined
  });
  const source = sourceOf(app, track);
  return {
    durationMs: recording.durationMs,
    frameMs: recording.media.frameRate === null ? USUAL_FRAME_MS : 1000 / recording.media.frameRate,
    speech,
    shotsMs: recording.media.hasVideo ? await findShots(app.files, recording) : null,
    sounds: findSounds(await app.files.readLevels(recording.id), speech),
    contrast:
      lightPath === null
        ? null
        : new Map(
            contrastOfTrack(track, recording, await app.lighting.mapped(recording), app.faces.ownFiles()).map(
              ({ cueId, ...facts }) => [cueId, facts]
            )
          ),
    doubts: new Map(doubts.filter(({ key }) => !judged.has(key)).map((doubt) => [doubt.wordIds[0]!, doubt])),
    isSpelled: dictionaryFor(track.language) !== null,
    source,
    terms: source === null ? [] : app.glossary.list({ from: source.language, to: track.language })
  };
}

/** The track that this one translates, where it can be read. */
function sourceOf(app: App, { sourceTrackId }: Track): Track | null {
  if (sourceTrackId === null) return null;
  try {
    return app.tracks.get(sourceTrackId).track;
  } catch (error) {
    if (error instanceof ApiProblem) return null;
    throw error;
  }
}

/** A finding as the API tells it: what it has not is absent. */
const findingAnswer = ({ cueId, wordId, value, limit, ...finding }: Finding, reason: string | undefined) => ({
  ...finding,
  ...(cueId !== null && { cueId }),
  ...(wordId !== null && { wordId }),
  ...(value !== null && { value }),
  ...(limit !== null && { limit }),
  ...(reason !== undefined && { accepted: { reason } })
});

export async function checksAnswer(
  app: App,
  trackId: string,
  { sheetName, trimId }: { readonly sheetName: string | null; readonly trimId: string | null },
  signal: AbortSignal
) {
  const { track: whole, revision } = app.tracks.get(trackId);
  const { track } = asSeen(app, whole, app.getRecording(whole.recordingId), trimId);
  const sheet = sheetFor(app, track, sheetName);
  const known = await knowledgeOf(app, whole, signal);
  const knowledge = trimId === null ? known : knowledgeOfTrim(known, app.trims.get(trimId).trim);
  const { findings, notChecked } = checkTrack(track, knowledge, sheet);
  const reasons = app.acceptedFindings.reasonsOf(track.id);
  return {
    revision,
    findings: findings.map((finding) => findingAnswer(finding, reasons.get(finding.key))),
    notChecked: notChecked.map(({ rule, needs }) => ({ rule, reason: MISSING[needs] }))
  };
}

/** The same, of what plays of it. */
const knowledgeOfTrim = (known: Knowledge, trim: Trim): Knowledge => {
  const map = mapOf(trim);
  return {
    ...known,
    durationMs: map.lengthMs,
    speech: known.speech === null ? null : trimSpans(known.speech, map),
    shotsMs: known.shotsMs === null ? null : trimInstants(known.shotsMs, map),
    sounds: known.sounds === null ? null : trimSpans(known.sounds, map),
    // A translation is compared with its source as it was recorded, of which other words are gone.
    source: null
  };
};

type Wanted = { readonly keys: readonly string[] } | { readonly rule: string };

/** Mends, as one entry of the log, what is asked for, but for what was let stand. Throws `stale_revision`. */
export async function mendTrack(
  app: App,
  trackId: string,
  { revision, ...wanted }: Wanted & { readonly revision: number },
  signal: AbortSignal
) {
  const { track } = app.tracks.get(trackId);
  const knowledge = await knowledgeOf(app, track, signal);
  const accepted = app.acceptedFindings.reasonsOf(track.id);
  const isWanted = ({ key, rule }: Finding): boolean =>
    'keys' in wanted ? wanted.keys.includes(key) : rule === wanted.rule && isMendedUnseen(rule) && !accepted.has(key);
  const setting = { knowledge, sheet: track.sheet, mint: randomUUID, atMs: Date.now() };
  const done = mend(track, checkTrack(track, knowledge, track.sheet).findings.filter(isWanted), setting);
  const saved =
    done.commands.length === 0
      ? { revision, commands: [], changes: [], label: '', history: app.tracks.history(trackId) }
      : app.tracks.applyOwn(trackId, () => done.commands, revision);
  return { ...savedAnswer(saved), mended: done.keys.length, keys: done.keys };
}
