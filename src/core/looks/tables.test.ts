/** What becomes of a look when fixtures that it names go, and stay after all. */
import { withoutMembers } from '../show/references.ts';
import { looks } from './tables.ts';
import type { LookRow } from './rows.ts';

const look = (...items: LookRow['items']): LookRow => ({ id: 'l', number: 1, name: 'Quay', items });
const palette = (...members: string[]): LookRow['items'][number] => ({
  kind: 'palette',
  palette: 'p',
  members,
});
const level = (fixtureId: string): LookRow['items'][number] => ({
  kind: 'level',
  fixtureId,
  attribute: 'Dimmer',
  level: 1,
});
const gone = (id: string) => (_: unknown, other: string) => other !== id;
const rejoin = (now: LookRow, from: LookRow, id: string): LookRow =>
  looks.members?.[0]?.rejoin(now, from, id) ?? now;

test('members that are gone leave it, and so does what nobody is left of', () => {
  expect(
    withoutMembers('looks', look(palette('a', 'b'), level('a'), level('b')), gone('a')),
  ).toEqual(look(palette('b'), level('b')));
  expect(withoutMembers('looks', look(palette('a')), gone('a'))).toEqual(look());
  const inner = look({ kind: 'look', look: 'other' });
  expect(withoutMembers('looks', inner, gone('a'))).toBe(inner);
});

test('a fixture that stays after all has its places again, and only those', () => {
  const from = look(palette('a', 'b'), level('a'), { kind: 'look', look: 'other' });
  expect(rejoin(look(palette('b')), from, 'a')).toEqual(look(palette('b', 'a'), level('a')));
  expect(rejoin(look(), from, 'a')).toEqual(look(palette('a'), level('a')));
  const whole = look(palette('b', 'a'), level('a'));
  expect(rejoin(whole, from, 'a')).toBe(whole);
  expect(rejoin(whole, look(palette('b')), 'a')).toBe(whole);
});
