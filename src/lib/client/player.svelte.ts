/** The media element and what follows it: one frame loop tells those who draw, and only words and cues become state. */
import { type Ms, msFromSeconds, type Span, wholeMs } from '$lib/core/time';

type FrameListener = (nowMs: number) => void;

/** What is heard instead of the media as it was recorded: its sound is silent then, its picture led. Times are recorded ones. */
export interface Drive {
  readonly isPlaying: boolean;
  readonly nowMs: Ms;
  toggle(element: HTMLMediaElement | undefined): void;
  pause(element: HTMLMediaElement | undefined): void;
  seek(ms: number, element: HTMLMediaElement | undefined): void;
  skip(byMs: number, element: HTMLMediaElement | undefined): void;
  /** Once a frame while it plays. */
  frame(element: HTMLMediaElement): void;
}

export class Player {
  #element: HTMLMediaElement | undefined;
  #frame = 0;
  #lastMs = -1;
  /** A seek that was asked for before the media was ready. */
  #wantedMs: Ms | null = null;
  readonly #listeners = new Set<FrameListener>();
  #isMediaPlaying = $state(false);
  /** `null`: the media as it was recorded. */
  #drive: Drive | null = $state.raw(null);
  /** One that waits until a stretch has been heard as it was recorded. */
  #waiting: Drive | null = null;
  rate = $state(1);
  loop: Span | null = $state.raw(null);
  /** A stretch that is being played, and at whose end the player stops. */
  #once: Span | null = null;
  failure: string | null = $state(null);

  get isPlaying(): boolean {
    return this.#drive?.isPlaying ?? this.#isMediaPlaying;
  }

  /** Something else than the media as it was recorded. */
  get isDriven(): boolean {
    return this.#drive !== null;
  }

  get nowMs(): Ms {
    return this.#drive?.nowMs ?? this.#wantedMs ?? msFromSeconds(this.#element?.currentTime ?? 0);
  }

  /** Takes a media element; returns a function that releases it. */
  attach(element: HTMLMediaElement): () => void {
    this.#element = element;
    element.muted = this.#drive !== null;
    element.playbackRate = this.rate;
    element.preservesPitch = true;
    const onPlay = (): void => {
      this.#isMediaPlaying = true;
      this.#wake();
    };
    const onSeek = (): void => this.#wake();
    const onPause = (): void => {
      this.#isMediaPlaying = false;
      this.#once = null;
      if (this.#waiting !== null && this.#drive === null) this.driveBy(this.#waiting);
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
      this.#drive?.pause(element);
      element.pause();
      this.#isMediaPlaying = false;
      this.#element = undefined;
    };
  }

  /** Plays what this drives from now on; `null`: the media as it was recorded. */
  driveBy(drive: Drive | null): void {
    this.pause();
    this.#waiting = null;
    this.#drive = drive;
    this.loop = null;
    if (this.#element !== undefined) this.#element.muted = drive !== null;
    this.#wake();
  }

  /** Called once a frame while the place changes, and once at the start. */
  onFrame(listener: FrameListener): () => void {
    this.#listeners.add(listener);
    listener(this.nowMs);
    return () => this.#listeners.delete(listener);
  }

  /** Somebody else has begun to play. */
  wake(): void {
    this.#wake();
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
    if (this.#drive !== null && this.#element !== undefined) this.#drive.frame(this.#element);
    const nowMs = this.nowMs;
    if (nowMs === this.#lastMs) return;
    if (this.#drive === null && this.isPlaying && this.stretch !== null && nowMs >= this.stretch.endMs) {
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
    const drive = this.#drive;
    if (drive !== null) {
      this.driveBy(null);
      this.#waiting = drive;
    }
    this.loop = null;
    this.#once = stretch;
    this.#go(stretch.startMs);
    this.play();
  }

  toggle(): void {
    if (this.#drive !== null) {
      this.#drive.toggle(this.#element);
      return this.#wake();
    }
    if (this.isPlaying) this.#element?.pause();
    else void this.#element?.play().catch(() => undefined);
  }
  play(): void {
    if (!this.isPlaying) this.toggle();
  }
  pause(): void {
    if (this.#drive === null) this.#element?.pause();
    else this.#drive.pause(this.#element);
  }
  seek(ms: number): void {
    this.#once = null;
    this.#go(ms);
  }
  #go(ms: number): void {
    const target = Math.max(0, ms);
    if (this.#drive !== null) {
      this.#drive.seek(target, this.#element);
      return this.#wake();
    }
    if (this.#element === undefined || this.#element.readyState === 0) this.#wantedMs = wholeMs(target);
    else this.#element.currentTime = target / 1000;
    this.#wake();
  }
  skip(byMs: number): void {
    if (this.#drive !== null) {
      this.#drive.skip(byMs, this.#element);
      return this.#wake();
    }
    this.seek(this.nowMs + byMs);
  }
  setRate(rate: number): void {
    this.rate = Math.min(2, Math.max(0.5, Math.round(rate * 10) / 10));
    if (this.#element !== undefined) this.#element.playbackRate = this.rate;
  }
  setLoop(span: Span | null): void {
    if (this.#drive !== null) return;
    this.loop = span;
    if (span !== null) this.seek(span.startMs);
  }
}
