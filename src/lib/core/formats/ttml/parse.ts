/** Reads TTML: times nested in each other, styles and regions that are inherited, agents as voices. */
import { toSpan, wholeMs, type Span } from '../../time';
import { escapeMarkup, type MarkKind, type Placement } from '../../track';
import {
  fillTimes,
  hasVisible,
  quote,
  type FileCue,
  type FileLine,
  type ParsedCaptions,
  type ParseProblem
} from '../caption-file';
import { placementOfRegion, type Region } from './places';
import { clockOf, parseTime, type Clock } from './times';
import { parseXml, type XmlNode } from './tree';

/** What of a style is kept. */
interface Style {
  readonly i?: boolean;
  readonly b?: boolean;
  readonly u?: boolean;
  readonly textAlign?: Region['textAlign'];
}

interface Setting {
  readonly clock: Clock;
  readonly styles: ReadonlyMap<string, Style>;
  readonly regions: ReadonlyMap<string, Region>;
  readonly agents: ReadonlyMap<string, string>;
  readonly problems: ParseProblem[];
  /** Styles within others, by the names that made them. */
  readonly merged: Map<Style, Map<string, Style>>;
}

/** When an element is there, in fractions of ms; `endMs` is infinite where nothing says it. */
interface Time {
  readonly startMs: number;
  readonly endMs: number;
  /** Whether it, or something around it, says when it is. */
  readonly isSaid: boolean;
}

interface Context extends Time {
  readonly style: Style;
  readonly region: Region | null;
  readonly speaker: string | null;
  readonly keepsSpace: boolean;
}

export function parseTtml(content: string): ParsedCaptions {
  const { root, faults } = parseXml(content);
  const problems: ParseProblem[] = faults.map(({ line, message }) => ({
    ...{ code: 'bad_markup', line, message: `This is no well-formed XML: ${message}; read all the same.` },
    outcome: 'repaired'
  }));
  const cues: FileCue[] = [];
  if (root === null) return { cues, problems, carried: null };
  if (root.name !== 'tt')
    problems.push({
      ...{ code: 'no_header', line: root.line, outcome: 'repaired' },
      message: 'The file does not begin with <tt>; read all the same.'
    });
  const head = childrenOf(root, 'head')[0];
  const styles = readStyles(head);
  const setting: Setting = {
    clock: clockOf((name) => root.attributes.get(`{ttml#parameter}${name}`) ?? ofSpace(root, 'parameter', name)),
    styles,
    regions: readRegions(head, styles),
    agents: readAgents(head),
    merged: new Map(),
    problems
  };
  const start: Context = {
    ...{ startMs: 0, endMs: Number.POSITIVE_INFINITY, isSaid: false },
    ...{ style: {}, region: null, speaker: null, keepsSpace: root.attributes.get('{namespace}space') === 'preserve' }
  };
  const untimed = new Set<FileCue>();
  for (const body of root.name === 'tt' ? childrenOf(root, 'body') : [root])
    readElement(body, start, setting, (cue, isTimed) => {
      cues.push(cue);
      if (!isTimed) untimed.add(cue);
    });
  return { cues: fillTimes(cues, untimed), problems, carried: null };
}

/** An attribute by the last part of its namespace, which is `parameter`, `styling` or `metadata` in all versions. */
const ofSpace = (
  { attributes }: XmlNode,
  space: 'parameter' | 'styling' | 'metadata',
  name: string
): string | undefined => attributes.get(`{${space}}${name}`);

const elementsOf = ({ children }: XmlNode): readonly XmlNode[] =>
  children.filter((child): child is XmlNode => typeof child !== 'string' && child.isTt);
const childrenOf = (node: XmlNode | undefined, name: string): readonly XmlNode[] =>
  node === undefined ? [] : elementsOf(node).filter((child) => child.name === name);

const idOf = ({ attributes }: XmlNode): string | undefined => attributes.get('{namespace}id') ?? attributes.get('id');

/** What an element says of its own style. */
function ownStyle(node: XmlNode): Style {
  const say = (name: string): string | undefined => ofSpace(node, 'styling', name)?.trim();
  const slant = say('fontStyle');
  const weight = say('fontWeight');
  const line = say('textDecoration');
  const align = say('textAlign');
  return {
    ...(slant !== undefined && { i: slant === 'italic' || slant === 'oblique' }),
    ...(weight !== undefined && { b: weight === 'bold' || Number(weight) >= 600 }),
    ...(line !== undefined && { u: /(^|\s)underline/i.test(line) }),
    ...(align !== undefined && { textAlign: SIDES[align] ?? 'center' })
  };
}

