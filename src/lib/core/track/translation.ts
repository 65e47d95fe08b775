/** What cues of a translation keep of their source, and how they are joined. */
import type { CueId } from '../id';
import { joinLines } from './text';
import type { Cue, Translation } from './track';

type Translated = Pick<Cue, 'sourceCueIds' | 'translation'>;

/** What the source of cues said when they were made of it; cues that were one say it once. `null` where nobody knows. */
export function madeFrom(cues: readonly Translated[]): string | null {
  const said = new Map<string, string>();
  for (const { translation, sourceCueIds } of cues)
    if (translation !== null) said.set(`${sourceCueIds.join(' ')} ${translation.sourceText}`, translation.sourceText);
  return said.size === 0 ? null : joinLines([...said.values()]);
}

/** What one cue keeps that stands for several. */
export function joinTranslations(cues: readonly Translated[]): {
  readonly sourceCueIds: readonly CueId[];
  readonly translation: Translation | null;
} {
  const sourceText = madeFrom(cues);
  const states = new Set(cues.map(({ translation }) => translation?.state ?? 'mine'));
  const [only] = states;
  const state = states.size === 1 && only !== undefined ? only : 'mine';
  return {
    sourceCueIds: [...new Set(cues.flatMap((cue) => cue.sourceCueIds))],
    translation: sourceText === null ? null : { state, sourceText }
  };
}
