/** What is odd about the rig: told, never a hindrance (docs/playback.md, Checks). */
import type { CueRow, FixtureRow } from '../show/rows.ts';
import { slotKey } from '../show/rows.ts';
import type { Show } from '../show/show.ts';
import { formatCueNumber } from '../cues/number.ts';
import { numberRanges } from '../edits/edit.ts';
import { absolute, formatPoint, modeOf, occupied, UNIVERSE_SLOTS, usedByUniverse, widthAt } from './addresses.ts';
import { attributesOf } from './attributes.ts';
import { powerReport } from './power.ts';
import { levelOf } from '../palettes/resolve.ts';
import { transformed } from './transform.ts';

export interface Finding {
  /** The same finding keeps its key, so that it can be set aside. */
  key: string;
  grave: boolean;
  about: 'addresses' | 'outputs' | 'power' | 'programming' | 'movement' | 'groups';
  text: string;
  fixtures: string[];
  cueId?: string;
}

/** All findings of a rig, grave ones first. */
export function rigFindings(show: Show): Finding[] {
  const found = [...addressFindings(show), ...outputFindings(show), ...powerFindings(show), ...programmingFindings(show), ...movementFindings(show), ...groupFindings(show)];
  return found.sort((a, b) => Number(b.grave) - Number(a.grave));
}

function addressFindings(show: Show): Finding[] {
  const found: Finding[] = [];
  const ranges = occupied(show);
  for (let i = 1; i < ranges.length; i++) {
    const a = ranges[i - 1];
    const b = ranges[i];
    if (a && b && b.from <= a.to) found.push({ key: `overlap/${a.fixture.id}/${b.fixture.id}`, grave: true, about: 'addresses', text: `${a.fixture.number} and ${b.fixture.number} overlap on ${a.to - b.from + 1} addresses.`, fixtures: [a.fixture.id, b.fixture.id] });
  }
  for (const fixture of show.fixtures.values()) {
    const mode = modeOf(show, fixture);
    if (!mode) found.push({ key: `mode/${fixture.id}`, grave: true, about: 'addresses', text: `${fixture.number} is in a mode that its type does not have.`, fixtures: [fixture.id] });
    for (const point of fixture.patch) {
      const end = point.address + widthAt(mode, point) - 1;
      if (end > UNIVERSE_SLOTS) found.push({ key: `overflow/${fixture.id}/${absolute(point)}`, grave: true, about: 'addresses', text: `${fixture.number} at ${formatPoint(point)} ends at ${end}, past 512.`, fixtures: [fixture.id] });
    }
  }
  return found;
}

function outputFindings(show: Show): Finding[] {
  const found: Finding[] = [];
  const routes = [...show.routes.values()];
  for (const universe of [...usedByUniverse(show).keys()].sort((a, b) => a - b)) {
    const own = routes.filter((r) => r.universe === universe);
    const fixtures = [...show.fixtures.values()].filter((f) => f.patch.some((p) => p.universe === universe)).map((f) => f.id);
    if (own.length === 0) found.push({ key: `unrouted/${universe}`, grave: true, about: 'outputs', text: `Universe ${universe} is patched, but sent nowhere.`, fixtures });
    else if (own.every((r) => !r.on)) found.push({ key: `off/${universe}`, grave: false, about: 'outputs', text: `Universe ${universe} is patched; all its outputs are off.`, fixtures });
  }
  return found;
}

/** Rounding of ampere times volt times share is no overload. */
const SLACK_W = 0.5;

const W = (watts: number): string => `${Math.round(watts).toLocaleString('en').replaceAll(',', '\u00a0')}\u00a0W`;

function powerFindings(show: Show): Finding[] {
  const found: Finding[] = [];
  const report = powerReport(show);
  for (const load of report.loads) {
    const fixtures = load.fixtures.map((f) => f.id);
    if (!load.circuit) {
      if (show.circuits.size > 0 && load.fixtures.some((f) => (show.types.get(f.typeId)?.watts ?? 0) > 0)) found.push({ key: 'no-circuit', grave: false, about: 'power', text: `${numberRanges(load.fixtures.map((f) => f.number))} ${load.fixtures.length === 1 ? 'is' : 'are'} on no circuit.`, fixtures });
      continue;
    }
    const { name, breaker_A } = load.circuit;
    const where = load.worstCue ? ` in cue ${formatCueNumber(load.worstCue.number)}` : '';
    if (load.worst_W > load.capacity_W + SLACK_W) found.push({ key: `over/${load.circuit.id}`, grave: true, about: 'power', text: `Circuit ${name} draws ${W(load.worst_W)}${where}, over its ${breaker_A} A breaker (${W(load.capacity_W)}).`, fixtures, ...(load.worstCue ? { cueId: load.worstCue.id } : {}) });
    else if (load.worst_W > load.safe_W + SLACK_W) found.push({ key: `share/${load.circuit.id}`, grave: false, about: 'power', text: `Circuit ${name} draws ${W(load.worst_W)}${where}, over the safe ${W(load.safe_W)}.`, fixtures, ...(load.worstCue ? { cueId: load.worstCue.id } : {}) });
    else if (load.full_W > load.capacity_W) found.push({ key: `full/${load.circuit.id}`, grave: false, about: 'power', text: `Circuit ${name} would draw ${W(load.full_W)} with everything at full, over its breaker (${W(load.capacity_W)}).`, fixtures });
  }
  return found;
}

