/** Names of files that go out: the recording's title, the track's own name and the language, as any system takes them. */
import { slug } from '../naming';

interface NamedTrack {
  readonly id: string;
  readonly language: string;
  readonly title: string;
}

/** What a recording is called, and was called before. */
export interface TitledRecording {
  readonly title: string;
  readonly formerTitles?: readonly string[] | undefined;
}

/** The name somebody gave the track; empty where it has one of its recording's. */
export const ownTrackName = (
  track: Pick<NamedTrack, 'title'>,
  { title, formerTitles = [] }: TitledRecording
): string => (track.title === title || formerTitles.includes(track.title) ? '' : track.title);

/**
 * `Winding the Merrowby clock`, a track in `en`, `srt` → `winding-the-merrowby-clock.en.srt`; with the track's own name,
 * and with a number where another of the recording's `tracks` before it would be called the same.
 */
export function exportFileName(
  recording: TitledRecording,
  track: NamedTrack,
  tracks: readonly NamedTrack[],
  extension: string
): string {
  const nameOf = (one: NamedTrack): string =>
    [slug(recording.title) || 'captions', slug(ownTrackName(one, recording)), one.language]
      .filter((part) => part !== '')
      .join('.');
  const name = nameOf(track);
  const at = tracks.findIndex(({ id }) => id === track.id);
  const before = at < 0 ? tracks : tracks.slice(0, at);
  const count = before.filter((one) => nameOf(one) === name).length + 1;
  return count === 1
    ? `${name}.${extension}`
    : `${name.slice(0, -track.language.length)}${count}.${track.language}.${extension}`;
}

/**
 * The language that a file is named after: `talk.it.srt` → `it`, `talk_pt-BR.vtt` → `pt-BR`, `talk (eng).srt` → `en`;
 * `null` where its name says none. BCP 47; three letters count where the language has two as well.
 */
export function languageOfFileName(name: string): string | null {
  const stem = name.replace(/\.[^.]*$/, '');
  const found = /(?:[._]|[\s_-]?[([])([a-z]{2,3}(?:[-_][a-z]{4})?(?:[-_](?:[a-z]{2}|\d{3}))?)[)\]]?$/i.exec(stem)?.[1];
  if (found === undefined) return null;
  try {
    const tag = Intl.getCanonicalLocales(found.replaceAll('_', '-'))[0]!;
    const { language } = new Intl.Locale(tag);
    const isKnown =
      language.length === 2 &&
      new Intl.DisplayNames('en', { type: 'language', fallback: 'none' }).of(tag) !== undefined;
    return isKnown ? tag : null;
  } catch {
    return null;
  }
}
