/** Scripts in languages that no engine hears: read aloud by a synthesiser, and the reading laid on the speech. */
import { withoutForms, type FittedWord, type ScriptWord } from '$lib/core/fitting';
import type { Span } from '$lib/core/time';
import { primarySubtag } from '$lib/core/track';
import { Child, failureOf } from '../../children';
import { runTool } from '../../media/ffmpeg';
import { ApiProblem } from '../../problem';
import type { EngineFacts } from '../recogniser';
import { readingSaid, type ReadingSaid } from './messages';

export const READING_ENGINE_ID = 'script-by-reading';

/** As `strangeness` of the core has it: of other words there were 0.91 and more, of the right ones 0.87 and less. */
const STRANGE_FROM = 0.89;

/** The synthesiser's own names for languages that BCP 47 names otherwise. */
const VOICES: Readonly<Record<string, string>> = { zh: 'cmn', no: 'nb', 'zh-hk': 'yue', 'zh-yue': 'yue' };

/** The voices that read a language (a tag in small letters), the closest first. */
const voicesFor = (tag: string): readonly string[] => {
  const primary = primarySubtag(tag);
  return [tag, VOICES[tag], primary, VOICES[primary]].filter((voice) => voice !== undefined);
};

let known: Promise<EngineFacts> | undefined;

/** The languages are those of the synthesiser's voices. */
export function readingFacts(): Promise<EngineFacts> {
  const about = {
    id: READING_ENGINE_ID,
    name: 'A script laid on the sound by a synthesised reading',
    kind: 'local',
    hears: false,
    fits: true,
    sendsSound: false
  } as const;
  known ??= runTool('espeak-ng', ['--voices'], { timeoutMs: 20_000, maxBytes: 1_000_000 }).then(
    ({ stdout }) => {
      const tags = stdout
        .split('\n')
        .flatMap((line) => /^\s*\d+\s+([a-z]{2,3}(?:-[a-z0-9]+)*)\s/.exec(line)?.[1] ?? []);
      const also = Object.keys(VOICES).filter((tag) => tags.includes(VOICES[tag]!));
      return { ...about, available: true, languages: [...new Set([...tags, ...also])] };
    },
    () => {
      known = undefined;
      return {
        ...about,
        available: false,
        languages: [],
        reason: 'The speech synthesiser is not on this machine: install the package espeak-ng.'
      };
    }
  );
  return known;
}

/** Lays the script's words on the speech. Throws `script_not_spoken`; rejects when aborted. */
export async function fitByReading(
  script: readonly ScriptWord[],
  request: {
    readonly soundPath: string;
    readonly regions: readonly Span[];
    /** BCP 47. */
    readonly language: string;
    readonly signal: AbortSignal;
    /** 0 to 1. */
    readonly onProgress: (progress: number) => void;
  }
): Promise<readonly FittedWord[]> {
  const { soundPath, regions, language, signal, onProgress } = request;
  signal.throwIfAborted();
  let laid: Extract<ReadingSaid, { type: 'laid' }> | null = null;
  const reader = Child.program('reading', {
    signal,
    said: {
      schema: readingSaid,
      take: (said) => {
        if (said.type === 'progress') return onProgress(said.progress);
        if (said.type === 'unable')
          throw new ApiProblem(503, 'engine_unavailable', `The script cannot be read aloud: ${said.reason}.`);
        laid = said;
        reader.end();
      }
    }
  });
  const tag = language.toLowerCase();
  const words = script.map(({ text, spaceBefore }) => ({ text, spaceBefore }));
  reader.send({ voices: voicesFor(tag), words, soundPath, regions });
  const end = await reader.ended;
  const done = laid as Extract<ReadingSaid, { type: 'laid' }> | null;
  if (done === null) throw failureOf('the reading process', end);
  if (done.strangeness > STRANGE_FROM)
    throw new ApiProblem(
      422,
      'script_not_spoken',
      'Read aloud, the script does not sound like this recording: it seems to be of another one, or in another language.'
    );
  return done.words.map((word, at) => ({ ...withoutForms(script[at]!), ...word }));
}
