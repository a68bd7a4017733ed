/** Live commands that are about the network: units that hang at nodes, what other desks show, names of nodes. */
import type { CommandOf } from '../../core/live/commands.ts';
import { refuse } from '../../core/refusal.ts';
import type { Actor } from '../actor.ts';
import type { LiveShow } from '../live-show.ts';
import type { Answer } from '../answer.ts';
import type { Inputs } from './inputs.ts';
import type { AtNetwork } from './network.ts';

interface Noted {
  kind: 'air';
  userId: string;
  userName: string;
  text: string;
}
interface Parts {
  network: Pick<AtNetwork, 'rdm' | 'rename'>;
  note: (showId: string, entry: Noted) => void;
}

const noted = (actor: Actor, text: string): Noted => ({
  kind: 'air',
  userId: actor.userId,
  userName: actor.name,
  text,
});

/** Looks who hangs at the nodes, or sets a unit. */
export async function askUnits(
  { network, note }: Parts,
  show: LiveShow,
  actor: Actor,
  command: CommandOf<'rdm'>,
): Promise<Answer> {
  const rdm = network.rdm();
  if (!rdm) return refuse('unavailable', 'This player is not on air: it asks nobody.');
  if (command.do === 'look') {
    void rdm.look();
    return { ok: true };
  }
  const { uid, value } = command;
  if (uid === undefined || value === undefined)
    return refuse('invalid', 'Which unit, and what?', { uid: 'Which unit?' });
  const no = await rdm.set(uid, command.do, value);
  if (no) return no;
  if (command.do !== 'identify')
    note(show.id, noted(actor, `Set the ${command.do} of the unit ${uid} to ${value}`));
  return { ok: true };
}

/** What another desk shows now becomes values in somebody's programmer. */
export function takeIn(
  inputs: Pick<Inputs, 'levels'>,
  show: LiveShow,
  actor: Actor,
  id: string,
): Answer {
  const input = show.show.inputs.get(id);
  if (!input) return refuse('not-found', 'This input has been deleted.');
  const levels = inputs.levels(input);
  if (!levels)
    return refuse('nothing', `Nothing is heard of “${input.name}”. Nothing was changed.`);
  const values = show.valuesOf(input.universe, levels);
  if (values.length === 0)
    return refuse('nothing', `Nothing is patched in universe ${input.universe}.`);
  return show.command(actor, { command: 'set-many', values });
}

/** Gives a node other names; refuses one that is not seen. */
export function renameNode(
  { network, note }: Parts,
  show: LiveShow,
  actor: Actor,
  { address, bindIndex, shortName, longName }: CommandOf<'rename-node'>,
): Answer {
  if (shortName === '' && longName === '')
    return refuse('invalid', 'Give the node a name.', { shortName: 'Empty.' });
  if (!network.rename(address, bindIndex, { shortName, longName }))
    return refuse('not-found', `No Art-Net node answers at ${address} now. Nothing was changed.`);
  note(show.id, noted(actor, `Called the Art-Net node at ${address} “${shortName || longName}”`));
  return { ok: true };
}
