/** Where the server listens, and by which names it is reached. */
import { z } from 'zod';

const environment = z.object({
  HOST: z.string().min(1).default('127.0.0.1'),
  PORT: z.coerce.number().int().min(0).max(65_535).default(4173),
  ORIGIN: z.url().optional(),
  VINETAP_PASSPHRASE: z.string().min(8, 'is too short: eight characters at least').optional()
});
export type Address = z.infer<typeof environment>;

/** The address as the environment has it, or in a sentence why no server can start there. */
export function readAddress(given: Readonly<Record<string, string | undefined>>): Address | string {
  const read = environment.safeParse(given);
  if (!read.success)
    return `Vine Tap cannot start: ${read.error.issues.map((issue) => `${issue.path.join('.')} ${issue.message}`).join('; ')}`;
  const { HOST, VINETAP_PASSPHRASE } = read.data;
  const isLoopback = /^(localhost|127(\.\d{1,3}){3}|::1)$/.test(HOST);
  return isLoopback || VINETAP_PASSPHRASE !== undefined
    ? read.data
    : `Vine Tap does not listen on ${HOST} without a passphrase: set VINETAP_PASSPHRASE, or leave HOST out to listen on this machine only.`;
}
