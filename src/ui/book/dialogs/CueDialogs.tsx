/** Done to cues: many empty ones, one put in, moved, copied, renumbered, split, timed, deleted. */
'use client';
import { useMemo, useState } from 'react';
import { seconds, timeProblem } from '@/core/cues/clock';
import { formatCueNumber, numbersBetween, parseCueNumber } from '@/core/cues/number';
import { capital, plural } from '@/core/words';
import { flagsIn } from '@/core/script/parse';
import { FAMILIES, type Family } from '@/core/show/fields';
import type { CueRow } from '@/core/cues/rows';
import { Check, Choice, Field, Tabs } from '../../parts/controls';
import { actedOn, useBook, useBookList } from '../../state/book';
import { useScreen, useShow } from '../../state/store';
import { useBookDialog } from '../menu';
import { useScript } from '../use-calls';
import { choose, Planned } from './Planned';

/** A cue that is to be made empty. */
interface Empty {
  number: number;
  name?: string;
}

/** Most that are made at once. */
const MOST_EMPTY = 2000;

/** So many from a number on, a step apart; `#` in the name counts up. Empty where something of it is no number. */
function counted(texts: { count: string; from: string; step: string; name: string }): Empty[] {
  const n = Number(texts.count);
  const [first, by] = [parseCueNumber(texts.from), parseCueNumber(texts.step)];
  if (!Number.isInteger(n) || n < 1 || n > MOST_EMPTY || first === undefined || by === undefined)
    return [];
  const name = texts.name.trim();
  return Array.from({ length: n }, (_, i) => ({
    number: first + i * by,
    ...(name === '' ? {} : { name: name.replaceAll('#', String(i + 1)) }),
  }));
}

/** A line each: `3: 10 Quay` are ten cues from 301 on. */
const byScenes = (text: string): Empty[] =>
  text.split('\n').flatMap((line) => {
    const [, scene, n, title] = /^\s*(\d{1,3})\s*[:=]\s*(\d{1,3})\s*(.*)$/.exec(line) ?? [];
    return Array.from({ length: Number(n ?? 0) }, (_, i) => ({
      number: (Number(scene) * 100 + i + 1) * 1000,
      ...(title ? { name: `${title} ${i + 1}`.trim() } : {}),
    }));
  });

type How = 'count' | 'scenes' | 'script';

/** Makes empty cues, for what is called in a script. */
export function Skeleton() {
  const show = useShow();
  const { listId, cues } = useBookList();
  const script = useScript().scripts[0];
  const [how, setHow] = useState<How>('count');
  const [texts, setTexts] = useState(() => ({
    count: '30',
    from: formatCueNumber((Math.floor((cues.at(-1)?.number ?? 0) / 1000) + 1) * 1000),
    step: '1',
    name: '',
  }));
  const [scenes, setScenes] = useState('1: 8\n2: 6\n3: 10');
  const made = useMemo(
    () => (how === 'scenes' ? byScenes(scenes) : counted(texts)),
    [how, texts, scenes],
  );
  const fromScript = script ? { scriptId: script.id, listId } : null;
  const fromNumbers = made.length > 0 ? { listId, cues: made } : null;
  return (
    <Planned
      title="Many empty cues"
      about={`Numbered and named first, their content later: each shows what tracks into it. List: ${show.lists.get(listId)?.name}.`}
      name={how === 'script' ? 'cues-from-flags' : 'make-cues'}
      params={how === 'script' ? fromScript : fromNumbers}
      act="Make them"
      onDone={(ids) => useBook.setState({ chosen: ids })}
    >
      <Tabs<How>
        label="How"
        value={how}
        options={[
          { value: 'count', label: 'So many' },
          { value: 'scenes', label: 'By scenes' },
          { value: 'script', label: 'From the script' },
        ]}
        onChange={setHow}
      />
      {how === 'count' && <CountFields texts={texts} onChange={setTexts} />}
      {how === 'scenes' && (
        <label className="mt-3 block">
          <span className="block text-[12px] text-muted">
            A line each: scene, how many cues, a name. Scene 3 begins at 301.
          </span>
          <textarea
            value={scenes}
            onChange={(e) => setScenes(e.target.value)}
            rows={6}
            className="num mt-1 w-full rounded-md bg-ink p-2 text-[13px] shadow-[inset_0_0_0_1px_var(--color-edge)]"
          />
        </label>
      )}
      {how === 'script' && (
        <p className="mt-3 text-[12.5px] leading-[18px] text-soft">{scriptWords(script, cues)}</p>
      )}
    </Planned>
  );
}

