/** What is odd about the rig: told, never a hindrance (docs/playback.md, Checks). */
import { UNIVERSE_SLOTS } from '../dmx.ts';
import type { CueRow, ValueRow } from '../cues/rows.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import { slotKey } from '../cues/rows.ts';
import type { Show } from '../show/show.ts';
import { formatCueNumber } from '../cues/number.ts';
import { numberRanges } from '../words.ts';
import { membersOf } from '../groups/members.ts';
import { occupied, usedByUniverse } from './addresses.ts';
import { absolute, formatPoint, modeOf, widthAt } from '../fixtures/points.ts';
import { attributesOf } from './attributes.ts';
import { powerReport, wattsOf } from './power.ts';
import { slotTimes } from '../cues/value-times.ts';
import { referenceCounts } from '../looks/uses.ts';
import { levelOf } from '../looks/value.ts';
import { transformed } from './transform.ts';

/** Something in a rig that someone should look at. */
export interface Finding {
  /** The same finding keeps its key, so that it can be set aside. */
  key: string;
  grave: boolean;
  about: 'addresses' | 'outputs' | 'power' | 'programming' | 'movement' | 'groups' | 'units';
  text: string;
  fixtures: string[];
  cueId?: string;
}

/** Those that are not put aside as meant. */
export const standing = <T extends { key: string }>(show: Show, findings: readonly T[]): T[] =>
  findings.filter((f) => !show.settings.get('show')?.aside?.[f.key]);

/** All findings of a rig, grave ones first. */
export function rigFindings(show: Show): Finding[] {
  const found = [
    ...addressFindings(show),
    ...outputFindings(show),
    ...powerFindings(show),
    ...programmingFindings(show),
    ...movementFindings(show),
    ...groupFindings(show),
    ...unusedFindings(show),
  ];
  return found.sort((a, b) => Number(b.grave) - Number(a.grave));
}

function addressFindings(show: Show): Finding[] {
  const found: Finding[] = [];
  const ranges = occupied(show);
  for (let i = 1; i < ranges.length; i++) {
    const a = ranges[i - 1];
    const b = ranges[i];
    if (a && b && b.from <= a.to)
      found.push({
        key: `overlap/${a.fixture.id}/${b.fixture.id}`,
        grave: true,
        about: 'addresses',
        text: `${a.fixture.number} and ${b.fixture.number} overlap on ${a.to - b.from + 1} addresses.`,
        fixtures: [a.fixture.id, b.fixture.id],
      });
  }
  for (const fixture of show.fixtures.values()) {
    const mode = modeOf(show, fixture);
    if (!mode)
      found.push({
        key: `mode/${fixture.id}`,
        grave: true,
        about: 'addresses',
        text: `${fixture.number} is in a mode that its type does not have.`,
        fixtures: [fixture.id],
      });
    for (const point of fixture.patch) {
      const end = point.address + widthAt(mode, point) - 1;
      if (end > UNIVERSE_SLOTS)
        found.push({
          key: `overflow/${fixture.id}/${absolute(point)}`,
          grave: true,
          about: 'addresses',
          text: `${fixture.number} at ${formatPoint(point)} ends at ${end}, past 512.`,
          fixtures: [fixture.id],
        });
    }
  }
  return found;
}

function outputFindings(show: Show): Finding[] {
  const found: Finding[] = [];
  const routes = [...show.routes.values()];
  for (const universe of [...usedByUniverse(show).keys()].sort((a, b) => a - b)) {
    const own = routes.filter((r) => r.universe === universe);
    const fixtures = [...show.fixtures.values()]
      .filter((f) => f.patch.some((p) => p.universe === universe))
      .map((f) => f.id);
    if (own.length === 0)
      found.push({
        key: `unrouted/${universe}`,
        grave: true,
        about: 'outputs',
        text: `Universe ${universe} is patched, but sent nowhere.`,
        fixtures,
      });
    else if (own.every((r) => !r.on))
      found.push({
        key: `off/${universe}`,
        grave: false,
        about: 'outputs',
        text: `Universe ${universe} is patched; all its outputs are off.`,
        fixtures,
      });
  }
  return found;
}

/** Rounding of ampere times volt times share is no overload. */
const SLACK_W = 0.5;

const W = (watts: number): string =>
  `${Math.round(watts).toLocaleString('en').replaceAll(',', '\u00a0')}\u00a0W`;

