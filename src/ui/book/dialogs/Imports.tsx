/** Scripts from files, and drafts of them. */
'use client';
import { useMemo, useState } from 'react';
import { formatTime } from '@/core/cues/clock';
import { formatCueNumber } from '@/core/cues/number';
import { plural } from '@/core/words';
import { isRefusal } from '@/core/refusal';
import { blocksOf, flagsIn } from '@/core/script/parse';
import { SCRIPT_FORMATS, SCRIPT_LIMIT, type ScriptRow } from '@/core/script/rows';
import { readFile } from '../../files/read-file';
import { Check, Choice, Field, FileField } from '../../parts/controls';
import { useShow } from '../../state/store';
import { ScriptEditor, type LineMark } from '../ScriptEditor';
import { callsIn, useScript } from '../use-calls';
import { Planned } from './Planned';

const FORMAT_WORDS = {
  plain: 'Plain text',
  markdown: 'Markdown',
  fountain: 'Fountain',
  order: 'Order of service',
} as const;

type Format = (typeof SCRIPT_FORMATS)[number];

/** What a text of this format has in it, counted: what was understood shows before it is taken in. */
function sayScript(format: Format, text: string): string {
  if (text.length === 0 || text.length > SCRIPT_LIMIT) return '';
  const blocks = blocksOf({ id: '', title: 'x', format, text, draft: 1 });
  if (blocks.length === 0) return '';
  const count = (kind: string): number => blocks.filter((b) => b.kind === kind).length;
  if (format === 'order') {
    const lasts_s = blocks.reduce((n, b) => n + (b.duration_s ?? 0), 0);
    return `${plural(count('item'), 'item')}, ${formatTime(lasts_s)} in all`;
  }
  return [
    plural(count('act'), 'act'),
    plural(count('scene'), 'scene'),
    plural(blocks.at(-1)?.page ?? 0, 'page'),
    plural(flagsIn(text).length, 'named cue'),
  ].join(', ');
}

/** A script as it is being typed, pasted or read from a file; `into`: the one that it is the next draft of, '' for another. */
function useScriptDraft() {
  const show = useShow();
  const { script } = useScript();
  const draftOf = (row: ScriptRow | undefined) => ({
    into: row?.id ?? '',
    title: row?.title ?? '',
    format: row?.format ?? 'plain',
    text: row?.text ?? '',
  });
  const [draft, setDraft] = useState(() => draftOf(script));
  const [said, setSaid] = useState('');
  const [problem, setProblem] = useState('');
  const change = (fields: Partial<typeof draft>): void => setDraft((d) => ({ ...d, ...fields }));
  const take = async (file: File): Promise<void> => {
    setProblem('');
    const read = await readFile('script', file);
    if (isRefusal(read)) {
      setProblem(read.message);
      return;
    }
    const named = file.name.replace(/\.\w+$/, '').slice(0, 120);
    setDraft((d) => ({ ...d, text: read.text, format: read.format, title: d.title || named }));
    setSaid(
      read.encoding === 'UTF-8'
        ? ''
        : `Read as ${read.encoding}: look whether its letters are right.`,
    );
  };
  const target = show.scripts.get(draft.into);
  const choose = (id: string): void => setDraft(draftOf(show.scripts.get(id)));
  return { draft, change, choose, take, target, said, setSaid, problem };
}

/** Takes in a script, or its next draft. */
export function ScriptImport() {
  const show = useShow();
  const { scripts } = useScript();
  const { draft, change, choose, take, target, said, setSaid, problem } = useScriptDraft();
  const { into, title, format, text } = draft;
  const [compared, setCompared] = useState(true);
  const marks = useMemo<LineMark[]>(
    () =>
      callsIn(show, into).map(({ call, cue }) => ({
        at: call.from,
        says: `LX ${formatCueNumber(cue.number)}`,
      })),
    [show, into],
  );
  const about = useMemo(() => sayScript(format, text), [format, text]);
  return (
    <Planned
      title={target ? `A later draft of “${target.title}”` : 'Take in a script'}
      about={
        target
          ? 'Its calls are found again by what stands around them; those that need a look are listed.'
          : 'Plain text, Markdown or Fountain; or an order of service, a line each: Title | leader | 4:30'
      }
      name="import-script"
      params={
        text.trim() === '' || title.trim() === ''
          ? null
          : { ...(target ? { id: target.id } : {}), title: title.trim(), format, text }
      }
      act="Take it in"
      width="w-[760px]"
      tall
    >
      <div className="grid grid-cols-[1fr_1fr_150px] gap-3">
        <Choice
          label="It is"
          value={into}
          onChange={(e) => choose(e.target.value)}
          options={[
            ...scripts.map((s) => ({ value: s.id, label: `the next draft of ${s.title}` })),
            { value: '', label: 'another script' },
          ]}
        />
        <Field
          label="Title"
          value={title}
          maxLength={120}
          onChange={(e) => change({ title: e.target.value })}
        />
        <Choice
          label="Written in"
          value={format}
          onChange={(e) => change({ format: e.target.value as Format })}
          options={SCRIPT_FORMATS.map((f) => ({ value: f, label: FORMAT_WORDS[f] }))}
        />
      </div>
      <div className="mt-3">
        <FileField
          label="Script file"
          accept=".txt,.md,.markdown,.fountain,text/plain"
          said="Choose a file …"
          onFile={(file) => void take(file)}
        />
      </div>
      {target && (
        <Check checked={compared} onChange={setCompared}>
          Show what differs from draft {target.draft}
        </Check>
      )}
      <ScriptEditor
        key={into}
        label="The script’s text"
        value={text}
        before={target && compared ? target.text : null}
        marks={marks}
        onChange={(next) => change({ text: next })}
        onReplaced={() => setSaid('The text that you pasted is in the place of the draft before.')}
      />
      <p className="text-[12.5px] text-muted">
        {about} {said && <span className="text-warning">{said}</span>}
      </p>
      {problem !== '' && (
        <p role="alert" className="text-[12.5px] text-danger">
          {problem}
        </p>
      )}
    </Planned>
  );
}