function CountFields({
  texts,
  onChange,
}: {
  texts: Parameters<typeof counted>[0];
  onChange: (texts: Parameters<typeof counted>[0]) => void;
}) {
  const typed = (key: keyof typeof texts) => ({
    value: texts[key],
    onChange: (e: React.ChangeEvent<HTMLInputElement>) =>
      onChange({ ...texts, [key]: e.target.value }),
  });
  return (
    <div className="mt-3 grid grid-cols-[72px_88px_72px_1fr] gap-3">
      <Field label="How many" number {...typed('count')} />
      <Field label="From" number {...typed('from')} />
      <Field label="Step" number {...typed('step')} />
      <Field label="Name; # counts" placeholder="Scene 3, #" maxLength={110} {...typed('name')} />
    </div>
  );
}

/** How many cues a script names that the list has not. */
function scriptWords(
  script: { title: string; text: string } | undefined,
  cues: readonly { number: number }[],
): string {
  if (!script) return 'There is no script yet.';
  const missing = flagsIn(script.text).filter(
    (f) => !cues.some((c) => c.number === f.number),
  ).length;
  const what =
    missing === 0
      ? 'no cues that are missing'
      : `${plural(missing, 'cue')} that ${missing === 1 ? 'is' : 'are'} missing`;
  return `“${script.title}” names ${what}. A cue is named like [LX 12] or [LX 12 Quay at dusk], before the word that it is called on.`;
}

/** Makes a cue before or after one. */
export function Insert() {
  const { listId, cues, cue, chosen } = useBookList();
  const place = useBookDialog((s) => s.place);
  const anchor = cues.find((c) => c.id === actedOn(chosen, cue)[0]);
  const at = anchor ? cues.indexOf(anchor) : -1;
  const [low, high] =
    place === 'after'
      ? [anchor?.number ?? 0, cues[at + 1]?.number]
      : [cues[at - 1]?.number ?? 0, anchor?.number];
  const free = numbersBetween(low, high, 1)?.[0];
  const [number, setNumber] = useState(free === undefined ? '' : formatCueNumber(free));
  const [name, setName] = useState('');
  const parsed = parseCueNumber(number);
  return (
    <Planned
      title={`A cue ${place} ${anchor ? formatCueNumber(anchor.number) : ''}`}
      about="It is empty, and shows what tracks into it."
      name="make-cues"
      params={
        parsed === undefined ? null : { listId, cues: [{ number: parsed, name: name.trim() }] }
      }
      act="Insert"
      onDone={choose}
    >
      <div className="grid grid-cols-[88px_1fr] gap-3">
        <Field
          label="Cue"
          number
          autoFocus
          value={number}
          onChange={(e) => setNumber(e.target.value)}
          problem={parsed === undefined ? 'Like 2 or 2.5' : undefined}
        />
        <Field
          label="Name"
          value={name}
          maxLength={120}
          onChange={(e) => setName(e.target.value)}
        />
      </div>
    </Planned>
  );
}

function AfterField({
  cues,
  value,
  onChange,
}: {
  cues: readonly CueRow[];
  value: string;
  onChange: (v: string) => void;
}) {
  return (
    <Choice
      label="After"
      value={value}
      onChange={(e) => onChange(e.target.value)}
      options={[
        { value: '0', label: 'at the start' },
        ...cues.map((c) => ({
          value: String(c.number),
          label: `${formatCueNumber(c.number)} ${c.name}`,
        })),
      ]}
      className="flex-1"
    />
  );
}

