/** The media element and what follows it: one frame loop tells those who draw, and only words and cues become state. */
import { type Ms, msFromSeconds, type Span, wholeMs } from '$lib/core/time';

type FrameListener = (nowMs: number) => void;

export class Player {
  #element: HTMLMediaElement | undefined;
  #frame = 0;
  #lastMs = -1;
  /** A seek that was asked for before the media was ready. */
  #wantedMs: Ms | null = null;
  readonly #listeners = new Set<FrameListener>();
  isPlaying = $state(false);
  rate = $state(1);
  loop: Span | null = $state.raw(null);
  /** A stretch that is being played, and at whose end the player stops. */
  #once: Span | null = null;
  failure: string | null = $state(null);

  get nowMs(): Ms {
    return this.#wantedMs ?? msFromSeconds(this.#element?.currentTime ?? 0);
  }

  /** Takes a media element; returns a function that releases it. */
  attach(element: HTMLMediaElement): () => void {
    this.#element = element;
    element.playbackRate = this.rate;
    element.preservesPitch = true;
    const onPlay = (): void => {
      this.isPlaying = true;
      this.#wake();
    };
    const onSeek = (): void => this.#wake();
    const onPause = (): void => {
      this.isPlaying = false;
      this.#once = null;
    };
    const onMetadata = (): void => {
      if (this.#wantedMs !== null) element.currentTime = this.#wantedMs / 1000;
      this.#wantedMs = null;
      this.#wake();
    };
    const onError = (): void => {
      this.failure = 'The recording cannot be played here.';
    };
    element.addEventListener('play', onPlay);
    element.addEventListener('pause', onPause);
    element.addEventListener('seeking', onSeek);
    element.addEventListener('loadedmetadata', onMetadata);
    element.addEventListener('error', onError);
    this.#wake();
    return () => {
      cancelAnimationFrame(this.#frame);
      this.#frame = 0;
      element.removeEventListener('play', onPlay);
      element.removeEventListener('pause', onPause);
      element.removeEventListener('seeking', onSeek);
      element.removeEventListener('loadedmetadata', onMetadata);
      element.removeEventListener('error', onError);
      element.pause();
      this.isPlaying = false;
      this.#element = undefined;
    };
  }

  /** Called once a frame while the place changes, and once at the start. */
  onFrame(listener: FrameListener): () => void {
    this.#listeners.add(listener);
    listener(this.nowMs);
    return () => this.#listeners.delete(listener);
  }

  /** Frames run while the recording plays, and one for each change of place. */
  #wake(): void {
    if (this.#frame !== 0 || this.#element === undefined) return;
    this.#frame = requestAnimationFrame(() => {
      this.#frame = 0;
      this.#tick();
      if (this.isPlaying) this.#wake();
    });
  }

  #tick(): void {
    const nowMs = this.nowMs;
    if (nowMs === this.#lastMs) return;
    if (this.isPlaying && this.stretch !== null && nowMs >= this.stretch.endMs) {
      if (this.#once !== null) this.pause();
      this.#go(this.stretch.startMs);
    }
    this.#lastMs = nowMs;
    for (const listener of this.#listeners) listener(nowMs);
  }

  /** What is played, again and again or once; `null` for all of the recording. */
  get stretch(): Span | null {
    return this.#once ?? this.loop;
  }
  /** Plays the stretch, stops at its end and goes back to its start. */
  playOnce(stretch: Span): void {
    this.loop = null;
    this.#once = stretch;
    this.#go(stretch.startMs);
    this.play();
  }

  toggle(): void {
    if (this.isPlaying) this.#element?.pause();
    else void this.#element?.play().catch(() => undefined);
  }
  play(): void {
    if (!this.isPlaying) this.toggle();
  }
  pause(): void {
    this.#element?.pause();
  }
  seek(ms: number): void {
    this.#once = null;
    this.#go(ms);
  }
  #go(ms: number): void {
    const target = Math.max(0, ms);
    if (this.#element === undefined || this.#element.readyState === 0) this.#wantedMs = wholeMs(target);
    else this.#element.currentTime = target / 1000;
    this.#wake();
  }
  skip(byMs: number): void {
    this.seek(this.nowMs + byMs);
  }
  setRate(rate: number): void {
    this.rate = Math.min(2, Math.max(0.5, Math.round(rate * 10) / 10));
    if (this.#element !== undefined) this.#element.playbackRate = this.rate;
  }
  setLoop(span: Span | null): void {
    this.loop = span;
    if (span !== null) this.seek(span.startMs);
  }
}
