/** The selection, stepping through it, highlight and blind. */
import { modeOf } from '../../core/fixtures/points.ts';
import { attributesOf, familyOf } from '../../core/rig/attributes.ts';
import { slotKey } from '../../core/cues/rows.ts';
import type { Actor } from '../actor.ts';
import type { Answer } from '../answer.ts';
import { operatorOf, type OperatorState, type Programmers } from './programmers.ts';
import type { Channel } from '../../core/types/rows.ts';
import { NOTHING_SELECTED } from './holding.ts';

/** Selects fixtures by their ids, in that order; those that are gone are left out. */
export function selectUnits(p: Programmers, actor: Actor, ids: readonly string[]): Answer {
  const operator = operatorOf(p, actor);
  operator.selection = ids.filter((id) => p.show.fixtures.has(id));
  operator.stepping = null;
  if (operator.highlight) sendHighlight(p, actor.userId, operator);
  p.changed(actor.userId, 'soon');
  return { ok: true };
}

/** Takes one unit of what is selected, the next or the one before; 0 takes all again. */
export function stepSelection(p: Programmers, actor: Actor, by: 1 | -1 | 0): Answer {
  const operator = operatorOf(p, actor);
  const { stepping } = operator;
  const all = stepping?.all ?? operator.selection;
  if (all.length === 0) return NOTHING_SELECTED;
  if (by === 0) {
    operator.selection = [...all];
    operator.stepping = null;
  } else {
    const first = by === 1 ? 0 : all.length - 1;
    const at = stepping ? (stepping.at + by + all.length) % all.length : first;
    operator.stepping = { all: [...all], at };
    operator.selection = all.slice(at, at + 1);
  }
  if (operator.highlight) sendHighlight(p, actor.userId, operator);
  p.changed(actor.userId, 'soon');
  return { ok: true };
}

/** @param on absent: the other way */
export function setHighlight(p: Programmers, actor: Actor, on?: boolean): Answer {
  const operator = operatorOf(p, actor);
  operator.highlight = on ?? !operator.highlight;
  sendHighlight(p, actor.userId, operator);
  p.changed(actor.userId, 'soon');
  return { ok: true };
}

function sendHighlight(p: Programmers, userId: string, operator: OperatorState): void {
  const shown = operator.highlight ? operator.selection : [];
  const at = shown.flatMap((id) => {
    const fixture = p.show.fixtures.get(id);
    const mode = fixture ? modeOf(p.show, fixture) : undefined;
    return (mode ? attributesOf(mode) : []).flatMap((attribute) => {
      const channel = mode?.channels.find((c) => c.attribute === attribute);
      const level = highlightOf(attribute, channel);
      return level === undefined ? [] : [{ key: slotKey(id, attribute), level }];
    });
  });
  p.highlight(userId, operator.name, at);
}

/** What an attribute shows in highlight: as its type says, else full, open and white; undefined where it stays as it is. */
function highlightOf(attribute: string, channel: Channel | undefined): number | undefined {
  if (channel?.highlight !== undefined) return channel.highlight;
  if (attribute === 'Dimmer') return 1;
  const opens = attribute.startsWith('Shutter') || attribute === 'Iris';
  return opens || familyOf(attribute) === 'colour' ? channel?.default : undefined;
}

/** Keeps what a person sets off the stage, or shows it. */
export function setBlind(p: Programmers, actor: Actor, blind: boolean): Answer {
  operatorOf(p, actor).blind = blind;
  p.tell({ do: 'blind', showId: p.id, userId: actor.userId, blind });
  p.changed(actor.userId, 'now');
  return { ok: true, message: blind ? 'Blind: what you set is kept and does not show' : 'Live' };
}

/** The last screen of an operator is gone: nothing stays highlit. */
export function personLeft(p: Programmers, userId: string): void {
  const operator = p.operators.get(userId);
  if (!operator?.highlight) return;
  operator.highlight = false;
  sendHighlight(p, userId, operator);
}
