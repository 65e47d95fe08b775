/** The server's configuration, from environment variables. */
import { resolve } from 'node:path';
import { z } from 'zod';

const environment = z.object({
  VINETAP_DATA: z.string().min(1).default('./data'),
  /** Where the metered service answers; it cannot be chosen where this is left out. */
  VINETAP_METERED_URL: z.url({ protocol: /^https?$/ }).optional(),
  VINETAP_SPARE_BYTES: z.coerce.number().min(0).default(200_000_000)
});

/** The folder of the database and the media. */
export const dataFolder = (): string => resolve(environment.parse(process.env).VINETAP_DATA);

export const meteredUrl = (): string | undefined => environment.parse(process.env).VINETAP_METERED_URL;

/** Kept free on the disk of the data folder, so that the database can always write. */
export const spareBytes = (): number => environment.parse(process.env).VINETAP_SPARE_BYTES;

export { version } from '../../../package.json';
