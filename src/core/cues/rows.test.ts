import fc from 'fast-check';
import { readSlotKey, slotKey } from './rows.ts';

test('a slot key names its unit and attribute, whatever the unit is called', () => {
  const id = fc.string({ minLength: 1, maxLength: 20 });
  const attribute = fc.string({ minLength: 1, maxLength: 20 }).filter((a) => !a.includes(':'));
  fc.assert(
    fc.property(id, attribute, (fixtureId, a) =>
      expect(readSlotKey(slotKey(fixtureId, a))).toEqual({ fixtureId, attribute: a }),
    ),
  );
});
