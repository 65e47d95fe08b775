/** `npm run bench`, or `npm run bench core hearing`: a table, and the same as JSON in bench/results/latest.json. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { removeFolders } from '../tests/server/harness';
import { browserRows } from './browser';
import { checkRows } from './check';
import { coreRows } from './core';
import { draftRows } from './draft';
import { formatRows } from './formats';
import { hearingRows } from './hearing';
import { killRows } from './kills';
import { libraryRows } from './library';
import { logRows } from './log';
import { lookRows } from './look';
import { narrateRows } from './narrate';
import { readingRows } from './reading';
import { soundRows } from './sound';
import { translateRows } from './translate';
import { trimParts } from './trim';
import { formatTable, type Row } from './table';

type Part = () => Row[] | Promise<Row[]>;
const GROUPS: Readonly<Record<string, readonly Part[]>> = {
  core: [coreRows],
  check: [checkRows],
  formats: [formatRows],
  log: [logRows],
  look: [lookRows],
  library: [libraryRows],
  kills: [killRows],
  hearing: [hearingRows],
  draft: [draftRows],
  sound: [soundRows],
  reading: [readingRows],
  trim: trimParts,
  narrate: [narrateRows],
  translate: [translateRows],
  browser: [browserRows]
};
const asked = process.argv.slice(2).filter((name) => name in GROUPS);
const rows: Row[] = [];
for (const part of (asked.length > 0 ? asked : Object.keys(GROUPS)).flatMap((name) => GROUPS[name]!)) {
  const made = await part();
  rows.push(...made);
  // What is measured is shown, whatever becomes of the rest.
  console.log(formatTable(made));
}
mkdirSync('bench/results', { recursive: true });
writeFileSync('bench/results/latest.json', `${JSON.stringify({ atMs: Date.now(), rows }, null, 2)}\n`);
removeFolders();
