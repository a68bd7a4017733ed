/** Another desk’s universe as faders and keys. */
import { deskLifted, deskMoved } from './desk.ts';
import { ControlId } from './rows.ts';

const slots = (...values: number[]): Uint8Array => Uint8Array.from(values);

test('what stands when it is first heard moves nothing; what changes then does, at its address', () => {
  expect(deskMoved(null, slots(10, 255))).toEqual([]);
  expect(deskMoved(slots(10, 255), slots(10, 0, 51))).toEqual([
    { control: 'slot.2', value: 0, on: false, isKey: false },
    { control: 'slot.3', value: 0.2, on: false, isKey: false },
  ]);
});

test('lost, its keys that were down are lifted and its faders stay', () => {
  expect(deskLifted(null)).toEqual([]);
  expect(deskLifted(slots(127, 128, 0, 255)).map((m) => [m.control, m.on])).toEqual([
    ['slot.2', false],
    ['slot.4', false],
  ]);
});

test('addresses 1 to 512 can be bound', () => {
  for (const n of [1, 17, 512]) expect(ControlId.safeParse(`slot.${n}`).success).toBe(true);
  for (const n of [0, 513]) expect(ControlId.safeParse(`slot.${n}`).success).toBe(false);
});
