/** What a file is and would do: in a sentence, thing by thing, and what was odd in it line by line. */
'use client';
import { Check, CircleAlert, Loader } from 'lucide-react';
import { useState } from 'react';
import { KIND_WORDS, type ImportAnswer, type Kind } from '@/core/import/proposed';
import { capital, plural } from '@/core/words';
import { Choice } from '../parts/controls';
import { Columns } from './Columns';
import type { Coming } from './use-import';

const SHOWN = 300;
/** What a table may be, where its columns say too little. */
const TABLES: readonly Kind[] = [
  'patch',
  'cues',
  'groups',
  'palettes',
  'outputs',
  'curve',
  'script',
];
const isTable = ({ answer, file }: Coming): boolean =>
  answer ? TABLES.includes(answer.kind) : /\.(csv|tsv|txt)$/i.test(file.name);
const DOES_WORDS = { new: 'new', changed: 'changed', same: 'as it is', gone: 'gone' } as const;
const DOES_TONES = {
  new: 'text-standby',
  changed: 'text-text',
  same: 'text-muted',
  gone: 'text-warning',
} as const;

/** As history will say it; of what would change nothing, why. */
const sayBefore = ({ rows, summary }: ImportAnswer): string =>
  rows === 0 ? capital(summary) : `One change, ${plural(rows, 'row')}: “${capital(summary)}”`;

function Problems({ problems }: Pick<ImportAnswer, 'problems'>) {
  if (problems.length === 0) return null;
  return (
    <ul
      aria-label="What was odd"
      data-testid="import-problems"
      className="mt-2 max-h-40 overflow-y-auto rounded-md bg-ink px-3 py-1.5 text-[12.5px]"
    >
      {problems.slice(0, SHOWN).map((p, i) => (
        <li key={i} className="grid grid-cols-[minmax(90px,200px)_1fr] gap-3 py-0.5">
          <span className="truncate text-muted" title={p.where}>
            {p.where}
          </span>
          <span className="text-warning">{p.text}</span>
        </li>
      ))}
    </ul>
  );
}

function Items({ items, itemCount }: Pick<ImportAnswer, 'items' | 'itemCount'>) {
  if (items.length === 0) return null;
  return (
    <>
      <div className="mt-2 max-h-52 overflow-y-auto rounded-md bg-ink">
        <table className="w-full text-left text-[12.5px]" aria-label="What would come in">
          <tbody>
            {items.slice(0, SHOWN).map((item, i) => (
              <tr key={i} className="h-7 border-b border-raised">
                <td className="w-24 px-3 text-muted">{item.what}</td>
                <td>{item.name}</td>
                <td className="text-soft">{item.says}</td>
                <td className={`pr-3 text-right ${DOES_TONES[item.does]}`}>
                  {DOES_WORDS[item.does]}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {itemCount > SHOWN && (
        <p className="mt-1 text-[12px] text-muted">
          The first {SHOWN} of {itemCount} are shown.
        </p>
      )}
    </>
  );
}

function Mark({ coming: { answer, refusal, done } }: { coming: Coming }) {
  if (refusal !== undefined) return <CircleAlert size={15} className="flex-none text-danger" />;
  if (done) return <Check size={15} className="flex-none text-standby" />;
  if (answer) return null;
  return (
    <Loader size={15} className="flex-none animate-spin text-muted motion-reduce:animate-none" />
  );
}

/** @param alone it is the only file: all of it is shown */
export function FileReport({
  coming,
  alone,
  onChoose,
}: {
  coming: Coming;
  alone: boolean;
  onChoose: (chosen: Coming) => void;
}) {
  const { file, answer, refusal, done } = coming;
  const [opened, setOpened] = useState(alone);
  const odd = answer?.problems.length ?? 0;
  return (
    <section
      role="listitem"
      aria-label={file.name}
      className="rounded-lg border border-line px-3 py-2"
    >
      <button
        type="button"
        aria-expanded={opened}
        onClick={() => setOpened(!opened)}
        className="flex w-full items-center gap-2 text-left"
      >
        <Mark coming={coming} />
        <b className="truncate font-medium">{file.name}</b>
        <span className="truncate text-muted">
          {answer?.is ?? (refusal === undefined ? 'is being looked at …' : '')}
        </span>
        {odd > 0 && (
          <span className="ml-auto text-[12px] whitespace-nowrap text-warning">
            {plural(odd, 'remark')}
          </span>
        )}
      </button>
      {refusal !== undefined && (
        <p role="alert" className="mt-1 text-danger">
          {refusal}
        </p>
      )}
      {answer && refusal === undefined && (
        <p
          data-testid="import-says"
          className={`mt-1 text-[12.5px] ${answer.rows === 0 ? 'text-warning' : 'text-soft'}`}
        >
          {done ? `It is in. ${capital(answer.summary)}` : sayBefore(answer)}
        </p>
      )}
      {opened && !done && isTable(coming) && (
        <div className="mt-1 w-64">
          <Choice
            label="It is"
            value={answer?.kind ?? ''}
            onChange={(e) => {
              const kind = TABLES.find((k) => k === e.target.value);
              const { columns, ...rest } = coming;
              void columns;
              if (kind) onChoose({ ...rest, kind });
            }}
            options={[
              ...(answer ? [] : [{ value: '', label: '—' }]),
              ...TABLES.map((k) => ({ value: k, label: KIND_WORDS[k] })),
            ]}
          />
        </div>
      )}
      {opened && answer && (
        <>
          {answer.columns && !done && (
            <Columns
              columns={answer.columns}
              onChange={(columns) => onChoose({ ...coming, columns })}
            />
          )}
          <Problems problems={answer.problems} />
          <Items items={answer.items} itemCount={answer.itemCount} />
        </>
      )}
    </section>
  );
}
