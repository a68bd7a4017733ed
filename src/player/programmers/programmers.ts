/**
 * Programmers: what each operator holds, selects and looks at, as plain state. The clock is told in slots and levels;
 * here values keep what they follow (a palette, a look, an effect), so that recording keeps it too. The functions on it
 * stand beside: `holding` (holds and lets go), `times`, `selecting`, `following` (edits as they arrive), `telling`
 * (the clock), `seen` (what others see). None of them knows another's inside.
 */
import type { Tracked } from '../../core/cues/tracking.ts';
import type { FindWave } from '../../core/playback/programs.ts';
import type { HeldValue } from '../../core/live/messages.ts';
import type { EffectRow } from '../../core/effects/rows.ts';
import type { MutableShow, RowChange } from '../../core/show/show.ts';
import type { Refusal } from '../../core/refusal.ts';
import type { Actor } from '../actor.ts';
import type { ShowMessage } from '../clock-messages.ts';

/** What one person has in hand. */
export interface OperatorState {
  name: string;
  values: Map<string, HeldValue>;
  selection: string[];
  stepping: { all: string[]; at: number } | null;
  blind: boolean;
  highlight: boolean;
  /** What was cleared or let go, step by step, the last one last. */
  clears: HeldValue[][];
  /** An effect that is being made or changed. */
  trial: Trial | null;
}

/** An effect that is tried before it is kept. */
export interface Trial {
  row: EffectRow;
  /** What the show has under its id. */
  before: EffectRow | null;
  /** What was held on the slots that it moves, before; undefined: nothing. */
  held: Map<string, HeldValue | undefined>;
}

/** What is kept of an operator between one process and the next; nothing stays highlit by accident. */
export interface SavedOperator {
  name: string;
  values: [string, HeldValue][];
  selection: string[];
  blind?: boolean;
  clears?: HeldValue[][];
}

/** What programmers need of the show that they are in. */
interface ProgrammersNeeds {
  readonly id: string;
  readonly show: MutableShow;
  slotOf: (key: string) => number | undefined;
  /** Before the grand master. */
  levelNow: (slot: number) => number;
  /** What the playback that wins a slot recorded there, if a list wins it. */
  recordedAt: (slot: number) => Tracked | undefined;
  findWave: FindWave;
  tell: (message: ShowMessage) => void;
  /** Highlights over playback. */
  highlight: (userId: string, name: string, at: readonly { key: string; level: number }[]) => void;
  /** Why an operator may not set these: they are somebody's part. */
  othersPart: (actor: Pick<Actor, 'userId'>, fixtureIds: ReadonlySet<string>) => Refusal | null;
  /** Another operator holds the same. */
  both: (
    actor: Pick<Actor, 'userId' | 'name'>,
    other: Pick<Actor, 'userId' | 'name'>,
    values: readonly { fixtureId: string; attribute: string }[],
  ) => void;
  /** Rows of effects as they are tried: laid into what plays, not into the show. */
  lay: (rows: readonly RowChange[]) => void;
  present: (userId: string) => boolean;
  changed: (userId: string, urgency: 'now' | 'soon') => void;
}

/** Programmers of one show, by person. */
export interface Programmers extends ProgrammersNeeds {
  readonly operators: Map<string, OperatorState>;
}

const freshOperator = (name: string): OperatorState => ({
  name,
  values: new Map(),
  selection: [],
  stepping: null,
  blind: false,
  highlight: false,
  clears: [],
  trial: null,
});

/** Taken by an effect that was tried when the process ended: nobody set it. */
const isOfATrial = (show: MutableShow, { taken, effect, look }: HeldValue): boolean =>
  taken === true && look === undefined && effect !== undefined && !show.effects.has(effect.id);

/** As they were saved. */
export function makeProgrammers(
  needs: ProgrammersNeeds,
  saved: readonly [string, SavedOperator][],
): Programmers {
  const operators = new Map<string, OperatorState>();
  for (const [id, o] of saved)
    operators.set(id, {
      ...freshOperator(o.name),
      values: new Map(o.values.filter(([, v]) => !isOfATrial(needs.show, v))),
      selection: o.selection,
      blind: o.blind ?? false,
      clears: o.clears ?? [],
    });
  return { ...needs, operators };
}

/** An operator's state, made when first asked for. */
export function operatorOf(p: Programmers, actor: Pick<Actor, 'userId' | 'name'>): OperatorState {
  const known = p.operators.get(actor.userId);
  if (known) return known;
  const fresh = freshOperator(actor.name);
  p.operators.set(actor.userId, fresh);
  return fresh;
}

/** What is kept for the next process. */
export const savedOperators = (p: Programmers): [string, SavedOperator][] =>
  [...p.operators].map(([id, o]) => [
    id,
    {
      name: o.name,
      values: [...o.values],
      selection: o.selection,
      blind: o.blind,
      clears: o.clears,
    },
  ]);
