/**
 * A mode in the type editor, as it is typed.
 * @jest-environment jsdom
 */
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { useState } from 'react';
import { mode as makeMode } from '@/core/rig/make-type';
import type { Mode } from '@/core/types/rows';
import { ModeTable } from './ModeTable';
import type { Draft } from './TypeCell';

afterEach(cleanup);

let now: Mode;
function Editor({ first }: { first: Mode }) {
  const [mode, setMode] = useState(first);
  now = mode;
  const draft = { modes: [mode] } as unknown as Draft;
  return <ModeTable draft={draft} index={0} problems={[]} onChange={setMode} />;
}
const field = (label: string): HTMLInputElement => screen.getByLabelText(label);
/** Key by key, as a hand types. */
function type(label: string, text: string): void {
  for (let i = 0; i <= text.length; i++)
    fireEvent.change(field(label), { target: { value: text.slice(0, i) } });
}
beforeEach(() => {
  render(<Editor first={makeMode('Own', ['Dimmer', 'Pan', 'Tilt'])} />);
});

test('places are typed with a comma between them', () => {
  type('Places of Pan', '2, 3');
  expect(field('Places of Pan').value).toBe('2, 3');
  expect(now.channels[1]?.offset).toEqual([2, 3]);
});

test('a number that is taken out leaves an empty field; what is half typed stays as it is', () => {
  type('Default of Pan', '33.33');
  expect(field('Default of Pan').value).toBe('33.33');
  expect(now.channels[1]?.default).toBeCloseTo(0.3333, 6);
  type('Default of Pan', '');
  expect(field('Default of Pan').value).toBe('');
  type('Physical end of Pan', '270.');
  expect(field('Physical end of Pan').value).toBe('270.');
  fireEvent.change(field('Channels'), { target: { value: '' } });
  expect(field('Channels').value).toBe('');
});

test('a highlight is typed and taken out again', () => {
  type('Highlight of Tilt', '12,5');
  expect(now.channels[2]?.highlight).toBeCloseTo(0.125, 6);
  expect(field('Highlight of Tilt').value).toBe('12,5');
  type('Highlight of Tilt', '');
  expect(now.channels[2]?.highlight).toBeUndefined();
});

test('functions that are open go with their channel, and not with its place', () => {
  fireEvent.click(screen.getByLabelText('Functions of Pan'));
  fireEvent.click(screen.getByText('Add a function'));
  const open = (): (string | null)[] =>
    screen
      .getAllByLabelText(/^Functions of/)
      .filter((b) => b.getAttribute('aria-expanded') === 'true')
      .map((b) => b.getAttribute('aria-label'));
  const press = (row: number, label: string): void => {
    fireEvent.click(screen.getAllByLabelText(label)[row] as HTMLElement);
  };
  press(1, 'Down');
  expect([now.channels.map((c) => c.attribute), open()]).toEqual([
    ['Dimmer', 'Tilt', 'Pan'],
    ['Functions of Pan'],
  ]);
  press(2, 'Up');
  press(0, 'Down');
  expect(open()).toEqual(['Functions of Pan']);
  fireEvent.click(screen.getByLabelText('Remove Dimmer'));
  expect(open()).toEqual(['Functions of Pan']);
  expect(now.channels[0]?.functions?.[0]?.name).toBe('Function 1');
});

test('named ranges follow each other within their function', () => {
  fireEvent.click(screen.getByLabelText('Functions of Intensity'));
  fireEvent.click(screen.getByText('Add a function'));
  fireEvent.click(screen.getByText('+ range'));
  type('Range to', '100');
  fireEvent.click(screen.getByText('+ range'));
  expect(now.channels[0]?.functions?.[0]?.sets?.map((s) => [s.from, s.to])).toEqual([
    [0, 100],
    [101, 255],
  ]);
  fireEvent.click(within(document.body).getByLabelText('Remove Range 1'));
  expect(now.channels[0]?.functions?.[0]?.sets?.map((s) => s.name)).toEqual(['Range 2']);
});
