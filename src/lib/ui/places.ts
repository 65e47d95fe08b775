/** What the frame shows around each place's surface. A new place is one entry here and one in `client/places`. */
import type { Component } from 'svelte';
import type { CommandId, Place } from '$lib/client/keys/commands';
import CheckPanel from './check/Panel.svelte';
import Below from './dress/Below.svelte';
import Mover from './dress/Mover.svelte';
import ReadFoot from './read/Foot.svelte';
import ReadPanel from './read/Panel.svelte';
import Repairs from './read/Repairs.svelte';
import TimeFoot from './time/Foot.svelte';
import TimePanel from './time/Panel.svelte';
import Strip from './time/Strip.svelte';
import TranslatePanel from './translate/Panel.svelte';
import TrimPanel from './trim/Panel.svelte';
import TrimStrip from './trim/Strip.svelte';

type Acting = Component<{ onCommand: (id: CommandId) => void }>;

export interface PlaceParts {
  /** Above the surface. */
  readonly Strip: Acting | null;
  /** Beside it, under the picture. */
  readonly Panel: Acting | null;
  /** At the end of the transport. */
  readonly Foot: Component;
  /** Over the picture. */
  readonly OnPicture: Component | null;
  /** Under it, where it stands large. */
  readonly Below: Component | null;
  /** The picture is what is worked on, and stands large. */
  readonly isWide: boolean;
}

export const PLACE_PARTS: Readonly<Record<Exclude<Place, 'hear'>, PlaceParts>> = {
  read: { Strip: Repairs, Panel: ReadPanel, Foot: ReadFoot, OnPicture: null, Below: null, isWide: false },
  time: { Strip, Panel: TimePanel, Foot: TimeFoot, OnPicture: null, Below: null, isWide: false },
  trim: { Strip: TrimStrip, Panel: TrimPanel, Foot: ReadFoot, OnPicture: null, Below: null, isWide: false },
  dress: { Strip: null, Panel: null, Foot: ReadFoot, OnPicture: Mover, Below, isWide: true },
  translate: { Strip: null, Panel: TranslatePanel, Foot: ReadFoot, OnPicture: null, Below: null, isWide: false },
  check: { Strip: null, Panel: CheckPanel, Foot: ReadFoot, OnPicture: null, Below: null, isWide: false },
  'hand-over': { Strip: null, Panel: null, Foot: ReadFoot, OnPicture: null, Below: null, isWide: false }
};
