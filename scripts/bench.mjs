/** `npm run bench`: measures the built product; see bench/main.ts. */
import { spawnSync } from 'node:child_process';
import { build, root, setUp } from './setup.mjs';

setUp({ forTests: true });
build();
for (const [command, args] of [
  ['npx', ['vite', 'build', '--config', 'vite.bench.config.ts', '--logLevel', 'error']],
  [process.execPath, ['.svelte-kit/bench/main.js', ...process.argv.slice(2)]]
]) {
  const done = spawnSync(command, args, { cwd: root, stdio: 'inherit' });
  if (done.status !== 0) process.exit(done.status ?? 1);
}
