/**
 * Limits of the chosen units, as they are read and typed.
 * @jest-environment jsdom
 */
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { mode } from '@/core/rig/make-type';
import { apply, exampleShow, idOf } from '@/core/testing/example';
import type { MutableShow } from '@/core/show/show';
import { edit } from '../../state/edits';
import { useScreen } from '../../state/store';
import { Limits } from './Limits';

jest.mock('../../state/edits', () => ({ edit: jest.fn(() => Promise.resolve({ seq: 1 })) }));
const written = edit as unknown as jest.Mock;

let show: MutableShow;
const fixture = (number: number) => {
  const row = show.fixtures.get(idOf(show, number));
  if (!row) throw new Error(`no ${number}`);
  return row;
};
const open = (...numbers: number[]): void =>
  void render(<Limits chosen={numbers.map(fixture)} disabled={false} />);

const sets = (): { id: string; set: Record<string, unknown> }[] =>
  ((written.mock.calls as unknown[][])[0]?.[1] as { fixtures: never[] } | undefined)?.fixtures ??
  [];
const type = (label: string, text: string): void => {
  fireEvent.keyDown(screen.getByRole('slider', { name: label }), { key: 'Enter' });
  fireEvent.change(screen.getByRole('textbox', { name: label }), { target: { value: text } });
  fireEvent.keyDown(screen.getByRole('textbox', { name: label }), { key: 'Enter' });
};
const says = (label: string) => screen.getByRole('slider', { name: label }).textContent;

beforeEach(() => {
  written.mockClear();
  show = exampleShow();
  useScreen.setState({ show });
  apply(show, 'set-type', {
    type: {
      maker: 'Quillon',
      name: 'Own',
      shape: 'profile',
      watts: 100,
      emitters: {},
      modes: [mode('A', ['Dimmer', 'Pan', 'Tilt', 'Shutter1Strobe', 'CTO'])],
    },
  });
  const own = [...show.types.values()].find((t) => t.name === 'Own');
  const patch = { typeId: own?.id, mode: 'A', universe: 9, address: 1 };
  apply(show, 'patch-fixtures', { ...patch, quantity: 2, first: 201 });
});
afterEach(cleanup);

test('limits are said in the unit of what they limit', () => {
  open(201);
  fireEvent.click(screen.getByText(/^all/));
  expect(says('Pan from, typed')).toBe('-270–');
  expect(says('Pan to, typed')).toBe('270°');
  expect(says('Strobe to, typed')).toBe('25Hz');
  expect(says('Warm shift to, typed')).toBe('2700K');
  expect(says('Intensity to, typed')).toBe('100%');
});

test('one that is typed in degrees is written as a level, to all of the chosen that can', () => {
  open(1, 201, 202);
  type('Pan to, typed', '135');
  expect(sets()).toEqual(
    [201, 202].map((n) => ({ id: idOf(show, n), set: { transforms: { Pan: { max: 0.75 } } } })),
  );
});

test('the lower one is never above the higher one', () => {
  open(201);
  type('Pan to, typed', '0');
  apply(show, 'change-fixtures', { fixtures: sets() });
  cleanup();
  written.mockClear();
  open(201);
  type('Pan from, typed', '200');
  expect(sets()[0]?.set).toEqual({ transforms: { Pan: { min: 0.5, max: 0.5 } } });
});

test('what changes nothing any more is not kept; what else there is stays', () => {
  apply(show, 'change-fixtures', {
    fixtures: [
      {
        id: idOf(show, 201),
        set: { transforms: { Pan: { invert: true }, Tilt: { max: 0.5 } } },
      },
    ],
  });
  open(201);
  fireEvent.click(screen.getByLabelText('Invert Pan'));
  expect(sets()[0]?.set).toEqual({ transforms: { Tilt: { max: 0.5 } } });
});

test('a curve of one’s own begins as the one that was there', () => {
  apply(show, 'change-fixtures', {
    fixtures: [{ id: idOf(show, 201), set: { transforms: { Dimmer: { curve: 'square' } } } }],
  });
  open(201);
  fireEvent.change(screen.getByLabelText('Curve'), { target: { value: 'table' } });
  const { Dimmer } = sets()[0]?.set.transforms as { Dimmer: { curve: number[] } };
  expect([Dimmer.curve[0], Dimmer.curve[8], Dimmer.curve[16]]).toEqual([0, 0.25, 1]);
});
