/** Which column of a table holds what: found by their names, and chosen where these say too little. */
'use client';
import type { Columns as TableColumns } from '@/core/import/proposed';
import { Choice } from '../parts/controls';

/** Which column of a table is which field. */
export function Columns({
  columns: { header, fields, mapping },
  onChange,
}: {
  columns: TableColumns;
  onChange: (mapping: Record<string, number>) => void;
}) {
  return (
    <div className="mt-2 grid grid-cols-5 gap-x-3 gap-y-2">
      {fields.map((f) => (
        <Choice
          key={f.key}
          label={f.label}
          value={String(mapping[f.key] ?? '')}
          onChange={(e) => {
            const { [f.key]: before, ...rest } = mapping;
            void before;
            onChange(e.target.value === '' ? rest : { ...rest, [f.key]: Number(e.target.value) });
          }}
          options={[
            { value: '', label: '—' },
            ...header.map((h, i) => ({
              value: String(i),
              label: h === '' ? `column ${i + 1}` : h,
            })),
          ]}
        />
      ))}
    </div>
  );
}
