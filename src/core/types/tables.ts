/** What a table of types knows of itself. */
import { defineTable } from '../show/define-table.ts';
import { TypeRow } from './rows.ts';

export const types = defineTable({
  name: 'types',
  one: 'type',
  row: TypeRow,
  section: 'patch',
  shared: true,
  means: true,
  electric: { except: [] },
  says: { row: (t) => `type ${t.maker} ${t.name}`, key: (t) => t.name },
  fields: {
    lamp_K: { called: 'lamp', unit: ' K' },
    weight_kg: { called: 'weight', unit: ' kg' },
    idle_W: { called: 'idle', unit: ' W' },
    watts: { unit: ' W' },
    panSpeed_deg_s: { called: 'pan speed', unit: ' °/s' },
    tiltSpeed_deg_s: { called: 'tilt speed', unit: ' °/s' },
    wheels: { called: 'wheel slots' },
  },
});
