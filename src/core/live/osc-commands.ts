/** What remote controls can say over OSC, as live commands (docs/api.md). */
import type { Show } from '../show/show.ts';
import type { LiveCommand } from './messages.ts';

const number = (arg: number | string | undefined): number | undefined =>
  typeof arg === 'number' ? arg : undefined;
const level = (arg: number | string | undefined): number | undefined => {
  const value = number(arg);
  return value === undefined || !Number.isFinite(value)
    ? undefined
    : Math.min(1, Math.max(0, value));
};

/** @returns undefined for what is not understood, null for the lifting of a button, which says nothing */
export function oscCommand(
  show: Pick<Show, 'lists'>,
  address: string,
  args: readonly (number | string)[],
): LiveCommand | null | undefined {
  const [root, what, ...rest] = address.split('/').slice(1);
  if (root !== 'wingman' || what === undefined) return undefined;
  const [arg] = args;
  if (what === 'list') {
    const list = [...show.lists.values()].find((l) => String(l.number) === rest[0])?.id;
    return list === undefined ? undefined : playing(rest[1] ?? '', arg, list);
  }
  if (what === 'fader' || what === 'flash') {
    const fader = Number(rest[0]);
    if (!Number.isInteger(fader) || fader < 1 || fader > 999) return undefined;
    if (what === 'flash') return { command: 'flash', fader, on: (number(arg) ?? 1) > 0 };
    const at = level(arg);
    return at === undefined ? undefined : { command: 'fader', fader, level: at };
  }
  return rest.length > 0 ? undefined : playing(what, arg, undefined);
}

function playing(
  what: string,
  arg: number | string | undefined,
  list: string | undefined,
): LiveCommand | null | undefined {
  const onto = list === undefined ? {} : { list };
  switch (what) {
    case 'go':
    case 'back':
    case 'pause':
    case 'release':
    case 'cut':
      return number(arg) === 0 ? null : { command: what, ...onto };
    case 'goto':
      return arg === undefined || String(arg).length > 20
        ? undefined
        : { command: 'goto', cue: String(arg), ...onto };
    case 'master': {
      const at = level(arg);
      if (at === undefined) return undefined;
      return list === undefined
        ? { command: 'master', level: at }
        : { command: 'list-master', level: at, list };
    }
    case 'blackout':
      return list === undefined ? { command: 'blackout', on: (number(arg) ?? 1) > 0 } : undefined;
    case 'release-all':
      return number(arg) === 0 ? null : { command: 'release-all' };
    default:
      return undefined;
  }
}
