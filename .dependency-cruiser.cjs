/**
 * Which folder may import which, by whatever path it is written, types included: the arrows run routes → ui, client,
 * server → core, and into a folder of the core through its index. Nothing imports itself in a circle.
 */
const { readdirSync } = require('node:fs');

const LAYERS = {
  core: ['core'],
  server: ['server', 'core'],
  client: ['client', 'core'],
  ui: ['ui', 'client', 'core']
};

const TESTS = '([.]test[.]ts$|/testing/)';

const CORE_FOLDERS = readdirSync('src/lib/core', { withFileTypes: true })
  .filter((entry) => entry.isDirectory() && entry.name !== 'testing')
  .map((entry) => entry.name);

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    ...Object.entries(LAYERS).map(([layer, allowed]) => ({
      name: `${layer}-imports-${allowed.join('-and-')}`,
      severity: 'error',
      from: { path: `^src/lib/${layer}/`, pathNot: TESTS },
      to: { path: '^(src|stand-ins|tests|e2e|bench)/', pathNot: `^src/lib/(${allowed.join('|')})/` }
    })),
    ...CORE_FOLDERS.map((folder) => ({
      name: `${folder}-through-its-index`,
      severity: 'error',
      from: { path: '^(src|tests|e2e|bench|stand-ins)/', pathNot: [TESTS, `^src/lib/core/${folder}/`] },
      to: { path: `^src/lib/core/${folder}/`, pathNot: `^src/lib/core/${folder}/index[.]ts$` }
    })),
    {
      name: 'runtime-packages-are-dependencies',
      comment: 'What the server needs while it runs is installed without the development packages too.',
      severity: 'error',
      from: { path: '^src/(lib/(server|core)|processes|hooks)', pathNot: TESTS },
      to: { dependencyTypes: ['npm-dev'], pathNot: '(node_modules/@sveltejs/kit|node_modules/@types/)' }
    }
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      extensions: ['.ts', '.js', '.svelte', '.svelte.ts', '.mjs'],
      conditionNames: ['import', 'node', 'default', 'svelte', 'types']
    }
  }
};
