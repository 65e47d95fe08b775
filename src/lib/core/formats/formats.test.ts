import { asTrackId } from '../id';
import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { nastyTrack } from '../testing/caption-files';
import { findBrokenInvariant, markedLines, plainLines, cueSpeaker, type Track } from '../track';
import {
  decodeText,
  ENCODINGS,
  exportFileName,
  findEncoding,
  FORMATS,
  formatOfFile,
  formatSrt,
  formatWebVtt,
  languageOfFileName,
  parseSrt,
  parseWebVtt,
  placementFromSettings,
  placementSettings,
  trackFromFile,
  type ParsedCaptions
} from '.';
import { parseTiming } from './caption-file';

let minted = 0;
const imported = (parsed: ParsedCaptions): ReturnType<typeof trackFromFile> =>
  trackFromFile(parsed, {
    trackId: asTrackId('t'),
    recordingId: 'r',
    language: 'en',
    title: '',
    recordingDurationMs: 60_000,
    mint: () => `m${minted++}`
  });
const shape = (track: Track) => track.cues.map((cue) => [cue.startMs, cue.endMs, markedLines(track, cue)]);
const codes = (parsed: { readonly problems: readonly { readonly code: string }[] }): string[] =>
  parsed.problems.map((problem) => problem.code);

describe('written and read back', () => {
  test('WebVTT keeps every cue, its times, lines, marks, voices and place, whatever the text is', () => {
    fc.assert(
      fc.property(nastyTrack, (track) => {
        const parsed = parseWebVtt(formatWebVtt(track));
        expect(parsed.problems).toEqual([]);
        // What voices begin with is no text of the file: the rules of the track make it again.
        const back = { ...imported(parsed).track, rules: track.rules };
        expect(shape(back)).toEqual(shape(track));
        expect(findBrokenInvariant(back)).toBeNull();
        const names = (one: Track): (string | undefined)[] =>
          one.cues
            .filter((cue) => plainLines(one, cue).length > 0)
            .map((cue) => one.speakers.find((speaker) => speaker.id === cueSpeaker(one, cue))?.name);
        // A line has one voice in the reader; words of two voices in a line are given to the first.
        const oneVoice = track.cues.every(
          (cue) => new Set(cue.wordIds.map((id) => track.words.find((word) => word.id === id)!.speakerId)).size <= 1
        );
        if (oneVoice) expect(names(back)).toEqual(names(track));
      })
    );
  });

  test('SRT keeps the number of cues and their times, and the text as it is seen', () => {
    fc.assert(
      fc.property(nastyTrack, (track) => {
        const parsed = parseSrt(formatSrt(track));
        expect(parsed.problems).toEqual([]);
        const back = imported(parsed).track;
        const seen = (one: Track) =>
          one.cues.map((cue) => [
            cue.startMs,
            cue.endMs,
            // A space stands where a reader would else take text for a code.
            plainLines(one, cue).map((line) => line.replace(/(--|<|\{) (?=[>/a-z\d\\])/gi, '$1'))
          ]);
        expect(seen(back)).toEqual(seen(track));
      })
    );
  });
});

describe('times that cannot be read', () => {
  test('leave the text in a cue of its own, behind the one before it', () => {
    const srt =
      '1\n00:00:01,000 --> 00:00:02,000\nfirst\n\n2\n00:00:xx,000 --> 00:00:05,000\nlost time\n\n3\n00:00:09,000 --> 00:00:10,000\nlast\n';
    const vtt =
      'WEBVTT\n\n00:01.000 -> 00:02.000\nfirst\n\n00:0x.000 --> 00:05.000\nlost time\n\n00:09.000 --> 00:10.000\nlast\n';
    for (const parsed of [parseSrt(srt), parseWebVtt(vtt)]) {
      expect(parsed.cues.map((cue) => [cue.startMs, cue.endMs, cue.lines.map((line) => line.markup).join()])).toEqual([
        [1000, 2000, 'first'],
        [2000, 3000, 'lost time'],
        [9000, 10_000, 'last']
      ]);
      expect(codes(parsed)).toContain('bad_timing');
    }
  });

  test('one cue far ahead is told once, and no later one is behind', () => {
    const lines = ['99:00:00,000 --> 99:00:01,000', '00:00:02,000 --> 00:00:03,000', '00:00:04,000 --> 00:00:05,000'];
    const { problems } = imported(parseSrt(lines.map((line) => `${line}\ntext\n`).join('\n')));
    expect(problems.filter(({ code }) => code === 'unsorted')).toHaveLength(1);
  });
});

describe('encodings', () => {
  const sentence: Readonly<Record<string, string>> = {
    'windows-1252': 'Più tardi la campana della città suonò, e già era notte: così finì. Perché? È là.',
    macintosh: 'Più tardi la campana della città suonò, e già era notte: così finì. L’été, où êtes-vous allés?',
    'windows-1250': 'Zażółć gęślą jaźń: zegar na wieży bije co godzinę, a dźwięk słychać daleko.',
    'windows-1251': 'Часы на башне бьют каждый час, и их слышно далеко за городом.',
    'windows-1253': 'Το ρολόι στον πύργο χτυπά κάθε ώρα και ακούγεται πολύ μακριά.',
    shift_jis: '塔の時計は毎時鳴り、遠くまで聞こえます。毎週ぜんまいを巻きます。',
    'euc-jp': '塔の時計は毎時鳴り、遠くまで聞こえます。毎週ぜんまいを巻きます。',
    'euc-kr': '탑의 시계는 매시간 울리고 멀리까지 들립니다. 매주 태엽을 감습니다.',
    gb18030: '钟楼上的钟每小时敲响，很远都能听到。每个星期都要上发条。',
    big5: '鐘樓上的鐘每小時敲響，很遠都能聽到。每個星期都要上發條。'
  };
  test.each(Object.keys(sentence))('%s is found, and not a sign is lost', (encoding) => {
    const text = `1\r\n00:00:01,000 --> 00:00:04,000\r\n${sentence[encoding]!}\r\n`;
    const bytes = encoded(text, encoding);
    expect(decodeText(bytes, findEncoding(bytes))).toBe(text);
  });

  test.each(['utf-8', 'utf-16le', 'utf-16be'] as const)('%s, with its mark and without', (encoding) => {
    const text = '1\n00:00:01,000 --> 00:00:04,000\nPiù tardi, 塔の時計\n';
    const bytes = wide(text, encoding);
    for (const one of [bytes, Uint8Array.from([...wide('\ufeff', encoding), ...bytes])]) {
      expect(findEncoding(one)).toBe(encoding);
      expect(decodeText(one, encoding)).toBe(text);
    }
  });

  test('every one on the list can be read', () => {
    for (const [encoding] of ENCODINGS) expect(decodeText(Uint8Array.from([0x41]), encoding).length).toBeLessThan(2);
  });
});

/** The bytes of a text, found by what the decoder makes of all one- and two-byte runs. */
function encoded(text: string, encoding: string): Uint8Array {
  const table = new Map<string, readonly number[]>();
  const decoder = new TextDecoder(encoding);
  for (let first = 0; first < 256; first++) {
    const one = decoder.decode(Uint8Array.of(first));
    if (one !== '' && !one.includes('\ufffd')) {
      table.set(one, [first]);
      continue;
    }
    for (let second = 0x30; second < 256; second++) {
      const two = decoder.decode(Uint8Array.of(first, second));
      if ([...two].length === 1 && two !== '\ufffd' && !table.has(two)) table.set(two, [first, second]);
    }
  }
  return Uint8Array.from([...text].flatMap((sign) => table.get(sign) ?? [0x3f]));
}

function wide(text: string, encoding: 'utf-8' | 'utf-16le' | 'utf-16be'): Uint8Array {
  if (encoding === 'utf-8') return new TextEncoder().encode(text);
  return Uint8Array.from(
    [...Array(text.length).keys()].flatMap((at) => {
      const unit = text.charCodeAt(at);
      const pair = [unit & 0xff, unit >> 8];
      return encoding === 'utf-16le' ? pair : pair.reverse();
    })
  );
}

test.each([
  ['talk.it.srt', 'it'],
  ['talk_pt-BR.vtt', 'pt-BR'],
  ['talk (eng).srt', 'en'],
  ['My talk [de].srt', 'de'],
  ['talk.zh-Hant-TW.vtt', 'zh-Hant-TW'],
  ['talk.final.srt', null],
  ['talk.new.srt', null],
  ['What is it.srt', null],
  ['x9.srt', null]
])('the language of %s is %s', (name, language) => {
  expect(languageOfFileName(name)).toBe(language);
});

describe('reading real files', () => {
  test('an SRT with what goes wrong in the wild is read, and every repair is told', () => {
    const parsed = parseSrt(
      '\ufeff1\r\n00:00:01,000 --> 00:00:02,500\r\nHello <font color="red">there</font>\r\n\r\nstill here\r\n\r\n2\r\n0:3.5 --> 00:00:03,000\r\n{\\an8}Up & up\r\n\r\n00:00:02,000 --> 00:00:02,900 X1:1\nno number <i>before\n3\n00:01:10,000 --> 00:01:12,000\n7 past 7\n\nfoo --> bar\n'
    );
    const { track, problems } = imported(parsed);
    expect(shape(track)).toEqual([
      [1000, 2500, ['Hello there', 'still here']],
      [2000, 2900, ['no number <i>before</i>']],
      [3500, 4500, ['Up &amp; up']],
      [70_000, 72_000, ['7 past 7', 'foo --&gt; bar']]
    ]);
    expect(new Set(codes({ problems }))).toEqual(
      new Set(['unknown_tag', 'blank_line', 'odd_timing', 'backward', 'overlap', 'unsorted', 'past_end'])
    );
    expect(track.cues[2]).toMatchObject({ placement: 'top centre', carried: null });
    expect(problems.find((problem) => problem.code === 'unknown_tag')!.line).toBe(2);
  });

  test('a WebVTT with styles, notes, regions, voices and settings gives them all back', () => {
    const text =
      'WEBVTT Clock talk\nKind: captions\n\nSTYLE\n::cue { color: white }\n\nNOTE made by hand, &amp; kept\n\n00:01.000 --> 00:02.000 line:0 region:a\n<v Ines Calder>Good <b>morning</b> &lt;3\n\n00:00:03.000 --> 00:00:04.000\n<v Tobin>- Yes.</v>\n<v Ines Calder>- No.</v>\n';
    const { track, problems } = imported(parseWebVtt(text));
    expect(problems).toEqual([]);
    expect(track.speakers.map((speaker) => speaker.name)).toEqual(['Ines Calder', 'Tobin']);
    expect(formatWebVtt(track)).toBe(
      text
        .replace('00:01.000 --> 00:02.000', '00:00:01.000 --> 00:00:02.000')
        .replace('- Yes.</v>\n<v', '- Yes.\n</v><v')
    );
  });

  test('a WebVTT without a header, with commas, ids and unknown blocks is read', () => {
    const parsed = parseWebVtt(
      'intro\n00:01,000 --> 00:02,000\nfirst\n\nlost words\n\n3\n00:00:05.000 --> nothing\nbad\n\n00:03.000 --> 00:04.000\n00:05.000 --> 00:06.000\nlast'
    );
    expect(parsed.cues.map((cue) => [cue.startMs, cue.lines.map((line) => line.markup)])).toEqual([
      [1000, ['first']],
      [2000, ['bad']],
      [3000, []],
      [5000, ['last']]
    ]);
    expect(codes(parsed)).toEqual(['no_header', 'odd_timing', 'stray_text', 'bad_timing']);
  });

  test.each(['', '\ufeff', '\n\n\n', 'just a letter to a friend', 'WEBVTT', '1\n2\n3'])(
    '%j holds no cue',
    (content) => {
      expect(parseSrt(content).cues).toEqual([]);
      expect(parseWebVtt(content).cues).toEqual([]);
    }
  );
});

test('the nine places are said in settings and understood again', () => {
  for (const height of ['top', 'middle', 'bottom'] as const) {
    for (const side of ['left', 'centre', 'right'] as const) {
      const settings = placementSettings(`${height} ${side}`);
      expect(settings === '' ? 'bottom centre' : placementFromSettings(settings)).toBe(`${height} ${side}`);
    }
  }
  expect(placementFromSettings('size:50%')).toBeNull();
});

test('files are named from title and language', () => {
  const nameOf = (title: string, language: string, extension: string): string =>
    exportFileName({ title }, { id: 'a', language, title }, [], extension);
  expect(nameOf('Merrowby clock', 'en', 'vtt')).toBe('merrowby-clock.en.vtt');
  expect(nameOf('  Élan / “Tower’s” ../🕰️ ', 'pt-BR', 'srt')).toBe('elan-towers.pt-BR.srt');
  expect(nameOf('../', 'en', 'srt')).toBe('captions.en.srt');
  const tracks = ['Clock', 'For children', 'Clock', 'for children!'].map((title, at) => ({
    id: `${at}`,
    language: 'en',
    title
  }));
  expect(tracks.map((track) => exportFileName({ title: 'Clock' }, track, tracks, 'srt'))).toEqual([
    'clock.en.srt',
    'clock.for-children.en.srt',
    'clock.2.en.srt',
    'clock.for-children.2.en.srt'
  ]);
});

describe('the list of formats', () => {
  test('names each once; what is read is told by what it says, else by its ending', () => {
    const idOf = (name: string, content: string): string | undefined => formatOfFile(name, content)?.id;
    expect(new Set(FORMATS.map(({ id }) => id)).size).toBe(FORMATS.length);
    expect(new Set(FORMATS.map(({ extension }) => extension)).size).toBe(FORMATS.length);
    expect(idOf('talk.xml', '<?xml version="1.0"?>\n<!-- made -->\n<tt:tt xmlns:tt="x">')).toBe('ttml');
    expect(idOf('talk.json', '{ "vineTapTrack": 1 }')).toBe('json');
    expect(idOf('talk.csv', 'start,end,text')).toBe('csv');
    expect(idOf('talk.srt', 'WEBVTT\n\n')).toBe('vtt');
    expect(idOf('talk.txt', '1\n00:00:01,000 --> 00:00:02,000\nTick\n')).toBe('srt');
    expect(idOf('talk.SRT', 'nothing known')).toBe('srt');
    expect(idOf('talk.docx', 'nothing known')).toBeUndefined();
  });

  test('stands in what is written of the API', () => {
    const docs = readFileSync('docs/api.md', 'utf8');
    const listed = /`GET \/api\/tracks\/ID\/export\?format=([^`]*)`/.exec(docs)![1]!.split('\\|');
    expect(listed.toSorted()).toEqual(FORMATS.map(({ id }) => id as string).toSorted());
  });
});

test('a timing is read alike whether it is written to the letter or not', () => {
  const part = fc.integer({ min: 0, max: 99 }).map((value) => String(value).padStart(2, '0'));
  const time = fc.tuple(part, part, part, fc.integer({ min: 0, max: 999 }), fc.constantFrom(',', '.', ':'));
  const written = time.map(([hours, minutes, seconds, ms, sign]) =>
    [hours, minutes, seconds].join(':').concat(sign, String(ms).padStart(3, '0'))
  );
  fc.assert(
    fc.property(written, written, fc.constantFrom('srt', 'vtt'), (start, end, format) => {
      const line = `${start} --> ${end}`;
      const [plain, padded] = [parseTiming(line, format), parseTiming(` ${line}`, format)];
      const isRead = [start, end].every((one) => !one.slice(8).startsWith(':'));
      expect(plain === null).toBe(!isRead);
      expect(plain && { ...plain, isStrict: false }).toEqual(padded);
      const sign = format === 'srt' ? ',' : '.';
      const isStrict = [start, end].every((one) => one[8] === sign && one[3]! < '6' && one[6]! < '6');
      expect(plain?.isStrict ?? isStrict).toBe(isStrict);
    })
  );
});
