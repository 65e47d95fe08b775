/** Pieces of a timeline as OpenTimelineIO writes them (serialized schemas of its core, each with its version). */

const time = (value: number, rate: number) => ({ OTIO_SCHEMA: 'RationalTime.1', rate, value });

/** In pictures, `from` counted from where its medium begins. */
export const range = (from: number, length: number, rate: number) => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: time(from, rate),
  duration: time(length, rate)
});
export type Range = ReturnType<typeof range>;

export const marker = (name: string, at: Range, metadata: object = {}) => ({
  OTIO_SCHEMA: 'Marker.2',
  ...{ metadata, name, color: 'GREEN', marked_range: at, comment: '' }
});

export const gap = (length: number, rate: number) => ({
  OTIO_SCHEMA: 'Gap.1',
  ...{ metadata: {}, name: '', source_range: range(0, length, rate), effects: [], markers: [], enabled: true }
});

export interface ClipParts {
  readonly name: string;
  readonly source: Range;
  /** All that there is of the medium; `null` where a clip stands for text alone. */
  readonly medium: { readonly name: string; readonly available: Range } | null;
  readonly markers?: readonly ReturnType<typeof marker>[];
  readonly metadata?: object;
}
export const clip = ({ name, source, medium, markers = [], metadata = {} }: ClipParts) => ({
  OTIO_SCHEMA: 'Clip.1',
  ...{ metadata, name, source_range: source, effects: [], markers, enabled: true },
  media_reference: {
    OTIO_SCHEMA: 'MissingReference.1',
    ...{ metadata: {}, name: medium?.name ?? '', available_range: medium?.available ?? null }
  }
});

export type Item = ReturnType<typeof gap> | ReturnType<typeof clip>;

export const track = (name: string, kind: 'Video' | 'Audio', children: readonly Item[]) => ({
  OTIO_SCHEMA: 'Track.1',
  ...{ metadata: {}, name, source_range: null, effects: [], markers: [], enabled: true, children, kind }
});

export const timeline = (
  name: string,
  start: { readonly pictures: number; readonly rate: number },
  tracks: readonly ReturnType<typeof track>[]
) => ({
  OTIO_SCHEMA: 'Timeline.1',
  ...{ metadata: {}, name, global_start_time: time(start.pictures, start.rate) },
  tracks: {
    OTIO_SCHEMA: 'Stack.1',
    ...{ metadata: {}, name: 'tracks', source_range: null, effects: [], markers: [], enabled: true, children: tracks }
  }
});
