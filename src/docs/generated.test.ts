/** Documents say what the definitions say. */
import { readFileSync } from 'node:fs';
import { GENERATED, withPart } from './generated.ts';

test.each(GENERATED)('$file says of $name what is defined', ({ file, name, text }) => {
  const document = readFileSync(file, 'utf8');
  expect(document).toBe(withPart(document, name, text()));
});

test('a document without the marks is told of', () => {
  expect(() => withPart('# Nothing here', 'edits', 'x')).toThrow('no part “edits”');
});
