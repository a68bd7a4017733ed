/** Whose sheets are: given to a person, or to a role. */
import { apply, exampleShow } from '../testing/example';
import { firstSheet, hasSheet, sheetsOf } from './given';

function three() {
  const show = exampleShow();
  for (const name of ['House', 'Band', 'Sunday'])
    apply(show, 'set-sheet', { set: { name, columns: 48, rows: 34 } });
  const id = (name: string): string =>
    [...show.sheets.values()].find((s) => s.name === name)?.id ?? '';
  return { show, id };
}
const names = (sheets: readonly { name: string }[]): string[] => sheets.map((s) => s.name);

test('a volunteer has what was given to them and to all volunteers, and nothing else; everybody else has all', () => {
  const { show, id } = three();
  const volunteer = { role: 'volunteer', pages: [id('Band')] } as const;
  expect(names(sheetsOf(show, volunteer))).toEqual(['Band']);
  apply(show, 'set-sheet', {
    id: id('Sunday'),
    set: { name: 'Sunday', columns: 48, rows: 34, given: ['volunteer', 'operator'] },
  });
  expect(names(sheetsOf(show, volunteer))).toEqual(['Band', 'Sunday']);
  expect(hasSheet(show, volunteer, id('House'))).toBe(false);
  expect(hasSheet(show, { role: 'volunteer', pages: ['gone'] }, 'gone')).toBe(false);
  expect(names(sheetsOf(show, { role: 'viewer', pages: [] }))).toEqual(['House', 'Band', 'Sunday']);
});

test('what is given to a role opens first for it, and the first of the list for everybody else', () => {
  const { show, id } = three();
  apply(show, 'set-sheet', {
    id: id('Band'),
    set: { name: 'Band', columns: 48, rows: 34, given: ['operator'] },
  });
  const all = sheetsOf(show, { role: 'operator', pages: [] });
  expect(firstSheet(all, 'operator')?.name).toBe('Band');
  expect(firstSheet(all, 'owner')?.name).toBe('House');
  expect(firstSheet([], 'owner')).toBeUndefined();
});
