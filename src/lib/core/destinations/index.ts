/** Receivers of a house's files: in which formats, with what said, under which names, checked by which sheet. */
import { z } from 'zod';
import { exportOptionsSchema, FORMATS, type ExportOptions, type FormatId } from '../formats';
import { namingSchema, USUAL_NAMING } from '../naming';

const formatSchema = z.enum(FORMATS.map(({ id }) => id) as [FormatId, ...FormatId[]]);

export const destinationSchema = z
  .object({
    /** Each once; with those options that differ from what is usual. */
    formats: z
      .array(z.object({ format: formatSchema, options: exportOptionsSchema.unwrap().partial() }).readonly())
      .min(1)
      .max(FORMATS.length)
      .refine((formats) => new Set(formats.map(({ format }) => format)).size === formats.length, {
        message: 'a format may stand there once'
      })
      .readonly(),
    naming: namingSchema,
    /** By its name; `null`: whichever the track has. */
    sheet: z.string().min(1).max(100).nullable()
  })
  .readonly();
export type Destination = z.infer<typeof destinationSchema>;

export const ownDestinationSchema = z
  .object({ name: z.string().trim().min(1).max(80), destination: destinationSchema })
  .readonly();
export type OwnDestination = z.infer<typeof ownDestinationSchema>;

export const keptDestinationSchema = z
  .object({ ...ownDestinationSchema.unwrap().shape, version: z.int().min(0), shipped: z.boolean() })
  .readonly();
export type KeptDestination = z.infer<typeof keptDestinationSchema>;

const shipped = (
  name: string,
  formats: readonly (readonly [FormatId, Partial<ExportOptions>])[],
  more: Partial<Destination> = {}
): KeptDestination => ({
  ...{ name, version: 0, shipped: true },
  destination: {
    formats: formats.map(([format, options]) => ({ format, options })),
    ...{ naming: USUAL_NAMING, sheet: null, ...more }
  }
});

export const SHIPPED_DESTINATIONS: readonly KeptDestination[] = [
  shipped('A web site', [
    ['vtt', {}],
    ['html', {}]
  ]),
  shipped('A streaming service', [['ttml', {}]], { sheet: 'Broadcast' }),
  shipped('A broadcaster', [['ebu-tt-d', {}]], { sheet: 'Broadcast' }),
  shipped('Whoever asks', [
    ['srt', {}],
    ['vtt', {}],
    ['pdf', {}]
  ]),
  shipped('Our own shelf', [
    ['json', {}],
    ['vtt', {}]
  ])
];
