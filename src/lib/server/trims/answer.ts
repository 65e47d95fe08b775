import { mapOf, type Trim } from '$lib/core/trims';
import type { TrimSummary } from '../store/trims';
import type { SavedTrim } from './open-trims';

/** A trim as the API tells it: what plays, in playing order, and besides it what is taken out. */
export function trimAnswer(trim: Trim, revision: number) {
  const { laid, lengthMs } = mapOf(trim);
  return {
    ...{ id: trim.id, recordingId: trim.recordingId, title: trim.title, revision },
    ...{ durationMs: lengthMs, recordedMs: trim.recordedMs, fadeMs: trim.fadeMs },
    pieces: laid.map(({ piece, plays, fromMs, startMs, endMs }) => {
      const own = { id: piece.id, ...(piece.fadeMs !== null && { fadeMs: piece.fadeMs }) };
      if (plays === 'room')
        return { kind: 'pause' as const, ...own, lengthMs: endMs - startMs, ...(fromMs !== null && { fromMs }) };
      const gainDb = piece.kind === 'stretch' ? piece.gainDb : 0;
      return {
        ...{ kind: plays === 'sound' ? ('keep' as const) : ('silence' as const), ...own },
        ...{ fromMs: fromMs!, toMs: fromMs! + endMs - startMs, ...(gainDb !== 0 && { gainDb }) }
      };
    }),
    takenOut: trim.pieces.flatMap((piece) =>
      piece.kind === 'stretch' && piece.out !== 'no'
        ? [{ id: piece.id, fromMs: piece.fromMs, toMs: piece.toMs, leavesGap: piece.out === 'gap' }]
        : []
    )
  };
}

export const trimSummaryAnswer = ({ binnedAtMs, ...summary }: TrimSummary) => ({
  ...summary,
  ...(binnedAtMs !== null && { binnedAtMs })
});

/** A change of a trim as the API tells it. */
export const savedTrimAnswer = ({ commands, ...saved }: SavedTrim) => ({ ...saved, edits: commands });
