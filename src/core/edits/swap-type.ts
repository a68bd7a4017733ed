/** Swap type: another unit on the same number, with all its programming said in the new type's attributes. */
import { z } from 'zod';
import { isRefusal, refuse, type Refusal } from '../refusal.ts';
import { clashAt, nextFree, occupied } from '../rig/addresses.ts';
import { absolute, formatPoint, modeOf, UNIVERSE_SLOTS } from '../fixtures/points.ts';
import { attributeInfo, attributesOf, footprintOf } from '../rig/attributes.ts';
import { convertSetting, type Fate, type FateOf, type Setting, type Side } from '../rig/convert.ts';
import { libraryType } from '../rig/library/index.ts';
import { levelOf } from '../looks/value.ts';
import { placeUnits } from '../rig/place.ts';
import { Address, LIMITS, RowId, Universe } from '../show/fields.ts';
import { valueId, type ValueRow } from '../cues/rows.ts';
import type { FixtureRow, PatchPoint } from '../fixtures/rows.ts';
import { meaningAfter } from '../show/after.ts';
import { same } from '../same.ts';
import type { RowChange, Show } from '../show/show.ts';
import { defineEdit, deleteRow, EDITORS, insertRow, replaceRow } from './edit.ts';
import { numberRanges } from '../words.ts';
import { plural } from '../words.ts';
import { followRefs, looksSwapped, type Said } from './follow-refs.ts';
import { routesForUnrouted } from './patch-fixtures.ts';

const Params = z.object({
  ids: z.array(RowId).min(1).max(2048),
  typeId: z.string().min(1).max(120),
  mode: z.string().min(1).max(LIMITS.nameLength),
  /** Keep the address, take the next free ones, or begin at a typed one. */
  address: z
    .union([z.enum(['keep', 'next']), z.object({ universe: Universe, address: Address })])
    .default('keep'),
  /** Swap even when nothing of the programming can be kept. */
  loseAll: z.boolean().default(false),
});
type Params = z.input<typeof Params>;

export interface SwapLine {
  attribute: string;
  fate: Fate;
  into: string;
  values: number;
}

export interface SwapReport {
  lines: SwapLine[];
  kept: number;
  dropped: number;
}

/** What becomes of each attribute of the fixtures' programming. Planning alone; the edit does the same and writes it. */
export function swapReport(
  show: Show,
  ids: readonly string[],
  to: Side,
): SwapReport & { changes: RowChange[]; common: boolean } {
  const wanted = new Set(ids);
  const tally = new Map<string, SwapLine>();
  const changes: RowChange[] = [];
  let kept = 0;
  let dropped = 0;
  let common = false;
  const sides = new Map<string, Side>();
  for (const id of ids) {
    const fixture = show.fixtures.get(id);
    const type = fixture ? show.types.get(fixture.typeId) : undefined;
    const mode = fixture ? modeOf(show, fixture) : undefined;
    if (!type || !mode) continue;
    sides.set(id, { type, mode });
    const has = new Set(attributesOf(to.mode));
    common ||= attributesOf(mode).some((a) => has.has(a));
  }
  const note = (fate: FateOf): void => {
    const key = `${fate.attribute}/${fate.fate}/${fate.into}`;
    const line = tally.get(key) ?? { ...fate, values: 0 };
    line.values++;
    tally.set(key, line);
    if (fate.fate === 'dropped') dropped++;
    else kept++;
  };
  // The palettes' own entries for these fixtures are said in the new attributes first.
  for (const palette of show.palettes.values()) {
    const next = { ...palette.fixtures };
    for (const id of ids) {
      const own = palette.fixtures[id];
      const from = sides.get(id);
      const fixture = show.fixtures.get(id);
      if (!own || !from || !fixture) continue;
      const converted = convertSetting(
        from,
        to,
        fixture,
        new Map(Object.entries(own)),
        new Map(Object.entries(own)),
      );
      next[id] = Object.fromEntries(
        [...converted.setting].flatMap(([a, level]) => (level === null ? [] : [[a, level]])),
      );
      if (Object.keys(next[id] ?? {}).length === 0) delete next[id];
    }
    if (same(next, palette.fixtures)) continue;
    const row = { ...palette, fixtures: next };
    changes.push(replaceRow('palettes', palette, row));
  }

  changes.push(...looksSwapped(show, sides, to));
  const swapped = [...sides.keys()].flatMap((id) => {
    const fixture = show.fixtures.get(id);
    return fixture
      ? [replaceRow('fixtures', fixture, { ...fixture, typeId: to.type.id, mode: to.mode.name })]
      : [];
  });
  const after = meaningAfter(show, [
    ...changes,
    ...swapped,
    { table: 'types', id: to.type.id, before: show.types.get(to.type.id) ?? null, after: to.type },
  ]);

  for (const list of show.lists.values()) {
    const shown = new Map<string, Map<string, number>>();
    for (const cue of show.cuesOf(list.id)) {
      const byFixture = new Map<string, ValueRow[]>();
      for (const value of show.valuesOf(cue.id).values()) {
        if (!wanted.has(value.fixtureId)) continue;
        const rows = byFixture.get(value.fixtureId);
        if (rows) rows.push(value);
        else byFixture.set(value.fixtureId, [value]);
      }
      for (const [fixtureId, rows] of byFixture) {
        const from = sides.get(fixtureId);
        const fixture = show.fixtures.get(fixtureId);
        if (!from || !fixture) continue;
        const state = shown.get(fixtureId) ?? new Map<string, number>();
        shown.set(fixtureId, state);
        // What follows a palette or a look goes on following it where that answers for the new unit.
        const followed = followRefs(after, after.fixtures.get(fixtureId) ?? fixture, to, rows);
        const setting: Setting = new Map(
          rows
            .filter((r) => !followed.kept.has(r.attribute))
            .map((r) => [r.attribute, levelOf(show, r)]),
        );
        for (const row of rows) {
          const level = levelOf(show, row);
          if (level === null) state.delete(row.attribute);
          else state.set(row.attribute, level);
        }
        const converted = convertSetting(from, to, fixture, setting, state);
        converted.fates.forEach(note);
        for (const [attribute, name] of followed.kept)
          note({ attribute, fate: 'palette', into: name });
        common ||= converted.setting.size + followed.values.size > 0;
        changes.push(...rewritten(cue.id, fixtureId, rows, converted.setting, followed.values));
      }
    }
  }
  const lines = [...tally.values()].sort(
    (a, b) => ORDER.indexOf(b.fate) - ORDER.indexOf(a.fate) || b.values - a.values,
  );
  return { lines, kept, dropped, changes, common };
}
const ORDER: Fate[] = ['same', 'palette', 'converted', 'clipped', 'dropped'];