/** Brings cues to another place, or makes them again there. */
export function MoveOrCopy({ copy }: { copy: boolean }) {
  const show = useShow();
  const { listId, cues, cue, chosen } = useBookList();
  const ids = actedOn(chosen, cue);
  const [to, setTo] = useState(listId);
  const inList = copy ? show.cuesOf(to) : cues.filter((c) => !ids.includes(c.id));
  const last = cues.filter((c) => ids.includes(c.id)).at(-1);
  const [after, setAfter] = useState(String((copy ? last?.number : inList.at(-1)?.number) ?? 0));
  const [what, setWhat] = useState<'look' | 'changes'>('look');
  const params = { ids, after: Number(after), ...(copy ? { what, listId: to } : {}) };
  return (
    <Planned
      title={copy ? `Copy ${plural(ids.length, 'cue')}` : `Move ${plural(ids.length, 'cue')}`}
      about={
        copy
          ? 'No other cue looks different.'
          : 'No cue looks different: what would track otherwise is written where it is needed.'
      }
      name={copy ? 'copy-cues' : 'move-cues'}
      params={params}
      act={copy ? 'Copy' : 'Move'}
      {...(copy ? { onDone: choose } : {})}
    >
      <div className="flex gap-3">
        {copy && (
          <Choice
            label="Into"
            value={to}
            onChange={(e) => (
              setTo(e.target.value),
              setAfter(String(show.cuesOf(e.target.value).at(-1)?.number ?? 0))
            )}
            options={[...show.lists.values()].map((l) => ({ value: l.id, label: l.name }))}
            className="w-40"
          />
        )}
        <AfterField cues={inList} value={after} onChange={setAfter} />
      </div>
      {copy && (
        <Tabs
          className="mt-3"
          label="What"
          value={what}
          options={[
            { value: 'look', label: 'All that they show' },
            { value: 'changes', label: 'Only what they set' },
          ]}
          onChange={setWhat}
        />
      )}
    </Planned>
  );
}

/** Gives cues other numbers, in their order. */
export function Renumber() {
  const { cues, cue, chosen } = useBookList();
  const ids = actedOn(chosen, cue);
  const first = cues.find((c) => ids.includes(c.id));
  const [from, setFrom] = useState(formatCueNumber(first?.number ?? 1000));
  const [step, setStep] = useState('1');
  const [number, by] = [parseCueNumber(from), parseCueNumber(step)];
  return (
    <Planned
      title={`Renumber ${plural(ids.length, 'cue')}`}
      about="In the order that they have. Past other cues, what tracks is written where it is needed, so that none looks different."
      name="renumber-cues"
      params={number === undefined || by === undefined ? null : { ids, from: number, step: by }}
      act="Renumber"
    >
      <div className="grid grid-cols-2 gap-3">
        <Field
          label="From"
          number
          autoFocus
          value={from}
          onChange={(e) => setFrom(e.target.value)}
          problem={number === undefined ? 'Like 2 or 2.5' : undefined}
        />
        <Field
          label="Step"
          number
          value={step}
          onChange={(e) => setStep(e.target.value)}
          problem={by === undefined ? 'Like 1 or 0.5' : undefined}
        />
      </div>
    </Planned>
  );
}

/** Makes two cues of one. */
export function Split() {
  const show = useShow();
  const { cues, cue, chosen } = useBookList();
  const selection = useScreen((s) => s.selection);
  const row = cues.find((c) => c.id === actedOn(chosen, cue)[0]);
  const [by, setBy] = useState<'families' | 'selected'>(
    selection.length > 0 ? 'selected' : 'families',
  );
  const [families, setFamilies] = useState<Family[]>(['colour', 'position', 'beam']);
  const [name, setName] = useState('');
  const slots = row
    ? [...show.valuesOf(row.id).values()]
        .filter((v) => selection.includes(v.fixtureId))
        .map(({ fixtureId, attribute }) => ({ fixtureId, attribute }))
    : [];
  return (
    <Planned
      title={`Split ${row ? `cue ${formatCueNumber(row.number)}` : 'a cue'}`}
      about="A part of what it sets goes into a cue of its own, right after it. Later cues look as they do."
      name="split-cue"
      params={
        row
          ? { id: row.id, name: name.trim(), ...(by === 'families' ? { families } : { slots }) }
          : null
      }
      act="Split"
      onDone={choose}
    >
      <Tabs
        label="Which part"
        value={by}
        options={[
          { value: 'families', label: 'Families' },
          { value: 'selected', label: `The ${selection.length} selected fixtures` },
        ]}
        onChange={setBy}
      />
      {by === 'families' && (
        <div className="mt-2 flex gap-4">
          {FAMILIES.map((f) => (
            <Check
              key={f}
              checked={families.includes(f)}
              onChange={(on) =>
                setFamilies(on ? [...families, f] : families.filter((x) => x !== f))
              }
            >
              {capital(f)}
            </Check>
          ))}
        </div>
      )}
      <Field
        label="Name of the new cue"
        value={name}
        maxLength={120}
        className="mt-3"
        onChange={(e) => setName(e.target.value)}
      />
    </Planned>
  );
}

