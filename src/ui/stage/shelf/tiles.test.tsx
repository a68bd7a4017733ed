/** @jest-environment jsdom */
/** What tiles know of the values that are held: which are followed, whatever their levels. */
import { act, cleanup, renderHook } from '@testing-library/react';
import { slotKey } from '@/core/cues/rows';
import type { HeldValue } from '@/core/live/messages';
import { exampleShow } from '@/core/testing/example';
import { useScreen } from '../../state/store';
import { useTiles } from './tiles';

const value = (fixtureId: string, level: number, more: Partial<HeldValue> = {}): HeldValue => ({
  fixtureId,
  attribute: 'Dimmer',
  level,
  recorded: false,
  fade_s: 0,
  delay_s: 0,
  ...more,
});
const held = (...values: HeldValue[]): void =>
  act(() =>
    useScreen.setState({
      values: new Map(values.map((v) => [slotKey(v.fixtureId, v.attribute), v])),
    }),
  );
const wave = { id: 'wave' } as HeldValue['effect'];

beforeEach(() => useScreen.setState({ show: exampleShow(), values: new Map(), selection: [] }));
afterEach(cleanup);

test('tiles are drawn when something else is followed, and not with each level', () => {
  let drawn = 0;
  const { result } = renderHook(() => {
    drawn++;
    return useTiles();
  });
  held(value('a', 0.1, { palette: 'dusk' }));
  const before = drawn;
  for (const level of [0.2, 0.3, 0.4]) held(value('a', level, { palette: 'dusk' }));
  expect(drawn).toBe(before);
  expect(result.current.pressed('dusk')).toBe(true);
  held(value('a', 0.4, { look: 'storm' }));
  expect(drawn).toBeGreaterThan(before);
  expect([result.current.pressed('dusk'), result.current.pressed('storm')]).toEqual([false, true]);
});

test('an effect runs for one of the selected; where none is selected, for any', () => {
  const { result } = renderHook(() => useTiles());
  expect(result.current.running('wave')).toBe(false);
  held(value('a', 1, { effect: wave }), value('b', 1));
  expect([result.current.running('wave'), result.current.pressed('wave')]).toEqual([true, true]);
  act(() => useScreen.setState({ selection: ['b'] }));
  expect(result.current.running('wave')).toBe(false);
  act(() => useScreen.setState({ selection: ['b', 'a'] }));
  expect(result.current.running('wave')).toBe(true);
});
