/** The server's configuration, from environment variables. */
import { join, resolve } from 'node:path';
import { z } from 'zod';

const environment = z.object({
  VINETAP_DATA: z.string().min(1).default('./data'),
  /** Where the metered service answers; it cannot be chosen where this is left out. */
  VINETAP_METERED_URL: z.url({ protocol: /^https?$/ }).optional(),
  /** Where a video site answers, and the account there; nothing can be published where it is left out. */
  VINETAP_SITE_URL: z.url({ protocol: /^https?$/ }).optional(),
  VINETAP_SITE_USER: z.string().default('merrowby'),
  VINETAP_SITE_SECRET: z.string().default('ring-the-bell'),
  /** Where Apertium keeps what its pairs are made of. */
  VINETAP_APERTIUM_MODES: z.string().min(1).default('/usr/share/apertium/modes'),
  /** One folder for each speech model of the user's own; left out: `models` in the data folder. */
  VINETAP_MODELS: z.string().min(1).optional(),
  VINETAP_SPARE_BYTES: z.coerce.number().min(0).default(200_000_000)
});

/** The folder of the database and the media. */
export const dataFolder = (): string => resolve(environment.parse(process.env).VINETAP_DATA);

export function modelsFolder(): string {
  const { VINETAP_MODELS: models } = environment.parse(process.env);
  return models === undefined ? join(dataFolder(), 'models') : resolve(models);
}

export const meteredUrl = (): string | undefined => environment.parse(process.env).VINETAP_METERED_URL;

export interface SiteAccount {
  readonly url: string;
  readonly user: string;
  readonly secret: string;
}
export function siteAccount(): SiteAccount | null {
  const {
    VINETAP_SITE_URL: url,
    VINETAP_SITE_USER: user,
    VINETAP_SITE_SECRET: secret
  } = environment.parse(process.env);
  return url === undefined ? null : { url, user, secret };
}

export const apertiumModes = (): string => environment.parse(process.env).VINETAP_APERTIUM_MODES;

/** Kept free on the disk of the data folder, so that the database can always write. */
export const spareBytes = (): number => environment.parse(process.env).VINETAP_SPARE_BYTES;

export { version } from '../../../package.json';
