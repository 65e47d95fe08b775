/** A recording on the screen: its media, its player, what its sound and picture look like. Tracks are views on it. */
import type { SpeechMap } from '$lib/core/audio';
import { messageOf } from '$lib/core/message-of';
import { formatClock, formatFrames, parseClock, parseFrames, type Ms, type Span } from '$lib/core/time';
import { isSameLanguage } from '$lib/core/track';
import { api, type Recording } from './api';
import { Player } from './player.svelte';
import { preferences } from './preferences.svelte';

/** What the sound of a recording looks like. */
export interface Sound {
  readonly levels: Uint8Array;
  readonly speech: SpeechMap & { readonly regions: readonly Span[] };
}

const MOST_SPECTRA = 120;

export class RecordingView {
  readonly recording: Recording;
  readonly player = new Player();
  sound: Sound | null = $state.raw(null);
  soundFailure: string | null = $state(null);
  /** When the picture changes from one shot to another, in order; none where there is no picture. */
  shotsMs: readonly Ms[] = $state.raw([]);
  areShotsKnown = $state(false);
  /** Languages that this machine hears a passage of again; `null` until that is known. */
  heardLanguages: readonly string[] | null = $state.raw(null);
  /** Said by the status line and to screen readers. */
  notice = $state('');

  constructor(recording: Recording) {
    this.recording = recording;
  }

  /** Fetches what the sound and the picture look like; where that fails, `soundFailure` says why. */
  async load(): Promise<void> {
    const { id, media } = this.recording;
    try {
      const [levels, speech] = await Promise.all([api.levels(id), api.speech(id)]);
      this.sound = { levels, speech };
      this.soundFailure = null;
      if (media.hasVideo) {
        this.shotsMs = await api.shots(id);
        this.areShotsKnown = true;
      }
    } catch (error) {
      this.soundFailure = `The waveform cannot be shown: ${messageOf(error)}`;
    }
  }

  /** Finds out what can be heard again here. Rejects where the server does not say. */
  async loadEngines(): Promise<void> {
    const engines = await api.engines();
    const local = engines.filter(({ hears, sendsSound, available }) => hears && !sendsSound && available);
    this.heardLanguages = local.flatMap(({ languages }) => languages);
  }

  /** Whether a passage in the language can be heard again; `true` while that is not known. */
  canHear(language: string): boolean {
    return this.heardLanguages === null || this.heardLanguages.some((tag) => isSameLanguage(tag, language));
  }

  /** Spectra of the stretches seen last; a stretch that could not be had is asked for again. */
  readonly #spectra = new Map<string, Promise<Uint8Array | null>>();

  /** The spectrum of a stretch, `null` where it cannot be had now. */
  spectrumOf(span: Span): Promise<Uint8Array | null> {
    const key = `${span.startMs} ${span.endMs}`;
    let spectrum = this.#spectra.get(key);
    if (spectrum === undefined) {
      spectrum = api.spectrum(this.recording.id, span).catch(() => {
        this.#spectra.delete(key);
        return null;
      });
      this.#spectra.set(key, spectrum);
      const [oldest] = this.#spectra.keys();
      if (this.#spectra.size > MOST_SPECTRA && oldest !== undefined) this.#spectra.delete(oldest);
    }
    return spectrum;
  }

  /** A name or term to expect from now on, in this recording. */
  async expect(text: string): Promise<void> {
    const terms = await api.terms(this.recording.id);
    if (terms.some((term) => term.text === text)) return;
    await api.saveTerms(this.recording.id, [...terms, { text, soundsLike: null }]);
    this.say(`“${text}” is on the names of this recording.`);
  }

  /** Plays, or pauses and goes back as far as is wanted. */
  togglePlay(): void {
    const { player } = this;
    const isPausing = player.isPlaying;
    player.toggle();
    if (isPausing && preferences.backOnPauseMs > 0 && player.loop === null) player.skip(-preferences.backOnPauseMs);
  }

  /** Pictures a second where times are shown by them. */
  get #framesShown(): number | null {
    return preferences.timesAs === 'frames' ? (this.recording.media.frameRate ?? null) : null;
  }

  /** A time as it is wanted: as on a clock, to so many digits of the second, or as pictures are counted. */
  showTime(ms: number, digits: 2 | 3 = 3): string {
    const rate = this.#framesShown;
    return rate === null ? formatClock(ms, digits) : formatFrames(ms, rate);
  }

  /** What was typed for a time; `null` where it is none. */
  readTime(text: string): Ms | null {
    const rate = this.#framesShown;
    return (rate === null ? null : parseFrames(text, rate)) ?? parseClock(text);
  }

  say(notice: string): void {
    // A repeated notice must be announced again.
    this.notice = this.notice === notice ? `${notice}\u200b` : notice;
  }
}
