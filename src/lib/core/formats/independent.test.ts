/** What is written, for tracks of any text, read by readers that are not ours. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import webvtt from 'node-webvtt';
import { parseSync } from 'subtitle';
import { afterAll, expect, test } from 'vitest';
import { nastyTrack } from '../testing/caption-files';
import { trackOfLines } from '../testing/fonts';
import { markedLines, plainLines, type Track } from '../track';
import { formatCsv, formatScc, formatSrt, formatStl, formatWebVtt, USUAL_OPTIONS } from '.';
import { cannotSayScc } from './scc';
import { writeLetters } from './scc/letters';

const OPTIONS = { ...USUAL_OPTIONS, title: 'Tower', durationMs: 60_000 };
const timesOf = (track: Track) => track.cues.map(({ startMs, endMs }) => [startMs, endMs]);
/** Letters and digits alone: what codes a reader lifts off is its own affair. */
const bare = (text: string): string => text.replaceAll(/<[^>]*>/g, '').replaceAll(/[^\p{L}\p{N}]+/gu, '');

const folder = mkdtempSync(join(tmpdir(), 'vinetap-read-'));
afterAll(() => rmSync(folder, { recursive: true }));

test('SRT', () => {
  fc.assert(
    fc.property(nastyTrack, (track) => {
      const nodes = parseSync(formatSrt(track)).flatMap((node) => (node.type === 'cue' ? [node.data] : []));
      expect(nodes.map(({ start, end }) => [start, end])).toEqual(timesOf(track));
    })
  );
});

test('WebVTT', () => {
  fc.assert(
    fc.property(nastyTrack, (track) => {
      // That reader takes cues without words for a fault, and knows no end at the start.
      const shown = { ...track, cues: track.cues.filter((cue) => plainLines(track, cue).join('').trim() !== '') };
      const words = shown.cues.flatMap(({ wordIds }) => wordIds);
      const kept = { ...shown, words: track.words.filter(({ id }) => words.includes(id)) };
      const { cues } = webvtt.parse(formatWebVtt(kept), { strict: false });
      expect(cues.map(({ start, end }) => [Math.round(start * 1000), Math.round(end * 1000)])).toEqual(timesOf(kept));
    })
  );
});

test('CSV', () => {
  const read = 'import csv, json, sys; print(json.dumps(list(csv.DictReader(open(sys.argv[1], newline="")))))';
  const path = join(folder, 'cues.csv');
  for (const track of fc.sample(nastyTrack, 5)) {
    writeFileSync(path, formatCsv(track, OPTIONS));
    const rows = JSON.parse(execFileSync('python3', ['-X', 'utf8', '-c', read, path], { encoding: 'utf8' })) as {
      start: string;
      text: string;
    }[];
    expect(rows.map(({ start }) => Math.round(Number(start.slice(-6)) * 1000))).toEqual(
      track.cues.map(({ startMs }) => startMs % 60_000)
    );
    expect(rows.map(({ text }) => bare(text))).toEqual(track.cues.map((cue) => bare(markedLines(track, cue).join(''))));
  }
});

test('SCC', () => {
  const path = join(folder, 'cues.scc');
  // That reader takes numbers for the clock, which is so only where they are dropped.
  const options = { ...OPTIONS, startTimecode: '00:10:00;00', dropFrame: true };
  const isSaid = (track: Track): boolean =>
    track.cues.length > 0 &&
    track.cues.every((cue) => plainLines(track, cue).join('').trim() !== '') &&
    track.words.every(({ text }) =>
      [...text].every((letter) => /[\w .,?!-]/.test(letter) && writeLetters(letter) !== null)
    ) &&
    cannotSayScc(track, options).every(({ code }) => code === 'times_rounded');
  const said = fc.sample(nastyTrack, 4000).filter(isSaid).slice(0, 6);
  said.push(trackOfLines(['It strikes', 'twelve.']));
  for (const track of said) {
    writeFileSync(path, formatScc(track, options));
    const srt = execFileSync('ffmpeg', ['-v', 'error', '-i', path, '-f', 'srt', '-'], { encoding: 'utf8' });
    const nodes = parseSync(srt).flatMap((node) => (node.type === 'cue' ? [node.data] : []));
    expect(nodes.map(({ text }) => bare(text.replaceAll(/\{\\[^}]*\}|\\h/g, '')))).toEqual(
      track.cues.map((cue) => bare(plainLines(track, cue).join('')))
    );
    nodes.forEach(({ start }, at) => {
      expect(Math.abs(start - 600_000 - track.cues[at]!.startMs)).toBeLessThan(100);
    });
  }
});

test('EBU STL', () => {
  /** By the numbers of the standard alone. */
  const read = `import json, sys
data = open(sys.argv[1], 'rb').read()
assert data[3:11] in (b'STL25.01', b'STL30.01') and int(data[238:243]) == (len(data) - 1024) // 128
rate = int(data[6:8])
found = {}
for at in range(1024, len(data), 128):
    block = data[at:at + 128]
    number = block[1] | block[2] << 8
    time = lambda h, m, s, f: ((h * 60 + m) * 60 + s) * rate + f
    one = found.setdefault(number, {'start': time(*block[5:9]) / rate, 'end': time(*block[9:13]) / rate, 'text': ''})
    one['text'] += ''.join(chr(b) if 0x20 <= b < 0x7f else ' ' if b == 0x8a else '' for b in block[16:])
print(json.dumps([found[k] for k in sorted(found)]))`;
  const path = join(folder, 'cues.stl');
  const ascii = fc.sample(nastyTrack, 300).filter(({ words }) => words.every(({ text }) => /^[\w .,?!-]+$/.test(text)));
  expect(ascii.length).toBeGreaterThan(0);
  for (const track of ascii.slice(0, 6)) {
    writeFileSync(path, formatStl(track, OPTIONS));
    const cues = JSON.parse(execFileSync('python3', ['-c', read, path], { encoding: 'utf8' })) as {
      start: number;
      end: number;
      text: string;
    }[];
    expect(cues.map(({ text }) => bare(text))).toEqual(track.cues.map((cue) => bare(plainLines(track, cue).join(''))));
    cues.forEach(({ start, end }, at) => {
      expect(Math.abs(start * 1000 - track.cues[at]!.startMs)).toBeLessThanOrEqual(20);
      expect(end).toBeGreaterThan(start);
    });
  }
});
