/** Can it be seen: contrast with what lies behind it, and room at the picture's edge. */
import { lookOfCue, placementOf } from '../track';
import { defineCheck, type Check } from './check';

const ratio = (value: number): string => `${(Math.floor(value * 10) / 10).toFixed(1)}:1`;

export const pictureChecks: readonly Check[] = [
  defineCheck({
    id: 'contrast',
    group: 'picture',
    title: 'Too little contrast',
    needs: ['contrast'],
    severity: 'error',
    numbers: {
      least: { label: 'At least (large letters two thirds of it)', unit: ': 1', least: 1, most: 21, value: 4.5 }
    },
    look({ cue }, { knowledge, numbers: { least } }) {
      const own = knowledge.contrast!.get(cue.id);
      if (own === undefined) return null;
      const limit = own.isLarge ? (least * 2) / 3 : least;
      return own.worst < limit
        ? {
            value: own.worst,
            limit,
            message: `Contrast is ${ratio(own.worst)} at worst; the least is ${ratio(limit)}.`
          }
        : null;
    }
  }),
  defineCheck({
    id: 'over_lettering',
    group: 'picture',
    title: 'Over lettering of the picture',
    needs: ['contrast'],
    severity: 'hint',
    look: ({ cue }, { knowledge }) =>
      knowledge.contrast!.get(cue.id)?.isOverLettering === true
        ? { message: 'It lies on what seems to be lettering of the picture itself: place it elsewhere.' }
        : null
  }),
  defineCheck({
    id: 'outside',
    group: 'picture',
    title: 'Placed outside the safe margin',
    severity: 'warning',
    look({ cue, words }, { track }) {
      const placement = placementOf(track, cue);
      if (words.length === 0 || typeof placement === 'string') return null;
      const { marginPercent } = lookOfCue(track, cue);
      const edge = Math.min(placement.xPercent, placement.yPercent, 100 - placement.xPercent, 100 - placement.yPercent);
      return edge < marginPercent
        ? {
            ...{ value: Math.round(edge * 10) / 10, limit: marginPercent },
            message: `Placed ${Math.round(edge * 10) / 10} % from the picture's edge; the margin is ${marginPercent} %.`
          }
        : null;
    },
    mend: ({ cue }) => [{ type: 'setCuePlacement', cueId: cue.id, placement: null }]
  })
];
