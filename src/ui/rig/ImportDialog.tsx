/** A patch from a file: columns are matched, every row is looked at, and all of it comes in or nothing. */
'use client';
import { useMemo, useState } from 'react';
import {
  checkImport,
  guessMapping,
  mapRows,
  PATCH_FIELDS,
  type CsvTable,
  type Mapping,
} from '@/core/formats/patch-csv';
import { formatPoints } from '@/core/fixtures/points';
import { isRefusal } from '@/core/refusal';
import { readFile } from '../files/read-file';
import { Button, Choice, Dialog, FileField } from '../parts/controls';
import { edit } from '../state/actions';
import { ApiError } from '../state/api';
import { useScreen, useShow } from '../state/store';

const SHOWN = 200;

export function ImportDialog({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const revision = useScreen((s) => s.revision);
  const [file, setFile] = useState('');
  const [table, setTable] = useState<CsvTable | null>(null);
  const [problem, setProblem] = useState('');
  const [mapping, setMapping] = useState<Mapping>({});
  const [busy, setBusy] = useState(false);

  const open = async (chosen: File): Promise<void> => {
    setFile(chosen.name);
    const read = await readFile('patch', chosen);
    setProblem(isRefusal(read) ? read.message : '');
    setTable(isRefusal(read) ? null : read);
    if (!isRefusal(read)) setMapping(guessMapping(read.header));
  };
  const rows = useMemo(() => (table ? mapRows(table, mapping) : []), [table, mapping]);
  const checked = useMemo(() => {
    void revision;
    return table ? checkImport(show, rows) : { ready: [], problems: [] };
  }, [table, rows, show, revision]);
  const fresh = checked.ready.filter((r) => !r.existing).length;
  const lines = new Set(checked.problems.map((p) => p.line)).size;
  const bring = async (): Promise<void> => {
    setBusy(true);
    const answer = await edit('import-patch', { rows });
    setBusy(false);
    if (!(answer instanceof ApiError)) onClose();
  };
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title="Import a patch"
      about="A CSV file with a header row. Numbers that are in the rig already are moved and relabelled; their programming stays."
      width="w-[880px]"
    >
      <FileField
        label="CSV file"
        accept=".csv,.tsv,.txt,text/csv"
        said={file === '' ? 'Choose a file …' : file}
        onFile={(file) => void open(file)}
      />
      {problem !== '' && (
        <p role="alert" className="mt-3 text-danger">
          {problem}
        </p>
      )}
      {table && (
        <>
          <div className="mt-3 grid grid-cols-5 gap-x-3 gap-y-2">
            {PATCH_FIELDS.map((f) => (
              <Choice
                key={f.key}
                label={f.label}
                value={String(mapping[f.key] ?? '')}
                onChange={(e) => {
                  const next: Mapping = { ...mapping };
                  if (e.target.value === '') delete next[f.key];
                  else next[f.key] = Number(e.target.value);
                  setMapping(next);
                }}
                options={[
                  { value: '', label: '—' },
                  ...table.header.map((h, i) => ({
                    value: String(i),
                    label: h === '' ? `column ${i + 1}` : h,
                  })),
                ]}
              />
            ))}
          </div>
          <p
            data-testid="import-says"
            className={`mt-3 ${checked.problems.length > 0 ? 'text-warning' : 'text-soft'}`}
          >
            {checked.problems.length > 0
              ? `${checked.problems.length} ${checked.problems.length === 1 ? 'problem' : 'problems'} on ${lines} of ${rows.length} rows. Nothing comes in until all are mended in the file.`
              : `${rows.length} rows: ${fresh} new ${fresh === 1 ? 'fixture' : 'fixtures'}, ${checked.ready.length - fresh} changed.`}
          </p>
          <div className="mt-2 h-56 overflow-auto rounded-md bg-ink">
            <table className="w-full text-left text-[12.5px]">
              <tbody>
                {checked.problems.length > 0
                  ? checked.problems.slice(0, SHOWN).map((p, i) => (
                      <tr
                        key={`${p.line}${p.field}${i}`}
                        className="border-b border-raised align-top"
                      >
                        <td className="num px-3 py-1 whitespace-nowrap text-muted">
                          line {p.line}
                        </td>
                        <td className="w-24 py-1 text-soft">
                          {PATCH_FIELDS.find((f) => f.key === p.field)?.label.split(' ')[0]}
                        </td>
                        <td className="py-1 pr-3">{p.message}</td>
                      </tr>
                    ))
                  : checked.ready.slice(0, SHOWN).map((r) => (
                      <tr key={r.line} className="h-7 border-b border-raised">
                        <td className="num w-16 px-3 text-standby">{r.number}</td>
                        <td>{r.label}</td>
                        <td className="text-soft">
                          {r.type.name} {r.mode.name}
                        </td>
                        <td className="num">{formatPoints(r.patch) || 'off the rig'}</td>
                        <td className="text-muted">{r.hang}</td>
                        <td className="pr-3 text-right text-muted">
                          {r.existing ? 'changed' : 'new'}
                        </td>
                      </tr>
                    ))}
              </tbody>
            </table>
          </div>
          {Math.max(checked.problems.length, checked.ready.length) > SHOWN && (
            <p className="mt-1 text-[12px] text-muted">The first {SHOWN} are shown.</p>
          )}
          <div className="mt-4 flex justify-end gap-2">
            <Button kind="quiet" onClick={onClose}>
              Leave it
            </Button>
            <Button
              kind="strong"
              disabled={busy || checked.problems.length > 0 || rows.length === 0}
              onClick={() => void bring()}
            >
              Import {rows.length} rows
            </Button>
          </div>
        </>
      )}
    </Dialog>
  );
}
