/** `npm test`: everything there is to run, from a fresh machine on; closes with one line that sums both runners. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build, root, setUp } from './setup.mjs';

setUp({ forTests: true });

const reports = mkdtempSync(join(tmpdir(), 'vinetap-test-'));
let passed = 0;
let failed = 0;

const run = (command, args, env = {}) =>
  spawnSync(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } }).status === 0;

/** Checks of the code itself count as one test each. */
for (const [name, args] of [
  ['types', ['run', '--silent', 'check']],
  ['lint', ['run', '--silent', 'lint']],
  ['imports', ['run', '--silent', 'imports']]
]) {
  console.log(`\n== ${name}`);
  if (run('npm', args)) passed++;
  else failed++;
}

console.log('\n== build');
build();

console.log('\n== units and server');
const unitReport = join(reports, 'unit.json');
const unitsPass = run('npx', [
  'vitest',
  'run',
  '--reporter=default',
  '--reporter=json',
  `--outputFile.json=${unitReport}`
]);
const units = readReport(unitReport);
passed += units?.numPassedTests ?? 0;
failed += units === null ? 1 : units.numFailedTests + units.numPendingTests;
if (!unitsPass && units !== null && units.numFailedTests === 0) failed++;

console.log('\n== the application in Chromium');
const storyReport = join(reports, 'stories.json');
const storiesPass = run('npx', ['playwright', 'test'], { PLAYWRIGHT_JSON_OUTPUT_NAME: storyReport });
const stories = readReport(storyReport)?.stats;
passed += stories?.expected ?? 0;
// A skipped test has proved nothing: it counts as failed.
failed += stories === undefined ? 1 : stories.unexpected + stories.skipped + stories.flaky;
if (!storiesPass && stories !== undefined && stories.unexpected + stories.skipped + stories.flaky === 0) failed++;

rmSync(reports, { recursive: true });
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 && passed > 0 ? 0 : 1);

function readReport(path) {
  try {
    return JSON.parse(readFileSync(path, 'utf8'));
  } catch {
    // A runner that wrote no report has failed as a whole.
    return null;
  }
}
