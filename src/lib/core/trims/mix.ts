/**
 * The sound of a trim, to the sample. Times are laid out by the map, so that joins do not shift what follows; a crossfade
 * lies half before and half behind its join, in sound that goes on beyond the edges of its pieces.
 */
import { firstWhere } from '../bisect';
import type { Room } from './room';
import { mapOf } from './map';
import type { Trim } from './trim';

export interface SoundSegment {
  /** Trimmed samples. */
  readonly from: number;
  readonly to: number;
  readonly plays: 'sound' | 'nothing' | 'room';
  /** Recorded sample that is heard at `from`. */
  readonly source: number;
  readonly gain: number;
  /** Half of the crossfade with the segment before it, in samples. */
  readonly halfFade: number;
  /** Goes on from the one before it in one sound: the two are added in amplitude, not in power. */
  readonly goesOn: boolean;
}

export interface SoundPlan {
  readonly segments: readonly SoundSegment[];
  readonly length: number;
}

/** Recorded samples; `from` may lie before 0 and the end beyond the recording, where it is silent. */
export interface SourceRange {
  readonly from: number;
  readonly to: number;
}

/** Trims of no length are of no segments. */
export function planSound(trim: Pick<Trim, 'pieces' | 'fadeMs'>, sampleRateHz: number): SoundPlan {
  const { laid, lengthMs } = mapOf(trim);
  const samples = (ms: number): number => Math.round((ms * sampleRateHz) / 1000);
  const segments: SoundSegment[] = [];
  for (const { piece, plays, startMs, endMs, fromMs } of laid) {
    const last = segments.at(-1);
    const [from, to] = [samples(startMs), samples(endMs)];
    const source = samples(fromMs ?? 0);
    const goesOn = last?.plays === 'sound' && plays === 'sound' && last.source + last.to - last.from === source;
    const wanted = samples(piece.fadeMs ?? trim.fadeMs) / 2;
    const most = last === undefined ? 0 : Math.min(last.to - last.from, to - from) / 2;
    segments.push({
      ...{ from, to, plays, source, goesOn },
      gain: piece.kind === 'stretch' ? 10 ** (piece.gainDb / 20) : 1,
      halfFade: Math.floor(Math.min(wanted, most))
    });
  }
  return { segments, length: samples(lengthMs) };
}

/** Indices of the segments that are heard in a stretch of trimmed samples, with those that fade into it. */
function segmentsIn({ segments }: SoundPlan, from: number, to: number): { first: number; last: number } {
  const first = firstWhere(segments.length, (at) => segments[at]!.to + (segments[at + 1]?.halfFade ?? 0) > from);
  let last = first;
  while (last + 1 < segments.length && segments[last + 1]!.from - segments[last + 1]!.halfFade < to) last++;
  return { first, last };
}

/** What of the recording is needed for a stretch of trimmed samples, in playing order. */
export function sourcesFor(plan: SoundPlan, from: number, to: number): SourceRange[] {
  const { first, last } = segmentsIn(plan, from, to);
  return plan.segments.slice(first, last + 1).flatMap((segment, step) => {
    if (segment.plays !== 'sound') return [];
    const start = Math.max(from, segment.from - segment.halfFade);
    const end = Math.min(to, segment.to + (plan.segments[first + step + 1]?.halfFade ?? 0));
    const shift = segment.source - segment.from;
    return end > start ? [{ from: start + shift, to: end + shift }] : [];
  });
}

/** A rise from 0 to 1 without a kink at either end. */
const smooth = (share: number): number => share * share * (3 - 2 * share);

/**
 * Trimmed samples `from` to `to`, a channel each. `read` gives recorded samples of every channel, silent outside the
 * recording: at least those that `sourcesFor` names.
 */
export function mixSound(
  plan: SoundPlan,
  { from, to }: SourceRange,
  read: (range: SourceRange) => readonly Float32Array[],
  { room, channels }: { readonly room: Room; readonly channels: number }
): Float32Array[] {
  const made = Array.from({ length: channels }, () => new Float32Array(Math.max(0, to - from)));
  const { first, last } = segmentsIn(plan, from, to);
  for (let at = first; at <= last; at++) {
    const segment = plan.segments[at];
    if (segment === undefined || segment.plays === 'nothing') continue;
    const next = plan.segments[at + 1];
    const start = Math.max(from, segment.from - segment.halfFade);
    const end = Math.min(to, segment.to + (next?.halfFade ?? 0));
    if (end <= start) continue;
    const shift = segment.source - segment.from;
    const sound =
      segment.plays === 'sound' ? read({ from: start + shift, to: end + shift }) : room.at(start, end - start);
    const edges = [
      { middle: segment.from, half: segment.halfFade, isRise: true, goesOn: segment.goesOn },
      ...(next === undefined ? [] : [{ middle: segment.to, half: next.halfFade, isRise: false, goesOn: next.goesOn }])
    ];
    const gainAt = (sample: number): number => {
      let gain = segment.gain;
      for (const { middle, half, isRise, goesOn } of edges) {
        if (half === 0 || sample < middle - half || sample >= middle + half) continue;
        const share = (sample + 0.5 - middle + half) / (2 * half);
        const risen = smooth(isRise ? share : 1 - share);
        gain *= goesOn ? risen : Math.sin((Math.PI / 2) * risen);
      }
      return gain;
    };
    // Away from its joins a piece is copied.
    const plainFrom = Math.max(start, segment.from + segment.halfFade);
    const plainTo = Math.min(end, segment.to - (next?.halfFade ?? 0));
    for (let channel = 0; channel < channels; channel++) {
      const own = sound[channel] ?? sound[0]!;
      const into = made[channel]!;
      const fade = (low: number, high: number): void => {
        for (let sample = low; sample < high; sample++)
          into[sample - from] = into[sample - from]! + own[sample - start]! * gainAt(sample);
      };
      fade(start, Math.min(plainFrom, end));
      if (segment.gain === 1 && plainTo > plainFrom)
        into.set(own.subarray(plainFrom - start, plainTo - start), plainFrom - from);
      else fade(plainFrom, plainTo);
      fade(Math.max(plainTo, plainFrom), end);
    }
  }
  return made;
}
