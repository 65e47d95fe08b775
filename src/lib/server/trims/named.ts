import type { Trim } from '$lib/core/trims';
import type { Recording } from '../store/recordings';

/** A recording under the name that files of a trim of it have. Tracks that are called as it is still have no name of their own. */
export const trimmedName = <R extends Pick<Recording, 'title' | 'formerTitles'>>(
  recording: R,
  { title }: Pick<Trim, 'title'>
): R => ({
  ...recording,
  title: `${recording.title} ${title}`,
  formerTitles: [...recording.formerTitles, recording.title]
});
