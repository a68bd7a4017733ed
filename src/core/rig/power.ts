/** Watts, circuits, phases: what is drawn with everything at full, and in the cue of the list that draws most. */
import type { CircuitRow, Power } from '../circuits/rows.ts';
import type { CueRow } from '../cues/rows.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { TypeRow } from '../types/rows.ts';
import type { Show } from '../show/show.ts';
import { hasVirtualDimmer } from './attributes.ts';
import { modeOf } from '../fixtures/points.ts';
import { levelOf } from '../looks/value.ts';
import { transformed } from './transform.ts';

const DEFAULT_POWER: Power = { voltage_V: 230, safety: 0.8 };
export const powerSettings = (show: Show): Power =>
  show.settings.get('show')?.power ?? DEFAULT_POWER;

/** 400 V is drawn between three phases: a breaker of it carries √3 times as much. */
export const capacity_W = (circuit: Pick<CircuitRow, 'breaker_A'>, power: Power): number =>
  circuit.breaker_A * power.voltage_V * (power.voltage_V === 400 ? Math.sqrt(3) : 1);

/** What a unit draws at full: its own lamp, or its type’s. */
export const wattsOf = (show: Pick<Show, 'types'>, fixture: FixtureRow): number =>
  fixture.watts ?? show.types.get(fixture.typeId)?.watts ?? 0;

/** Watts of a unit at an intensity 0…1: what it draws dark, and the rest in proportion. Every address of a multi-patch is a unit. */
function watts(type: TypeRow, fixture: FixtureRow, intensity: number): number {
  const units = Math.max(1, fixture.patch.filter((p) => (p.break ?? 1) === 1).length);
  if (fixture.patch.length === 0) return 0;
  const full = fixture.watts ?? type.watts;
  const idle = Math.min(type.idle_W ?? 0, full);
  return units * (idle + (full - idle) * transformed(fixture.transforms?.Dimmer, intensity));
}

export interface Load {
  /** null: units without a circuit. */
  circuit: CircuitRow | null;
  fixtures: FixtureRow[];
  full_W: number;
  /** In the cue that loads this circuit most. */
  worst_W: number;
  worstCue: CueRow | null;
  capacity_W: number;
  /** What may be used of it for long. */
  safe_W: number;
}

interface PhaseLoad {
  phase: 1 | 2 | 3;
  full_W: number;
  worst_W: number;
}

export interface PowerReport {
  loads: Load[];
  phases: PhaseLoad[];
  full_W: number;
  worst_W: number;
  worstCue: CueRow | null;
}

const DRIVES = ['Dimmer', 'Fog1'];

/** Loads per circuit and phase. Walks every list once: time grows with the values, not with cues times fixtures. */
export function powerReport(show: Show): PowerReport {
  const power = powerSettings(show);
  const circuits = [...show.circuits.values()].sort((a, b) =>
    a.name.localeCompare(b.name, undefined, { numeric: true }),
  );
  const places = new Map<string | null, number>(circuits.map((c, i) => [c.id, i]));
  places.set(null, circuits.length);
  const n = circuits.length + 1;
  const loads: Load[] = [...circuits, null].map((circuit) => {
    const capacity = circuit ? capacity_W(circuit, power) : Infinity;
    return {
      circuit,
      fixtures: [],
      full_W: 0,
      worst_W: 0,
      worstCue: null,
      capacity_W: capacity,
      safe_W: capacity * power.safety,
    };
  });

  // What each unit draws now, by the slot that drives it; a step of a list changes few of them.
  const units = new Map<
    string,
    { type: TypeRow; fixture: FixtureRow; place: number; now_W: number }
  >();
  const dark = new Float64Array(n);
  for (const fixture of show.fixtures.values()) {
    const type = show.types.get(fixture.typeId);
    const mode = modeOf(show, fixture);
    if (!type || !mode || fixture.patch.length === 0) continue;
    const place = places.get(fixture.circuitId ?? null) ?? circuits.length;
    const load = loads[place];
    if (!load) continue;
    load.fixtures.push(fixture);
    load.full_W += watts(type, fixture, 1);
    const idle = watts(type, fixture, 0);
    dark[place] = (dark[place] ?? 0) + idle;
    const drive =
      DRIVES.find((a) => mode.channels.some((c) => c.attribute === a)) ??
      (hasVirtualDimmer(mode) ? 'Dimmer' : undefined);
    if (drive) units.set(`${fixture.id}:${drive}`, { type, fixture, place, now_W: idle });
  }

  const totals: PowerReport = {
    loads,
    phases: [],
    full_W: loads.reduce((s, l) => s + l.full_W, 0),
    worst_W: dark.reduce((a, b) => a + b, 0),
    worstCue: null,
  };
  const phaseWorst = new Float64Array(4);
  loads.forEach((load, i) => (load.worst_W = dark[i] ?? 0));
  const note = (now: Float64Array, cue: CueRow | null): void => {
    const phases = new Float64Array(4);
    let total = 0;
    loads.forEach((load, i) => {
      const w = now[i] ?? 0;
      total += w;
      phases[load.circuit?.phase ?? 0] = (phases[load.circuit?.phase ?? 0] ?? 0) + w;
      if (w > load.worst_W + 1e-6) {
        load.worst_W = w;
        load.worstCue = cue;
      }
    });
    for (let p = 1; p <= 3; p++) phaseWorst[p] = Math.max(phaseWorst[p] ?? 0, phases[p] ?? 0);
    if (total > totals.worst_W + 1e-6) {
      totals.worst_W = total;
      totals.worstCue = cue;
    }
  };
  note(dark, null);
  for (const list of show.lists.values()) {
    const now = dark.slice();
    for (const unit of units.values()) unit.now_W = watts(unit.type, unit.fixture, 0);
    for (const cue of show.cuesOf(list.id)) {
      for (const [key, value] of show.valuesOf(cue.id)) {
        const unit = units.get(key);
        if (!unit) continue;
        const w = watts(unit.type, unit.fixture, levelOf(show, value) ?? 0);
        now[unit.place] = (now[unit.place] ?? 0) + w - unit.now_W;
        unit.now_W = w;
      }
      note(now, cue);
    }
  }
  totals.phases = ([1, 2, 3] as const).map((phase) => ({
    phase,
    full_W: loads.filter((l) => l.circuit?.phase === phase).reduce((s, l) => s + l.full_W, 0),
    worst_W: phaseWorst[phase] ?? 0,
  }));
  return totals;
}
