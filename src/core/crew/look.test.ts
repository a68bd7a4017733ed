import fc from 'fast-check';
import { DARKEST, lookOf, lookWords, NIGHT, THEMES } from './look';

test('a look that went into a cookie comes out of it', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...THEMES),
      fc.integer({ min: DARKEST * 100, max: 100 }),
      (theme, percent) => {
        const look = { theme, light: percent / 100 };
        expect(lookOf(lookWords(look))).toEqual(look);
      },
    ),
  );
});

test('what is no look is night at full', () => {
  for (const words of [undefined, '', 'day', 'dusk-1', 'day-0.1', 'day-2', 'day-x'])
    expect(lookOf(words)).toEqual(NIGHT);
});
