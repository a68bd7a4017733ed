/** Watts, circuits, phases: what is drawn with everything at full, and in the cue of the list that draws most. */
import type { CircuitRow, Power } from '../circuits/rows.ts';
import { slotKey, type CueRow } from '../cues/rows.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { TypeRow } from '../types/rows.ts';
import type { Show } from '../show/show.ts';
import { hasVirtualDimmer } from './attributes.ts';
import { modeOf } from '../fixtures/points.ts';
import { levelOf } from '../looks/value.ts';
import { transformed } from './transform.ts';

const DEFAULT_POWER: Power = { voltage_V: 230, safety: 0.8 };
/** Voltage and safe share of the show, or the usual ones. */
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

/** What one circuit carries. */
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

/** What a rig draws, in full and at its worst. */
export interface PowerReport {
  loads: Load[];
  phases: PhaseLoad[];
  full_W: number;
  worst_W: number;
  worstCue: CueRow | null;
}

const DRIVES = ['Dimmer', 'Fog1'];
const PHASES = [1, 2, 3] as const;

/** What each unit draws, by the slot that drives it, and what every circuit draws dark; the last place is for none. */
interface Drawing {
  circuits: CircuitRow[];
  places: ReadonlyMap<string | null, number>;
  /** Units of each place. */
  fixtures: FixtureRow[][];
  full: Float64Array;
  dark: Float64Array;
  units: ReadonlyMap<string, { type: TypeRow; fixture: FixtureRow; place: number }>;
}

function drawingOf(show: Show): Drawing {
  const circuits = [...show.circuits.values()].sort((a, b) =>
    a.name.localeCompare(b.name, undefined, { numeric: true }),
  );
  const none = circuits.length;
  const places = new Map<string | null, number>(circuits.map((c, i) => [c.id, i]));
  places.set(null, none);
  const full = new Float64Array(none + 1);
  const dark = new Float64Array(none + 1);
  const fixtures = Array.from({ length: none + 1 }, (): FixtureRow[] => []);
  const units = new Map<string, { type: TypeRow; fixture: FixtureRow; place: number }>();
  for (const fixture of show.fixtures.values()) {
    const type = show.types.get(fixture.typeId);
    const mode = modeOf(show, fixture);
    if (!type || !mode || fixture.patch.length === 0) continue;
    const place = places.get(fixture.circuitId ?? null) ?? none;
    fixtures[place]?.push(fixture);
    full[place] = (full[place] ?? 0) + watts(type, fixture, 1);
    dark[place] = (dark[place] ?? 0) + watts(type, fixture, 0);
    const drive =
      DRIVES.find((a) => mode.channels.some((c) => c.attribute === a)) ??
      (hasVirtualDimmer(mode) ? 'Dimmer' : undefined);
    if (drive) units.set(slotKey(fixture.id, drive), { type, fixture, place });
  }
  return { circuits, places, fixtures, full, dark, units };
}

/**
 * Watts by place after each cue of a list, in order. A step of a list changes few units: time grows with the values, not
 * with cues times fixtures.
 * @param visit is given the same array each time: what is kept of it is copied
 */
function walkList(
  show: Show,
  listId: string,
  { dark, units }: Drawing,
  visit: (now: Float64Array, cue: CueRow) => void,
): void {
  const now = dark.slice();
  const drawn = new Map<string, number>();
  for (const cue of show.cuesOf(listId)) {
    for (const [key, value] of show.valuesOf(cue.id)) {
      const unit = units.get(key);
      if (!unit) continue;
      const before = drawn.get(key) ?? watts(unit.type, unit.fixture, 0);
      const after = watts(unit.type, unit.fixture, levelOf(show, value) ?? 0);
      now[unit.place] = (now[unit.place] ?? 0) + after - before;
      drawn.set(key, after);
    }
    visit(now, cue);
  }
}