function powerFindings(show: Show): Finding[] {
  const found: Finding[] = [];
  const report = powerReport(show);
  for (const load of report.loads) {
    const fixtures = load.fixtures.map((f) => f.id);
    if (!load.circuit) {
      if (show.circuits.size > 0 && load.fixtures.some((f) => wattsOf(show, f) > 0))
        found.push({
          key: 'no-circuit',
          grave: false,
          about: 'power',
          text: `${numberRanges(load.fixtures.map((f) => f.number))} ${load.fixtures.length === 1 ? 'is' : 'are'} on no circuit.`,
          fixtures,
        });
      continue;
    }
    const { name, breaker_A } = load.circuit;
    const where = load.worstCue ? ` in cue ${formatCueNumber(load.worstCue.number)}` : '';
    if (load.worst_W > load.capacity_W + SLACK_W)
      found.push({
        key: `over/${load.circuit.id}`,
        grave: true,
        about: 'power',
        text: `Circuit ${name} draws ${W(load.worst_W)}${where}, over its ${breaker_A} A breaker (${W(load.capacity_W)}).`,
        fixtures,
        ...(load.worstCue ? { cueId: load.worstCue.id } : {}),
      });
    else if (load.worst_W > load.safe_W + SLACK_W)
      found.push({
        key: `share/${load.circuit.id}`,
        grave: false,
        about: 'power',
        text: `Circuit ${name} draws ${W(load.worst_W)}${where}, over the safe ${W(load.safe_W)}.`,
        fixtures,
        ...(load.worstCue ? { cueId: load.worstCue.id } : {}),
      });
    else if (load.full_W > load.capacity_W)
      found.push({
        key: `full/${load.circuit.id}`,
        grave: false,
        about: 'power',
        text: `Circuit ${name} would draw ${W(load.full_W)} with everything at full, over its breaker (${W(load.capacity_W)}).`,
        fixtures,
      });
  }
  return found;
}

function programmingFindings(show: Show): Finding[] {
  const off = new Map<string, Set<string>>();
  const lost = new Map<string, Set<string>>();
  const has = new Map(
    [...show.fixtures.values()].map((f) => [
      f.id,
      new Set(modeOf(show, f) ? attributesOf(modeOf(show, f) as never) : []),
    ]),
  );
  for (const value of show.values.values()) {
    const fixture = show.fixtures.get(value.fixtureId);
    if (!fixture) continue;
    const note = (map: Map<string, Set<string>>): void =>
      void map.set(fixture.id, (map.get(fixture.id) ?? new Set()).add(value.cueId));
    if (fixture.patch.length === 0) note(off);
    if (!has.get(fixture.id)?.has(value.attribute)) note(lost);
  }
  const say = (
    map: Map<string, Set<string>>,
    key: string,
    words: (f: FixtureRow, cues: number) => string,
  ): Finding[] =>
    [...map].flatMap(([id, cues]) => {
      const fixture = show.fixtures.get(id);
      return fixture
        ? [
            {
              key: `${key}/${id}`,
              grave: false,
              about: 'programming' as const,
              text: words(fixture, cues.size),
              fixtures: [id],
            },
          ]
        : [];
    });
  const cuesIn = (n: number): string => `${n} ${n === 1 ? 'cue' : 'cues'}`;
  return [
    ...say(
      off,
      'off-rig',
      (f, n) => `${f.number} ${f.label} is off the rig, and ${cuesIn(n)} use it.`,
    ),
    ...say(
      lost,
      'no-attribute',
      (f, n) => `${cuesIn(n)} set something of ${f.number} that its mode does not have.`,
    ),
  ];
}

/** A light that is brighter than this is seen to move. */
const LIT = 0.02;
/** Degrees that nobody sees. */
const STILL_DEG = 2;
const SPEEDS: Record<string, 'panSpeed_deg_s' | 'tiltSpeed_deg_s'> = {
  Pan: 'panSpeed_deg_s',
  Tilt: 'tiltSpeed_deg_s',
};

interface Way {
  number: number;
  id: string;
  lit: boolean;
  needs_s: number;
  has_s: number;
}

