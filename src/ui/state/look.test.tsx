/** @jest-environment jsdom */
/** The look of a person's screens: shown at once, kept for the next page and with the person. */
import { LOOK_COOKIE, lookOf } from '@/core/crew/look';
import { coloursAt } from '../parts/tokens';
import { showLook, useLook } from './look';
import { keepLook, usePreferences } from './preferences';

const cookie = (): string | undefined =>
  document.cookie
    .split('; ')
    .find((c) => c.startsWith(`${LOOK_COOKIE}=`))
    ?.split('=')[1];

test('a look shows at once, and the next page is written in it', () => {
  showLook({ theme: 'day', light: 0.7 });
  expect(document.documentElement.dataset.theme).toBe('day');
  expect(useLook.getState()).toMatchObject({ theme: 'day', light: 0.7 });
  expect(lookOf(cookie())).toEqual({ theme: 'day', light: 0.7 });
});

test('a screen is never so dark that nothing is found on it, nor brighter than it can be', () => {
  showLook({ theme: 'night', light: 0 });
  expect(useLook.getState().light).toBe(0.3);
  showLook({ theme: 'night', light: 5 });
  expect(useLook.getState().light).toBe(1);
});

test('it is kept once the hand has come to rest, with everything else of the person', () => {
  jest.useFakeTimers();
  const sent: { look?: unknown; keys?: unknown }[] = [];
  globalThis.fetch = jest.fn((_, init?: RequestInit) => {
    sent.push(JSON.parse(init?.body as string) as (typeof sent)[number]);
    return Promise.resolve(new Response('{}'));
  });
  usePreferences.setState({ known: true, keys: { help: 'F1' } });
  keepLook({ theme: 'day', light: 0.5 });
  keepLook({ theme: 'day', light: 0.6 });
  expect(sent).toEqual([]);
  jest.advanceTimersByTime(1000);
  expect(sent).toHaveLength(1);
  expect(sent[0]).toMatchObject({ look: { theme: 'day', light: 0.6 }, keys: { help: 'F1' } });
  jest.useRealTimers();
});

test('what is drawn by hand has the colours of where it stands', () => {
  const style = document.createElement('style');
  style.textContent =
    "[data-theme='night'] { --color-ink: #111111 } [data-theme='day'] { --color-ink: #eeeeee }";
  document.head.append(style);
  document.body.innerHTML =
    '<div data-theme="day"><i id="day"></i><div data-theme="night"><i id="plan"></i></div></div>';
  const at = (id: string): string => coloursAt(document.getElementById(id) as Element)('ink');
  expect(at('day')).toBe('#eeeeee');
  expect(at('plan')).toBe('#111111');
});