const phaseOf = ({ circuits }: Drawing, place: number): 0 | 1 | 2 | 3 =>
  circuits[place]?.phase ?? 0;

/** Watts of places summed by phase; 0 is what hangs on no circuit. */
function byPhase(drawing: Drawing, now: Float64Array): [number, number, number, number] {
  const sums: [number, number, number, number] = [0, 0, 0, 0];
  now.forEach((w, place) => (sums[phaseOf(drawing, place)] += w));
  return sums;
}

/** Loads per circuit and phase, of all lists. */
export function powerReport(show: Show): PowerReport {
  const power = powerSettings(show);
  const drawing = drawingOf(show);
  const { circuits, dark, full } = drawing;
  const loads = [...circuits, null].map((circuit, place): Load => {
    const capacity = circuit ? capacity_W(circuit, power) : Infinity;
    return {
      circuit,
      fixtures: drawing.fixtures[place] ?? [],
      full_W: full[place] ?? 0,
      worst_W: dark[place] ?? 0,
      worstCue: null,
      capacity_W: capacity,
      safe_W: capacity * power.safety,
    };
  });
  const sum = (of: Float64Array): number => of.reduce((a, b) => a + b, 0);
  const report: PowerReport = {
    loads,
    phases: [],
    full_W: sum(full),
    worst_W: sum(dark),
    worstCue: null,
  };
  const worst = byPhase(drawing, dark);
  const note = (now: Float64Array, cue: CueRow): void => {
    byPhase(drawing, now).forEach((w, phase) => {
      worst[phase as 0 | 1 | 2 | 3] = Math.max(worst[phase as 0 | 1 | 2 | 3], w);
    });
    loads.forEach((load, place) => {
      const w = now[place] ?? 0;
      if (w > load.worst_W + 1e-6) Object.assign(load, { worst_W: w, worstCue: cue });
    });
    const total = sum(now);
    if (total > report.worst_W + 1e-6) Object.assign(report, { worst_W: total, worstCue: cue });
  };
  for (const list of show.lists.values()) walkList(show, list.id, drawing, note);
  const fullByPhase = byPhase(drawing, full);
  report.phases = PHASES.map((phase) => ({
    phase,
    full_W: fullByPhase[phase],
    worst_W: worst[phase],
  }));
  return report;
}

/** Watts over a list, cue after cue. */
export interface PowerOver {
  cues: CueRow[];
  /** By phase, or one line for the circuit that was asked for. */
  lines: { name: string; watts: number[] }[];
  /** What its breaker carries, and what of it may be used for long; of phases, the sum of their circuits on the phase that carries least. */
  capacity_W: number;
  safe_W: number;
}

/** What a list draws, for people who compare. @param circuitId null: all, by phase */
export function powerOver(show: Show, listId: string, circuitId: string | null): PowerOver {
  const power = powerSettings(show);
  const drawing = drawingOf(show);
  const circuit = circuitId === null ? undefined : show.circuits.get(circuitId);
  const cues: CueRow[] = [];
  const lines = circuit
    ? [{ name: circuit.name, watts: [] as number[] }]
    : PHASES.map((phase) => ({ name: `Phase ${phase}`, watts: [] as number[] }));
  const place = drawing.places.get(circuitId) ?? 0;
  walkList(show, listId, drawing, (now, cue) => {
    cues.push(cue);
    const phases = byPhase(drawing, now);
    lines.forEach((line, i) => {
      const drawn = circuit ? (now[place] ?? 0) : (phases[i + 1] ?? 0);
      line.watts.push(Math.round(drawn));
    });
  });
  const carries = (phase: number): number =>
    drawing.circuits
      .filter((c) => c.phase === phase)
      .reduce((all, c) => all + capacity_W(c, power), 0);
  const used = PHASES.map(carries).filter((w) => w > 0);
  const capacity = circuit ? capacity_W(circuit, power) : Math.min(...used);
  return { cues, lines, capacity_W: capacity, safe_W: capacity * power.safety };
}
