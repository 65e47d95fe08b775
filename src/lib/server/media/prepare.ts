/** What every recording needs before it is worked on: its sound decoded once, its levels, its speech map. */
import { open, readFile, writeFile } from 'node:fs/promises';
import { LevelMeter } from '$lib/core/audio';
import { formatClock } from '$lib/core/time';
import { ApiProblem, isDiskFull } from '../problem';
import { DECODED_RATE_HZ, decodeSound, samplesOf, ToolFailure, type PlayableMedia, type SoundSource } from './ffmpeg';
import { runToDone } from '../children';
import { diskFull, makeWhole, type MediaFiles, type PlayedRecording, type SoundFiles } from './files';

/** A frame of the speech map: 512 samples of 16 kHz. */
export const SPEECH_FRAME_MS = 32;

interface PrepareOptions {
  readonly durationMs: number;
  readonly signal: AbortSignal;
  /** 0 to 1. */
  readonly onProgress: (progress: number) => void;
}

/** Decodes the sound and measures its levels; gives the true length in ms. Throws `unsupported_media` or `truncated_media`. */
export async function prepareSound(
  files: MediaFiles,
  recording: PlayedRecording,
  { durationMs, signal, onProgress }: PrepareOptions
): Promise<number> {
  const meter = new LevelMeter(DECODED_RATE_HZ);
  const bytes = await decodeInto(files.played(recording), files.soundPath(recording.id), {
    durationMs,
    signal,
    onProgress,
    onPiece: (samples) => meter.push(samples)
  });
  const decodedMs = Math.round((bytes / 2 / DECODED_RATE_HZ) * 1000);
  if (decodedMs < durationMs - Math.max(1500, durationMs * 0.03)) {
    throw new ApiProblem(
      422,
      'truncated_media',
      `The sound ends at ${formatClock(decodedMs)} of ${formatClock(durationMs)}: the file breaks off. Send the whole file.`
    );
  }
  await makeWhole(files.levelsPath(recording.id), (path) => writeFile(path, meter.finish()));
  return Math.max(durationMs, decodedMs);
}

/** Decodes a sound of a file into a file of samples; gives its bytes. Nothing is left where it fails. Throws `unsupported_media` or `disk_full`. */
export async function decodeInto(
  media: PlayableMedia,
  soundPath: string,
  {
    durationMs,
    signal,
    onProgress,
    onPiece,
    source
  }: PrepareOptions & { readonly source?: SoundSource; readonly onPiece?: (samples: Int16Array) => void }
): Promise<number> {
  let bytes = 0;
  try {
    await makeWhole(soundPath, async (unfinished) => {
      const out = await open(unfinished, 'w');
      try {
        await decodeSound(
          media,
          async (piece) => {
            onPiece?.(samplesOf(piece));
            bytes += piece.length;
            onProgress(Math.min(1, bytes / 2 / DECODED_RATE_HZ / (durationMs / 1000)));
            await out.writeFile(piece);
          },
          { timeoutMs: 120_000 + durationMs, signal, ...(source !== undefined && { source }) }
        );
      } finally {
        await out.close();
      }
    });
  } catch (error) {
    if (isDiskFull(error)) throw diskFull('to decode this file');
    if (error instanceof ToolFailure)
      throw new ApiProblem(
        422,
        'unsupported_media',
        'The sound of this file cannot be decoded; it may be damaged. Export it again and retry.'
      );
    throw error;
  }
  return bytes;
}

/** Computes the speech map in a process of its own and writes it, a byte a frame. */
export const mapSpeech = (
  { soundPath, speechPath }: SoundFiles,
  options: Omit<PrepareOptions, 'durationMs'>
): Promise<void> => makeWhole(speechPath, (path) => runToDone('speech-map', { soundPath, speechPath: path }, options));

/** The speech map as the core takes it. */
export async function loadSpeech(speechPath: string): Promise<{ frameMs: number; probabilities: number[] }> {
  const bytes = await readFile(speechPath);
  return { frameMs: SPEECH_FRAME_MS, probabilities: Array.from(bytes, (byte) => byte / 255) };
}
