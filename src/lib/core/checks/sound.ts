/** What is heard and not shown, and what is shown and not heard. */
import { lastStartingBy, overlapMs, toSpan, type ReckonedSpan } from '../time';
import { defineCheck, defineTrackCheck, seconds, type Check } from './check';
import type { CueView } from './finding';
import { timed } from './moves';

/** The parts of spans, both in order, in which none of the cues is shown. */
function uncovered(spans: readonly ReckonedSpan[], views: readonly CueView[]): readonly ReckonedSpan[] {
  const left: ReckonedSpan[] = [];
  let at = 0;
  for (const { startMs, endMs } of spans) {
    let fromMs = startMs;
    // Cues may overlap: one that ended before the span may stand behind one that goes on.
    while (at < views.length && views[at]!.cue.endMs <= startMs) at++;
    for (let next = at; next < views.length && views[next]!.cue.startMs < endMs; next++) {
      const { cue } = views[next]!;
      if (cue.startMs > fromMs) left.push({ startMs: fromMs, endMs: cue.startMs });
      fromMs = Math.max(fromMs, cue.endMs);
    }
    if (fromMs < endMs) left.push({ startMs: fromMs, endMs });
  }
  return left;
}

/** How much of a span lies in spans that are in order. */
export function sharedMs(span: ReckonedSpan, spans: readonly ReckonedSpan[]): number {
  let sum = 0;
  for (let at = Math.max(0, lastStartingBy(spans, span.startMs)); at < spans.length; at++) {
    if (spans[at]!.startMs >= span.endMs) break;
    sum += overlapMs(span, spans[at]!);
  }
  return sum;
}

export const soundChecks: readonly Check[] = [
  defineTrackCheck({
    id: 'speech_uncaptioned',
    group: 'sound',
    title: 'Speech without captions',
    needs: ['speech'],
    severity: 'error',
    numbers: { most: { label: 'Longer than', unit: 'ms', least: 100, most: 60_000, value: 600 } },
    lookAtAll: (views, { knowledge, numbers: { most } }) =>
      uncovered(knowledge.speech!, views).flatMap(({ startMs, endMs }) => {
        const value = Math.round(endMs - startMs);
        const message = `${seconds(value)} of speech without a caption; the most is ${seconds(most)}.`;
        return value > most ? [{ view: null, span: toSpan({ startMs, endMs }), value, limit: most, message }] : [];
      })
  }),
  defineCheck({
    id: 'caption_unheard',
    group: 'sound',
    title: 'A caption where nobody speaks',
    needs: ['speech'],
    severity: 'warning',
    numbers: { least: { label: 'Speech in at least', unit: '% of it', least: 1, most: 100, value: 25 } },
    look({ cue, words, lengthMs }, { knowledge, numbers: { least } }) {
      if (!words.some((word) => word.kind === 'speech' && word.manner === 'spoken')) return null;
      const value = Math.round((sharedMs(cue, knowledge.speech!) / lengthMs) * 100);
      return value < least
        ? { value, limit: least, message: `Speech in ${value} % of it; the least is ${least} %.` }
        : null;
    }
  }),
  defineTrackCheck({
    id: 'sound_uncaptioned',
    group: 'sound',
    title: 'A sound without a caption',
    needs: ['sounds'],
    severity: 'hint',
    numbers: { most: { label: 'Longer than', unit: 'ms', least: 100, most: 60_000, value: 500 } },
    lookAtAll: (views, { knowledge, numbers: { most } }) =>
      uncovered(knowledge.sounds!, views).flatMap(({ startMs, endMs }) => {
        const value = Math.round(endMs - startMs);
        return value > most
          ? [
              {
                view: null,
                span: toSpan({ startMs, endMs }),
                value,
                limit: most,
                message: `A sound of ${seconds(value)} has no caption.`
              }
            ]
          : [];
      })
  }),
  defineCheck({
    id: 'sound_outlasts',
    group: 'sound',
    title: 'Stays longer than its sound',
    needs: ['sounds'],
    severity: 'hint',
    numbers: { most: { label: 'After the sound', unit: 'ms', least: 0, most: 20_000, value: 1500 } },
    look(view, { knowledge, numbers: { most } }) {
      const soundToMs = soundEnd(view, knowledge.sounds!);
      const value = soundToMs === null ? 0 : view.cue.endMs - soundToMs;
      return value > most
        ? { value, limit: most, message: `Stays ${seconds(value)} after its sound; the most is ${seconds(most)}.` }
        : null;
    },
    mend: (view, { knowledge, track }) =>
      timed(view, {
        endMs: Math.max(
          soundEnd(view, knowledge.sounds!)! + track.rules.lingerMs,
          view.cue.startMs + track.rules.minDurationMs
        )
      })
  }),
  defineCheck({
    id: 'music_sign',
    group: 'sound',
    title: 'A music sign on one side alone',
    severity: 'hint',
    look: ({ text }) =>
      (text.match(/♪/g)?.length ?? 0) % 2 === 1 ? { message: 'A song begins and ends with ♪.' } : null
  }),
  defineCheck({
    id: 'sound_unbracketed',
    group: 'sound',
    title: 'Music that is not marked',
    severity: 'hint',
    look: ({ text, words }) =>
      words.every(({ kind }) => kind === 'speech') &&
      /^(?:music|applause|laughter|laughs|bell|silence)[.!]?$/i.test(text)
        ? { word: words[0]!, message: `“${text}” stands as if it were said: sounds stand in brackets.` }
        : null,
    mend: (_, __, { word }) => [
      { type: 'setWordText', wordId: word!.id, text: `[${word!.text.replace(/[.!]$/, '').toLowerCase()}]` }
    ]
  })
];

/** Where the sound ends that a cue of nothing but described sounds tells of; `null` where there is none. */
function soundEnd({ words, cue }: CueView, sounds: readonly ReckonedSpan[]): number | null {
  if (words.length === 0 || words.some(({ kind }) => kind !== 'sound')) return null;
  return sounds.findLast((sound) => sound.startMs < cue.endMs && sound.endMs > cue.startMs)?.endMs ?? null;
}
