/** @jest-environment jsdom */
/** A fader that moves, and a fade that goes on, draw themselves: not the cues, not the command line, not what stands beside. */
import { act, render } from '@testing-library/react';
import { createRef, Profiler, type ReactNode } from 'react';
import type { PlaybackState } from '@/core/live/messages';
import { apply, exampleShow } from '@/core/testing/example';
import { CommandLine } from '../frame/CommandLine';
import { Spine } from '../frame/Spine';
import { heardPlayback } from '../state/playback';
import { useScreen } from '../state/store';
import { FaderStrip } from './faders/FaderStrip';
import { OtherLists } from './OtherLists';

jest.mock('next/navigation', () => ({
  useRouter: () => ({ push: () => undefined }),
  usePathname: () => '/shows/s/run',
}));

const none = useScreen.getState().playback;
const LIST = {
  name: 'Main',
  cueId: null,
  cueNumber: null,
  nextId: null,
  armed: false,
  active: true,
  paused: false,
  rate: 1,
  master: 1,
  hand: null,
  followIn_s: null,
  bpm: null,
  chase: null,
  rounds: {},
  track: null,
};

/** As the player tells it, with everything in objects of its own. */
function tells(at_ms: number, elapsed_s: number, levels: Readonly<Record<string, number>>): void {
  const told: PlaybackState = {
    ...none,
    boards: [{ thing: 'show', userId: 'y', name: 'Yana Orr', since: '', freeIn_s: null }],
    lists: [
      { ...LIST, id: 'main', elapsed_s, total_s: 60, running: true },
      { ...LIST, id: 'second', elapsed_s: 0, total_s: 0, running: false },
    ],
    faders: Object.entries(levels).map(([id, level]) => ({
      id,
      level,
      real: level,
      waiting: false,
      flash: false,
    })),
  };
  const came = JSON.parse(JSON.stringify(told)) as PlaybackState;
  act(() =>
    useScreen.setState(({ playback }) => ({
      playback: heardPlayback(playback, came, at_ms),
      playbackAt: at_ms,
    })),
  );
}

test('each is drawn by what it shows', () => {
  Element.prototype.scrollIntoView = () => undefined;
  const show = exampleShow();
  for (const number of [1, 2])
    apply(show, 'set-fader', {
      set: {
        number,
        name: `Fader ${number}`,
        holds: { kind: 'list', id: 'main' },
        mode: 'proportional',
        flash: 'full',
        startsWhenRaised: true,
        keepsThroughRelease: false,
        inListTime: false,
      },
    });
  const rows = [...show.faders.values()];
  useScreen.setState({
    show,
    loaded: true,
    connection: 'live',
    you: { userId: 'y', name: 'Yana Orr', role: 'owner' },
  });
  const [a = '', b = ''] = rows.map((r) => r.id);
  const drawn = { spine: 0, line: 0, lists: 0, [a]: 0, [b]: 0 };
  const Counted = ({ of, children }: { of: string; children: ReactNode }) => (
    <Profiler id={of} onRender={() => void (drawn[of] = (drawn[of] ?? 0) + 1)}>
      {children}
    </Profiler>
  );
  const nothing = (): void => undefined;
  tells(1000, 1, { [a]: 0.1, [b]: 0.5 });
  render(
    <>
      <Counted of="spine">
        <Spine large openBoard={nothing} openBook={nothing} />
      </Counted>
      <Counted of="lists">
        <OtherLists />
      </Counted>
      <Counted of="line">
        <CommandLine input={createRef<HTMLInputElement>()} offer={nothing} />
      </Counted>
      {rows.map((row, i) => (
        <Counted key={row.id} of={row.id}>
          <FaderStrip
            row={row}
            at={i}
            of={2}
            page={1}
            playing
            handle={undefined}
            onChange={undefined}
          />
        </Counted>
      ))}
    </>,
  );
  const before = { ...drawn };
  for (let n = 1; n <= 10; n++) tells(1000 + n * 50, 1 + n * 0.05, { [a]: 0.1 + n / 20, [b]: 0.5 });
  expect(drawn).toEqual({ ...before, [a]: (before[a] ?? 0) + 10 });
  // The counting counts: a list that goes elsewhere draws the cues.
  tells(2000, 30, { [a]: 0.6, [b]: 0.5 });
  expect(drawn.spine).toBeGreaterThan(before.spine ?? 0);
});
