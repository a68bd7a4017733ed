/** XML from elsewhere: read leniently, never with entities of its own; written so that it comes back the same. */
import fc from 'fast-check';
import { isRefusal } from '../refusal';
import { decodeXml, make, numberIn, readXml, writeXml, type Element } from './xml';

const read = (text: string): Element => {
  const root = readXml(text);
  if (isRefusal(root)) throw new Error(root.message);
  return root;
};

test('elements, attributes and the five entities, in their order; words between are left out', () => {
  const root = read(
    '<?xml version="1.0"?><!-- a --><A n="x &amp; &#65;&#x42;"><B/>words<ns:C d=\'1\'/><B/></A>',
  );
  expect(root.attrs.n).toBe('x & AB');
  expect(root.kids.map((k) => k.tag)).toEqual(['B', 'C', 'B']);
});

test('entities of a file’s own are refused, whatever their case', () => {
  const bomb = '<!doctype x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;">]><A n="&b;"/>';
  expect(readXml(bomb)).toMatchObject({
    code: 'invalid',
    message: expect.stringContaining('entities'),
  });
});

test('what is no XML, is too deep or broken is refused in a sentence; a tag left open is not', () => {
  for (const text of ['', 'nothing', '<A', `${'<a>'.repeat(300)}${'</a>'.repeat(300)}`])
    expect(readXml(text)).toMatchObject({ code: 'invalid' });
  expect(read('<A><B></A>').kids).toHaveLength(1);
});

test('a mark at the beginning says how it is written', () => {
  const text = '<A n="ä"/>';
  const wide = Buffer.from(`\ufeff${text}`, 'utf16le');
  for (const bytes of [
    Buffer.from(text),
    Buffer.from(`\ufeff${text}`),
    wide,
    Buffer.from(wide).swap16(),
  ])
    expect(read(decodeXml(bytes)).attrs.n).toBe('ä');
});

test('numbers with a point or a comma', () => {
  expect(['1.5', '1,5', ' -2 ', '1e3', '', 'x', '1.2.3', 'Infinity'].map(numberIn)).toEqual([
    1.5,
    1.5,
    -2,
    1000,
    undefined,
    undefined,
    undefined,
    undefined,
  ]);
});

test('never throws for noise, and what is written is read the same', () => {
  fc.assert(
    fc.property(
      fc.string({
        unit: fc.constantFrom('<', '>', 'a', '/', '"', '=', ' ', '&', '!', '-', '?', '[', ']'),
      }),
      (text) => void readXml(text),
    ),
  );
  const words = fc.string().map((s) => s.replaceAll(/[^\P{C}]|[\ud800-\udfff]/gu, ''));
  const elementWith = (kids: fc.Arbitrary<Element[]>): fc.Arbitrary<Element> =>
    fc.record({
      tag: fc.constantFrom('A', 'Bc', 'D1'),
      attrs: fc.dictionary(fc.constantFrom('Name', 'Value', 'x'), words),
      kids,
    });
  const leaf = elementWith(fc.constant([]));
  const element = elementWith(
    fc.array(elementWith(fc.array(leaf, { maxLength: 3 })), { maxLength: 3 }),
  );
  fc.assert(
    fc.property(element, (root) => {
      expect(JSON.stringify(read(writeXml(make(root.tag, root.attrs, root.kids))))).toBe(
        JSON.stringify({ tag: root.tag, attrs: root.attrs, kids: root.kids }),
      );
    }),
  );
});
