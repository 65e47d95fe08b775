/** As what Time, Check and Hand over show a track: as it was recorded, or as it is of a trim. */
import type { Track } from '$lib/core/track';
import { mapOf, trimTrack, type Trim } from '$lib/core/trims';
import { api } from '../api';
import type { TrackView } from '../track-view.svelte';

export class SeenAs {
  readonly #view: TrackView;
  /** Of the trim; `null`: as it was recorded. */
  id: string | null = $state(null);
  /** As it was fetched last. */
  trim: Trim | null = $state.raw(null);

  constructor(view: TrackView) {
    this.#view = view;
  }

  async see(id: string | null): Promise<void> {
    this.trim = id === null ? null : (await api.trimDocument(id)).trim;
    this.id = id;
  }

  /** The recording as files of what is seen name it. */
  get recording(): { readonly title: string; readonly formerTitles: readonly string[]; readonly durationMs: number } {
    const { title, durationMs, formerTitles = [] } = this.#view.recording;
    if (this.trim === null) return { title, formerTitles, durationMs };
    return {
      title: `${title} ${this.trim.title}`,
      formerTitles: [...formerTitles, title],
      durationMs: mapOf(this.trim).lengthMs
    };
  }

  readonly track: Track = $derived.by(() =>
    this.trim === null ? this.#view.track : trimTrack(this.#view.track, this.trim).track
  );
}
