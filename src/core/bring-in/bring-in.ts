/** Parts of another show brought into this one: cues, palettes, groups, looks, effects, fixtures, with fixtures mapped onto ours. */
import { plural } from '../words.ts';
import { refuse, type Refusal } from '../refusal.ts';
import type { TableName } from '../show/tables.ts';
import type { RowChange, Show } from '../show/show.ts';
import { comingFrom } from './coming.ts';
import { bringCues } from './cues.ts';
import { bringFixtures } from './fixtures.ts';
import { bring, NAMED_TABLES } from './named.ts';

/** What is taken from another show, by ids of theirs. */
export interface Wanted {
  cues: string[];
  /** Our list that the cues go into. */
  listId: string;
  palettes: string[];
  groups: string[];
  looks: string[];
  effects: string[];
  /** Fixtures to be made new, off the rig, where nothing of ours stands for them. */
  fixtures: string[];
}

/** Why a mapping cannot be followed: it leads to nothing, or two of theirs would write into one of ours. */
function unclearMapping(
  ours: Show,
  theirs: Show,
  mapping: ReadonlyMap<string, string | null>,
): Refusal | undefined {
  const taken = new Map<string, string>();
  for (const [id, own] of mapping) {
    if (own === null) continue;
    const here = ours.fixtures.get(own);
    if (!here)
      return refuse(
        'not-found',
        'A fixture that others should stand for has been deleted meanwhile. Choose the mapping again; nothing was changed.',
      );
    const other = taken.get(own);
    const number = (x: string): number | string => theirs.fixtures.get(x)?.number ?? '?';
    if (other !== undefined)
      return refuse(
        'clash',
        `Fixture ${here.number} here would stand for both ${number(other)} and ${number(id)} there. Choose one of them; nothing was changed.`,
      );
    taken.set(own, id);
  }
  return undefined;
}

const COUNTED: readonly (readonly [TableName, string])[] = [
  ['cues', 'cue'],
  ['palettes', 'palette'],
  ['groups', 'group'],
  ['looks', 'look'],
  ['effects', 'effect'],
  ['fixtures', 'fixture'],
];

function summaryOf(changes: readonly RowChange[]): string {
  const parts = COUNTED.flatMap(([table, word]) => {
    const n = changes.filter((c) => c.table === table).length;
    return n > 0 ? [plural(n, word)] : [];
  });
  return `Brought in ${parts.join(', ')}`;
}

/**
 * Row changes that bring them in. What a cue or look follows comes along: its palettes, looks and effects, unless ours
 * have one of that name and family already.
 * @param mapping theirs to ours; null or absent: left out
 */
export function importParts(
  ours: Show,
  theirs: Show,
  wanted: Wanted,
  mapping: ReadonlyMap<string, string | null>,
  newId: () => string,
): { changes: RowChange[]; summary: string; notes: string[] } | Refusal {
  if (wanted.cues.length > 0 && !ours.lists.has(wanted.listId))
    return refuse('not-found', 'The list that the cues should go into has been deleted.', {
      listId: 'Gone.',
    });
  const unclear = unclearMapping(ours, theirs, mapping);
  if (unclear) return unclear;
  const coming = comingFrom(ours, theirs, mapping, newId);
  bringFixtures(coming, wanted.fixtures);
  for (const table of NAMED_TABLES) for (const id of wanted[table]) bring(coming, table, id);
  const refused = bringCues(coming, wanted.cues, wanted.listId);
  if (refused) return refused;
  const { changes, notes } = coming;
  if (changes.length === 0)
    return refuse(
      'nothing',
      'Nothing of this would come in: choose something, and map its fixtures.',
    );
  return { changes, summary: summaryOf(changes), notes: [...new Set(notes)] };
}
