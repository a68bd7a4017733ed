/** Import a patch: every row at once or none. Fixtures whose number is there already are moved and relabelled, never replaced. */
import { z } from 'zod';
import { checkImport, CSV_LIMITS, ImportRow } from '../formats/patch-csv.ts';
import { refuse } from '../refusal.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { RowChange, Show } from '../show/show.ts';
import { defineEdit, EDITORS, insertRow, replaceRow } from './edit.ts';
import { plural } from '../words.ts';
import { routesForUnrouted } from './patch-fixtures.ts';

const Params = z.object({
  rows: z
    .array(ImportRow)
    .min(1, 'There are no rows to import.')
    .max(CSV_LIMITS.rows, `At most ${CSV_LIMITS.rows} rows at once.`),
});
type Params = z.input<typeof Params>;

/** A breaker for a circuit that a file names and the house does not know yet. */
const USUAL_BREAKER_A = 16;

export const importPatch = defineEdit<Params>({
  name: 'import-patch',
  params: Params,
  roles: EDITORS,
  plan: (show, params, { newId }) => {
    const { rows } = Params.parse(params);
    const { ready, problems } = checkImport(show, rows);
    const first = problems[0];
    if (first) {
      const fields: Record<string, string> = {};
      for (const p of problems.slice(0, 200)) fields[`line ${p.line}, ${p.field}`] = p.message;
      return refuse(
        'invalid',
        `${plural(problems.length, 'problem')} in this file, the first on line ${first.line}: ${first.message} Nothing was imported.`,
        fields,
      );
    }
    const changes: RowChange[] = [];
    const types = new Set(show.types.keys());
    const circuits = new Map([...show.circuits.values()].map((c) => [c.name.toLowerCase(), c.id]));
    let made = 0;
    let changed = 0;
    for (const row of ready) {
      if (!types.has(row.type.id)) {
        types.add(row.type.id);
        changes.push(insertRow('types', row.type));
      }
      let circuitId: string | undefined;
      if (row.circuit !== '') {
        circuitId = circuits.get(row.circuit.toLowerCase());
        if (circuitId === undefined) {
          circuitId = newId();
          circuits.set(row.circuit.toLowerCase(), circuitId);
          changes.push(
            insertRow('circuits', {
              id: circuitId,
              name: row.circuit,
              phase: 1,
              breaker_A: USUAL_BREAKER_A,
            }),
          );
        }
      }
      const piece = [...show.pieces.values()].find((p) => p.name !== '' && p.name === row.hang);
      const place = piece?.points[0];
      if (row.existing) {
        const next: FixtureRow = {
          ...row.existing,
          label: row.label,
          mode: row.mode.name,
          patch: row.patch,
          hang: row.hang,
          ...(circuitId ? { circuitId } : {}),
        };
        changes.push(replaceRow('fixtures', row.existing, next));
        changed++;
      } else {
        const fresh: FixtureRow = {
          id: newId(),
          number: row.number,
          label: row.label,
          typeId: row.type.id,
          mode: row.mode.name,
          patch: row.patch,
          position: { x: place?.x ?? 0, y: place?.y ?? 4.6, z: piece?.z ?? 0 },
          rotation: 0,
          hang: row.hang,
          noGrandMaster: row.type.shape === 'house',
          ...(circuitId ? { circuitId } : {}),
        };
        changes.push(insertRow('fixtures', fresh));
        made++;
      }
    }
    spreadAlongBars(
      show,
      changes.flatMap((c) =>
        c.table === 'fixtures' && c.before === null && c.after ? [c.after] : [],
      ),
    );
    const routes = routesForUnrouted(
      show,
      ready.map((r) => r.patch),
    );
    const parts = [
      made > 0 ? `${plural(made, 'new fixture')}` : '',
      changed > 0 ? `${changed} changed` : '',
    ].filter((t) => t !== '');
    return {
      changes: [...changes, ...routes.changes],
      summary: `Imported a patch: ${parts.join(', ')}`,
    };
  },
});

/** New units on one bar are spread along it, as patching does. */
function spreadAlongBars(show: Show, fresh: readonly FixtureRow[]): void {
  const points = new Map([...show.pieces.values()].map((p) => [p.name, p.points]));
  for (const hang of new Set(fresh.map((f) => f.hang))) {
    const a = hang === '' ? { x: -6, y: 4.6 } : points.get(hang)?.[0];
    const b = hang === '' ? { x: 6, y: 4.6 } : points.get(hang)?.at(-1);
    if (!a || !b) continue;
    const rows = fresh.filter((f) => f.hang === hang);
    rows.forEach((row, i) => {
      const t = (i + 0.5) / rows.length;
      row.position = {
        ...row.position,
        x: Math.round((a.x + (b.x - a.x) * t) * 100) / 100,
        y: Math.round((a.y + (b.y - a.y) * t) * 100) / 100,
      };
    });
  }
}
