import { firstSo } from './first-so.ts';

test('the first case that holds is said, and what else where none does', () => {
  const said = (isLate: boolean, isLost: boolean): string =>
    firstSo(
      [
        [isLost, 'lost'],
        [isLate, 'late'],
      ],
      'there',
    );
  expect([said(false, false), said(true, false), said(true, true)]).toEqual([
    'there',
    'late',
    'lost',
  ]);
});
