/**
 * What is typed and cannot be is said; nothing is dropped or bent without a word.
 * @jest-environment jsdom
 */
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { UniverseTabs } from '../rig/UniverseTabs';
import { useRig } from '../rig/rig-state';
import { useMessages } from '../state/messages';
import { Scrub } from './controls';

const said = (): string => useMessages.getState().all[0]?.text ?? '';
beforeEach(() => useMessages.setState({ all: [], unread: 0 }));
afterEach(cleanup);

describe('a number that is dragged or typed', () => {
  const settled = jest.fn();
  const typeIt = (text: string): void => {
    render(<Scrub label="Rotation" value={40} unit="°" min={-180} max={180} onSettled={settled} />);
    fireEvent.doubleClick(screen.getByRole('slider'));
    const field = screen.getByLabelText('Rotation');
    fireEvent.change(field, { target: { value: text } });
    fireEvent.keyDown(field, { key: 'Enter' });
  };
  beforeEach(() => settled.mockReset());

  test('is written as it is typed', () => {
    typeIt('12,5');
    expect(settled).toHaveBeenCalledWith(12.5);
    expect(said()).toBe('');
  });
  test('beyond its bounds it is the bound, and that is said', () => {
    typeIt('400');
    expect(settled).toHaveBeenCalledWith(180);
    expect(said()).toBe('Rotation goes from -180 to 180: it is 180 now.');
  });
  test('what is no number changes nothing, and is said', () => {
    typeIt('left');
    expect(settled).not.toHaveBeenCalled();
    expect(said()).toBe('“left” is no number; Rotation stays as it is.');
  });
  test('left empty it stays, without a word', () => {
    typeIt('');
    expect(settled).not.toHaveBeenCalled();
    expect(said()).toBe('');
  });
});

describe('a universe by its number', () => {
  const goTo = (text: string): HTMLInputElement => {
    useRig.setState({ universe: 1 });
    render(<UniverseTabs />);
    const field = screen.getByLabelText<HTMLInputElement>('Go to universe');
    fireEvent.change(field, { target: { value: text } });
    fireEvent.keyDown(field, { key: 'Enter' });
    return field;
  };
  test('is shown, also where nothing is in it yet', () => {
    const field = goTo('256');
    expect(useRig.getState().universe).toBe(256);
    expect(field.value).toBe('');
  });
  test.each(['257', '0', 'two', '2.5'])(
    '%s is none, which is said, and stays to be mended',
    (text) => {
      const field = goTo(text);
      expect(useRig.getState().universe).toBe(1);
      expect(field.value).toBe(text);
      expect(said()).toBe(`There is no universe “${text}”: they are 1 to 256.`);
    },
  );
});