const SIDES: Readonly<Record<string, Region['textAlign']>> = {
  ...{ left: 'left', start: 'left', right: 'right', end: 'right', center: 'center' }
};

/** Styles by their ids; each with those that it names, first to last, under its own. */
function readStyles(head: XmlNode | undefined): ReadonlyMap<string, Style> {
  const nodes = new Map(
    childrenOf(head, 'styling')
      .flatMap((styling) => childrenOf(styling, 'style'))
      .flatMap((node): readonly (readonly [string, XmlNode])[] => {
        const id = idOf(node);
        return id === undefined ? [] : [[id, node]];
      })
  );
  const known = new Map<string, Style>();
  const resolve = (id: string, asked: ReadonlySet<string>): Style => {
    const done = known.get(id);
    const node = nodes.get(id);
    // One that names itself says nothing more.
    if (done !== undefined || node === undefined || asked.has(id)) return done ?? {};
    let style: Style = {};
    for (const name of namesIn(node.attributes.get('style')))
      style = { ...style, ...resolve(name, new Set([...asked, id])) };
    style = { ...style, ...ownStyle(node) };
    known.set(id, style);
    return style;
  };
  for (const id of nodes.keys()) resolve(id, new Set());
  return known;
}

const namesIn = (list: string | undefined): readonly string[] => list?.split(/\s+/).filter((name) => name !== '') ?? [];

/** The style of an element: of those that it names, of style elements in it, and its own, the last wins. */
function styleOf(node: XmlNode, styles: ReadonlyMap<string, Style>): Style {
  let style: Style = {};
  for (const name of namesIn(node.attributes.get('style'))) style = { ...style, ...styles.get(name) };
  for (const child of childrenOf(node, 'style')) style = { ...style, ...ownStyle(child) };
  return { ...style, ...ownStyle(node) };
}

const saysOwnStyle = ({ attributes, children }: XmlNode): boolean =>
  children.some((child) => typeof child !== 'string' && child.name === 'style') ||
  [...attributes.keys()].some((name) => name.startsWith('{styling}'));

/** What an element's style makes of the one around it; most elements of a file name one of a few in the same place. */
function styleWithin(around: Style, node: XmlNode, { styles, merged }: Setting): Style {
  if (saysOwnStyle(node)) return { ...around, ...styleOf(node, styles) };
  const names = node.attributes.get('style');
  if (names === undefined) return around;
  const known = merged.get(around) ?? new Map<string, Style>();
  merged.set(around, known);
  const style = known.get(names) ?? { ...around, ...styleOf(node, styles) };
  known.set(names, style);
  return style;
}

function readRegions(head: XmlNode | undefined, styles: ReadonlyMap<string, Style>): ReadonlyMap<string, Region> {
  return new Map(
    childrenOf(head, 'layout')
      .flatMap((layout) => childrenOf(layout, 'region'))
      .flatMap((node) => {
        const id = idOf(node);
        return id === undefined ? [] : [[id, regionFrom(node, styles)] as const];
      })
  );
}

/** What a region, or a style element in it, says of where it is; percentages alone are understood. */
function regionFrom(node: XmlNode, styles: ReadonlyMap<string, Style>): Region {
  const said = (name: string): string | undefined =>
    [node, ...childrenOf(node, 'style')]
      .map((one) => ofSpace(one, 'styling', name))
      .find((value) => value !== undefined);
  const pair = (name: string, usual: readonly [number, number]): readonly [number, number] => {
    const found = /^\s*(-?[\d.]+)%\s+(-?[\d.]+)%\s*$/.exec(said(name) ?? '');
    const values = found === null ? usual : ([Number(found[1]), Number(found[2])] as const);
    return values.every((value) => Number.isFinite(value) && Math.abs(value) <= 1000) ? values : usual;
  };
  const [x, y] = pair('origin', [0, 0]);
  const [width, height] = pair('extent', [100, 100]);
  const align = said('displayAlign')?.trim();
  return {
    ...{ x, y, width, height },
    displayAlign: align === 'center' || align === 'after' ? align : 'before',
    textAlign: styleOf(node, styles).textAlign ?? 'center'
  };
}