/** Walks every list once; time grows with the values that cues set, not with heads times cues. */
function movementFindings(show: Show): Finding[] {
  const found: Finding[] = [];
  const heads = new Map(
    [...show.fixtures.values()].flatMap((f) =>
      f.patch.length > 0 &&
      modeOf(show, f)?.channels.some((c) => c.attribute === 'Pan' || c.attribute === 'Tilt')
        ? [[f.id, f] as const]
        : [],
    ),
  );
  if (heads.size === 0) return found;
  for (const list of show.lists.values()) {
    const level = new Map<string, number>();
    for (const cue of show.cuesOf(list.id)) {
      const values = show.valuesOf(cue.id);
      const ways = [...values.values()].flatMap((v) =>
        wayOf(show, cue, v, heads.get(v.fixtureId), values, level),
      );
      const name = `cue ${formatCueNumber(cue.number)}${cue.name ? ` “${cue.name}”` : ''}`;
      const lit = unique(ways.filter((w) => w.lit));
      if (lit.length > 0)
        found.push(
          movement(
            'lit',
            cue,
            `${numberRanges(lit.map((w) => w.number))} ${lit.length === 1 ? 'moves' : 'move'} while lit in ${name}.`,
            lit.map((w) => w.id),
          ),
        );
      const slow = ways
        .filter((w) => w.needs_s > w.has_s + 0.05)
        .sort((x, y) => y.needs_s - x.needs_s);
      const [worst] = slow;
      const late = unique(slow);
      if (worst)
        found.push(
          movement(
            'slow',
            cue,
            `${numberRanges(late.map((w) => w.number))} ${late.length === 1 ? 'needs' : 'need'} ${worst.needs_s.toFixed(1)} s for the way in ${name}; its fade is ${worst.has_s} s.`,
            late.map((w) => w.id),
          ),
        );
      for (const [key, value] of values) {
        if (!heads.has(value.fixtureId)) continue;
        const now = levelOf(show, value);
        if (now === null) level.delete(key);
        else level.set(key, now);
      }
    }
  }
  return found;
}

const unique = (ways: readonly Way[]): Way[] => [...new Map(ways.map((w) => [w.id, w])).values()];

/** The way that a value sends a head, when it is one that can be seen. */
function wayOf(
  show: Show,
  cue: CueRow,
  value: ValueRow,
  head: FixtureRow | undefined,
  values: ReadonlyMap<string, ValueRow>,
  level: ReadonlyMap<string, number>,
): Way[] {
  const speedKey = SPEEDS[value.attribute];
  const before = level.get(slotKey(value.fixtureId, value.attribute));
  const to = levelOf(show, value);
  if (!head || !speedKey || before === undefined || to === null) return [];
  const channel = modeOf(show, head)?.channels.find((c) => c.attribute === value.attribute);
  const bend = head.transforms?.[value.attribute];
  const travel = channel
    ? Math.abs(
        (transformed(bend, to) - transformed(bend, before)) *
          (channel.physicalTo - channel.physicalFrom),
      )
    : 0;
  if (travel < STILL_DEG) return [];
  const dimmer = slotKey(head.id, 'Dimmer');
  const was = level.get(dimmer) ?? 0;
  const now = values.get(dimmer);
  const stays = (now ? levelOf(show, now) : undefined) ?? was;
  const speed = show.types.get(head.typeId)?.[speedKey];
  return [
    {
      number: head.number,
      id: head.id,
      lit: was > LIT && stays > LIT,
      needs_s: speed ? travel / speed : 0,
      has_s: slotTimes(value, cue, 'position').up,
    },
  ];
}

const movement = (kind: string, cue: CueRow, text: string, fixtures: string[]): Finding => ({
  key: `${kind}/${cue.id}`,
  grave: false,
  about: 'movement',
  text,
  fixtures,
  cueId: cue.id,
});

/** Palettes that nothing follows: one line for all of them, since a house keeps some for later. */
function unusedFindings(show: Show): Finding[] {
  const leaning = Object.values(referenceCounts(show));
  const onSheets = new Set(
    [...show.sheetpieces.values()].flatMap(({ is }) => (is.kind === 'tile' ? [is.id] : [])),
  );
  const idle = [...show.palettes.values()]
    .filter((p) => !onSheets.has(p.id) && leaning.every((counts) => !counts.has(p.id)))
    .sort((a, b) => a.number - b.number);
  if (idle.length === 0 || show.cues.size === 0) return [];
  const named = idle
    .slice(0, 6)
    .map((p) => `${p.number} ${p.name}`)
    .join(', ');
  return [
    {
      key: 'idle-palettes',
      grave: false,
      about: 'programming',
      text: `Nothing follows ${idle.length === 1 ? 'palette' : `${idle.length} palettes:`} ${named}${idle.length > 6 ? ' …' : ''}.`,
      fixtures: [],
    },
  ];
}

function groupFindings(show: Show): Finding[] {
  return [...show.groups.values()].flatMap((g): Finding[] => {
    const members = membersOf(show, g);
    if (members.length === 0)
      return [
        {
          key: `empty/${g.id}`,
          grave: false,
          about: 'groups',
          text: `Group ${g.number} “${g.name}” is empty.`,
          fixtures: [],
        },
      ];
    const off = members.filter((id) => show.fixtures.get(id)?.patch.length === 0);
    return off.length === members.length
      ? [
          {
            key: `group-off/${g.id}`,
            grave: false,
            about: 'groups',
            text: `All of group ${g.number} “${g.name}” is off the rig.`,
            fixtures: off,
          },
        ]
      : [];
  });
}
