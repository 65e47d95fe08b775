import { describe, expect, test } from 'vitest';
import { estimateSync } from '../sync';
import { makeSpokenTalk } from '../testing/any-talk';
import { toSpan, type ReckonedSpan } from '../time';
import { makeCue, makeTrack, makeWord, type Track } from '../track';
import { layCaptions, rowsOf, speechOfCues } from '.';

const talk = makeSpokenTalk(600_000, 21);

/** A cue for each span that says a word and its number. */
const trackOf = (word: string, language: string, spans: readonly ReckonedSpan[]): Track =>
  makeTrack({
    ...{ id: word, recordingId: 'r', language, title: word },
    words: spans.map((span, at) =>
      makeWord({ id: `w${at}`, text: `${word}${at}`, ...toSpan(span), timing: 'estimated', startsParagraph: at === 0 })
    ),
    cues: spans.map((span, at) => makeCue({ id: `c${at}`, ...toSpan(span), wordIds: [`w${at}`] }))
  });

const source = trackOf('said', 'en', talk.cues);
const rows = rowsOf({ ...trackOf('target', 'es', talk.cues), sourceTrackId: source.id }, source);
const laid = (spans: readonly ReckonedSpan[]) => {
  const sync = estimateSync(spans, speechOfCues(source.cues, talk.durationMs), talk.durationMs);
  return layCaptions(trackOf('dicho', 'es', spans), { rows, language: 'es', sync });
};
const wanted = rows.map((_, at) => `dicho${at}`);

describe('captions made elsewhere', () => {
  test.each([
    ['as they are', 0, 1],
    ['that begin later', 41_000, 1],
    ['that begin earlier', -9000, 1],
    ['for pictures of another rate', 2000, 25 / 24]
  ])('%s are laid on the rows of the source', (_, shiftMs, speed) => {
    const spans = talk.cues.map(({ startMs, endMs }) => ({
      startMs: startMs * speed + shiftMs,
      endMs: endMs * speed + shiftMs
    }));
    const { texts, left } = laid(spans.filter(({ startMs }) => startMs >= 0));
    const first = spans.findIndex(({ startMs }) => startMs >= 0);
    expect(texts.slice(first)).toEqual(wanted.slice(0, wanted.length - first));
    expect(left).toEqual([]);
  });

  test('of another talk are laid by their own times, and what is said in pauses is told', () => {
    const { texts, left } = laid([...makeSpokenTalk(600_000, 77).cues, { startMs: 598_000, endMs: 599_000 }]);
    expect(texts.filter((text) => text !== '').length).toBeGreaterThan(rows.length / 3);
    expect(left.at(-1)).toMatch(/^dicho\d+$/);
  });
});
