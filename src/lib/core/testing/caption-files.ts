/** Tracks whose texts look like the codes of captions files, and what is read back of them. */
import fc from 'fast-check';
import { trackFromFile, type ParsedCaptions } from '../formats';
import { asTrackId } from '../id';
import { markedLines, type Track } from '../track';
import { anyTrack } from './any-track';

const nasty = fc.constantFrom(
  ...[
    '-->',
    '00:00:01,000',
    '42',
    'NOTE',
    '<i>',
    '&amp;',
    '{\\an8}',
    'WEBVTT',
    'a\u00a0b',
    'STYLE',
    '<v',
    '\u200fשלום',
    '&'
  ],
  ...['=1+1', "'=x", '"quoted"', 'a,b;c', ']]>', '<!--', '\ufffe', '😀']
);
const anySigns = fc.constantFrom('never' as const, 'dash' as const, 'name' as const);
const anyTexts = fc.array(nasty, { minLength: 40, maxLength: 40 });

export const nastyTrack: fc.Arbitrary<Track> = fc
  .tuple(anyTrack, anyTexts, anySigns)
  .map(([track, texts, sharedCues]) => ({
    ...track,
    rules: { ...track.rules, sharedCues },
    words: track.words.map((word, at) =>
      at % 3 === 0 && word.kind === 'speech' ? { ...word, text: texts[at % 40]!, marks: [] } : word
    )
  }));

let minted = 0;
export const importedFrom = (parsed: ParsedCaptions): Track =>
  trackFromFile(parsed, {
    ...{ trackId: asTrackId('t'), recordingId: 'r', language: 'en', title: '', recordingDurationMs: 60_000 },
    mint: () => `m${minted++}`
  }).track;

/** Times and lines of every cue; characters that no file can hold are as all write them. */
export const shapeOf = (track: Track) =>
  track.cues.map((cue) => [
    cue.startMs,
    cue.endMs,
    markedLines(track, cue).map((line) => line.replaceAll(/[\ufffe\uffff]/g, '\ufffd'))
  ]);
