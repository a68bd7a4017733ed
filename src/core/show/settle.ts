/** Where rows come in from another show or another time, numbers and addresses that are given already are settled, and it is said. */
import { formatCueNumber, freeCueNumber } from '../cues/number.ts';
import type { Draft } from './draft.ts';
import { claims, NUMBERED, takeNumber } from './numbers.ts';
import type { AnyRow } from './tables.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { Show } from './show.ts';
import { describeRow } from './words.ts';

/** Numbers and addresses that both gave away: theirs takes the next free one, or comes off the rig, and it is said. */
export function settle(draft: Draft, theirs: Show, notes: string[]): void {
  const { after } = draft;
  for (const table of NUMBERED) {
    const rows = after[table] as ReadonlyMap<string, AnyRow & { number: number }>;
    const taken = new Set(
      [...rows.values()].filter((row) => !draft.has(table, row.id)).map((row) => row.number),
    );
    for (const row of [...rows.values()]) {
      if (!draft.has(table, row.id)) continue;
      const number = takeNumber(taken, row.number);
      if (number === row.number) continue;
      notes.push(
        `${describeRow(theirs, table, row)} came in as number ${number}: ${row.number} is taken.`,
      );
      draft.put(table, row.id, { ...row, number });
    }
  }
  for (const list of after.lists.keys()) {
    const taken = new Set(
      after
        .cuesOf(list)
        .filter((c) => !draft.has('cues', c.id))
        .map((c) => c.number),
    );
    for (const cue of [...after.cuesOf(list)]) {
      if (!draft.has('cues', cue.id)) continue;
      const number = freeCueNumber(taken, cue.number);
      taken.add(number);
      if (number === cue.number) continue;
      notes.push(
        `Cue ${formatCueNumber(cue.number)} “${cue.name}” came in as ${formatCueNumber(number)}: there is another cue ${formatCueNumber(cue.number)}.`,
      );
      draft.put('cues', cue.id, { ...cue, number });
    }
  }
  const claim = claims(after);
  const moved = (f: FixtureRow): boolean => draft.has('fixtures', f.id);
  for (const fixture of after.fixtures.values()) if (!moved(fixture)) claim(fixture);
  for (const fixture of [...after.fixtures.values()]) {
    if (!moved(fixture)) continue;
    const clash = claim(fixture);
    if (!clash) continue;
    notes.push(
      `Fixture ${fixture.number} is off the rig: its address is taken by fixture ${clash.number}. Its programming is kept.`,
    );
    draft.put('fixtures', fixture.id, { ...fixture, patch: [], wasAt: fixture.patch });
  }
}
