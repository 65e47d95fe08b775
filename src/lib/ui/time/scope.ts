/** What a change of many cues is for: those chosen where there are several, else the whole track. */
import type { CueId } from '$lib/core/id';
import type { TrackDesk } from '$lib/client/track-desk.svelte';

export const chosenScope = (desk: TrackDesk): ReadonlySet<CueId> | undefined =>
  desk.cues.chosen.length > 1 ? desk.cues.chosenIds : undefined;

export const scopeName = (desk: TrackDesk): string =>
  desk.cues.chosen.length > 1 ? `the ${desk.cues.chosen.length} chosen cues` : 'the whole track';
