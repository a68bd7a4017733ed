/** @jest-environment jsdom */
/** Buttons that are pictures say what they are: read out, and as a tip for eyes. */
import { act, fireEvent, render, screen } from '@testing-library/react';
import { IconButton } from './controls';

beforeAll(() => {
  globalThis.ResizeObserver ??= class {
    observe = () => undefined;
    unobserve = () => undefined;
    disconnect = () => undefined;
  };
});

test('whoever comes to a picture by keys is told what it does, and no more once they have gone on', () => {
  render(
    <>
      <IconButton label="Undo only “Patched 4 washes”">↶</IconButton>
      <button type="button">next</button>
    </>,
  );
  expect(screen.queryByRole('tooltip')).toBeNull();
  const button = screen.getByRole('button', { name: 'Undo only “Patched 4 washes”' });
  act(() => button.focus());
  expect(screen.getByRole('tooltip').textContent).toBe('Undo only “Patched 4 washes”');
  act(() => screen.getByRole('button', { name: 'next' }).focus());
  expect(screen.queryByRole('tooltip')).toBeNull();
});

test('a button that cannot be pressed says why with the browser’s own tip', () => {
  render(
    <IconButton label="Undo" title="Nothing to undo" disabled>
      ↶
    </IconButton>,
  );
  const button = screen.getByRole('button', { name: 'Undo' });
  fireEvent.pointerMove(button);
  expect(button.getAttribute('title')).toBe('Nothing to undo');
});
