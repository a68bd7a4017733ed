/** @jest-environment jsdom */
/** A phone's screen stays awake while its page is looked at, and no longer. */
import { act, render } from '@testing-library/react';
import { useAwake } from './use-awake';

function Page() {
  useAwake();
  return <p>GO</p>;
}
const locks = { asked: 0, released: 0 };
const settle = (): Promise<void> => act(() => new Promise<void>((done) => setTimeout(done)));
const looked = (is: boolean): void => {
  Object.defineProperty(document, 'visibilityState', {
    value: is ? 'visible' : 'hidden',
    configurable: true,
  });
  document.dispatchEvent(new Event('visibilitychange'));
};

test('it is asked for at once and after every look away, and let go of with the page', async () => {
  Object.defineProperty(navigator, 'wakeLock', {
    value: {
      request: () => {
        locks.asked++;
        return Promise.resolve({ release: () => Promise.resolve(void locks.released++) });
      },
    },
    configurable: true,
  });
  looked(true);
  const page = render(<Page />);
  await settle();
  expect(locks.asked).toBe(1);
  looked(false);
  expect(locks.asked).toBe(1);
  looked(true);
  await settle();
  expect(locks.asked).toBe(2);
  page.unmount();
  await settle();
  expect(locks.released).toBe(1);
});

test('a browser that keeps no screen awake is left alone', () => {
  Object.defineProperty(navigator, 'wakeLock', { value: undefined, configurable: true });
  expect(() => render(<Page />).unmount()).not.toThrow();
});
