/** What a change of many cues is for: those chosen where there are several, else the whole track. */
import type { Workspace } from '$lib/client/workspace.svelte';

export const chosenScope = (workspace: Workspace): ReadonlySet<string> | undefined =>
  workspace.cues.chosen.length > 1 ? workspace.cues.chosenIds : undefined;

export const scopeName = (workspace: Workspace): string =>
  workspace.cues.chosen.length > 1 ? `the ${workspace.cues.chosen.length} chosen cues` : 'the whole track';
