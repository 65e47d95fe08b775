import fc from 'fast-check';
import { fromXML } from 'imsc/src/main/js/doc.js';
import { describe, expect, test } from 'vitest';
import { trackOfLines } from '../../testing/fonts';
import { importedFrom, nastyTrack, shapeOf } from '../../testing/caption-files';
import {
  cueSpeaker,
  makeCue,
  makeSpeaker,
  makeTrack,
  makeWord,
  placementOf,
  plainLines,
  type Placement,
  type Track
} from '../../track';
import { USUAL_OPTIONS } from '../options';
import { formatTtml, parseTtml } from '.';
import { placementOfRegion, regionOf } from './places';
import { clockOf, parseTime } from './times';

const OPTIONS = { ...USUAL_OPTIONS, title: 'The <clock> & its keeper', durationMs: 60_000 };
const PROFILES = ['imsc', 'ebu'] as const;
const document = (body: string, { head = '', attributes = '' } = {}): string =>
  `<?xml version="1.0"?><tt xmlns="http://www.w3.org/ns/ttml" xmlns:tts="http://www.w3.org/ns/ttml#styling" xmlns:ttp="http://www.w3.org/ns/ttml#parameter" xmlns:ttm="http://www.w3.org/ns/ttml#metadata" xml:lang="en" ${attributes}><head>${head}</head><body>${body}</body></tt>`;
const read = (content: string) =>
  parseTtml(content).cues.map(({ startMs, endMs, lines }) => [
    startMs,
    endMs,
    lines.map(({ markup }) => markup).join('|')
  ]);

