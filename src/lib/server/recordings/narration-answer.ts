import type { Narration } from '../store/narrations';
import type { Narrations } from './narrations';

/** As the API shows it. */
export const narrationAnswer = async (narrations: Narrations, narration: Narration) => ({
  ...narration,
  storedBytes: await narrations.storedBytes(narration.id)
});
