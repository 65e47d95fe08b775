/** Writes TTML as one of two profiles. All styling is by reference, as EBU-TT-D asks; IMSC takes it as well. */
import {
  escapeMarkup,
  formatMarkedLine,
  hasOutline,
  parseMarkedLine,
  placementOf,
  shownWordsOfAll,
  signedLines,
  type Cue,
  type Look,
  type MarkKind,
  type Placement,
  type Track,
  type Word
} from '../../track';
import { formatFileTime, withoutControls } from '../caption-file';
import type { WriteOptions } from '../options';
import { EBUTTM, TT, TTM, TTP, TTS } from './names';
import { regionOf } from './places';

export type TtmlProfile = 'imsc' | 'ebu';

const IMSC_TEXT = `${TT}/profile/imsc1.1/text`;

/** XML 1.0, 2.2: what cannot stand in a document, not even escaped. */
const NO_CHARACTER = /[\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;
const text = (raw: string): string => escapeMarkup(withoutControls(raw).replace(NO_CHARACTER, '\ufffd'));
const attribute = (raw: string): string => text(raw).replaceAll('"', '&quot;');

const STYLE_OF_MARK: Readonly<Record<MarkKind, string>> = { i: 'italic', b: 'bold', u: 'underline' };

const hex = (share: number): string =>
  Math.round(share * 255)
    .toString(16)
    .padStart(2, '0');

export function formatTtml(track: Track, options: WriteOptions, profile: TtmlProfile): string {
  const words = shownWordsOfAll(track);
  const regions = new Map<string, { readonly id: string; readonly placement: Placement }>();
  const regionFor = (cue: Cue): string => {
    const placement = placementOf(track, cue);
    const key = JSON.stringify(placement);
    const known = regions.get(key) ?? { id: `r${regions.size + 1}`, placement };
    regions.set(key, known);
    return known.id;
  };
  const voices = new Map(track.speakers.map(({ id }, at) => [id, at + 1]));
  const used = new Set(track.words.flatMap(({ speakerId }) => speakerId ?? []));
  const speakers = options.speakers ? track.speakers.filter(({ id }) => used.has(id)) : [];
  const told = new Set(speakers.map(({ id }) => id));
  const colors = new Map(
    track.speakers.flatMap(({ id, look }) =>
      look?.color === undefined || !used.has(id)
        ? []
        : [[id, { style: `voice${voices.get(id)}`, color: look.color }] as const]
    )
  );
  const paragraphs = track.cues.map((cue, at) => {
    const lines = signedLines(track, cue, words[at]!);
    const own = new Set(words[at]!.map(({ speakerId }) => speakerId));
    const [only = null] = own;
    const agent = own.size === 1 && only !== null && told.has(only) ? ` ttm:agent="a${voices.get(only)}"` : '';
    const spans = lines.map((line) => spansOf(line, { voices, told: agent === '' ? told : new Set(), colors }));
    const times = `begin="${formatFileTime(cue.startMs, '.')}" end="${formatFileTime(cue.endMs, '.')}"`;
    return `      <p xml:id="c${at + 1}" ${times} region="${regionFor(cue)}"${agent}>${spans.join('<br/>')}</p>`;
  });
  const isEbu = profile === 'ebu';
  const documentMetadata = isEbu
    ? `      <ebuttm:documentMetadata>
        <ebuttm:conformsToStandard>urn:ebu:tt:distribution:2018-04</ebuttm:conformsToStandard>
      </ebuttm:documentMetadata>\n`
    : `      <ttm:title>${text(options.title)}</ttm:title>\n`;
  const agents = speakers.map(
    ({ id, name }) =>
      `      <ttm:agent xml:id="a${voices.get(id)}" type="person"><ttm:name type="full">${text(name)}</ttm:name></ttm:agent>\n`
  );
  const profileOf = isEbu
    ? `xmlns:ebuttm="${EBUTTM}" ttp:cellResolution="50 30"`
    : `ttp:contentProfiles="${IMSC_TEXT}" ttp:cellResolution="50 30"`;
  return `<?xml version="1.0" encoding="UTF-8"?>
<tt xmlns="${TT}" xmlns:tts="${TTS}" xmlns:ttp="${TTP}" xmlns:ttm="${TTM}" ${profileOf} ttp:timeBase="media" xml:lang="${attribute(track.language)}">
  <head>
    <metadata>
${documentMetadata}${agents.join('')}    </metadata>
    <styling>
${stylesOf(track, [...colors.values()]).join('\n')}
    </styling>
    <layout>
${[...regions.values()].map(regionElement).join('\n')}
    </layout>
  </head>
  <body style="all">
    <div>
${paragraphs.join('\n')}
    </div>
  </body>
</tt>
`;
}

function regionElement({ id, placement }: { readonly id: string; readonly placement: Placement }): string {
  const { x, y, width, height, displayAlign, textAlign } = regionOf(placement);
  return `      <region xml:id="${id}" tts:origin="${x}% ${y}%" tts:extent="${width}% ${height}%" tts:displayAlign="${displayAlign}" tts:textAlign="${textAlign}" tts:overflow="visible"/>`;
}

interface VoiceColor {
  readonly style: string;
  readonly color: string;
}

function stylesOf({ look }: Track, colors: readonly VoiceColor[]): readonly string[] {
  const style = (id: string, attributes: string): string => `      <style xml:id="${id}" ${attributes}/>`;
  const opacity = look.box.kind === 'none' ? 0 : look.box.opacity;
  const outline = hasOutline(look)
    ? ` tts:textOutline="${look.outline!.color} ${Math.round(look.outline!.widthEm * 100)}%"`
    : '';
  // Cells are a thirtieth of the picture's height: letters as large as the look has them, a line as high as it says.
  const size = Math.round((look.sizePercent / (100 / 30)) * 100);
  return [
    style(
      'all',
      `tts:fontFamily="${familyOf(look)}" tts:fontSize="${size}%" tts:lineHeight="${Math.round(look.lineSpacing * 100)}%" tts:color="${look.color}ff"`
    ),
    style('line', `tts:backgroundColor="${look.box.color}${hex(opacity)}"${outline}`),
    style('italic', 'tts:fontStyle="italic"'),
    style('bold', 'tts:fontWeight="bold"'),
    style('underline', 'tts:textDecoration="underline"'),
    ...colors.map((voice) => style(voice.style, `tts:color="${voice.color}ff"`))
  ];
}

const familyOf = ({ face }: Look): string =>
  face === 'jetbrains'
    ? 'monospaceSansSerif'
    : face === 'literata' || face === 'zilla'
      ? 'proportionalSerif'
      : 'proportionalSansSerif';

interface SpanSetting {
  readonly voices: ReadonlyMap<string, number>;
  /** Voices that spans tell. */
  readonly told: ReadonlySet<string>;
  readonly colors: ReadonlyMap<string, VoiceColor>;
}

/** The text of a line, in spans of one voice and one set of marks. */
function spansOf(words: readonly Word[], { voices, told, colors }: SpanSetting): string {
  let out = '';
  for (let from = 0; from < words.length;) {
    const { speakerId } = words[from]!;
    let to = from + 1;
    while (to < words.length && words[to]!.speakerId === speakerId) to++;
    const agent = speakerId !== null && told.has(speakerId) ? ` ttm:agent="a${voices.get(speakerId)}"` : '';
    const color = speakerId === null ? undefined : colors.get(speakerId);
    const voice = color === undefined ? '' : ` ${color.style}`;
    const space = from > 0 && words[from]!.spaceBefore ? ' ' : '';
    for (const { piece, marks } of piecesOf(formatMarkedLine(words.slice(from, to)), space)) {
      const styles = ['line', ...marks.map((mark) => STYLE_OF_MARK[mark])].join(' ');
      out += `<span style="${styles}${voice}"${agent}>${text(piece)}</span>`;
    }
    from = to;
  }
  return out;
}

/** A marked line in pieces that are marked alike throughout. */
function piecesOf(
  line: string,
  before: string
): readonly { readonly piece: string; readonly marks: readonly MarkKind[] }[] {
  const { text: whole, marks } = parseMarkedLine(line);
  const cuts = [...new Set([0, whole.length, ...marks.flatMap(({ from, to }) => [from, to])])].sort((a, b) => a - b);
  return cuts.slice(1).map((to, at) => {
    const from = cuts[at]!;
    const own = marks.filter((mark) => mark.from <= from && mark.to >= to).map(({ kind }) => kind);
    return { piece: `${at === 0 ? before : ''}${whole.slice(from, to)}`, marks: [...new Set(own)].sort() };
  });
}
