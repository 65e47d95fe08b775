/** Where a cue stands, as its settings say it (WebVTT, §4.4). */
import { placementOf, type Cue, type Look, type Placement, type Track } from '../../track';

/** The settings that put a cue where it stands on the picture; none for the bottom centre, where players put it. */
export const cueSettings = (track: Track, cue: Cue): string =>
  cue.carried?.format === 'vtt'
    ? cue.carried.settings
    : aligned(
        placementSettings(placementOf(track, cue), cue.lineStarts.length + 1),
        cue.look?.align ?? track.look.align
      );

/** Lines that are not centred among each other say so, where their place does not. */
const aligned = (settings: string, align: Look['align']): string =>
  align === 'centre' || settings.includes('align:') ? settings : `${settings} align:${align}`.trim();

/** Height of a line as browsers set it, in per cent of the picture's, where that is wider than high. */
const LINE_PERCENT = 5.8;

/**
 * §4.4: a line and a position that say one of nine points, or the middle of the captions. Browsers put the first line
 * where the middle of all is meant (`line:50%,center`): half of the lines are counted off.
 */
export function placementSettings(placement: Placement, lines = 1): string {
  const topOf = (middle: number): number => Math.max(0, Math.round((middle - (lines * LINE_PERCENT) / 2) * 100) / 100);
  if (typeof placement !== 'string')
    return `line:${topOf(placement.yPercent)}% position:${Math.round(placement.xPercent * 100) / 100}%,center`;
  const [height, side] = placement.split(' ') as ['top' | 'middle' | 'bottom', 'left' | 'centre' | 'right'];
  const line = { top: 'line:0', middle: `line:${topOf(50)}%`, bottom: '' }[height];
  const position = { left: 'position:5% align:start', centre: '', right: 'position:95% align:end' }[side];
  return [line, position].filter((part) => part !== '').join(' ');
}

/** The nearest of the nine points to where settings put a cue; `null` where they say nothing of it. */
export function placementFromSettings(settings: string): Placement | null {
  if (settings === '') return null;
  const value = (name: string): string | undefined => new RegExp(`(?:^|\\s)${name}:([^\\s,]+)`).exec(settings)?.[1];
  const line = value('line');
  const position = value('position');
  const align = value('align');
  if (line === undefined && position === undefined && align === undefined) return null;
  const percent =
    line === undefined
      ? 100
      : line.endsWith('%')
        ? parseFloat(line)
        : Number(line) < 0
          ? 100
          : Number(line) > 9
            ? 100
            : 0;
  const height = percent < 34 ? 'top' : percent < 67 ? 'middle' : 'bottom';
  const across =
    position === undefined
      ? align === 'start' || align === 'left'
        ? 0
        : align === 'end' || align === 'right'
          ? 100
          : 50
      : parseFloat(position);
  const side = across < 34 ? 'left' : across < 67 ? 'centre' : 'right';
  return `${height} ${side}`;
}
