/** An XML document as plain nodes. Entities are never expanded, depth is bounded, what is not well-formed is told and read on. */
import { SaxesParser } from 'saxes';
import { OLD_TT, TT } from './names';

export interface XmlNode {
  /** Without its prefix. */
  readonly name: string;
  /** Of TTML, in any of its versions. */
  readonly isTt: boolean;
  /** By `local` for those without a namespace, by `{last part of the namespace}local` for others. */
  readonly attributes: Map<string, string>;
  readonly children: (XmlNode | string)[];
  /** From 1. */
  readonly line: number;
}

export interface XmlFault {
  readonly line: number;
  readonly message: string;
}

/** Each level costs the parser what all above it hold. */
const MOST_DEPTH = 64;
const MOST_FAULTS = 50;

/** A bare ampersand would take all that follows for the name of an entity. */
const BARE_AMPERSAND = /&(?!(?:#\d{1,7}|#x[\da-f]{1,6}|[a-z][\w.-]{0,30});)/gi;

const isTt = (uri: string): boolean => uri === TT || uri.startsWith(`${TT}#`) || OLD_TT.test(uri);

/** `null` where there is no element at all, or they lie too deep. */
export function parseXml(content: string): { readonly root: XmlNode | null; readonly faults: readonly XmlFault[] } {
  const faults: XmlFault[] = [];
  const parser = new SaxesParser({ xmlns: true, position: true });
  const open: XmlNode[] = [];
  let root: XmlNode | null = null;
  let isTooDeep = false;
  const spaces = new Map<string, string>();
  const spaceOf = (uri: string): string => {
    const known = spaces.get(uri) ?? `{${uri.split(/[#/]/).at(-1)}}`;
    spaces.set(uri, known);
    return known;
  };
  Object.assign(parser.ENTITIES, { nbsp: '\u00a0', lrm: '\u200e', rlm: '\u200f' });
  parser.on('error', ({ message }) => {
    if (faults.length < MOST_FAULTS) faults.push({ line: parser.line, message: message.replace(/^\d+:\d+: /, '') });
  });
  parser.on('opentag', ({ local, uri, attributes }) => {
    isTooDeep ||= open.length >= MOST_DEPTH;
    if (isTooDeep) return;
    const node: XmlNode = {
      ...{ name: local, isTt: isTt(uri) || uri === '', children: [], line: parser.line },
      attributes: new Map()
    };
    for (const name in attributes) {
      const one = attributes[name]!;
      node.attributes.set(one.uri === '' ? one.local : `${spaceOf(one.uri)}${one.local}`, one.value);
    }
    open.at(-1)?.children.push(node);
    root ??= node;
    open.push(node);
  });
  parser.on('closetag', () => {
    if (!isTooDeep) open.pop();
  });
  const add = (text: string): void => {
    if (!isTooDeep) open.at(-1)?.children.push(text);
  };
  parser.on('text', add);
  parser.on('cdata', add);
  parser.write(content.replace(/^\ufeff/, '').replaceAll(BARE_AMPERSAND, '&amp;')).close();
  if (isTooDeep) {
    faults.push({ line: 1, message: `Elements lie more than ${MOST_DEPTH} deep.` });
    return { root: null, faults };
  }
  return { root, faults };
}
