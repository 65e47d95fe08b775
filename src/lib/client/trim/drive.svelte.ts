/** The player while a trim is what is heard. At its own speed the mix plays; else the media, sent on at each join. */
import { wholeMs, type Ms } from '$lib/core/time';
import type { Drive } from '../player.svelte';
import { TrimPlayback } from './playback.svelte';

export class TrimDrive implements Drive {
  readonly playback: TrimPlayback;
  readonly #rateOf: () => number;
  /** Index of the piece that the media plays; `null` while the mix does. */
  #piece: number | null = $state(null);

  constructor(playback: TrimPlayback, rateOf: () => number) {
    this.playback = playback;
    this.#rateOf = rateOf;
  }

  get isPlaying(): boolean {
    return this.#piece !== null || this.playback.isPlaying;
  }

  /** Where it stands; in a put-in pause, and behind the end, at the recorded time before it. */
  get nowMs(): Ms {
    const { map, nowMs } = this.playback;
    const now = map.recordedAt(nowMs);
    if (now !== null) return wholeMs(now);
    const before = map.laid.findLast(({ fromMs, startMs }) => fromMs !== null && startMs <= nowMs);
    return wholeMs(before === undefined ? 0 : before.fromMs! + before.endMs - before.startMs);
  }

  toggle(element: HTMLMediaElement | undefined): void {
    if (this.isPlaying) return this.pause(element);
    if (this.#rateOf() === 1 || element === undefined) return this.playback.toggle();
    const { map, nowMs } = this.playback;
    this.#enter(element, Math.max(0, map.indexAt(nowMs >= map.lengthMs - 1 ? 0 : nowMs)), map.recordedAt(nowMs));
    void element.play().catch(() => undefined);
  }

  pause(element: HTMLMediaElement | undefined): void {
    this.#piece = null;
    this.playback.pause();
    if (element !== undefined) element.muted = true;
    element?.pause();
  }

  /** A recorded time: where it plays nearest to the present place, else what plays next. */
  seek(recordedMs: number, element: HTMLMediaElement | undefined): void {
    const { map, nowMs } = this.playback;
    const places = map.trimmedAt(recordedMs);
    const nearest = places.toSorted((a, b) => Math.abs(a - nowMs) - Math.abs(b - nowMs))[0];
    const next = map.laid.find(({ fromMs }) => fromMs !== null && fromMs >= recordedMs);
    this.seekTrimmed(nearest ?? next?.startMs ?? map.lengthMs, element);
  }

  seekTrimmed(trimmedMs: number, element: HTMLMediaElement | undefined): void {
    this.playback.seek(trimmedMs);
    if (element === undefined) return;
    const recordedMs = this.playback.map.recordedAt(this.playback.nowMs);
    if (this.#piece !== null) this.#enter(element, this.playback.map.indexAt(trimmedMs), recordedMs);
    else if (!this.playback.isPlaying) element.currentTime = (recordedMs ?? this.nowMs) / 1000;
  }

  skip(byMs: number, element: HTMLMediaElement | undefined): void {
    this.seekTrimmed(Math.max(0, this.playback.nowMs + byMs), element);
  }

  /** Once a frame while it plays. */
  frame(element: HTMLMediaElement): void {
    if (this.#piece === null) return this.playback.lead(element);
    const { laid } = this.playback.map;
    const one = laid[this.#piece];
    const nowMs = element.currentTime * 1000;
    const endMs = one === undefined || one.fromMs === null ? 0 : one.fromMs + one.endMs - one.startMs;
    if (one !== undefined && nowMs < endMs) {
      element.muted = one.plays !== 'sound';
      this.playback.seek(one.startMs + Math.max(0, nowMs - one.fromMs!));
      return;
    }
    const next = laid.findIndex(({ fromMs }, at) => at > this.#piece! && fromMs !== null);
    if (next < 0) return this.pause(element);
    // What goes on is not sought: seeking is heard.
    if (laid[next]!.fromMs === endMs) this.#piece = next;
    else this.#enter(element, next, null);
  }

  #enter(element: HTMLMediaElement, at: number, recordedMs: number | null): void {
    this.#piece = at;
    const from = recordedMs ?? this.playback.map.laid[at]?.fromMs ?? 0;
    element.muted = this.playback.map.laid[at]?.plays !== 'sound';
    element.currentTime = from / 1000;
  }
}
