/** @jest-environment jsdom */
/** Typing in one panel draws that panel and nothing else, however long the list beside it is. */
import { act, fireEvent, render, screen } from '@testing-library/react';
import { createRef, Profiler, type ReactNode } from 'react';
import { apply, exampleShow } from '@/core/testing/example';
import { useScreen } from '../state/store';
import { CommandLine } from './CommandLine';
import { Spine } from './Spine';
import { TopBar } from './TopBar';

jest.mock('next/navigation', () => ({
  useRouter: () => ({ push: () => undefined }),
  usePathname: () => '/shows/s/run',
}));

const CUES = 2000;

function longShow() {
  const show = exampleShow();
  apply(show, 'record-cue', { listId: 'main', number: 1000, values: [] });
  const [first] = show.cuesOf('main');
  if (!first) throw new Error('no cue');
  show.apply(
    Array.from({ length: CUES - 1 }, (_, i) => ({
      table: 'cues' as const,
      id: `cue-${i + 2}`,
      before: null,
      after: { ...first, id: `cue-${i + 2}`, number: (i + 2) * 1000, name: `Cue ${i + 2}` },
    })),
  );
  return show;
}

test('a line typed beside 2,000 cues draws the command line alone; a cue that goes draws the list', () => {
  globalThis.fetch = jest.fn(() => Promise.resolve(new Response('{}')));
  globalThis.ResizeObserver ??= class {
    observe = () => undefined;
    unobserve = () => undefined;
    disconnect = () => undefined;
  };
  Element.prototype.scrollIntoView = () => undefined;
  useScreen.setState({
    show: longShow(),
    loaded: true,
    connection: 'live',
    you: { userId: 'y', name: 'Yana Orr', role: 'owner' },
  });
  const drawn = { line: 0, spine: 0, bar: 0 };
  const Counted = ({ of, children }: { of: keyof typeof drawn; children: ReactNode }) => (
    <Profiler id={of} onRender={() => void drawn[of]++}>
      {children}
    </Profiler>
  );
  const input = createRef<HTMLInputElement>();
  const offer = (): void => undefined;
  render(
    <>
      <Counted of="bar">
        <TopBar showId="s" place="run" openHelp={offer} openRecord={offer} />
      </Counted>
      <Counted of="spine">
        <Spine large openBoard={offer} openBook={offer} />
      </Counted>
      <Counted of="line">
        <CommandLine input={input} offer={offer} />
      </Counted>
    </>,
  );
  const before = { ...drawn };
  const line = screen.getByLabelText('Command line');
  for (const value of ['1', '1 t', '1 thru', '1 thru 6', '1 thru 6 at 70'])
    fireEvent.change(line, { target: { value } });
  expect(screen.getByTestId('says').textContent).toContain('70 %');
  expect(drawn.line - before.line).toBeGreaterThanOrEqual(5);
  expect({ spine: drawn.spine, bar: drawn.bar }).toEqual({ spine: before.spine, bar: before.bar });
  // The counting counts: what the list shows draws the list.
  act(() => useScreen.setState({ revision: 1 }));
  expect(drawn.spine).toBeGreaterThan(before.spine);
});
