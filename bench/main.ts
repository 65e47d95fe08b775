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
import { readingRows } from './reading';
import { soundRows } from './sound';
import { trimRows } from './trim';
import { formatTable, type Row } from './table';

const GROUPS: Readonly<Record<string, () => Row[] | Promise<Row[]>>> = {
  core: coreRows,
  check: checkRows,
  formats: formatRows,
  log: logRows,
  look: lookRows,
  library: libraryRows,
  kills: killRows,
  hearing: hearingRows,
  draft: draftRows,
  sound: soundRows,
  reading: readingRows,
  trim: trimRows,
  browser: browserRows
};
const asked = process.argv.slice(2).filter((name) => name in GROUPS);
const rows: Row[] = [];
for (const name of asked.length > 0 ? asked : Object.keys(GROUPS)) rows.push(...(await GROUPS[name]!()));
mkdirSync('bench/results', { recursive: true });
writeFileSync('bench/results/latest.json', `${JSON.stringify({ atMs: Date.now(), rows }, null, 2)}\n`);
console.log(formatTable(rows));
removeFolders();
