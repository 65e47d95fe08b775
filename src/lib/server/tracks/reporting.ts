/** The report of a check: of the track as it is now, with what was handed over of it. */
import { checkTrack, nameSheet, reportPaper, tellSheet } from '$lib/core/checks';
import { changesSince } from '$lib/core/compare';
import type { Paper } from '$lib/core/paper';
import type { App } from '../app';
import { version } from '../config';
import { going } from '../formats/handing-over';
import { keptSheets, knowledgeOf, sheetFor } from './checking';

/** By the track's own sheet, or by the one of a name. Throws `unknown_sheet`. */
export async function reportOf(
  app: App,
  trackId: string,
  sheetName: string | null,
  signal: AbortSignal
): Promise<Paper> {
  const { track, revision, recording, version: fileVersion } = going(app, trackId);
  const sheet = sheetFor(app, track, sheetName);
  const kept = keptSheets(app);
  const knowledge = await knowledgeOf(app, track, signal);
  return reportPaper({
    ...{ recording, track, revision, sheet, knowledge, version, atMs: Date.now() },
    sheetName: sheetName === null ? tellSheet(track, kept) : nameSheet(kept.find(({ name }) => name === sheetName)!),
    report: checkTrack(track, knowledge, sheet),
    accepted: app.acceptedFindings.reasonsOf(track.id),
    sinceDraft: changesSince(app.tracks.trackAt(trackId, 0), track),
    handedOver: app.handedOver.versionsOf(track.id),
    fileVersion
  });
}
