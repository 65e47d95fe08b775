/** Sounds made while thinking: kept as they were heard, marked, and left out in one go. */
import type { ClientCommand } from '../commands';
import { isSameLanguage, type Track, type Word } from '../track';
import { isHesitation } from '../english';
import { leaveOut } from './repairs';

/** The hesitations of a track in English, shown or left out; of other languages none are known. */
export const hesitationsOf = (track: Track): readonly Word[] =>
  isSameLanguage(track.language, 'en')
    ? track.words.filter((word) => word.kind === 'speech' && isHesitation(word.text))
    : [];

/** The edits that leave all hesitations out; what they leave keeps its capitals and stops. None where none is shown. */
export const leaveOutHesitations = (track: Track): readonly ClientCommand[] => leaveOut(track, hesitationsOf(track));
