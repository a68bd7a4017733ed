/**
 * What of the cue sheet is drawn again: rows of cues where something of theirs changes, and not with what hands hold.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import type { ReactNode } from 'react';
import type { HeldValue } from '@/core/live/messages';
import { slotKey } from '@/core/cues/rows';
import { apply, cue, exampleShow, idOf } from '@/core/testing/example';
import type { MutableShow } from '@/core/show/show';
import { useBook } from '../state/book';
import { useScreen } from '../state/store';
import { CueSheet } from './CueSheet';

jest.mock('next/navigation', () => ({ useRouter: () => ({}), usePathname: () => '' }));
jest.mock('./use-sheet', () => ({ useSheet: () => null }));
jest.mock('./sheet/use-canvas', () => ({ LEFT: 300, useSheetCanvas: () => () => undefined }));
/** By the mock below, which may use nothing but what is called so. */
const mockDrawn: string[] = [];
jest.mock('./RowCell', () => ({
  ROW_FIELDS: ['number', 'name', 'times', 'trigger'],
  RowCell: ({
    cue: of,
    what,
    children,
  }: {
    cue: { number: number };
    what: string;
    children: ReactNode;
  }) => {
    if (what === 'name') mockDrawn.push(String(of.number / 1000));
    return <span>{children}</span>;
  },
}));

let show: MutableShow;
beforeAll(() => {
  // A screen, of which jsdom has none.
  for (const [side, size] of [
    ['clientHeight', 600],
    ['clientWidth', 900],
  ] as const)
    Object.defineProperty(HTMLElement.prototype, side, { configurable: true, value: size });
});
beforeAll(() => {
  global.ResizeObserver = class {
    observe = (): void => undefined;
    unobserve = (): void => undefined;
    disconnect = (): void => undefined;
  };
});
afterAll(() => {
  for (const side of ['clientHeight', 'clientWidth'])
    Reflect.deleteProperty(HTMLElement.prototype, side);
});
beforeEach(() => {
  show = exampleShow();
  for (const n of [1, 2, 3]) cue(show, n, { 1: 10 * n });
  useScreen.setState((s) => ({ show, values: new Map(), you: { ...s.you, role: 'owner' } }));
  useBook.setState({ follow: false, cueId: null, chosen: [] });
  render(<CueSheet />);
});
afterEach(cleanup);

/** Which rows something draws again. */
function draws(does: () => void): string[] {
  mockDrawn.length = 0;
  act(does);
  return [...new Set(mockDrawn)];
}
const holds = (level: number): void => {
  const value: HeldValue = {
    fixtureId: idOf(show, 1),
    attribute: 'Dimmer',
    level,
    fade_s: 0,
    delay_s: 0,
    recorded: false,
  };
  useScreen.setState({ values: new Map([[slotKey(value.fixtureId, 'Dimmer'), value]]) });
};
const row = (n: number): HTMLElement => {
  const found = document.querySelector<HTMLElement>(`[data-sheet-cue="${n}"]`);
  if (!found) throw new Error(`no row ${n}`);
  return found;
};

test('a level that a hand sets draws no cue', () => {
  expect(screen.getAllByRole('row').length).toBeGreaterThanOrEqual(3);
  expect(draws(() => holds(0.4))).toEqual([]);
  expect(draws(() => holds(0.5))).toEqual([]);
});

test('looking at a cue draws it and the one that was looked at', () => {
  expect(draws(() => fireEvent.click(row(2)))).toContain('2');
  expect(row(2).getAttribute('aria-selected')).toBe('true');
  fireEvent.click(row(3));
  expect([row(2), row(3)].map((r) => r.getAttribute('aria-selected'))).toEqual(['false', 'true']);
});

test('a cue that is called something else draws itself and what follows it', () => {
  const [, second] = show.cuesOf('main');
  const again = draws(() => {
    apply(show, 'change-cue', { id: second?.id, set: { name: 'Fog' } });
    useScreen.setState((s) => ({ revision: s.revision + 1 }));
  });
  expect(again).toEqual(['2', '3']);
  expect(row(2).textContent).toContain('Fog');
});

test('a hand on a row is the newest one, also of a row that was not drawn since', () => {
  fireEvent.click(row(1));
  fireEvent.click(row(3), { shiftKey: true });
  expect(useBook.getState().chosen).toHaveLength(3);
});
