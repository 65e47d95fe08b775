import type { Spot } from '$lib/core/track';

export interface Snapped {
  readonly spot: Spot;
  /** Lines it has come to lie on, in hundredths of the picture; `null` for none. */
  readonly lineX: number | null;
  readonly lineY: number | null;
}

/** Within so many hundredths of the picture a line draws the captions to it. */
const REACH = 1.2;
const THIRDS = [100 / 3, 50, 200 / 3];

interface Around {
  /** The captions' frame, in hundredths of the picture. */
  readonly frame: { readonly width: number; readonly height: number };
  readonly marginPercent: number;
  /** Nothing draws them. */
  readonly isFree: boolean;
}

/** Where captions come to lie whose middle was dragged to `asked`: on a third, the centre or a margin that is near. */
export function snapSpot(asked: Spot, { frame, marginPercent, isFree }: Around): Snapped {
  const x = snapTo(asked.xPercent, frame.width, marginPercent, isFree);
  const y = snapTo(asked.yPercent, frame.height, marginPercent, isFree);
  return { spot: { xPercent: x.at, yPercent: y.at }, lineX: x.line, lineY: y.line };
}

function snapTo(
  asked: number,
  length: number,
  margin: number,
  isFree: boolean
): { readonly at: number; readonly line: number | null } {
  const round = (value: number): number => Math.min(100, Math.max(0, Math.round(value * 100) / 100));
  const lines = [
    ...THIRDS.map((line) => ({ line, at: line })),
    { line: margin, at: margin + length / 2 },
    { line: 100 - margin, at: 100 - margin - length / 2 }
  ];
  const near = isFree ? undefined : lines.find(({ at }) => Math.abs(at - asked) <= REACH);
  return near === undefined ? { at: round(asked), line: null } : { at: round(near.at), line: near.line };
}