function programmingFindings(show: Show): Finding[] {
  const off = new Map<string, Set<string>>();
  const lost = new Map<string, Set<string>>();
  const has = new Map([...show.fixtures.values()].map((f) => [f.id, new Set(modeOf(show, f) ? attributesOf(modeOf(show, f) as never) : [])]));
  for (const value of show.values.values()) {
    const fixture = show.fixtures.get(value.fixtureId);
    if (!fixture) continue;
    const note = (map: Map<string, Set<string>>): void => void map.set(fixture.id, (map.get(fixture.id) ?? new Set()).add(value.cueId));
    if (fixture.patch.length === 0) note(off);
    if (!has.get(fixture.id)?.has(value.attribute)) note(lost);
  }
  const say = (map: Map<string, Set<string>>, key: string, words: (f: FixtureRow, cues: number) => string): Finding[] =>
    [...map].flatMap(([id, cues]) => {
      const fixture = show.fixtures.get(id);
      return fixture ? [{ key: `${key}/${id}`, grave: false, about: 'programming' as const, text: words(fixture, cues.size), fixtures: [id] }] : [];
    });
  const cuesIn = (n: number): string => `${n} ${n === 1 ? 'cue' : 'cues'}`;
  return [...say(off, 'off-rig', (f, n) => `${f.number} ${f.label} is off the rig, and ${cuesIn(n)} use it.`), ...say(lost, 'no-attribute', (f, n) => `${cuesIn(n)} set something of ${f.number} that its mode does not have.`)];
}

/** A light that is brighter than this is seen to move. */
const LIT = 0.02;
/** Degrees that nobody sees. */
const STILL_DEG = 2;
const AXES = [
  ['Pan', 'panSpeed_deg_s'],
  ['Tilt', 'tiltSpeed_deg_s'],
] as const;

function movementFindings(show: Show): Finding[] {
  const found: Finding[] = [];
  const heads = [...show.fixtures.values()].filter((f) => f.patch.length > 0 && modeOf(show, f)?.channels.some((c) => c.attribute === 'Pan' || c.attribute === 'Tilt'));
  for (const list of show.lists.values()) {
    const level = new Map<string, number>();
    for (const cue of show.cuesOf(list.id)) {
      const values = show.valuesOf(cue.id);
      const lit: number[] = [];
      const litIds: string[] = [];
      const slow: { number: number; id: string; needs_s: number; has_s: number }[] = [];
      for (const head of heads) {
        const mode = modeOf(show, head);
        const type = show.types.get(head.typeId);
        const dimmer = slotKey(head.id, 'Dimmer');
        const wasLit = (level.get(dimmer) ?? 0) > LIT;
        const now = values.get(dimmer);
        const staysLit = ((now ? levelOf(show, now) : undefined) ?? level.get(dimmer) ?? 0) > LIT;
        for (const [axis, speedKey] of AXES) {
          const value = values.get(slotKey(head.id, axis));
          const before = level.get(slotKey(head.id, axis));
          const channel = mode?.channels.find((c) => c.attribute === axis);
          const to = value ? levelOf(show, value) : null;
          if (!value || to === null || before === undefined || !channel) continue;
          const bend = head.transforms?.[axis];
          const travel = Math.abs((transformed(bend, to) - transformed(bend, before)) * (channel.physicalTo - channel.physicalFrom));
          if (travel < STILL_DEG) continue;
          if (wasLit && staysLit && !litIds.includes(head.id)) {
            lit.push(head.number);
            litIds.push(head.id);
          }
          const speed = type?.[speedKey];
          const fade = value.fade_s ?? cue.family_s.position ?? cue.up_s;
          if (speed && travel / speed > fade + 0.05) slow.push({ number: head.number, id: head.id, needs_s: travel / speed, has_s: fade });
        }
      }
      const name = `cue ${formatCueNumber(cue.number)}${cue.name ? ` “${cue.name}”` : ''}`;
      if (lit.length > 0) found.push(movement('lit', cue, `${numberRanges(lit)} ${lit.length === 1 ? 'moves' : 'move'} while lit in ${name}.`, litIds));
      const worst = slow.sort((a, b) => b.needs_s - a.needs_s)[0];
      if (worst) found.push(movement('slow', cue, `${numberRanges([...new Set(slow.map((x) => x.number))])} ${slow.length === 1 ? 'needs' : 'need'} ${worst.needs_s.toFixed(1)} s for the way in ${name}; its fade is ${worst.has_s} s.`, [...new Set(slow.map((x) => x.id))]));
      for (const [key, value] of values) {
        const now = levelOf(show, value);
        if (now === null) level.delete(key);
        else level.set(key, now);
      }
    }
  }
  return found;
}

const movement = (kind: string, cue: CueRow, text: string, fixtures: string[]): Finding => ({ key: `${kind}/${cue.id}`, grave: false, about: 'movement', text, fixtures, cueId: cue.id });

function groupFindings(show: Show): Finding[] {
  return [...show.groups.values()].flatMap((g): Finding[] => {
    if (g.fixtures.length === 0) return [{ key: `empty/${g.id}`, grave: false, about: 'groups', text: `Group ${g.number} “${g.name}” is empty.`, fixtures: [] }];
    const off = g.fixtures.filter((id) => show.fixtures.get(id)?.patch.length === 0);
    return off.length === g.fixtures.length ? [{ key: `group-off/${g.id}`, grave: false, about: 'groups', text: `All of group ${g.number} “${g.name}” is off the rig.`, fixtures: off }] : [];
  });
}
