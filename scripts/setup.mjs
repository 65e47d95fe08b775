/** Brings a fresh machine to where the product can be built, run and tested. Built-ins only: nothing is installed yet. */
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = join(dirname(fileURLToPath(import.meta.url)), '..');

/** For the product itself, and for its tests besides. */
const PACKAGES = {
  run: [
    ...['ffmpeg', 'libpocketsphinx3', 'pocketsphinx-en-us', 'espeak-ng', 'libhunspell-1.7-0'],
    ...['apertium-eng-spa', 'apertium-eng-cat', 'apertium-spa-cat']
  ],
  test: ['chromium', 'flite', 'mediainfo', 'poppler-utils', 'sox']
};

const isInstalled = (name) => {
  const asked = spawnSync('dpkg-query', ['-W', '-f', '${db:Status-Abbrev}', name], { encoding: 'utf8' });
  return asked.status === 0 && asked.stdout.startsWith('ii');
};

/** Without Python, make and a compiler the database cannot be built. */
const TOOLCHAIN = [
  ['python3', 'python3'],
  ['make', 'make'],
  ['g++', 'g++']
];
const isOnPath = (program) => spawnSync(program, ['--version'], { stdio: 'ignore' }).error === undefined;

function installSystemPackages(names) {
  const hasDpkg = spawnSync('dpkg-query', ['--version'], { stdio: 'ignore' }).error === undefined;
  const missingTools = TOOLCHAIN.filter(([program]) => !isOnPath(program)).map(([, name]) => name);
  const missing = [...(hasDpkg ? names.filter((name) => !isInstalled(name)) : []), ...missingTools];
  if (hasDpkg && missing.length === 0) return;
  const command = `apt-get update && apt-get install -y --no-install-recommends ${(hasDpkg ? missing : names).join(' ')}`;
  if (!hasDpkg)
    fail(
      `This is not Debian: install what these packages hold by your system's own means, then run this again: ${names.join(' ')}`
    );
  if (process.getuid?.() !== 0) fail(`Missing: ${missing.join(', ')}. Run as root: ${command}`);
  console.log(`Installing ${missing.join(', ')}`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  execFileSync('apt-get', ['update', '-qq'], { stdio: 'inherit', env });
  execFileSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env
  });
}

function fail(message) {
  console.error(message);
  process.exit(1);
}

const hashOf = (...files) =>
  files.reduce((hash, file) => hash.update(readFileSync(join(root, file))), createHash('sha256')).digest('hex');

/** Installs the npm packages of the lockfile, unless those that are there came of the same one. */
function installNpmPackages() {
  const stamp = join(root, 'node_modules', '.vinetap-setup');
  const wanted = hashOf('package-lock.json');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  const headers = join(dirname(process.execPath), '..', 'include', 'node', 'node.h');
  const env = {
    ...process.env,
    npm_config_build_from_source: 'true',
    // Node's own headers, where they came with it: nothing has to be fetched to compile.
    ...(existsSync(headers) && { npm_config_nodedir: join(dirname(process.execPath), '..') })
  };
  console.log('Installing the npm packages (a few minutes: the database is compiled)');
  const done = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: 'inherit',
    env
  });
  if (done.status !== 0) fail('npm ci failed; what it says above is why.');
  writeFileSync(stamp, wanted);
}

const SOURCES = [
  'src',
  'static',
  'package.json',
  'package-lock.json',
  'svelte.config.js',
  'vite.config.ts',
  'vite.workers.config.ts'
];

/** Builds the product, unless the build that is there came of the same sources. */
export function build() {
  const tree = spawnSync('git', ['ls-files', '-s', '--', ...SOURCES], { cwd: root, encoding: 'utf8' }).stdout;
  const changes = spawnSync('git', ['diff', 'HEAD', '--', ...SOURCES], {
    cwd: root,
    encoding: 'utf8',
    maxBuffer: 1e9
  }).stdout;
  const wanted = createHash('sha256').update(`${process.version}${tree}${changes}`).digest('hex');
  const stamp = join(root, 'build', '.vinetap-build');
  if (tree !== '' && existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  console.log('Building');
  const done = spawnSync('npm', ['run', '--silent', 'build'], { cwd: root, encoding: 'utf8', maxBuffer: 1e8 });
  if (done.status !== 0) fail(`The build failed:\n${done.stdout}\n${done.stderr}`);
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, wanted);
}

/** @param {{ forTests: boolean }} options */
export function setUp({ forTests }) {
  installSystemPackages([...PACKAGES.run, ...(forTests ? PACKAGES.test : [])]);
  installNpmPackages();
}
