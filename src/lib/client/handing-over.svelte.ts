/** The house's destinations, the one of last time, and bundles for them as downloads. */
import {
  SHIPPED_DESTINATIONS,
  type Destination,
  type KeptDestination,
  type OwnDestination
} from '$lib/core/destinations';
import { slug } from '$lib/core/naming';
import { api, type BundleAsked } from './api';
import { Kept } from './kept.svelte';

export class HandingOver {
  readonly kept: Kept<KeptDestination, OwnDestination> = new Kept({
    shipped: SHIPPED_DESTINATIONS,
    load: async () => {
      const { destinations, last } = await api.destinations();
      this.last = last;
      return destinations;
    },
    save: api.saveDestinations,
    plain: ({ name, destination }) => ({ name, destination })
  });
  /** `null` where nothing was handed over yet. */
  last: Destination | null = $state.raw(null);
  making: AbortController | null = $state.raw(null);

  /** The kept one that is just like this; `null` where it was changed by hand. */
  find(destination: Destination): KeptDestination | null {
    const wanted = JSON.stringify(destination);
    return this.kept.list.find((one) => JSON.stringify(one.destination) === wanted) ?? null;
  }

  /** Saves the bundle; false where somebody has stopped it. */
  async download(asked: BundleAsked): Promise<boolean> {
    const stop = new AbortController();
    this.making = stop;
    try {
      const file = await api.bundle(asked, stop.signal);
      const link = document.createElement('a');
      link.href = URL.createObjectURL(file);
      link.download = `${slug(asked.title) || 'captions'}.zip`;
      link.click();
      URL.revokeObjectURL(link.href);
      this.last = asked.destination;
      return true;
    } catch (error) {
      if (stop.signal.aborted) return false;
      throw error;
    } finally {
      this.making = null;
    }
  }
}
