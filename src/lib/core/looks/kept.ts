import { z } from 'zod';
import { HOUSE_LOOK, lookSchema, overrideLook, type LookOverrides } from '../track';

/** A look of the house, by its name. */
export const ownLookSchema = z.object({ name: z.string().trim().min(1).max(100), look: lookSchema }).readonly();
export type OwnLook = z.infer<typeof ownLookSchema>;

/** A look that tracks can be given. Each change of one makes a version that no look had before. */
export const keptLookSchema = z
  .object({ ...ownLookSchema.unwrap().shape, version: z.int().min(0), shipped: z.boolean() })
  .readonly();
export type KeptLook = z.infer<typeof keptLookSchema>;

const shipped = (name: string, overrides: LookOverrides): KeptLook => ({
  name,
  look: overrideLook(HOUSE_LOOK, overrides),
  version: 0,
  shipped: true
});

/** For the uses that differ most; what each is for stands in the phrases of Dress. */
export const SHIPPED_LOOKS: readonly KeptLook[] = [
  shipped('Bell tower', {}),
  shipped('Lecture room', {
    face: 'source',
    sizePercent: 5.5,
    weight: 600,
    box: { kind: 'block', color: '#101418', opacity: 0.75, paddingEm: 0.6, roundingEm: 0.35 },
    marginPercent: 4
  }),
  shipped('Carousel', {
    face: 'fredoka',
    weight: 500,
    sizePercent: 9,
    lineSpacing: 1.3,
    color: '#1f2430',
    box: { kind: 'line', color: '#ffe9a8', opacity: 1, paddingEm: 0.5, roundingEm: 0.5 },
    motion: { follow: 'color', followColor: '#b3261e' }
  }),
  shipped('Tall window', {
    face: 'anton',
    weight: 400,
    sizePercent: 5,
    capitals: 'all',
    letterSpacingEm: 0.01,
    lineSpacing: 1.3,
    outline: { color: '#000000', widthEm: 0.09 },
    box: { kind: 'none' },
    placement: { xPercent: 50, yPercent: 68 },
    widestPercent: 80,
    motion: { follow: 'box', followColor: '#7a2e66', come: 'rise', lengthMs: 160 }
  }),
  shipped('Candlelight', {
    face: 'literata',
    weight: 500,
    sizePercent: 5.5,
    color: '#f4ecd8',
    outline: { color: '#14110b', widthEm: 0.045 },
    shadow: { color: '#14110b', xEm: 0, yEm: 0.03, blurEm: 0.12 },
    box: { kind: 'none' },
    motion: { come: 'fade', go: 'fade', lengthMs: 240 }
  }),
  shipped('Lighthouse', {
    face: 'atkinson',
    weight: 800,
    sizePercent: 9,
    color: '#ffee00',
    lineSpacing: 1.3,
    box: { kind: 'block', color: '#000000', opacity: 1, paddingEm: 0.5, roundingEm: 0 }
  })
];
