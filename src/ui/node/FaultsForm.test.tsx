/**
 * Faults are switched one after the other, faster than the node is asked what it has.
 * @jest-environment jsdom
 */
import { act, fireEvent, render, screen } from '@testing-library/react';
import { NO_FAULTS, type Faults } from '@/core/wires/faults';
import { FaultsForm } from './FaultsForm';

let sent: Faults[] = [];
let isRefused = false;
beforeEach(() => {
  sent = [];
  isRefused = false;
  globalThis.fetch = jest.fn((_: string, init: RequestInit) => {
    if (!isRefused) sent.push(JSON.parse(init.body as string) as Faults);
    return Promise.resolve({
      ok: !isRefused,
      status: isRefused ? 403 : 200,
      json: () =>
        Promise.resolve(isRefused ? { error: { code: 'no', message: 'You may not.' } } : {}),
    });
  }) as unknown as typeof fetch;
});
const press = async (label: RegExp): Promise<void> => {
  await act(async () => {
    fireEvent.click(screen.getByLabelText(label));
    await Promise.resolve();
  });
};
const isOn = (label: RegExp): boolean =>
  screen.getByLabelText(label).getAttribute('aria-checked') === 'true' ||
  screen.getByLabelText<HTMLInputElement>(label).checked;

test('a second switch does not undo the first, whatever the node said meanwhile', async () => {
  const { rerender } = render(<FaultsForm faults={NO_FAULTS} />);
  await press(/short circuit/);
  // Asked before the switch, answered after it.
  rerender(<FaultsForm faults={{ ...NO_FAULTS }} />);
  expect(isOn(/short circuit/)).toBe(true);
  await press(/cable/);
  await press(/short circuit/);
  expect(sent.at(-1)).toEqual({ ...NO_FAULTS, pulled: true });
  rerender(<FaultsForm faults={{ ...NO_FAULTS, pulled: true }} />);
  // From now on what the node says counts: somebody else may have plugged it in.
  rerender(<FaultsForm faults={NO_FAULTS} />);
  expect(isOn(/cable/)).toBe(false);
});

test('what is refused is not on, and says why', async () => {
  isRefused = true;
  render(<FaultsForm faults={NO_FAULTS} />);
  await press(/cable/);
  expect(isOn(/cable/)).toBe(false);
  expect(screen.getByText('You may not.')).toBeTruthy();
});
