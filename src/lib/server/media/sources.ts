/** Which sound of a recording is heard: a stream of its file, a channel of it, as it is or cleaned. */
import { existsSync } from 'node:fs';
import { z } from 'zod';
import { LevelMeter, waveHead } from '$lib/core/audio';
import type { Span } from '$lib/core/time';
import { notFound } from '../problem';
import { runToDone } from '../children';
import { DECODED_RATE_HZ, decodeSound, FIRST_SOURCE, probe, samplesOf, type SoundSource } from './ffmpeg';
import { makeWhole, type MediaFiles, type PlayedRecording, type SoundFiles } from './files';
import { decodeInto, mapSpeech } from './prepare';

export const sourceSchema = z.object({ stream: z.int().min(0).max(63), channel: z.int().min(0).max(15).nullable() });

export interface ListedSource extends SoundSource {
  readonly name: string;
}

/** As paths and files name it: `1-0` is the second stream's first channel, `0-all` the first stream. */
const sourceName = ({ stream, channel }: SoundSource): string => `${stream}-${channel ?? 'all'}`;

const SIDES: Readonly<Record<number, readonly string[]>> = { 2: ['left', 'right'] };

/** Every stream of the file, and where it has more than one channel, every channel. */
export async function listSources(files: MediaFiles, id: string): Promise<ListedSource[]> {
  const { streams } = await probe(files.mediaPath(id));
  const sounds = streams.filter((stream) => stream.codec_type === 'audio');
  return sounds.flatMap(({ channels = 1, tags }, stream) => {
    const own = [tags?.title, tags?.language === 'und' ? undefined : tags?.language].filter((text) => text).join(', ');
    const prefix = sounds.length === 1 ? '' : `Stream ${stream + 1}${own === '' ? '' : ` (${own})`}`;
    const name = (text: string): string => {
      const whole = prefix === '' ? text : `${prefix}, ${text}`;
      return whole[0]!.toUpperCase() + whole.slice(1);
    };
    const one = (channel: number): string => SIDES[channels]?.[channel] ?? `channel ${channel + 1}`;
    return [
      { stream, channel: null, name: name(channels === 1 ? 'its one channel' : 'all channels together') },
      ...(channels === 1
        ? []
        : Array.from({ length: channels }, (_, channel) => ({ stream, channel, name: name(one(channel)) })))
    ];
  });
}

/** What else is in the sound; it is taken from under the voices in the same way, whatever it is. */
export type Background = 'music' | 'noise';

export interface WantedSound {
  readonly source: SoundSource | null;
  /** What is taken from under the voices first; `null`: the sound is heard as it is. */
  readonly background: Background | null;
}

interface Progress {
  readonly durationMs: number;
  readonly signal: AbortSignal;
  readonly tell: (stage: string, progress: number) => void;
}

/** The files of the sound that is wanted, made where they are not there yet; they stay with the recording. */
export async function prepareWanted(
  files: MediaFiles,
  recording: PlayedRecording,
  { source, background }: WantedSound,
  { durationMs, signal, tell }: Progress
): Promise<SoundFiles> {
  const { id } = recording;
  const isFirst = source === null || (source.stream === FIRST_SOURCE.stream && source.channel === null);
  const name = isFirst ? 'main' : `stream-${sourceName(source)}`;
  const raw = isFirst ? files.mainSound(id) : files.otherSound(id, name);
  if (!existsSync(raw.soundPath))
    await decodeInto(files.played(recording), raw.soundPath, {
      durationMs,
      signal,
      source: source ?? FIRST_SOURCE,
      onProgress: (progress) => tell('reading the channel', progress)
    });
  const wanted = background === null ? raw : files.otherSound(id, `${name}-cleaned`);
  if (background !== null && !existsSync(wanted.soundPath))
    await makeWhole(wanted.soundPath, (cleanPath) =>
      runToDone(
        'clean',
        { soundPath: raw.soundPath, cleanPath },
        { signal, onProgress: (progress) => tell('cleaning the sound', progress) }
      )
    );
  if (!existsSync(wanted.speechPath))
    await mapSpeech(wanted, { signal, onProgress: (progress) => tell('finding the dialogue', progress) });
  return wanted;
}

/** A source by its name in a path. Throws `unknown_source`. */
export async function sourceFromPath(files: MediaFiles, id: string, name: string): Promise<SoundSource> {
  const sources = await listSources(files, id);
  const found = sources.find((source) => sourceName(source) === name);
  if (found === undefined) throw notFound('source', name);
  return { stream: found.stream, channel: found.channel };
}

/** Throws `unknown_source` where the file has no such stream or channel. */
export async function checkSource(files: MediaFiles, id: string, source: SoundSource): Promise<void> {
  await sourceFromPath(files, id, sourceName(source));
}

/** The levels of a source, in the form of the recording's. */
export async function levelsOfSource(
  files: MediaFiles,
  recording: PlayedRecording,
  source: SoundSource,
  { durationMs, signal }: { readonly durationMs: number; readonly signal: AbortSignal }
): Promise<Uint8Array> {
  const meter = new LevelMeter(DECODED_RATE_HZ);
  await decodeSound(files.played(recording), (piece) => meter.push(samplesOf(piece)), {
    timeoutMs: 120_000 + durationMs,
    signal,
    source
  });
  return meter.finish();
}

/** A stretch of a source as a WAV file (RIFF, 16-bit PCM). */
export async function sampleOfSource(
  files: MediaFiles,
  recording: PlayedRecording,
  source: SoundSource,
  { stretch, signal }: { readonly stretch: Span; readonly signal: AbortSignal }
): Promise<Buffer> {
  const pieces: Buffer[] = [];
  await decodeSound(files.played(recording), (piece) => void pieces.push(Buffer.from(piece)), {
    timeoutMs: 120_000,
    signal,
    source,
    stretch
  });
  const samples = Buffer.concat(pieces);
  return Buffer.concat([waveHead(samples.length, DECODED_RATE_HZ), samples]);
}
