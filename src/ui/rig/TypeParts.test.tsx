/**
 * Wheels and control macros of a type, as they are typed.
 * @jest-environment jsdom
 */
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import type { Macro, Wheel } from '@/core/types/rows';
import { MacroRows, WheelRows } from './TypeParts';

afterEach(cleanup);

const fields = (label: string): HTMLInputElement[] => screen.getAllByLabelText(label);
const values = (label: string): string[] => fields(label).map((f) => f.value);

describe('control macros', () => {
  let now: readonly Macro[];
  function Editor({ first }: { first: Macro[] }) {
    const [macros, setMacros] = useState(first);
    now = macros;
    return <MacroRows macros={macros} attributes={['Control1']} onChange={setMacros} />;
  }
  const macro = (name: string, value: number, hold_s: number): Macro => ({
    name,
    attribute: 'Control1',
    value,
    hold_s,
  });
  beforeEach(() => {
    render(<Editor first={[macro('Lamp on', 130, 5), macro('Reset', 200, 3.5)]} />);
  });

  test('what stands behind one that is taken out keeps its own value and time', () => {
    fireEvent.click(screen.getByLabelText('Remove Lamp on'));
    expect(now).toEqual([macro('Reset', 200, 3.5)]);
    expect([values('Value 0–255'), values('Held, s')]).toEqual([['200'], ['3.5']]);
  });
  test('a number that is half typed stays as it is; what no channel can be is said', () => {
    const held = fields('Held, s')[1] as HTMLInputElement;
    fireEvent.change(held, { target: { value: '4.' } });
    expect([held.value, now[1]?.hold_s]).toEqual(['4.', 4]);
    fireEvent.change(fields('Value 0–255')[0] as HTMLInputElement, { target: { value: '300' } });
    expect(screen.getByText('From 0 to 255')).toBeTruthy();
  });
});

test('slots behind one that is taken out keep their own colour', () => {
  let now: readonly Wheel[] = [];
  function Editor() {
    const [wheels, setWheels] = useState<Wheel[]>([
      {
        name: 'Color1',
        slots: [
          { name: 'Open', color: { x: 0.31, y: 0.33, Y: 1 } },
          { name: 'Rust', color: { x: 0.6, y: 0.35, Y: 0.2 } },
        ],
      },
    ]);
    now = wheels;
    return <WheelRows wheels={wheels} onChange={setWheels} />;
  }
  render(<Editor />);
  fireEvent.click(screen.getByLabelText('Remove slot 1'));
  expect(now[0]?.slots.map((s) => s.name)).toEqual(['Rust']);
  expect([...'xyY'].map((k) => fields(`${k} of slot 1`)[0]?.value)).toEqual(['0.6', '0.35', '0.2']);
});