/** Row changes from what a cue said to what it says now; own times go with the attribute, or with its family's first. */
function rewritten(
  cueId: string,
  fixtureId: string,
  rows: readonly ValueRow[],
  setting: Setting,
  followed: ReadonlyMap<string, Said>,
): RowChange[] {
  const changes: RowChange[] = [];
  const old = new Map(rows.map((r) => [r.attribute, r]));
  const all = new Map<string, Said>([
    ...[...setting].map(([a, level]) => [a, { level }] as const),
    ...followed,
  ]);
  for (const row of rows) if (!all.has(row.attribute)) changes.push(deleteRow('values', row));
  for (const [attribute, { level, palette, look }] of all) {
    const before = old.get(attribute);
    const times =
      before ??
      rows.find(
        (r) =>
          attributeInfo(r.attribute).family === attributeInfo(attribute).family &&
          (r.fade_s !== undefined || r.delay_s !== undefined),
      );
    const after: ValueRow = {
      id: valueId(cueId, fixtureId, attribute),
      cueId,
      fixtureId,
      attribute,
      level,
      ...(palette === undefined ? {} : { palette }),
      ...(look === undefined ? {} : { look }),
      ...(before?.effect === undefined || level === null ? {} : { effect: before.effect }),
      ...(times?.fade_s === undefined ? {} : { fade_s: times.fade_s }),
      ...(times?.delay_s === undefined ? {} : { delay_s: times.delay_s }),
    };
    if (!before) changes.push(insertRow('values', after));
    else if (before.level !== level || before.palette !== palette || before.look !== look)
      changes.push(replaceRow('values', before, after));
  }
  return changes;
}

function newPatches(
  show: Show,
  fixtures: readonly FixtureRow[],
  to: Side,
  address: z.output<typeof Params>['address'],
): PatchPoint[][] | Refusal {
  const ids = new Set(fixtures.map((f) => f.id));
  const units = fixtures.map((f) => ({ number: f.number, mode: to.mode }));
  if (address !== 'keep') {
    const start =
      address === 'next'
        ? nextFree(
            show,
            to.mode.footprint,
            fixtures.length,
            0,
            { universe: 1, address: 1 },
            occupied(show, ids),
          )
        : address;
    if (!start)
      return refuse('overflow', 'There is no free run of addresses for these units.', {
        address: 'No room.',
      });
    return placeUnits(show, units, { start, gap: 0, overflow: address === 'next' }, ids);
  }
  const ranges = [...occupied(show, ids)];
  const width = footprintOf(to.mode);
  const result: PatchPoint[][] = [];
  for (const fixture of fixtures) {
    const own: PatchPoint[] = [];
    for (const point of fixture.patch) {
      const at = footprintOf(to.mode, point.break ?? 1);
      // The new type has fewer addresses: the further ones are given up.
      if (at === 0) continue;
      const from = absolute(point);
      const free = nextFree(show, width, 1, 0, { universe: 1, address: 1 }, ranges);
      const elsewhere = free ? ` The next free address for it is ${formatPoint(free)}.` : '';
      if (point.address + at - 1 > UNIVERSE_SLOTS)
        return refuse(
          'overflow',
          `${fixture.number} would have ${at} channels; at ${formatPoint(point)} it would end past 512.${elsewhere}`,
          { address: 'Past 512.' },
        );
      const hit = clashAt(ranges, from, from + at - 1);
      if (hit)
        return refuse(
          'clash',
          `${fixture.number} would have ${at} channels, and at ${formatPoint(point)} it would sit on ${hit.fixture.number} (${hit.fixture.label}).${elsewhere}`,
          { address: `Taken by ${hit.fixture.number}.` },
        );
      own.push(point);
      ranges.push({ from, to: from + at - 1, fixture });
      ranges.sort((a, b) => a.from - b.from);
    }
    // A type with more addresses than before: the further ones go to the next free run.
    if (own.length > 0) {
      for (let n = 2; n <= 4; n++) {
        const more = footprintOf(to.mode, n);
        if (more === 0 || own.some((p) => p.break === n)) continue;
        const free = nextFree(
          show,
          more,
          1,
          0,
          { universe: own[0]?.universe ?? 1, address: 1 },
          ranges,
        );
        if (!free)
          return refuse(
            'overflow',
            `There is no room left for address ${n} of ${fixture.number}.`,
            { address: 'No room.' },
          );
        own.push({ ...free, break: n });
        ranges.push({ from: absolute(free), to: absolute(free) + more - 1, fixture });
        ranges.sort((a, b) => a.from - b.from);
      }
    }
    result.push(own);
  }
  return result;
}

