/** What a unit on a sheet shows of its light. */
import { apply, exampleShow, idOf } from '@/core/testing/example';
import { compileSlots, slotIndex } from '@/core/playback/slots';
import { slotKey } from '@/core/cues/rows';
import { lampsOf } from '../../plan/light';
import { shownOf } from './shown';

test('a strip shows its cells side by side; a piece of one cell shows that one alone, and nothing where there is none', () => {
  const show = exampleShow();
  apply(show, 'patch-fixtures', {
    typeId: 'generic-strip',
    mode: '4 cells RGB',
    quantity: 1,
    first: 60,
    universe: 9,
    address: 1,
  });
  const slots = compileSlots(show);
  const index = slotIndex(slots);
  const levels = Float32Array.from(slots.defaults);
  const set = (attribute: string, level: number): void => {
    levels[index.get(slotKey(idOf(show, 60), attribute)) ?? -1] = level;
  };
  set('Dimmer', 0.8);
  for (const cell of [1, 2, 3, 4])
    for (const base of ['ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B'])
      set(`${base}@${cell}`, cell === 2 ? 1 : 0);
  set('ColorAdd_R@3', 1);
  const lamp = lampsOf(show, index).find((l) => l.fixture.number === 60);
  const whole = shownOf(lamp, undefined, levels);
  // Two of four cells are lit.
  expect(whole.percent).toBe(40);
  expect(whole.light.match(/rgb|transparent/g)).toEqual([
    'transparent',
    'rgb',
    'rgb',
    'transparent',
  ]);
  const [second, third] = [shownOf(lamp, 2, levels), shownOf(lamp, 3, levels)];
  expect(second.light).toMatch(/^rgb\(/);
  expect(whole.light).toContain(`${third.light} 50% 75%`);
  expect([second.percent, third.percent, shownOf(lamp, 1, levels).percent]).toEqual([80, 80, 0]);
  expect(third.light).not.toBe(second.light);
  expect(shownOf(lamp, 9, levels)).toMatchObject({ percent: 0 });
});
