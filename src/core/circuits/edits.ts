/** What the house brings: names of universes, circuits of the mains, voltage and safety share. */
import { rowFor } from '../show/row-for.ts';
import { z } from 'zod';
import { isRefusal, refuse } from '../refusal.ts';
import { CircuitRow, Power } from './rows.ts';
import { Name, idOf, Universe } from '../show/fields.ts';
import type { SettingsRow } from '../settings/rows.ts';
import { defineEdit, deleteRow, insertRow, replaceRow, updateRow } from '../edits/define-edit.ts';
import { EDITORS } from '../roles.ts';
import { numberRanges } from '../words.ts';

const NameUniverse = z.object({ number: Universe, name: z.union([Name, z.literal('')]) });
type NameUniverse = z.infer<typeof NameUniverse>;

/** Names a universe, or takes its name off with an empty text. */
export const nameUniverse = defineEdit({
  name: 'name-universe',
  params: NameUniverse,
  roles: EDITORS,
  plan: (show, p) => {
    const id = `u${p.number}`;
    const old = show.universes.get(id);
    if (p.name === '')
      return old
        ? {
            changes: [deleteRow('universes', old)],
            summary: `Universe ${p.number} has no name any more`,
          }
        : refuse('nothing', `Universe ${p.number} has no name.`);
    const row = { id, number: p.number, name: p.name };
    return {
      changes: [old ? updateRow('universes', old, { name: p.name }) : insertRow('universes', row)],
      summary: `Universe ${p.number} is “${p.name}”`,
    };
  },
});

const SetCircuit = z.object({
  id: idOf('circuits').optional(),
  set: CircuitRow.omit({ id: true }),
});
type SetCircuit = z.infer<typeof SetCircuit>;

/** Makes or changes a circuit: its name, breaker in amperes, phase. */
export const setCircuit = defineEdit({
  name: 'set-circuit',
  params: SetCircuit,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const twin = [...show.circuits.values()].find(
      (c) => c.id !== p.id && c.name.toLowerCase() === p.set.name.toLowerCase(),
    );
    if (twin)
      return refuse('clash', `There is a circuit ${twin.name} already.`, { name: 'Taken.' });
    if (p.id === undefined)
      return {
        changes: [insertRow('circuits', { id: newId(), ...p.set })],
        summary: `Added circuit ${p.set.name}, ${p.set.breaker_A} A on phase ${p.set.phase}`,
      };
    const old = rowFor(show, 'circuits', p.id);
    if (isRefusal(old)) return old;
    return {
      changes: [updateRow('circuits', old, p.set)],
      summary: `Changed circuit ${p.set.name}`,
    };
  },
});

const Delete = z.object({ id: idOf('circuits') });
type Delete = z.infer<typeof Delete>;

/** Deletes a circuit; its fixtures are on none then. */
export const deleteCircuit = defineEdit({
  name: 'delete-circuit',
  params: Delete,
  roles: EDITORS,
  plan: (show, p) => {
    const circuit = rowFor(show, 'circuits', p.id, 'already');
    if (isRefusal(circuit)) return circuit;
    const users = [...show.fixtures.values()].filter((f) => f.circuitId === p.id);
    const freed = users.map((f) => {
      const next = { ...f };
      delete next.circuitId;
      return replaceRow('fixtures', f, next);
    });
    const loses =
      users.length > 0
        ? `; ${numberRanges(users.map((f) => f.number))} ${users.length === 1 ? 'has' : 'have'} no circuit now`
        : '';
    return {
      changes: [...freed, deleteRow('circuits', circuit)],
      summary: `Deleted circuit ${circuit.name}${loses}`,
    };
  },
});

/** Sets the voltage and the share of a breaker that is safe. */
export const setPower = defineEdit({
  name: 'set-power',
  params: Power,
  roles: EDITORS,
  plan: (show, p) => {
    const settings: SettingsRow | undefined = show.settings.get('show');
    if (!settings) return refuse('not-found', 'This show has no settings. Nothing was changed.');
    return {
      changes: [updateRow('settings', settings, { power: p })],
      summary: `Power is counted at ${p.voltage_V} V, up to ${Math.round(p.safety * 100)} % of a breaker`,
    };
  },
});
