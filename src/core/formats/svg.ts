/**
 * Drawings (SVG) made safe: what draws is kept, by a list; scripts, links, styles with addresses, and whatever else is
 * not on the list goes. What is left reaches for nothing outside of itself.
 */
import { isRefusal, refuse, type Result } from '../refusal.ts';
import { fromBase64, toBase64 } from './base64.ts';
import { decodeXml, readXml, writeXml, type Element } from './xml.ts';

const TAGS = new Set(
  'svg g path circle ellipse rect line polyline polygon defs lineargradient radialgradient stop clippath mask use title symbol'.split(
    ' ',
  ),
);
const ATTRIBUTES = new Set(
  (
    'id d cx cy r rx ry x y x1 y1 x2 y2 fx fy width height points transform viewbox preserveaspectratio fill fill-rule fill-opacity ' +
    'stroke stroke-width stroke-linecap stroke-linejoin stroke-miterlimit stroke-dasharray stroke-dashoffset stroke-opacity opacity ' +
    'clip-path clip-rule mask gradientunits gradienttransform spreadmethod offset stop-color stop-opacity clippathunits maskunits ' +
    'display visibility color'
  ).split(' '),
);
/** Properties that are written as a style often. */
const STYLED = /^(fill|stroke|opacity|stop|clip|mask|display|visibility|color)/;
/** Only what is in the drawing itself. */
const OUTSIDE = /url\s*\(\s*(?!['"]?#)|javascript:|expression\s*\(|@import|\\/i;
const MOST_ELEMENTS = 20_000;

function safeAttrs({ tag, attrs }: Element): Record<string, string> {
  const kept: Record<string, string> = {};
  for (const [name, value] of Object.entries(attrs)) {
    const plain = name.toLowerCase();
    if (OUTSIDE.test(value)) continue;
    if (plain === 'style')
      for (const line of value.split(';')) {
        const [property = '', is = ''] = line.split(':').map((s) => s.trim());
        if (STYLED.test(property) && is !== '') kept[property] = is;
      }
    else if (ATTRIBUTES.has(plain)) kept[name] = value;
    else if (tag.toLowerCase() === 'use' && /^(xlink:)?href$/.test(plain) && value.startsWith('#'))
      kept.href = value;
  }
  return kept;
}

/** @returns a drawing of the same look that does nothing but draw */
export function cleanSvg(bytes: Uint8Array): Result<Uint8Array> {
  const root = readXml(decodeXml(bytes));
  if (isRefusal(root)) return root;
  if (root.tag.toLowerCase() !== 'svg') return refuse('invalid', 'It is no drawing (SVG).');
  let count = 0;
  const clean = (element: Element): Element[] => {
    if (!TAGS.has(element.tag.toLowerCase()) || ++count > MOST_ELEMENTS) return [];
    return [{ tag: element.tag, attrs: safeAttrs(element), kids: element.kids.flatMap(clean) }];
  };
  const [safe] = clean(root);
  if (!safe) return refuse('invalid', 'It is no drawing (SVG).');
  const attrs = { xmlns: 'http://www.w3.org/2000/svg', ...safe.attrs };
  return new TextEncoder().encode(writeXml({ ...safe, attrs }));
}

const SVG_DATA = /^data:image\/svg\+xml;base64,(.*)$/s;

/** A picture as rows keep it (a data URL): a drawing is made safe, whoever sent it; other pictures are as they are. */
export function safePicture(data: string): Result<string> {
  const drawing = SVG_DATA.exec(data)?.[1];
  if (drawing === undefined) return data;
  const clean = cleanSvg(fromBase64(drawing));
  return isRefusal(clean) ? clean : svgData(clean);
}

/** A drawing as a data URL. */
export const svgData = (drawing: Uint8Array): string =>
  `data:image/svg+xml;base64,${toBase64(drawing)}`;
