/** `npm run demo`: everything from a fresh machine to the running application with the demo's recordings. */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { build, root, setUp } from './setup.mjs';

setUp({ forTests: false });
build();

const env = { ...process.env, VINETAP_DATA: resolve(process.env.VINETAP_DATA ?? join(root, 'data')) };
if (!existsSync(join(env.VINETAP_DATA, 'vinetap.sqlite'))) {
  console.log('Bringing in the demo recordings');
  const seeded = spawnSync(process.execPath, [join(root, 'build', 'seed.js'), join(root, 'demo')], {
    stdio: 'inherit',
    env
  });
  if (seeded.status !== 0) process.exit(seeded.status ?? 1);
}
const SERVICE_PORT = process.env.VINETAP_SERVICE_PORT ?? '4180';
env.VINETAP_METERED_URL ??= `http://127.0.0.1:${SERVICE_PORT}`;
const service = spawn(process.execPath, [join(root, 'build', 'metered-service.js')], {
  stdio: 'inherit',
  env: { ...env, VINETAP_SERVICE_PORT: SERVICE_PORT, VINETAP_SERVICE_DATA: join(env.VINETAP_DATA, 'metered-service') }
});
const SITE_PORT = process.env.VINETAP_SITE_PORT ?? '4181';
env.VINETAP_SITE_URL ??= `http://127.0.0.1:${SITE_PORT}`;
const site = spawn(process.execPath, [join(root, 'build', 'video-site.js')], {
  stdio: 'inherit',
  env: {
    ...env,
    VINETAP_SITE_PORT: SITE_PORT,
    VINETAP_SITE_DATA: join(env.VINETAP_DATA, 'video-site'),
    VINETAP_SITE_MEDIA: join(root, 'demo', 'media')
  }
});
const server = spawn(process.execPath, [join(root, 'build')], { stdio: 'inherit', env });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.once('close', (code) => {
  service.kill();
  site.kill();
  process.exit(code ?? 0);
});
