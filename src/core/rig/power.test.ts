/** What a list draws, cue after cue. */
import { apply, cue, exampleShow, idOf } from '../testing/example.ts';
import { powerOver, powerReport } from './power.ts';

function wired() {
  const show = exampleShow();
  apply(show, 'set-circuit', { set: { name: 'D1', breaker_A: 10, phase: 1 } });
  apply(show, 'set-circuit', { set: { name: 'D2', breaker_A: 16, phase: 2 } });
  const [one, two] = [...show.circuits.values()];
  const put = (fixture: number, circuitId: string | undefined): void =>
    void apply(show, 'change-fixtures', {
      fixtures: [{ id: idOf(show, fixture), set: { circuitId } }],
    });
  put(1, one?.id);
  put(2, two?.id);
  cue(show, 1, { 1: 100, 2: 0 });
  cue(show, 2, { 1: 50 });
  cue(show, 3, { 2: 100 });
  return { show, one: one?.id ?? '', two: two?.id ?? '' };
}

test('what a cue does not set goes on drawing, on its own phase', () => {
  const { show } = wired();
  const full = (n: number) => powerReport(show).loads[n]?.full_W ?? 0;
  const { cues, lines } = powerOver(show, 'main', null);
  expect(cues.map((c) => c.number)).toEqual([1000, 2000, 3000]);
  const dark = (n: number) => Math.min(...(lines[n]?.watts ?? []));
  expect(lines[0]?.watts[0]).toBe(full(0));
  expect(lines[0]?.watts[1]).toBeLessThan(full(0));
  // Tracked into cue 3.
  expect(lines[0]?.watts[2]).toBe(lines[0]?.watts[1]);
  expect(lines[1]?.watts).toEqual([dark(1), dark(1), full(1)]);
  expect(lines[2]?.watts).toEqual([0, 0, 0]);
});

test('of one circuit its line stands against its own breaker; of phases, against the one that carries least', () => {
  const { show, two } = wired();
  const own = powerOver(show, 'main', two);
  expect(own).toMatchObject({ capacity_W: 16 * 230, safe_W: 16 * 230 * 0.8 });
  expect(own.lines.map((l) => l.name)).toEqual(['D2']);
  expect(own.lines[0]?.watts).toEqual(powerOver(show, 'main', null).lines[1]?.watts);
  expect(powerOver(show, 'main', null).capacity_W).toBe(10 * 230);
});

test('the worst of the report is the highest of the walk', () => {
  const { show, one } = wired();
  const load = powerReport(show).loads.find((l) => l.circuit?.id === one);
  const { cues, lines } = powerOver(show, 'main', one);
  const most = Math.max(...(lines[0]?.watts ?? []));
  expect(load?.worst_W).toBe(most);
  expect(load?.worstCue).toBe(cues[lines[0]?.watts.indexOf(most) ?? -1]);
});
