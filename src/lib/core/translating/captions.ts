/** Captions made elsewhere, in the language of the translation, laid on the cues of the source by their times. */
import { joinLines, joinTokens, joinWords, shownWords, tokenize, escapeMarkup, type Track } from '../track';
import type { SpeechMap } from '../audio';
import { syncedSpan, type SyncEstimate } from '../sync';
import { spanOf, type ReckonedSpan } from '../time';
import { layOnPlaces, placeOfSource } from './laying';
import type { Row } from './rows';

export interface LaidCaptions {
  /** For each row what is said in it; empty where nothing is. */
  readonly texts: readonly string[];
  /** Rows whose text was parted or put together by their times alone. */
  readonly isDoubtful: readonly boolean[];
  /** What is said where the source says nothing. */
  readonly left: readonly string[];
}

/** Of the shorter one's time: what is shared by less belongs elsewhere. */
const LEAST_SHARED = 0.3;
/** Captions that are shown this near to a row belong to it, if to any. */
const NEAR_MS = 700;
const SPEECH_FRAME_MS = 20;
const SURE_SYNC = 0.5;
const NO_LIMIT = { maxLines: 100, maxCharsPerLine: 1000, maxCharacters: 100_000 };

/**
 * When the source speaks, as its cues say: on it captions of another start or another frame rate can be laid
 * (`core/sync`).
 */
export function speechOfCues(cues: readonly ReckonedSpan[], durationMs: number): SpeechMap {
  const probabilities = new Array<number>(Math.ceil(durationMs / SPEECH_FRAME_MS)).fill(0);
  for (const { startMs, endMs } of cues)
    probabilities.fill(1, Math.round(startMs / SPEECH_FRAME_MS), Math.round(endMs / SPEECH_FRAME_MS));
  return { frameMs: SPEECH_FRAME_MS, probabilities };
}

/** `sync`: what brings the captions' times to those of the source; less sure than a half, it is not done. */
export function layCaptions(
  captions: Track,
  { rows, language, sync }: { readonly rows: readonly Row[]; readonly language: string; readonly sync: SyncEstimate }
): LaidCaptions {
  const spans = rows.map(({ sourceCues, cues }) => spanOf(sourceCues.length > 0 ? sourceCues : cues));
  const parts = rows.map((): string[] => []);
  const isDoubtful = rows.map(() => false);
  const left: string[] = [];
  for (const cue of captions.cues) {
    const text = joinWords(shownWords(captions, cue));
    if (text === '') continue;
    const places = placesOf(sync.confidence >= SURE_SYNC ? syncedSpan(cue, sync) : cue, spans);
    if (places.length === 0) left.push(text);
    else if (places.length === 1) {
      // Several captions in one row follow each other.
      if (parts[places[0]!]!.length > 0) isDoubtful[places[0]!] = true;
      parts[places[0]!]!.push(text);
    } else {
      const tokens = tokenize(escapeMarkup(text), language);
      const runs = layOnPlaces(
        tokens,
        places.map((row) => placeOfSource(rows[row]!.source, NO_LIMIT)),
        language
      );
      runs.forEach(({ from, to }, at) => {
        const own = tokens.slice(from, to);
        if (own.length === 0) return;
        parts[places[at]!]!.push(joinTokens(own));
        isDoubtful[places[at]!] = true;
      });
    }
  }
  return { texts: parts.map(joinLines), isDoubtful, left };
}

/** The rows that a caption is said in: those it shares enough time with, else the nearest one. */
function placesOf(cue: ReckonedSpan, spans: readonly ReckonedSpan[]): readonly number[] {
  const lengthMs = cue.endMs - cue.startMs;
  const shared: number[] = [];
  let nearest = { row: -1, awayMs: NEAR_MS };
  spans.forEach(({ startMs, endMs }, row) => {
    const sharedMs = Math.min(cue.endMs, endMs) - Math.max(cue.startMs, startMs);
    if (sharedMs >= LEAST_SHARED * Math.min(lengthMs, endMs - startMs)) shared.push(row);
    else if (-sharedMs < nearest.awayMs) nearest = { row, awayMs: -sharedMs };
  });
  if (shared.length > 0) return shared;
  return nearest.row < 0 ? [] : [nearest.row];
}
