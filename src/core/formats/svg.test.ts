/** Drawings from elsewhere keep how they look and lose whatever else they do. */
import { isRefusal } from '../refusal';
import { cleanSvg } from './svg';

const cleaned = (text: string): string => {
  const clean = cleanSvg(Buffer.from(text));
  if (isRefusal(clean)) throw new Error(clean.message);
  return Buffer.from(clean).toString();
};

test('what draws stays, with its style as attributes', () => {
  const out = cleaned(
    '<svg viewBox="0 0 9 9"><g transform="scale(2)"><path d="M0 0" style="fill:#f00;stroke-width:2;font-family:x"/></g></svg>',
  );
  expect(out).toContain('viewBox="0 0 9 9"');
  expect(out).toContain('transform="scale(2)"');
  expect(out).toMatch(/<path d="M0 0" fill="#f00" stroke-width="2"\/>/);
  expect(out).not.toContain('font');
});

test.each([
  '<script>alert(1)</script>',
  '<path onload="x()" d="M0 0"/>',
  '<a href="javascript:x()"><rect/></a>',
  '<image href="http://elsewhere/x.png"/>',
  '<use href="http://elsewhere/x.svg#a"/>',
  '<rect fill="url(http://elsewhere/a)"/>',
  '<style>@import "http://elsewhere";</style>',
  '<foreignObject><iframe src="x"/></foreignObject>',
  '<animate attributeName="href" to="javascript:x"/>',
  '<rect style="fill:url(\'//elsewhere/x\')"/>',
  '<set onbegin="x()"/>',
])('what does more than draw goes: %s', (bad) => {
  const out = cleaned(`<svg><rect id="stays"/>${bad}</svg>`);
  expect(out).toContain('stays');
  expect(out.replace('http://www.w3.org/2000/svg', '')).not.toMatch(
    /script|javascript|onload|onbegin|http|elsewhere|iframe|image|import|foreign|animate/i,
  );
});

test('what was made safe stays as it is', () => {
  const once = cleaned('<svg viewBox="0 0 9 9"><path d="M0 0" style="fill:#f00"/></svg>');
  expect(cleaned(once)).toBe(once);
});

test('what points into the drawing itself stays', () => {
  const out = cleaned(
    '<svg><defs><g id="a"/></defs><use xlink:href="#a"/><rect fill="url(#a)"/></svg>',
  );
  expect(out).toContain('href="#a"');
  expect(out).toContain('fill="url(#a)"');
});

test('what is no drawing, or brings entities, is refused', () => {
  for (const text of ['<html/>', 'nothing', '<!DOCTYPE svg [<!ENTITY a "b">]><svg/>'])
    expect(cleanSvg(Buffer.from(text))).toMatchObject({ refused: true });
});
