/** Edits that are looked at before they are taken: cues are drawn with them, the track stays as it is. */
import { applyEdits, type ClientEdit } from '$lib/core/edits';
import type { Track } from '$lib/core/track';
import type { Workspace } from './workspace.svelte';

export class Trial {
  readonly #workspace: Workspace;
  /** What is tried, and on which track; an edit meanwhile makes it void. */
  #tried: { readonly edits: readonly ClientEdit[]; readonly on: Track } | null = $state.raw(null);

  constructor(workspace: Workspace) {
    this.#workspace = workspace;
  }

  /** The track with what is tried; `null` while nothing is. */
  readonly track: Track | null = $derived.by(() => {
    const tried = this.#tried;
    if (tried === null || tried.on !== this.#workspace.session.track) return null;
    const applied = applyEdits(tried.on, tried.edits);
    return applied.ok ? applied.value.track : null;
  });

  try(edits: readonly ClientEdit[]): void {
    this.#tried = edits.length === 0 ? null : { edits, on: this.#workspace.session.track };
  }

  leave(): void {
    this.#tried = null;
  }

  /** Makes it the track, as one entry. */
  take(): void {
    const tried = this.#tried;
    if (tried === null || this.track === null) return;
    this.#tried = null;
    if (!this.#workspace.session.edit(...tried.edits))
      this.#workspace.say('The track has changed meanwhile: try it again.');
    else this.#workspace.say('Taken. Undo brings back what was.');
  }
}