/** Gives times to many cues. */
export function Times() {
  const { cue, chosen } = useBookList();
  const ids = actedOn(chosen, cue);
  const [fields, setFields] = useState<Record<string, string>>({});
  const [scale, setScale] = useState('');
  const put =
    (key: string) =>
    (e: React.ChangeEvent<HTMLInputElement>): void =>
      setFields({ ...fields, [key]: e.target.value });
  const given = Object.entries(fields).filter(([, t]) => t.trim() !== '');
  const wrong = given.find(([, t]) => timeProblem(t) !== undefined);
  const factor =
    scale.trim() === '' ? undefined : Number(scale.replace('%', '').replace(',', '.')) / 100;
  const set: Record<string, unknown> = {};
  const family: Record<string, number> = {};
  for (const [key, t] of given) {
    if ((FAMILIES as readonly string[]).includes(key)) family[key] = seconds(t) ?? 0;
    else set[key] = seconds(t) ?? 0;
  }
  if (Object.keys(family).length > 0) set.family_s = family;
  const empty = Object.keys(set).length === 0 && factor === undefined;
  const time = (key: string, label: string): React.ReactNode => (
    <Field
      key={key}
      label={label}
      number
      value={fields[key] ?? ''}
      placeholder="as it is"
      onChange={put(key)}
      problem={(fields[key] ?? '').trim() === '' ? undefined : timeProblem(fields[key] ?? '')}
    />
  );
  return (
    <Planned
      title={`Times of ${plural(ids.length, 'cue')}`}
      about="What is left empty stays as it is."
      name="change-cues"
      params={
        empty || wrong || Number.isNaN(factor)
          ? null
          : { ids, set, ...(factor === undefined ? {} : { scale: factor }) }
      }
      act="Set them"
    >
      <div className="grid grid-cols-4 gap-3">
        {time('up_s', 'Up')}
        {time('down_s', 'Down')}
        {time('delay_s', 'Delay')}
        {time('follow_s', 'Follow')}
        {time('position', 'Position')}
        {time('colour', 'Colour')}
        {time('beam', 'Beam')}
        <Field
          label="All times, %"
          number
          value={scale}
          placeholder="100"
          onChange={(e) => setScale(e.target.value)}
        />
      </div>
    </Planned>
  );
}

/** Deletes cues, and says what becomes of what tracks. */
export function Delete() {
  const { cues, cue, chosen } = useBookList();
  const ids = actedOn(chosen, cue);
  const [tracked, setTracked] = useState<'keep' | 'drop'>('keep');
  const [only] = cues.filter((c) => ids.includes(c.id));
  return (
    <Planned
      title={
        ids.length === 1 && only
          ? `Delete cue ${formatCueNumber(only.number)}${only.name ? ` “${only.name}”` : ''}?`
          : `Delete ${plural(ids.length, 'cue')}?`
      }
      name="delete-cue"
      params={{ ids, tracked }}
      act="Delete"
      onDone={() => useBook.setState({ chosen: [], cueId: null, follow: true })}
    >
      <div className="space-y-1">
        {(['keep', 'drop'] as const).map((t) => (
          <label key={t} className="flex h-7 items-center gap-2 text-[12.5px] text-soft">
            <input
              type="radio"
              name="tracked"
              checked={tracked === t}
              onChange={() => setTracked(t)}
              className="accent-[var(--color-standby)]"
            />
            {t === 'keep'
              ? 'The other cues look as they did'
              : 'Later cues lose what tracked from it'}
          </label>
        ))}
      </div>
    </Planned>
  );
}
