/** What a table of circuits knows of itself. */
import { defineTable } from '../show/define-table.ts';
import { CircuitRow } from './rows.ts';

export const circuits = defineTable({
  name: 'circuits',
  one: 'circuit',
  row: CircuitRow,
  section: 'patch',
  says: { row: (c) => `circuit ${c.name}` },
  fields: { breaker_A: { called: 'breaker', unit: ' A' } },
});
