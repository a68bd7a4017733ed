/** What a record would do, and which other cues would look different: planned on this screen's copy. */
import { boardOver, needsBoard, thingOf } from '@/core/live/boards';
import type { LiveCommand } from '@/core/live/commands';
import { sayNumbers } from '@/core/cues/called';
import { consequences, type Consequence } from '@/core/cues/consequences';
import type { Intent } from '@/core/command/intent';
import { tryEdit } from './edits';
import {
  heldValues,
  recordParams,
  recordValues,
  type RecordFilter,
  type RecordOptions,
} from './recording';
import { lookSlots } from '@/core/looks/resolve';
import { settingInParts } from '@/core/crew/parts';
import { useScreen } from './store';

/** What becomes of what is recorded: it tracks on, is this cue’s alone, or goes back to where it comes from. */
export type After = 'track' | 'only' | 'source';

/** A recording that is about to be made. */
export interface RecordPlan {
  edit: string;
  params: Record<string, unknown>;
  summary?: string;
  problem?: string;
  fields?: Record<string, string>;
  /** Other cues that will look different. */
  others: Consequence[];
  /** Palettes that it writes into, with the cues that use them. */
  palettes: { id: string; name: string; cues: number }[];
  /** Values that it writes into its cue. */
  count: number;
  /** It would write in a part of somebody else: how that is said. */
  part?: string;
}

/** What a record would do, planned on this screen's copy. */
export function planRecord(
  options: RecordOptions & { listId: string },
  filter: RecordFilter,
  after: After,
  palettes: 'palette' | 'cue',
): RecordPlan {
  const { show } = useScreen.getState();
  const { mode, ...rest } = options;
  void mode;
  const [name, params] =
    after === 'source'
      ? [
          'update-source',
          {
            listId: options.listId,
            number: options.number,
            values: recordValues(filter),
            palettes,
          },
        ]
      : ['record-cue', recordParams({ ...rest, mode: after }, filter)];
  const plan = tryEdit(name, params);
  const given = (params.values as unknown[]).length;
  if (!('changes' in plan))
    return {
      edit: name,
      params,
      problem: plan.message,
      ...(plan.code === 'part' ? { part: plan.message } : {}),
      ...(plan.fields ? { fields: plan.fields } : {}),
      others: [],
      palettes: [],
      count: given,
    };
  const here = show.cuesOf(options.listId).find((c) => c.number === options.number);
  const aimed = new Set([
    ...plan.changes.flatMap((c) => (c.table === 'cues' ? [c.id] : [])),
    ...(here ? [here.id] : []),
  ]);
  // What is written, not what is held: a value that the cue shows already is none.
  const count =
    after === 'source'
      ? given
      : plan.changes.filter(
          (c) => c.table === 'values' && aimed.has((c.after ?? c.before)?.cueId ?? ''),
        ).length;
  const touched = plan.changes.flatMap((c) => (c.table === 'palettes' && c.after ? [c.after] : []));
  const uses = (id: string): number =>
    new Set([...show.values.values()].filter((v) => v.palette === id).map((v) => v.cueId)).size;
  return {
    edit: name,
    params,
    summary: plan.summary,
    others: consequences(show, plan.changes, aimed),
    palettes: touched.map((p) => ({ id: p.id, name: p.name, cues: uses(p.id) })),
    count,
  };
}

/** Edits of a line whose other cues are not told by the line itself. */
const TOLD = new Set([
  'delete-cue',
  'delete-palette',
  'delete-look',
  'delete-effect',
  'set-effect',
]);

interface Plan {
  others: Consequence[];
  count?: number;
  /** Whose part stands against it, in a sentence. */
  part?: string | undefined;
}

function planned(intent: Intent): Plan | undefined {
  const { show } = useScreen.getState();
  if (intent.kind === 'record') {
    const { kind, mode, ...options } = intent;
    void kind;
    const plan = planRecord({ ...options, mode }, { from: 'programmer' }, mode, 'palette');
    if (plan.part !== undefined) return { others: [], part: plan.part };
    return plan.problem === undefined && recordValues().length > 0
      ? { others: plan.others, count: plan.count }
      : undefined;
  }
  if (intent.kind !== 'record-held' && intent.kind !== 'edit') return undefined;
  const params =
    intent.kind === 'edit'
      ? intent.params
      : {
          ...intent.params,
          values: intent.edit === 'update-source' ? recordValues() : heldValues(),
        };
  const plan = tryEdit(intent.edit, params);
  if (!('changes' in plan))
    return plan.code === 'part' ? { others: [], part: plan.message } : undefined;
  if (intent.kind === 'edit' && !TOLD.has(intent.edit)) return undefined;
  // A palette or a look that is made new is in no cue yet.
  if (
    intent.kind === 'record-held' &&
    intent.edit !== 'update-source' &&
    intent.params.id === undefined
  )
    return undefined;
  return { others: consequences(show, plan.changes) };
}

/** What Enter changes beside what it is aimed at, in words; undefined where the line says all of it. */
export function besides(intent: Intent): { says: string; others: boolean } | undefined {
  const plan = planned(intent);
  if (!plan) return undefined;
  if (plan.part !== undefined) return { says: plan.part, others: true };
  const { others, count } = plan;
  const held = recordValues().length;
  const part = count === 0 ? 'it shows all of this already, ' : `${count} of them change it, `;
  const fewer = count === undefined || count >= held ? '' : part;
  return others.length === 0
    ? { says: `${fewer}no other cue looks different`, others: false }
    : {
        says: `${fewer}also changes LX ${sayNumbers(useScreen.getState().show, others)}`,
        others: true,
      };
}

/** Commands that set light: what they reach may be somebody's part. */
const SETS: ReadonlySet<LiveCommand['command']> = new Set([
  'set',
  'nudge',
  'fan',
  'colour',
  'aim',
  'flip',
  'palette',
  'look',
  'effect',
  'home',
]);

/** Whose part a line would set, in a sentence, before Enter; undefined where it sets nobody's. */
export function setsOthersPart(intent: Intent): string | undefined {
  const { show, you, selection } = useScreen.getState();
  if (show.parts.size === 0 || (intent.kind !== 'live' && intent.kind !== 'select-and-set'))
    return undefined;
  const commands =
    intent.kind === 'live'
      ? [intent.command]
      : [...(intent.command ? [intent.command] : []), ...(intent.then ?? [])];
  const chosen = intent.kind === 'live' ? selection : intent.select;
  const ids = commands
    .filter((c) => SETS.has(c.command))
    .flatMap((c): string[] => {
      if ('fixtures' in c && c.fixtures)
        return c.fixtures.flatMap((n) =>
          typeof n === 'number' ? (show.fixtureByNumber(n)?.id ?? []) : n,
        );
      if (c.command === 'look')
        return [...lookSlots(show, c.look).values()].map((s) => s.fixtureId);
      return [...chosen];
    });
  return settingInParts(show, you.userId, new Set(ids));
}

/** Who is on the board that a playing command needs, where that is somebody else; undefined where it is carried out. */
export function refusedBy(command: LiveCommand): string | undefined {
  const { show, playback, you } = useScreen.getState();
  if (!needsBoard(command)) return undefined;
  const board = boardOver(playback.boards, thingOf(show, command));
  return board && board.userId !== you.userId ? board.name : undefined;
}