/** Names of agents: the full one, else the first. */
function readAgents(head: XmlNode | undefined): ReadonlyMap<string, string> {
  const agents = new Map<string, string>();
  const look = (node: XmlNode): void => {
    for (const child of elementsOf(node)) {
      const id = idOf(child);
      if (child.name !== 'agent' || id === undefined) {
        look(child);
        continue;
      }
      const names = childrenOf(child, 'name');
      const name = names.find((one) => one.attributes.get('type') === 'full') ?? names[0];
      const text =
        name?.children
          .filter((part) => typeof part === 'string')
          .join('')
          .trim() ?? '';
      if (text !== '') agents.set(id, text);
    }
  };
  if (head !== undefined) look(head);
  return agents;
}

/** When an element is there, by its own times within those around it; `after`: where the one before it in a sequence ended. */
function timeOf(node: XmlNode, around: Time, after: number | null, { clock, problems }: Setting): Time | null {
  const read = (name: 'begin' | 'end' | 'dur'): number | null | undefined => {
    const raw = node.attributes.get(name);
    if (raw === undefined) return undefined;
    const value = parseTime(raw, clock);
    if (value === null)
      problems.push({
        ...{ code: 'bad_timing', line: node.line, outcome: 'repaired' },
        message: `${name}=${quote(raw)} is no time that can be read.`
      });
    return value;
  };
  const [begin, end, length] = [read('begin'), read('end'), read('dur')] as const;
  // What begins at a time that nobody can read is not put anywhere.
  if (begin === null) return null;
  const from = after ?? around.startMs;
  const startMs = from + (begin ?? 0);
  const ends = [
    around.endMs,
    ...(typeof end === 'number' ? [from + end] : []),
    ...(typeof length === 'number' ? [startMs + length] : [])
  ];
  const isSaid = around.isSaid || [begin, end, length].some((value) => typeof value === 'number');
  return { startMs, endMs: Math.min(...ends), isSaid };
}

const saysTime = ({ attributes }: XmlNode): boolean =>
  attributes.has('begin') || attributes.has('end') || attributes.has('dur');

type Take = (cue: FileCue, isTimed: boolean) => void;

/** Reads an element that holds paragraphs, or is one; gives when it ends, for the one behind it in a sequence. */
function readElement(
  node: XmlNode,
  around: Context,
  setting: Setting,
  take: Take,
  after: number | null = null
): number {
  const time = timeOf(node, around, after, setting);
  if (time === null) return around.startMs;
  const context = contextOf(node, { ...around, ...time }, setting);
  if (node.name === 'p') {
    const cue = readParagraph(node, context, setting);
    if (cue !== null) take(cue.cue, cue.isTimed);
    return Number.isFinite(time.endMs) ? time.endMs : (cue?.cue.endMs ?? time.startMs);
  }
  const isSequence = node.attributes.get('timeContainer') === 'seq';
  let at = time.startMs;
  for (const child of elementsOf(node))
    if (child.name === 'div' || child.name === 'p' || child.name === 'body')
      at = readElement(child, context, setting, take, isSequence ? at : null);
  return Number.isFinite(time.endMs) ? time.endMs : at;
}

function contextOf(node: XmlNode, around: Context, setting: Setting): Context {
  const { attributes } = node;
  const region = attributes.get('region');
  const agent = ofSpace(node, 'metadata', 'agent');
  const space = attributes.get('{namespace}space');
  const style = styleWithin(around.style, node, setting);
  if (region === undefined && agent === undefined && space === undefined)
    return style === around.style ? around : { ...around, style };
  const [name] = namesIn(agent);
  return {
    ...{ ...around, style },
    region: (region === undefined ? undefined : setting.regions.get(region)) ?? around.region,
    speaker: (name === undefined ? undefined : setting.agents.get(name)) ?? around.speaker,
    keepsSpace: space === undefined ? around.keepsSpace : space === 'preserve'
  };
}

/** A stretch of text of one style and voice, and when it is spoken, where a span says so; `null`: a line ends. */
type Stretch = {
  readonly text: string;
  readonly style: Style;
  readonly speaker: string | null;
  readonly time: Span | null;
} | null;

const collapsed = (text: string): string => (/[\t\r\n]| {2}/.test(text) ? text.replaceAll(/[ \t\r\n]+/g, ' ') : text);

