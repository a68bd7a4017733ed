/** What remote controls can say over OSC, as live commands (docs/api.md). */
import { clamp } from '../numbers.ts';
import type { Show } from '../show/show.ts';
import { LIVE, LIVE_NAMES, LiveCommand, type LiveName } from './commands.ts';
import type { OscForm } from './define-live.ts';

type Argument = number | string | undefined;
const ROOT = 'wingman';
const FADERS = 999;

/** What an argument means: undefined where it is not understood, null for the lifting of a button, which says nothing. */
const READ: Readonly<Record<OscForm['argument'], (arg: Argument) => unknown>> = {
  button: (arg) => (arg === 0 ? null : true),
  switch: (arg) => (typeof arg === 'number' ? arg : 1) > 0,
  level: (arg) => (typeof arg === 'number' && Number.isFinite(arg) ? clamp(arg) : undefined),
  text: (arg) => (arg === undefined ? undefined : String(arg)),
};

/** Where an address stands: by itself, under a list, or at a fader; and the parameter that this gives. */
function placeOf(
  show: Pick<Show, 'lists'>,
  [first, second, third]: readonly string[],
): { path: string; at: OscForm['at'][number]; given: Record<string, unknown> } | undefined {
  if (first === 'list') {
    const list = [...show.lists.values()].find((l) => String(l.number) === second)?.id;
    return list && third !== undefined ? { path: third, at: 'list', given: { list } } : undefined;
  }
  if (first === undefined) return undefined;
  if (second === undefined) return { path: first, at: 'show', given: {} };
  const fader = Number(second);
  const isFader = Number.isInteger(fader) && fader >= 1 && fader <= FADERS;
  return isFader ? { path: first, at: 'fader', given: { fader } } : undefined;
}

const saidAs = (path: string, at: OscForm['at'][number]): LiveName | undefined =>
  LIVE_NAMES.find((name) => LIVE[name].osc?.path === path && LIVE[name].osc.at.includes(at));

/** @returns undefined for what is not understood, null for the lifting of a button, which says nothing */
export function oscCommand(
  show: Pick<Show, 'lists'>,
  address: string,
  args: readonly (number | string)[],
): LiveCommand | null | undefined {
  const [root, ...rest] = address.split('/').slice(1);
  const place = root === ROOT ? placeOf(show, rest) : undefined;
  const command = place && saidAs(place.path, place.at);
  const osc = command && LIVE[command].osc;
  if (!osc) return undefined;
  const value = READ[osc.argument](args[0]);
  if (value === undefined || value === null) return value;
  const read = LiveCommand.safeParse({
    command,
    ...place.given,
    ...(osc.into === undefined ? {} : { [osc.into]: value }),
  });
  return read.success ? read.data : undefined;
}

/** Addresses that are understood, for the documents: `/wingman/go`, `/wingman/list/N/go`. */
export const oscAddresses = (): { address: string; argument: string; command: LiveName }[] =>
  LIVE_NAMES.flatMap((command) => {
    const { osc } = LIVE[command];
    return (osc?.at ?? []).map((at) => ({
      address: {
        show: `/${ROOT}/${osc?.path}`,
        list: `/${ROOT}/list/N/${osc?.path}`,
        fader: `/${ROOT}/${osc?.path}/N`,
      }[at],
      argument: osc?.argument ?? '',
      command,
    }));
  });