describe('written and read back', () => {
  test.each(PROFILES)(
    '%s keeps every cue, its times, lines, marks, voices and place, whatever the text is',
    (profile) => {
      fc.assert(
        fc.property(nastyTrack, (track) => {
          const parsed = parseTtml(formatTtml(track, OPTIONS, profile));
          expect(parsed.problems).toEqual([]);
          const back = { ...importedFrom(parsed), rules: track.rules };
          expect(shapeOf(back)).toEqual(shapeOf(track));
          expect(parsed.cues.map(({ placement }) => placement)).toEqual(
            track.cues.map((cue) => placementOfRegion(regionOf(placementOf(track, cue))))
          );
          const names = (one: Track): (string | undefined)[] =>
            one.cues
              .filter((cue) => plainLines(one, cue).length > 0)
              .map((cue) => one.speakers.find(({ id }) => id === cueSpeaker(one, cue))?.name);
          const oneVoice = track.cues.every(
            (cue) => new Set(cue.wordIds.map((id) => track.words.find((word) => word.id === id)!.speakerId)).size <= 1
          );
          if (oneVoice) expect(names(back)).toEqual(names(track));
        }),
        { numRuns: 60 }
      );
    }
  );

  test('a reader that is not ours finds nothing wrong, and the same times and text', () => {
    type Content = NonNullable<ReturnType<typeof fromXML>>['body'];
    const all = (content: Content, kind: string): readonly Content[] =>
      content.kind === kind ? [content] : (content.contents ?? []).flatMap((one) => all(one, kind));
    fc.assert(
      fc.property(nastyTrack, fc.constantFrom(...PROFILES), (track, profile) => {
        const told: string[] = [];
        const tell = (message: string): void => void told.push(message);
        const doc = fromXML(formatTtml(track, OPTIONS, profile), { warn: tell, error: tell, fatal: tell })!;
        expect(told).toEqual([]);
        const paragraphs = all(doc.body, 'p');
        expect(paragraphs.map(({ begin, end }) => [Math.round(begin * 1000), Math.round(end * 1000)])).toEqual(
          track.cues.map(({ startMs, endMs }) => [startMs, endMs])
        );
        const seen = paragraphs.map((one) =>
          all(one, 'span')
            .map(({ text, contents = [] }) => text ?? contents.map((part) => part.text ?? '').join(''))
            .join('')
        );
        expect(seen.map((text) => text.replaceAll(/\s/g, ''))).toEqual(
          track.cues.map((cue) =>
            plainLines(track, cue)
              .join('')
              .replaceAll(/[\ufffe\uffff]/g, '\ufffd')
              .replaceAll(/\s/g, '')
          )
        );
      }),
      { numRuns: 60 }
    );
  });

  test('every place is read back as it was', () => {
    const nine = ['top', 'middle', 'bottom'].flatMap((row) =>
      ['left', 'centre', 'right'].map((side) => `${row} ${side}` as Placement)
    );
    for (const placement of nine) expect(placementOfRegion(regionOf(placement))).toBe(placement);
    fc.assert(
      fc.property(fc.integer({ min: 10, max: 90 }), fc.integer({ min: 5, max: 95 }), (xPercent, yPercent) => {
        const back = placementOfRegion(regionOf({ xPercent, yPercent }));
        const isMiddle = Math.max(Math.abs(xPercent - 50), Math.abs(yPercent - 50)) <= 5;
        expect(back).toEqual(isMiddle ? 'middle centre' : { xPercent, yPercent });
      })
    );
  });

  test('the profile, title, voices, colours and language are said as the standards have it', () => {
    const track = trackOfLines(['Good evening'], {
      color: '#ffee00',
      box: { kind: 'block', opacity: 0.5 },
      placement: 'top left'
    });
    const voiced = {
      ...track,
      speakers: [{ ...makeSpeaker('s', 'Ada "the" <Wren>'), look: { color: '#88ccff' } }],
      words: track.words.map((word) => ({ ...word, speakerId: 's' }))
    };
    const imsc = formatTtml(voiced, OPTIONS, 'imsc');
    for (const part of [
      'ttp:contentProfiles="http://www.w3.org/ns/ttml/profile/imsc1.1/text"',
      'xml:lang="en"',
      '<ttm:title>The &lt;clock&gt; &amp; its keeper</ttm:title>',
      '<ttm:agent xml:id="a1" type="person"><ttm:name type="full">Ada "the" &lt;Wren&gt;</ttm:name></ttm:agent>',
      'tts:color="#ffee00ff"',
      'tts:backgroundColor="#0f110e80"',
      '<style xml:id="voice1" tts:color="#88ccffff"/>',
      'tts:origin="5% 5%" tts:extent="90% 90%" tts:displayAlign="before" tts:textAlign="left"',
      '<span style="line voice1">Good evening</span></p>'
    ])
      expect(imsc).toContain(part);
    const ebu = formatTtml(voiced, { ...OPTIONS, speakers: false }, 'ebu');
    expect(ebu).toContain('<ebuttm:conformsToStandard>urn:ebu:tt:distribution:2018-04</ebuttm:conformsToStandard>');
    expect(ebu).not.toContain('ttm:agent');
    // Styles by reference alone; times of one form alone.
    expect(/<(?:p|span|body|div)[^>]*tts:/.test(ebu)).toBe(false);
    expect(ebu.match(/(?:begin|end)="[^"]*"/g)!.every((time) => /"\d{2,}:\d\d:\d\d\.\d{3}"/.test(time))).toBe(true);
  });
});

describe('as real files have it', () => {
  test('times are nested, in any unit, one after the other where it says so', () => {
    expect(
      read(
        document('<div begin="10s"><p begin="1s" end="2.5s">one</p><p begin="00:00:03:15" dur="500ms">two</p></div>', {
          attributes: 'ttp:frameRate="30"'
        })
      )
    ).toEqual([
      [11_000, 12_500, 'one'],
      [13_500, 14_000, 'two']
    ]);
    expect(read(document('<div timeContainer="seq"><p dur="2s">one</p><p begin="1s" dur="1s">two</p></div>'))).toEqual([
      [0, 2000, 'one'],
      [3000, 4000, 'two']
    ]);
    expect(
      read(document('<div><p begin="900000t" end="1800000t">ticks</p></div>', { attributes: 'ttp:tickRate="90000"' }))
    ).toEqual([[10_000, 20_000, 'ticks']]);
    // A paragraph that ends after what is around it ends with that.
    expect(read(document('<div begin="1s" end="3s"><p begin="0s" end="9s">cut</p></div>'))).toEqual([
      [1000, 3000, 'cut']
    ]);
    expect(
      read(document('<div><p><span begin="1s" end="2s">by</span> <span begin="2s" end="3s">words</span></p></div>'))
    ).toEqual([[1000, 3000, 'by words']]);
  });

  test('spans with times of their own are the times of their words', () => {
    const { words } = importedFrom(
      parseTtml(
        document(
          '<div><p begin="1s" end="6s">It <span begin="0.5s" end="1s">strikes </span><span begin="1s" end="3s">tw</span>elve<br/><span begin="3s">now</span></p></div>'
        )
      )
    );
    expect(words.map(({ text, startMs, endMs, timing }) => [text, startMs, endMs, timing])).toEqual([
      ['It', 1000, expect.any(Number), 'estimated'],
      ['strikes', 1500, 2000, 'fitted'],
      ['twelve', 2000, 4000, 'fitted'],
      ['now', 4000, 6000, 'fitted']
    ]);
    // In no order they are none.
    const back = importedFrom(
      parseTtml(document('<div><p><span begin="3s" end="4s">one</span> <span begin="1s" end="2s">two</span></p></div>'))
    );
    expect(back.words.map(({ timing }) => timing)).toEqual(['estimated', 'estimated']);
  });

  test('each form of a time is read by its clock', () => {
    const ntsc = clockOf((name) => ({ frameRate: '30', frameRateMultiplier: '1000 1001' })[name]);
    expect(parseTime('00:00:01:15', ntsc)).toBeCloseTo(1000 + 15 * (1001 / 30));
    const plain = clockOf(() => undefined);
    for (const [text, ms] of [
      ['1h', 3_600_000],
      ['1.5m', 90_000],
      ['0.25s', 250],
      ['40ms', 40],
      ['30f', 1000],
      ['2t', 2000],
      ['01:02:03.4', 3_723_400],
      ['100:00:00', 360_000_000]
    ] as const)
      expect(parseTime(text, plain)).toBeCloseTo(ms);
    for (const text of ['', 'soon', '1', '1:2', '-3s', '12:xx:00']) expect(parseTime(text, plain)).toBeNull();
  });

  test('styles are chained and inherited, spans and prefixes are what they say', () => {
    const head = `<styling><style xml:id="base" tts:fontStyle="italic"/><style xml:id="loud" style="base" tts:fontWeight="bold"/><style xml:id="me" style="me"/></styling>`;
    expect(
      read(
        document(
          '<div style="base"><p begin="0s" end="1s" style="loud">both <span tts:fontStyle="normal">bold</span></p><p begin="1s" end="2s">slanted</p></div>',
          { head }
        )
      )
    ).toEqual([
      [0, 1000, '<b><i>both </i></b><b>bold</b>'],
      [1000, 2000, '<i>slanted</i>']
    ]);
    const prefixed =
      '<tt:tt xmlns:tt="http://www.w3.org/2006/10/ttaf1"><tt:body><tt:div><tt:p begin="0s" end="1s">old<tt:br/>and\n   prefixed</tt:p></tt:div></tt:body></tt:tt>';
    expect(read(prefixed)).toEqual([[0, 1000, 'old|and prefixed']]);
  });

  test('regions say where cues stand, agents who speaks', () => {
    const head = `<metadata><ttm:agent xml:id="a" type="person"><ttm:name type="alias">I.</ttm:name><ttm:name type="full">Ines</ttm:name></ttm:agent></metadata>
      <layout><region xml:id="up"><style tts:origin="10% 5%"/><style tts:extent="80% 20%"/><style tts:displayAlign="before" tts:textAlign="center"/></region></layout>`;
    const { cues } = parseTtml(
      document(
        '<div><p begin="0s" end="1s" region="up" ttm:agent="a">It <span>strikes.</span></p><p begin="1s" end="2s" tts:textAlign="start">Left.</p></div>',
        { head }
      )
    );
    expect(cues.map(({ placement }) => placement)).toEqual(['top centre', 'bottom left']);
    expect(cues[0]!.lines).toEqual([{ markup: 'It strikes.', speaker: 'Ines' }]);
  });

  test('what is broken is told, and what can be read is kept', () => {
    const codes = (content: string): string[] => parseTtml(content).problems.map(({ code }) => code);
    const bare = document(
      '<div><p begin="0s" end="1s">R&D</p><p begin="soon" end="2s">never</p><p begin="2s" end="3s">last &nbsp;&foo;</p></div>'
    );
    expect(read(bare)).toEqual([
      [0, 1000, 'R&amp;D'],
      [2000, 3000, 'last \u00a0&amp;foo;']
    ]);
    expect(codes(bare)).toEqual(expect.arrayContaining(['bad_timing', 'bad_markup']));
    const cut = document('<div><p begin="0s" end="1s">whole</p><p begin="1s" end="2s">cut').slice(0, -20);
    expect(read(cut)[0]).toEqual([0, 1000, 'whole']);
    expect(codes(document('<div><p>when?</p></div>'))).toContain('bad_timing');
    for (const nothing of ['', 'WEBVTT', '<html><p>x</p></html>', '\u0000\u0001'])
      expect(() => parseTtml(nothing)).not.toThrow();
  });

  test('entities are never expanded, and depth is bounded', () => {
    const bomb = `<!DOCTYPE tt [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;">]>${document('<div><p begin="0s" end="1s">&b;</p></div>').replace('<?xml version="1.0"?>', '')}`;
    expect(read(bomb)).toEqual([[0, 1000, '&amp;b;']]);
    const deep = document(`${'<div>'.repeat(100)}<p begin="0s" end="1s">x</p>${'</div>'.repeat(100)}`);
    expect(parseTtml(deep)).toMatchObject({ cues: [], problems: [{ code: 'bad_markup' }] });
  });

  test('a cue without words keeps its place', () => {
    const track = makeTrack({
      ...{ id: 't', recordingId: 'r', language: 'en', title: '' },
      words: [makeWord({ id: 'w', text: 'Tick', startMs: 0, endMs: 500, timing: 'heard' })],
      cues: [
        makeCue({ id: 'a', startMs: 0, endMs: 900, wordIds: ['w'] }),
        makeCue({ id: 'b', startMs: 1000, endMs: 2000, wordIds: [] })
      ]
    });
    expect(read(formatTtml(track, OPTIONS, 'imsc'))).toEqual([
      [0, 900, 'Tick'],
      [1000, 2000, '']
    ]);
  });
});
