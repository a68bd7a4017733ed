/** Scripts from files, and drafts of them. */
'use client';
import { useMemo, useState } from 'react';
import { formatTime } from '@/core/cues/clock';
import { formatCueNumber } from '@/core/cues/number';
import { plural } from '@/core/words';
import { isRefusal } from '@/core/refusal';
import { blocksOf, flagsIn } from '@/core/script/parse';
import { SCRIPT_FORMATS, SCRIPT_LIMIT } from '@/core/script/rows';
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

export function ScriptImport() {
  const show = useShow();
  const { scripts, script } = useScript();
  const [into, setInto] = useState(script?.id ?? '');
  const target = show.scripts.get(into);
  const [title, setTitle] = useState(target?.title ?? '');
  const [format, setFormat] = useState<(typeof SCRIPT_FORMATS)[number]>(target?.format ?? 'plain');
  const [text, setText] = useState(target?.text ?? '');
  const [compared, setCompared] = useState(true);
  const [said, setSaid] = useState('');
  const [problem, setProblem] = useState('');
  const marks = useMemo<LineMark[]>(
    () =>
      callsIn(show, into).map(({ call, cue }) => ({
        at: call.from,
        says: `LX ${formatCueNumber(cue.number)}`,
      })),
    [show, into],
  );
  const take = async (file: File): Promise<void> => {
    setProblem('');
    const read = await readFile('script', file);
    if (isRefusal(read)) {
      setProblem(read.message);
      return;
    }
    setText(read.text);
    setFormat(read.format);
    if (title === '') setTitle(file.name.replace(/\.\w+$/, '').slice(0, 120));
    setSaid(
      read.encoding === 'UTF-8'
        ? ''
        : `Read as ${read.encoding}: look whether its letters are right.`,
    );
  };
  const blocks = useMemo(
    () =>
      text.length > 0 && text.length <= SCRIPT_LIMIT
        ? blocksOf({ id: '', title: 'x', format, text, draft: 1 })
        : [],
    [text, format],
  );
  const count = (kind: string): number => blocks.filter((b) => b.kind === kind).length;
  const parts =
    format === 'order'
      ? `${plural(count('item'), 'item')}, ${formatTime(blocks.reduce((n, b) => n + (b.duration_s ?? 0), 0))} in all`
      : `${plural(count('act'), 'act')}, ${plural(count('scene'), 'scene')}, ${plural(blocks.at(-1)?.page ?? 0, 'page')}, ${plural(flagsIn(text).length, 'named cue')}`;
  const about = blocks.length === 0 ? '' : parts;
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
          onChange={(e) => {
            const next = show.scripts.get(e.target.value);
            setInto(e.target.value);
            setTitle(next?.title ?? '');
            setText(next?.text ?? '');
            setFormat(next?.format ?? 'plain');
          }}
          options={[
            ...scripts.map((s) => ({ value: s.id, label: `the next draft of ${s.title}` })),
            { value: '', label: 'another script' },
          ]}
        />
        <Field
          label="Title"
          value={title}
          maxLength={120}
          onChange={(e) => setTitle(e.target.value)}
        />
        <Choice
          label="Written in"
          value={format}
          onChange={(e) => setFormat(e.target.value as typeof format)}
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
        onChange={setText}
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