export const swapType = defineEdit<Params>({
  name: 'swap-type',
  params: Params,
  roles: EDITORS,
  plan: (show, params) => {
    const p = Params.parse(params);
    const known = show.types.get(p.typeId);
    const type = known ?? libraryType(p.typeId);
    const mode = type?.modes.find((m) => m.name === p.mode);
    if (!type || !mode)
      return refuse(
        'not-found',
        type
          ? `${type.maker} ${type.name} has no mode “${p.mode}”.`
          : 'This fixture type is not in the show or the library.',
        { typeId: 'Unknown.' },
      );
    const fixtures = [...new Set(p.ids)].flatMap((id) => show.fixtures.get(id) ?? []);
    if (fixtures.length !== new Set(p.ids).size)
      return refuse(
        'not-found',
        'One of these fixtures has been deleted meanwhile. Nothing was changed.',
      );
    const to = { type, mode };
    const report = swapReport(
      show,
      fixtures.map((f) => f.id),
      to,
    );
    if (!report.common && report.dropped > 0 && !p.loseAll) {
      return refuse(
        'nothing-common',
        `${type.name} ${mode.name} has no attribute in common with ${fixtures.length === 1 ? `fixture ${fixtures[0]?.number}` : 'these fixtures'}: all of ${plural(report.dropped, 'recorded value')} would be lost. Say so if that is meant.`,
        { typeId: 'Nothing in common.' },
      );
    }
    const patches = newPatches(show, fixtures, to, p.address);
    if (isRefusal(patches)) return patches;

    const has = new Set(attributesOf(mode));
    const changes: RowChange[] = known ? [] : [insertRow('types', type)];
    const lostSettings = new Set<string>();
    fixtures.forEach((fixture, i) => {
      const next: FixtureRow = {
        ...fixture,
        typeId: type.id,
        mode: mode.name,
        patch: patches[i] ?? [],
        ...(type.shape === 'house' ? { noGrandMaster: true } : {}),
      };
      if (fixture.transforms) {
        next.transforms = Object.fromEntries(
          Object.entries(fixture.transforms).filter(([a]) => has.has(a)),
        );
        for (const a of Object.keys(fixture.transforms))
          if (!has.has(a)) lostSettings.add(`limits of ${attributeInfo(a).label.toLowerCase()}`);
        if (Object.keys(next.transforms).length === 0) delete next.transforms;
      }
      if (fixture.wheels) {
        next.wheels = Object.fromEntries(
          Object.entries(fixture.wheels).filter(([w]) => type.wheels?.some((x) => x.name === w)),
        );
        if (Object.keys(next.wheels).length < Object.keys(fixture.wheels).length)
          lostSettings.add('own wheel slots');
        if (Object.keys(next.wheels).length === 0) delete next.wheels;
      }
      if (fixture.swapPanTilt && !has.has('Pan')) delete next.swapPanTilt;
      changes.push(replaceRow('fixtures', fixture, next));
    });
    changes.push(...report.changes, ...routesForUnrouted(show, patches).changes);
    const dropped = [
      ...new Set(
        report.lines
          .filter((l) => l.fate === 'dropped')
          .map((l) => attributeInfo(l.attribute).label.toLowerCase()),
      ),
      ...lostSettings,
    ];
    const programming =
      (report.kept + report.dropped === 0
        ? 'no programming yet'
        : `${plural(report.kept, 'value')} kept`) +
      (dropped.length > 0 ? `, dropped: ${dropped.join(', ')}` : '');
    return {
      changes,
      summary: `Swapped ${numberRanges(fixtures.map((f) => f.number))} to ${type.name} ${mode.name}; ${programming}`,
    };
  },
});