function readParagraph(
  node: XmlNode,
  context: Context,
  setting: Setting
): { readonly cue: FileCue; readonly isTimed: boolean } | null {
  const stretches: Stretch[] = [];
  /** Of spans that have times of their own: the cue is there while any of them is. */
  const spans: Time[] = [];
  const read = (element: XmlNode, around: Context, spoken: Span | null): void => {
    for (const child of element.children) {
      if (typeof child === 'string') {
        const text = around.keepsSpace ? child.replaceAll(/[\r\n]/g, ' ') : collapsed(child);
        stretches.push({ text, style: around.style, speaker: around.speaker, time: spoken });
      } else if (!child.isTt) continue;
      else if (child.name === 'br') stretches.push(null);
      else if (child.name === 'span') {
        if (!saysTime(child)) {
          read(child, contextOf(child, around, setting), spoken);
          continue;
        }
        const time = timeOf(child, around, null, setting);
        if (time === null) continue;
        spans.push(time);
        const isWhole = Number.isFinite(time.endMs) && time.endMs > time.startMs;
        read(child, contextOf(child, { ...around, ...time }, setting), isWhole ? toSpan(time) : null);
      }
    }
  };
  read(node, context, null);
  const isBySpans = !saysTime(node) && spans.length > 0;
  const startMs = isBySpans ? Math.min(...spans.map((span) => span.startMs)) : context.startMs;
  const endMs = isBySpans ? Math.max(...spans.map((span) => span.endMs)) : context.endMs;
  const isTimed = (isBySpans || context.isSaid) && Number.isFinite(endMs);
  const lines = linesOf(stretches);
  // Elements for layout alone say nothing, at no time.
  if (lines.length === 0 && !context.isSaid) return null;
  if (!isTimed)
    setting.problems.push({
      ...{ code: 'bad_timing', line: node.line, outcome: 'repaired' },
      message: 'This paragraph does not say when it is there; it stands behind the cue before it.'
    });
  const align = context.style.textAlign;
  const region =
    context.region === null || align === undefined ? context.region : { ...context.region, textAlign: align };
  return {
    isTimed,
    cue: {
      line: node.line,
      startMs: wholeMs(startMs),
      endMs: wholeMs(isTimed ? endMs : startMs),
      lines,
      placement: placeOf(region, align),
      carried: null
    }
  };
}

/** Where nothing is said, players put captions at the bottom. */
function placeOf(region: Region | null, align: Region['textAlign'] | undefined): Placement | null {
  if (region !== null) return placementOfRegion(region);
  return align === undefined || align === 'center' ? null : `bottom ${align}`;
}

const MARKS: readonly MarkKind[] = ['b', 'i', 'u'];

function linesOf(stretches: readonly Stretch[]): readonly FileLine[] {
  const lines: Exclude<Stretch, null>[][] = [[]];
  for (const stretch of stretches) {
    if (stretch === null) lines.push([]);
    else lines.at(-1)!.push(stretch);
  }
  return lines
    .map((line): FileLine => {
      let markup = '';
      let speaker: string | null = null;
      const areTimed = line.some(({ time }) => time !== null);
      /** A word is spoken when its first letter is. */
      const wordTimes: (Span | null)[] = [];
      let isWithin = false;
      for (const { text, style, speaker: own, time } of line) {
        if (areTimed) {
          for (const { 0: word, index } of text.matchAll(/\S+/g)) {
            if (!isWithin || index > 0) wordTimes.push(time);
            isWithin = index + word.length === text.length;
          }
          if (/\s$/.test(text)) isWithin = false;
        }
        // White space between elements belongs to neither.
        const shown = /\s$/.test(markup) || markup === '' ? text.replace(/^[ \t]+/, '') : text;
        if (shown.trim() !== '') speaker ??= own;
        const isPlain = style.i !== true && style.b !== true && style.u !== true;
        if (isPlain || shown.trim() === '') {
          markup += escapeMarkup(shown);
          continue;
        }
        const marks = MARKS.filter((mark) => style[mark] === true);
        const close = marks.toReversed().map((mark) => `</${mark}>`);
        markup += `${marks.map((mark) => `<${mark}>`).join('')}${escapeMarkup(shown)}${close.join('')}`;
      }
      return { markup: markup.trim(), speaker, ...(areTimed && { wordTimes }) };
    })
    .filter(({ markup }) => hasVisible(markup));
}
