/**
 * A trim as it will be heard: mixed by the core from blocks of the recording's sound, laid end to end on the audio clock;
 * the picture follows. At another speed the media element plays and is sent on at each join, which keeps the pitch.
 */
import {
  BLOCK_RATE_HZ,
  blockChannels,
  blocksOf,
  mapOf,
  mixSound,
  planSound,
  readBlocks,
  Room,
  roomSpans,
  sourcesFor,
  type SoundPlan,
  type Trim,
  type TrimMap
} from '$lib/core/trims';
import { messageOf } from '$lib/core/message-of';
import { api } from '../api';
import type { Sound } from '../recording-view.svelte';

/** Scheduled ahead, in pieces. */
const AHEAD_S = 2.5;
const SLICE_S = 0.5;
const MOST_BLOCKS = 40;
/** The picture may be so far from the sound before it is sent after it. */
const OUT_OF_STEP_S = 0.09;
const LEAD_S = 0.06;
const PREPARE_AFTER_MS = 120;

export class TrimPlayback {
  readonly #recordingId: string;
  readonly #channels: number;
  #context: AudioContext | null = null;
  readonly #blocks = new Map<number, Int16Array>();
  readonly #fetching = new Map<number, Promise<void>>();
  #sound: Sound | null = null;
  #room: Room | null = null;
  #trim: Trim;
  #map: TrimMap;
  #plan: SoundPlan;
  readonly #sources = new Set<AudioBufferSourceNode>();
  /** Trimmed sample that is heard at a time of the audio clock. */
  #anchor: { readonly sample: number; readonly atS: number } | null = null;
  #scheduled = 0;
  #timer: ReturnType<typeof setTimeout> | undefined;
  /** Each beginning ends what an earlier one still waits for. */
  #turn = 0;
  /** Where it stands while it does not play, in trimmed ms. */
  #restMs = 0;
  /** Where it stops by itself. */
  #stopMs: number | null = null;
  isPlaying = $state(false);
  failure: string | null = $state(null);

  constructor(recording: { readonly id: string; readonly media: { readonly channels: number } }, trim: Trim) {
    this.#recordingId = recording.id;
    this.#channels = blockChannels(recording.media.channels);
    this.#trim = trim;
    this.#map = mapOf(trim);
    this.#plan = planSound(trim, BLOCK_RATE_HZ);
  }

