/** Fixture types of this show: made, changed mode by mode, deleted while nobody uses them. */
import { rowFor } from '../show/row-for.ts';
import { UNIVERSE_SLOTS } from '../dmx.ts';
import { z } from 'zod';
import { isRefusal, refuse } from '../refusal.ts';
import { clashAt, occupied } from '../rig/addresses.ts';
import { absolute, formatPoint, type Occupied } from '../fixtures/points.ts';
import { footprintOf } from '../rig/attributes.ts';
import { checkType } from '../rig/check-type.ts';
import { idOf } from '../show/fields.ts';
import { TypeRow } from './rows.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { RowChange, Show } from '../show/show.ts';
import { defineEdit, deleteRow, insertRow, replaceRow } from '../edits/define-edit.ts';
import { EDITORS } from '../roles.ts';
import { numberRanges } from '../words.ts';
import { plural } from '../words.ts';

const Params = z.object({
  /** The type without an id is a new one. */
  type: TypeRow.omit({ id: true }),
  id: idOf('types').optional(),
});
type Params = z.infer<typeof Params>;

/** The fixtures of a type that would not fit where they are, were its modes like this. */
function misfit(show: Show, type: TypeRow): ReturnType<typeof refuse> | undefined {
  const users = [...show.fixtures.values()].filter((f) => f.typeId === type.id);
  const lost = users.find((f) => !type.modes.some((m) => m.name === f.mode));
  if (lost)
    return refuse(
      'conflict',
      `Fixture ${lost.number} uses mode “${lost.mode}”; keep it, or swap the fixture to another first.`,
      { modes: `“${lost.mode}” is in use.` },
    );
  const ranges: Occupied[] = [...occupied(show, new Set(users.map((f) => f.id)))];
  for (const fixture of users) {
    const mode = type.modes.find((m) => m.name === fixture.mode);
    for (const point of fixture.patch) {
      const width = mode ? footprintOf(mode, point.break ?? 1) : 1;
      const from = absolute(point);
      if (point.address + width - 1 > UNIVERSE_SLOTS)
        return refuse(
          'overflow',
          `With ${plural(width, 'channel')} fixture ${fixture.number} at ${formatPoint(point)} would end past 512. Move it first.`,
        );
      const hit = clashAt(ranges, from, from + width - 1);
      if (hit)
        return refuse(
          'clash',
          `With ${plural(width, 'channel')} fixture ${fixture.number} at ${formatPoint(point)} would sit on ${hit.fixture.number}. Move one of them first.`,
        );
      ranges.push({ from, to: from + width - 1, fixture });
      ranges.sort((a, b) => a.from - b.from);
    }
  }
  return undefined;
}

/** Makes or changes a fixture type of the show; refused where its modes do not fit. */
export const setType = defineEdit({
  name: 'set-type',
  params: Params,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const type: TypeRow = { id: p.id ?? newId(), ...p.type };
    const problems = checkType(type);
    if (problems.length > 0) {
      const fields = Object.fromEntries(problems.map((x) => [x.path, x.message]));
      return refuse(
        'invalid',
        `${problems[0]?.message ?? 'This type is not complete.'}${problems.length > 1 ? ` ${plural(problems.length - 1, 'more problem')} in it.` : ''}`,
        fields,
      );
    }
    const twin = [...show.types.values()].find(
      (t) =>
        t.id !== type.id &&
        t.maker.toLowerCase() === type.maker.toLowerCase() &&
        t.name.toLowerCase() === type.name.toLowerCase(),
    );
    if (twin)
      return refuse('clash', `There is a ${twin.maker} ${twin.name} in this show already.`, {
        name: 'Taken.',
      });
    if (p.id === undefined)
      return {
        changes: [insertRow('types', type)],
        summary: `Made type ${type.maker} ${type.name}, ${plural(type.modes.length, 'mode')}`,
      };
    const old = rowFor(show, 'types', p.id);
    if (isRefusal(old)) return old;
    const problem = misfit(show, type);
    if (problem) return problem;
    const users: FixtureRow[] = [...show.fixtures.values()].filter((f) => f.typeId === type.id);
    return {
      changes: [replaceRow('types', old, type)],
      summary: `Changed type ${type.maker} ${type.name}${users.length > 0 ? `, used by ${numberRanges(users.map((f) => f.number))}` : ''}`,
    };
  },
});

const Delete = z.object({ id: idOf('types') });
type Delete = z.infer<typeof Delete>;

/** Deletes a type; refused while a fixture is of it. */
export const deleteType = defineEdit({
  name: 'delete-type',
  params: Delete,
  roles: EDITORS,
  plan: (show, p) => {
    const type = rowFor(show, 'types', p.id, 'already');
    if (isRefusal(type)) return type;
    const users = [...show.fixtures.values()].filter((f) => f.typeId === p.id);
    if (users.length > 0)
      return refuse(
        'conflict',
        `Fixture ${numberRanges(users.map((f) => f.number))} ${users.length === 1 ? 'is' : 'are'} of this type. Swap or delete ${users.length === 1 ? 'it' : 'them'} first.`,
      );
    const changes: RowChange[] = [deleteRow('types', type)];
    return { changes, summary: `Took type ${type.maker} ${type.name} out of the show` };
  },
});
