import fc from 'fast-check';
import { expect, test } from 'vitest';
import { paperSchema, textOf, type Paper, type Part } from '../paper';
import { anyTrack } from '../testing/any-track';
import { changesSince } from '../compare';
import type { Track } from '../track';
import {
  checkTrack,
  CHECKS,
  knowOnly,
  reportPaper,
  SHIPPED_SHEETS,
  tellSheet,
  type KeptSheet,
  type ReportRequest
} from '.';

const request = (track: Track, more: Partial<ReportRequest> = {}): ReportRequest => {
  const knowledge = knowOnly(20_000);
  return {
    ...{ recording: { title: 'Tower', durationMs: 20_000 }, track, revision: 3, sheet: {}, sheetName: 'Web video' },
    ...{
      knowledge,
      report: checkTrack(track, knowledge),
      accepted: new Map(),
      sinceDraft: changesSince(track, track)
    },
    ...{ handedOver: [], fileVersion: 2, atMs: Date.UTC(2026, 4, 6, 7, 8), version: '1.2.3', ...more }
  };
};
type Table = Extract<Part, { kind: 'table' }>;
const rowsOf = ({ parts }: Paper, name: string): Table['rows'] =>
  parts.find((part): part is Table => part.kind === 'table' && part.name === name)?.rows ?? [];

test('every finding stands in it once, left or let stand, and every check is told of', () => {
  fc.assert(
    fc.property(anyTrack, fc.nat(5), (track, every) => {
      const { report } = request(track);
      const accepted = new Map(
        report.findings.filter((_, at) => at % 6 === every).map(({ key }) => [key, `for ${key}`])
      );
      const paper = reportPaper(request(track, { accepted }));
      expect(paperSchema.safeParse(paper).success).toBe(true);
      const stands = report.findings.filter(({ key }) => accepted.has(key));
      expect(rowsOf(paper, 'Let stand').map((row) => textOf(row[3]!))).toEqual(
        stands.map(({ key }) => accepted.get(key))
      );
      expect(rowsOf(paper, 'Left')).toHaveLength(report.findings.length - stands.length);
      const told = ['Words', 'Reading', 'Timing', 'Picture', 'Sound', 'File'].flatMap((group) => rowsOf(paper, group));
      expect(told.map(([title]) => title).sort()).toEqual(CHECKS.map(({ title }) => title).sort());
    }),
    { numRuns: 60 }
  );
});

test('what was handed over is told with its hash, and whether it is the version that was checked', () => {
  const [track] = fc.sample(anyTrack, 1);
  const file = { name: 'tower.en.srt', format: 'srt', bytes: 1200, sha256: 'ab12', atMs: Date.UTC(2026, 0, 2, 3, 4) };
  const paper = reportPaper(
    request(track!, {
      handedOver: [
        { version: 2, revision: 3, files: [file] },
        { version: 1, revision: 1, files: [file] }
      ]
    })
  );
  expect(rowsOf(paper, 'Files, with the SHA-256 of each')).toEqual([
    ['tower.en.srt, 1200 bytes', '2, the one checked', '2026-01-02 03:04 UTC', 'ab12'],
    ['tower.en.srt, 1200 bytes', '1, not the one checked', '2026-01-02 03:04 UTC', 'ab12']
  ]);
  expect(JSON.stringify(paper)).toContain('2026-05-06 07:08 UTC, by Vine Tap 1.2.3');
});

test('a sheet is told by its name and version, and as changed where it is', () => {
  const own: KeptSheet = { name: 'Museum', sheet: { title: { severity: 'off' } }, version: 4, shipped: false };
  const tell = (sheet: Track['sheet'], sheetFrom: Track['sheetFrom']): string =>
    tellSheet({ sheet, sheetFrom }, [...SHIPPED_SHEETS, own]);
  expect(tell({}, null)).toBe('Web video');
  expect(tell({ title: { severity: 'off' } }, null)).toBe('Web video, changed on this track');
  expect(tell(own.sheet, { name: 'Museum', version: 4 })).toBe('Museum, version 4');
  expect(tell({}, { name: 'Museum', version: 4 })).toBe('Museum, version 4, changed on this track');
  expect(tell({}, { name: 'Museum', version: 2 })).toBe('Museum, version 2, as it was then');
  expect(tell({}, { name: 'Gone', version: 2 })).toBe('Gone, version 2, as it was then');
});
