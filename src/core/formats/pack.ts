/**
 * A show as it travels to a browser: values, by far the most of it, as columns with fixture and attribute names
 * written once. 300,000 values take about a fifth of their rows.
 */
import { TABLE_NAMES, type AnyRow, type TableName } from '../show/tables.ts';
import { valueId, type ValueRow } from '../cues/rows.ts';
import { MutableShow, type Show } from '../show/show.ts';

/** A show’s rows, with cue values as columns of numbers. */
export interface PackedShow {
  tables: Partial<Record<TableName, AnyRow[]>>;
  /** Per cue: fixture index, attribute index, level (null lets go), alternating. */
  values: {
    fixtures: string[];
    attributes: string[];
    cues: [string, (number | null)[]][];
    timed: ValueRow[];
  };
}

/** A show in columns, for workers and the wire: values of many cues take a fraction of their rows. */
export function packShow(show: Show): PackedShow {
  const tables: PackedShow['tables'] = {};
  for (const table of TABLE_NAMES)
    if (table !== 'values') tables[table] = [...show[table].values()];
  const fixtures = new Map<string, number>();
  const attributes = new Map<string, number>();
  const number = (map: Map<string, number>, key: string): number => {
    const known = map.get(key);
    if (known !== undefined) return known;
    map.set(key, map.size);
    return map.size - 1;
  };
  const timed: ValueRow[] = [];
  const cues: [string, (number | null)[]][] = [];
  for (const cue of show.cues.values()) {
    const flat: (number | null)[] = [];
    for (const value of show.valuesOf(cue.id).values()) {
      if (
        value.fade_s !== undefined ||
        value.delay_s !== undefined ||
        value.palette !== undefined ||
        value.look !== undefined ||
        value.effect !== undefined ||
        value.part !== undefined
      )
        timed.push(value);
      else
        flat.push(
          number(fixtures, value.fixtureId),
          number(attributes, value.attribute),
          value.level,
        );
    }
    cues.push([cue.id, flat]);
  }
  return {
    tables,
    values: { fixtures: [...fixtures.keys()], attributes: [...attributes.keys()], cues, timed },
  };
}

/** A packed show, as it was. */
export function unpackShow({ tables, values }: PackedShow): MutableShow {
  const rows = function* (): Generator<{ table: TableName; row: AnyRow }> {
    for (const table of TABLE_NAMES) for (const row of tables[table] ?? []) yield { table, row };
    for (const [cueId, flat] of values.cues) {
      for (let i = 0; i < flat.length; i += 3) {
        const fixtureId = values.fixtures[flat[i] ?? -1] ?? '';
        const attribute = values.attributes[flat[i + 1] ?? -1] ?? '';
        yield {
          table: 'values',
          row: {
            id: valueId(cueId, fixtureId, attribute),
            cueId,
            fixtureId,
            attribute,
            level: flat[i + 2] ?? null,
          },
        };
      }
    }
    for (const row of values.timed) yield { table: 'values', row };
  };
  return MutableShow.from(rows());
}