  /** What is known of the recording's sound: where its room is heard alone. */
  know(sound: Sound): void {
    if (this.#sound === sound) return;
    this.#sound = sound;
    this.#prepare();
  }

  /** Fetches ahead what would be heard first, so that it plays at once. */
  #prepare(): void {
    clearTimeout(this.#timer);
    if (this.isPlaying) return;
    this.#timer = setTimeout(() => {
      const sample = Math.round((this.#restMs / 1000) * BLOCK_RATE_HZ);
      // What cannot be had now is asked for again, and told, when it is to be heard.
      void Promise.all([this.#fetch(sample, sample + SLICE_S * 4 * BLOCK_RATE_HZ), this.#makeRoom()]).catch(
        () => undefined
      );
    }, PREPARE_AFTER_MS);
  }

  /** The trim as it is now; what plays goes on where it was in the recording. */
  show(trim: Trim): void {
    if (trim === this.#trim) return;
    const recordedMs = this.#map.recordedAt(this.nowMs);
    const wasMs = this.nowMs;
    this.#trim = trim;
    this.#map = mapOf(trim);
    this.#plan = planSound(trim, BLOCK_RATE_HZ);
    const places = recordedMs === null ? [] : this.#map.trimmedAt(recordedMs);
    const nearest = places.reduce<number | null>(
      (best, ms) => (best === null || Math.abs(ms - wasMs) < Math.abs(best - wasMs) ? ms : best),
      null
    );
    this.seek(nearest ?? nextTrimmed(this.#map, recordedMs, wasMs));
  }

  /** Trimmed ms. */
  get nowMs(): number {
    if (this.#anchor === null || this.#context === null) return Math.min(this.#restMs, this.#map.lengthMs);
    const playedS = Math.max(0, this.#context.currentTime - this.#anchor.atS);
    return Math.min(this.#map.lengthMs, (this.#anchor.sample / BLOCK_RATE_HZ + playedS) * 1000);
  }

  get map(): TrimMap {
    return this.#map;
  }

  toggle(): void {
    if (this.isPlaying) this.pause();
    else void this.play();
  }

  /** From where it stands, or from the beginning where that is the end. `untilMs`: trimmed. */
  async play(untilMs: number | null = null): Promise<void> {
    if (this.#map.lengthMs === 0) return;
    if (this.#restMs >= this.#map.lengthMs - 1) this.#restMs = 0;
    this.#stopMs = untilMs;
    this.isPlaying = true;
    this.failure = null;
    await this.#begin();
  }

  /** A stretch of trimmed time, once. */
  playOnce(fromMs: number, toMs: number): void {
    this.#halt();
    this.#restMs = Math.max(0, fromMs);
    void this.play(Math.min(toMs, this.#map.lengthMs));
  }

  pause(): void {
    this.#restMs = this.nowMs;
    this.#halt();
    this.isPlaying = false;
  }

  seek(trimmedMs: number): void {
    const wasPlaying = this.isPlaying;
    this.#halt();
    this.#restMs = Math.max(0, Math.min(trimmedMs, this.#map.lengthMs));
    if (wasPlaying) void this.#begin();
    else this.#prepare();
  }

  close(): void {
    this.pause();
    void this.#context?.close();
    this.#context = null;
  }

  #halt(): void {
    this.#turn++;
    clearTimeout(this.#timer);
    for (const source of this.#sources) source.stop();
    this.#sources.clear();
    this.#anchor = null;
  }

  async #begin(): Promise<void> {
    const turn = ++this.#turn;
    this.#context ??= new AudioContext({ sampleRate: BLOCK_RATE_HZ });
    const context = this.#context;
    const sample = Math.round((this.#restMs / 1000) * BLOCK_RATE_HZ);
    try {
      if (context.state === 'suspended') await context.resume();
      await this.#fetch(sample, sample + SLICE_S * BLOCK_RATE_HZ);
    } catch (error) {
      if (turn !== this.#turn) return;
      this.failure = messageOf(error);
      return this.pause();
    }
    if (turn !== this.#turn || !this.isPlaying) return;
    this.#anchor = { sample, atS: context.currentTime + LEAD_S };
    this.#scheduled = sample;
    void this.#goOn(turn);
  }

  #hasRoom(from: number, to: number): boolean {
    return this.#plan.segments.some(
      (one) => one.plays === 'room' && one.to > from - one.halfFade && one.from < to + one.halfFade
    );
  }

  async #makeRoom(): Promise<void> {
    if (this.#room !== null || this.#sound === null || !this.#hasRoom(0, this.#plan.length)) return;
    const sound = this.#sound;
    const spans = roomSpans(sound.levels, sound.speech);
    const samples = (ms: number): number => Math.round((ms * BLOCK_RATE_HZ) / 1000);
    const ranges = spans.map(({ startMs, endMs }) => ({ from: samples(startMs), to: samples(endMs) }));
    await Promise.all(ranges.flatMap(blocksOf).map((block) => this.#load(block)));
    this.#room = new Room(
      ranges.map((range) => readBlocks(this.#blocks, range, this.#channels)),
      this.#channels
    );
  }

  async #fetch(from: number, to: number): Promise<void> {
    await Promise.all(
      sourcesFor(this.#plan, from, to)
        .flatMap(blocksOf)
        .map((block) => this.#load(block))
    );
  }

  #load(block: number): Promise<void> {
    const known = this.#blocks.get(block);
    if (known !== undefined) {
      this.#blocks.delete(block);
      this.#blocks.set(block, known);
      return Promise.resolve();
    }
    const fetching =
      this.#fetching.get(block) ??
      api
        .samples(this.#recordingId, block)
        .then((samples) => {
          this.#blocks.set(block, samples);
          const [oldest] = this.#blocks.keys();
          if (this.#blocks.size > MOST_BLOCKS && oldest !== undefined) this.#blocks.delete(oldest);
        })
        .finally(() => this.#fetching.delete(block));
    this.#fetching.set(block, fetching);
    return fetching;
  }

  /** Lays slices end to end until enough lies ahead, and looks again before that is played. */
  async #goOn(turn: number): Promise<void> {
    const context = this.#context!;
    const stopAt = this.#stopMs === null ? this.#plan.length : Math.round((this.#stopMs * BLOCK_RATE_HZ) / 1000);
    const end = Math.min(stopAt, this.#plan.length);
    const step = SLICE_S * BLOCK_RATE_HZ;
    try {
      while (this.#anchor !== null && this.#scheduled < end) {
        const aheadS = this.#timeOf(this.#scheduled) - context.currentTime;
        if (aheadS > AHEAD_S) break;
        const from = this.#scheduled;
        const to = Math.min(end, from + step);
        await this.#fetch(from, to);
        if (this.#hasRoom(from, to)) await this.#makeRoom();
        if (turn !== this.#turn) return;
        // What came too late is laid where it can still be heard, and all behind it.
        const lateS = context.currentTime + 0.01 - this.#timeOf(from);
        if (lateS > 0) this.#anchor = { sample: from, atS: context.currentTime + LEAD_S };
        this.#schedule(from, to);
        this.#scheduled = to;
      }
    } catch (error) {
      if (turn !== this.#turn) return;
      this.failure = messageOf(error);
      return this.pause();
    }
    if (turn !== this.#turn) return;
    if (this.#scheduled >= end && this.nowMs >= (end / BLOCK_RATE_HZ) * 1000 - 5) {
      this.pause();
      return;
    }
    this.#timer = setTimeout(() => void this.#goOn(turn), 100);
  }

  #timeOf(sample: number): number {
    return this.#anchor!.atS + (sample - this.#anchor!.sample) / BLOCK_RATE_HZ;
  }

  #schedule(from: number, to: number): void {
    const context = this.#context!;
    const channels = this.#channels;
    const mixed = mixSound(this.#plan, { from, to }, (range) => readBlocks(this.#blocks, range, channels), {
      room: this.#room ?? new Room([], channels),
      channels
    });
    const buffer = context.createBuffer(channels, to - from, BLOCK_RATE_HZ);
    mixed.forEach((samples, channel) => buffer.copyToChannel(samples as Float32Array<ArrayBuffer>, channel));
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(context.destination);
    source.onended = () => this.#sources.delete(source);
    this.#sources.add(source);
    source.start(this.#timeOf(from));
  }

  /** Keeps the silent picture in step; called once a frame. */
  lead(element: HTMLMediaElement): void {
    const { map } = this;
    const at = map.indexAt(this.nowMs);
    const laid = map.laid[at];
    const recordedMs = map.recordedAt(this.nowMs);
    if (laid === undefined || recordedMs === null || !this.isPlaying || this.#anchor === null) {
      if (!element.paused) element.pause();
      return;
    }
    const wantedS = recordedMs / 1000;
    if (element.paused) void element.play().catch(() => undefined);
    if (Math.abs(element.currentTime - wantedS) > OUT_OF_STEP_S && !element.seeking) element.currentTime = wantedS;
  }
}

/** Where it goes on from a recorded time that plays no more: the nearest later one that does. */
function nextTrimmed({ laid, lengthMs }: TrimMap, recordedMs: number | null, wasMs: number): number {
  if (recordedMs === null) return Math.min(wasMs, lengthMs);
  const later = laid.find(({ fromMs }) => fromMs !== null && fromMs >= recordedMs);
  return later?.startMs ?? lengthMs;
}
