/** XML of files from elsewhere, read and written: elements with attributes, in their order; no entities of a file's own, no deeper than sense. */
import { XMLBuilder, XMLParser } from 'fast-xml-parser';
import { refuse, type Result } from '../refusal.ts';

/** Words in an element that has no others in it, as an attribute of their own. */
export const WORDS = '#text';

/** An element: its attributes as text, and the elements in it. Words beside other elements are left out. */
export interface Element {
  tag: string;
  attrs: Readonly<Record<string, string>>;
  kids: readonly Element[];
}

/** Deeper than this nobody builds. */
const MOST_DEEP = 200;
/** What the parser calls attributes, and the words between elements. */
const ATTRS = ':@';
type Parsed = Record<string, unknown>;

const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  parseAttributeValue: false,
  parseTagValue: false,
  trimValues: false,
  // Entities of a file's own grow without end, and those of the standard are few.
  processEntities: false,
  ignoreDeclaration: true,
  ignorePiTags: true,
  maxNestedTags: MOST_DEEP,
});

const ENTITIES: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };
const plain = (text: string): string =>
  text.replace(/&(#x[0-9a-f]{1,6}|#\d{1,7}|amp|lt|gt|quot|apos);/gi, (whole, name: string) => {
    if (!name.startsWith('#')) return ENTITIES[name.toLowerCase()] ?? whole;
    const code = /^#x/i.test(name) ? Number.parseInt(name.slice(2), 16) : Number(name.slice(1));
    return code > 0 && code <= 0x10ffff ? String.fromCodePoint(code) : '';
  });

/** Of an element that holds nothing but words. */
const wordsIn = (nodes: readonly Parsed[]): string =>
  nodes.every((n) => WORDS in n) ? nodes.map((n) => String(n[WORDS])).join('') : '';

function elementsOf(nodes: readonly Parsed[]): Element[] {
  return nodes.flatMap((node): Element[] => {
    const tag = Object.keys(node).find((k) => k !== ATTRS);
    const inside = tag === undefined ? undefined : node[tag];
    if (tag === undefined || tag.startsWith('#') || !Array.isArray(inside)) return [];
    const attrs = Object.entries((node[ATTRS] ?? {}) as Record<string, unknown>);
    const words = wordsIn(inside as Parsed[]);
    if (words.trim() !== '') attrs.push([WORDS, words]);
    return [
      {
        // A namespace says nothing here.
        tag: tag.replace(/^.*:/, ''),
        attrs: Object.fromEntries(attrs.map(([k, v]) => [k, plain(String(v))])),
        kids: elementsOf(inside as Parsed[]),
      },
    ];
  });
}

/** What a file says it is written in: UTF-16 where a byte order mark of the Unicode Standard (23.8) says so, else UTF-8. */
export function encodingOf([a, b]: Uint8Array): 'utf-8' | 'utf-16le' | 'utf-16be' {
  if (a === 0xff && b === 0xfe) return 'utf-16le';
  return a === 0xfe && b === 0xff ? 'utf-16be' : 'utf-8';
}

/** Text of a file: UTF-8, or UTF-16 where a mark at its beginning says so. */
export function decodeXml(bytes: Uint8Array): string {
  return new TextDecoder(encodingOf(bytes)).decode(bytes).replace(/^\ufeff/, '');
}

/**
 * Reads XML 1.0 leniently: a tag that is not closed ends with what it stands in.
 * @returns the first element, or why there is none
 */
export function readXml(text: string): Result<Element> {
  if (/<!(DOCTYPE|ENTITY)/i.test(text))
    return refuse('invalid', 'It declares entities of its own, which no file of this kind needs.');
  try {
    const [root] = elementsOf(parser.parse(text) as Parsed[]);
    return root ?? refuse('invalid', 'There is no XML in it.');
  } catch (error) {
    return refuse('invalid', `Its XML cannot be read: ${(error as Error).message.slice(0, 120)}.`);
  }
}

/** The first element of a kind in another, however its name is written. */
export const childOf = (element: Element | undefined, tag: string): Element | undefined =>
  element?.kids.find((k) => k.tag.toLowerCase() === tag.toLowerCase());
/** Elements of a kind in another, however their name is written. */
export const childrenOf = (element: Element | undefined, tag: string): Element[] =>
  element?.kids.filter((k) => k.tag.toLowerCase() === tag.toLowerCase()) ?? [];

/** Words of an attribute without blanks about them; empty where it is not there. */
export const attr = (element: Element | undefined, name: string): string =>
  element?.attrs[name]?.trim() ?? '';

/** A number as files write it, also with a decimal comma; undefined for what is none. */
export function numberIn(text: string): number | undefined {
  const written = text.trim().replace(',', '.');
  const value = written === '' ? Number.NaN : Number(written);
  return Number.isFinite(value) ? value : undefined;
}

/** An element to write. Attributes that are undefined are left out. */
export const make = (
  tag: string,
  attrs: Record<string, string | number | undefined> = {},
  kids: readonly Element[] = [],
): Element => ({
  tag,
  attrs: Object.fromEntries(
    Object.entries(attrs).flatMap(([k, v]) => (v === undefined ? [] : [[k, String(v)]])),
  ),
  kids,
});

const builder = new XMLBuilder({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  format: true,
  indentBy: ' ',
  suppressEmptyNode: true,
  suppressBooleanAttributes: false,
  processEntities: true,
});

/** An element as a document of XML 1.0. */
export function writeXml(root: Element): string {
  const parsed = ({ tag, attrs: { [WORDS]: words, ...attrs }, kids }: Element): Parsed => ({
    [tag]: words === undefined ? kids.map(parsed) : [{ [WORDS]: words }],
    ...(Object.keys(attrs).length > 0 ? { [ATTRS]: attrs } : {}),
  });
  return `<?xml version="1.0" encoding="UTF-8"?>${String(builder.build([parsed(root)]))}\n`;
}
