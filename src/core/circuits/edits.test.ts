/** Circuits and what they carry; universes that have names. */
import { rigFindings } from '../rig/findings.ts';
import { powerReport } from '../rig/power.ts';
import type { MutableShow } from '../show/show.ts';
import { apply, cue, exampleShow, idOf, idsOf, refused } from '../testing/example.ts';

describe('power', () => {
  function wired(): MutableShow {
    const show = exampleShow();
    apply(show, 'set-circuit', { set: { name: 'D1', phase: 1, breaker_A: 10 } });
    const circuitId = [...show.circuits.values()][0]?.id;
    apply(show, 'change-fixtures', {
      fixtures: idsOf(show, 1, 2, 3, 4).map((id) => ({ id, set: { circuitId } })),
    });
    return show;
  }

  test('a circuit is counted at full and in its worst cue, with what is tracked', () => {
    const show = wired();
    cue(show, 1, { 1: 100 });
    cue(show, 2, { 2: 100 });
    cue(show, 3, { 1: 0, 3: 50 });
    const load = powerReport(show).loads[0];
    expect(load?.full_W).toBe(3000);
    // Cue 2: 1 tracks at full, 2 comes up.
    expect(load?.worst_W).toBe(1500);
    expect(load?.worstCue?.number).toBe(2000);
    expect(load?.capacity_W).toBe(2300);
    expect(load?.safe_W).toBeCloseTo(1840);
  });

  test('voltage and share change the limit; 400 V is three-phase', () => {
    const show = wired();
    apply(show, 'set-power', { voltage_V: 120, safety: 0.5 });
    expect(powerReport(show).loads[0]?.safe_W).toBe(600);
    apply(show, 'set-power', { voltage_V: 400, safety: 0.8 });
    expect(powerReport(show).loads[0]?.capacity_W).toBeCloseTo(6928.2, 1);
  });

  test('a limit on intensity is a limit on watts, preheat draws when dark, multi-patch draws twice, off the rig draws nothing', () => {
    const show = wired();
    const set = (fields: Record<string, unknown>): void =>
      void apply(show, 'change-fixtures', { fixtures: [{ id: idOf(show, 1), set: fields }] });
    set({ transforms: { Dimmer: { min: 0.1, max: 0.5 } } });
    expect(powerReport(show).loads[0]?.full_W).toBe(2250 + 375);
    expect(powerReport(show).loads[0]?.worst_W).toBe(75);
    set({
      patch: [
        { universe: 1, address: 1 },
        { universe: 1, address: 90 },
      ],
    });
    expect(powerReport(show).loads[0]?.full_W).toBe(2250 + 750);
    set({ patch: [] });
    expect(powerReport(show).loads[0]?.full_W).toBe(2250);
  });

  test('a unit with another lamp draws its own watts, and the type’s again', () => {
    const show = exampleShow();
    const draws = (): number => powerReport(show).full_W;
    const before = draws();
    const type = show.types.get(show.fixtureByNumber(2)?.typeId ?? '');
    apply(show, 'change-fixtures', { fixtures: [{ id: idOf(show, 2), set: { watts: 1200 } }] });
    expect(draws()).toBeCloseTo(before - (type?.watts ?? 0) + 1200, 5);
    apply(show, 'change-fixtures', { fixtures: [{ id: idOf(show, 2), set: { watts: null } }] });
    expect(draws()).toBeCloseTo(before, 5);
    expect(
      refused(show, 'change-fixtures', { fixtures: [{ id: idOf(show, 2), set: { watts: -1 } }] })
        .message,
    ).toBe('A unit draws no less than nothing.');
  });

  test('overloads are found: graver when a cue does it than when only everything at full would', () => {
    const show = wired();
    expect(
      rigFindings(show).find((f) => f.about === 'power' && f.text.includes('D1')),
    ).toMatchObject({ grave: false, text: expect.stringMatching(/with everything at full/) });
    cue(show, 1, { 1: 100, 2: 100, 3: 60 });
    expect(rigFindings(show).find((f) => f.text.includes('D1'))).toMatchObject({
      grave: false,
      text: expect.stringMatching(/in cue 1, over the safe/),
    });
    cue(show, 2, { 3: 100, 4: 100 });
    expect(rigFindings(show)[0]).toMatchObject({
      grave: true,
      text: expect.stringMatching(/in cue 2, over its 10 A breaker/),
    });
  });

  test('a deleted circuit lets its fixtures go', () => {
    const show = wired();
    apply(show, 'delete-circuit', { id: [...show.circuits.values()][0]?.id });
    expect(show.fixtureByNumber(1)?.circuitId).toBeUndefined();
  });
});

test('universes have names, and lose them', () => {
  const show = exampleShow();
  apply(show, 'name-universe', { number: 2, name: 'Heads' });
  expect(show.universes.get('u2')?.name).toBe('Heads');
  apply(show, 'name-universe', { number: 2, name: '' });
  expect(show.universes.size).toBe(0);
  expect(refused(show, 'name-universe', { number: 257, name: 'x' }).message).toMatch(/256/);
});
