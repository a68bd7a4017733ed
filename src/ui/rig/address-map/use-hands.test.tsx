/**
 * A mode that is carried from the library to the map.
 * @jest-environment jsdom
 */
import { act, fireEvent, renderHook } from '@testing-library/react';
import { libraryTypes } from '@/core/rig/library/index';
import { clearDraft, useRig } from '../rig-state';
import { useCarriedType } from './use-hands';

const [type] = libraryTypes();
const mode = type?.modes[0];
const local = () => ({ x: 10, y: 10, cell: 100 });
const over = (): void => undefined;

function carried() {
  if (!type || !mode) throw new Error('no library');
  act(clearDraft);
  const { result } = renderHook(() => useCarriedType(local, 0, over));
  act(() => useRig.setState({ carrying: { type, mode } }));
  fireEvent(window, new MouseEvent('pointermove'));
  return result;
}
const carrying = () => useRig.getState().carrying;
/** Where the form would patch: a drop says so first. */
const dropped = () => useRig.getState().draft.address;

test('is patched where it is let go', () => {
  const drop = carried();
  expect(drop.current).toBe(100);
  act(() => void fireEvent(window, new MouseEvent('pointerup')));
  expect([dropped(), carrying(), drop.current]).toEqual(['1.100', null, null]);
});

test.each([
  ['the system takes the finger away', () => new MouseEvent('pointercancel')],
  ['somebody presses Esc', () => new KeyboardEvent('keydown', { key: 'Escape' })],
])('patches nothing where %s, nor with the next press', (_, event) => {
  const drop = carried();
  act(() => void fireEvent(window, event()));
  expect([carrying(), drop.current]).toEqual([null, null]);
  act(() => void fireEvent(window, new MouseEvent('pointerup')));
  expect(dropped()).toBe('');
});
