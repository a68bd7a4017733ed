/** What a clock answers, and when. */
import { exampleShow } from '../core/testing/example.ts';
import { compileEffects } from '../core/playback/programs.ts';
import { compileSlots } from '../core/playback/slots.ts';
import type { FromClock, ShowMessage } from './clock-messages.ts';
import { Conductor } from './conductor.ts';

test('whoever waits for a frame gets it after all that was told before is in one, and never sooner', () => {
  const said: FromClock[] = [];
  const show = exampleShow();
  const conductor = new Conductor((m) => said.push(m));
  const tell = (m: unknown): void => conductor.handle(m as ShowMessage, 0);
  tell({
    do: 'open',
    showId: 's',
    slots: compileSlots(show),
    version: 1,
    programs: compileEffects(show, 120),
    configs: [],
    routes: [],
    saved: null,
  });
  tell({ do: 'master', showId: 's', level: 0.5, blackout: false });
  tell({ do: 'frame', showId: 's', id: 7 });
  expect(said.some((m) => m.is === 'framed')).toBe(false);
  conductor.tick(0.02);
  expect(said.filter((m) => m.is === 'framed')).toEqual([{ is: 'framed', id: 7 }]);
  conductor.tick(0.04);
  expect(said.filter((m) => m.is === 'framed')).toHaveLength(1);
  // A show that is not open has no frame to wait for.
  tell({ do: 'frame', showId: 'other', id: 8 });
  expect(said.at(-1)).toEqual({ is: 'framed', id: 8 });
});
