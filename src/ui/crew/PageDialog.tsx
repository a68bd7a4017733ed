/** Makes a control page: what its large buttons do, and which faders stand under them. */
'use client';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import { HELD_TABLES } from '@/core/faders/rows';
import { PLAYED_KINDS, type PlayedKind } from '@/core/palettes/rows';
import { firstList, type Show } from '@/core/show/show';
import type { PageAct } from '@/core/pages/rows';
import type { RowOf } from '@/core/show/tables';
import { Button, Check, Dialog, Field, IconButton } from '../parts/controls';
import { edit } from '../state/actions';
import { ApiError } from '../state/api';
import { useShow } from '../state/store';

interface Made {
  label: string;
  act: PageAct;
}
const SELECT =
  'h-8 min-w-0 rounded-md bg-ink px-2 text-[12.5px] shadow-[inset_0_0_0_1px_var(--color-edge)]';
const FADE_S = 2;

export function PageDialog({
  page,
  onClose,
}: {
  page: RowOf['pages'] | undefined;
  onClose: () => void;
}) {
  const show = useShow();
  const [name, setName] = useState(page?.name ?? '');
  const [buttons, setButtons] = useState<readonly Made[]>(page?.buttons ?? []);
  const [faders, setFaders] = useState<readonly string[]>(page?.faders ?? []);
  const [problem, setProblem] = useState<string>();
  const lists = [...show.lists.values()].sort((a, b) => a.number - b.number);
  const all = [...show.faders.values()].sort((a, b) => a.number - b.number);
  const cues = lists.flatMap((l) => show.cuesOf(l.id).map((c) => ({ c, l })));
  const set = (i: number, made: Partial<Made>): void =>
    setButtons(buttons.map((b, k) => (k === i ? { ...b, ...made } : b)));
  const kinds: { value: PageAct['do']; label: string; make: () => PageAct | undefined }[] = [
    { value: 'go', label: 'GO of a list', make: () => ({ do: 'go', list: lists[0]?.id ?? '' }) },
    {
      value: 'cue',
      label: 'To a cue',
      make: () => (cues[0] ? { do: 'cue', cue: cues[0].c.id } : undefined),
    },
    {
      value: 'fader',
      label: 'A fader up or down',
      make: () =>
        all[0] ? { do: 'fader', fader: all[0].id, level: 1, time_s: FADE_S } : undefined,
    },
    {
      value: 'play',
      label: 'Play, and let go',
      make: () => {
        const [first] = playable(show);
        return first && { do: 'play', ...first.thing };
      },
    },
    {
      value: 'release',
      label: 'Release a list',
      make: () => ({ do: 'release', list: lists[0]?.id ?? '' }),
    },
    { value: 'release-all', label: 'Release everything', make: () => ({ do: 'release-all' }) },
  ];
  const save = async (): Promise<void> => {
    const answer = await edit('set-page', {
      ...(page ? { id: page.id } : {}),
      set: {
        name: name.trim(),
        buttons: buttons.map((b) => ({ ...b, label: b.label.trim() })),
        faders,
      },
    });
    if (answer instanceof ApiError) setProblem(answer.message);
    else onClose();
  };
  const nothing =
    buttons.length + faders.length === 0 || buttons.some((b) => b.label.trim() === '');
  return (
    <Dialog
      of={page ? `pages/${page.id}` : undefined}
      open
      onOpenChange={(o) => !o && onClose()}
      title={page ? `Page “${page.name}”` : 'Make a page'}
      about="For a volunteer, a stage hand, a switch by the door: nothing on it can be broken."
      width="w-[640px]"
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void save();
        }}
      >
        <Field
          label="What it is called"
          value={name}
          maxLength={120}
          onChange={(e) => setName(e.target.value)}
          problem={problem}
        />
        <p className="mt-3 mb-1 text-[12px] text-muted">Buttons</p>
        <ul className="space-y-1.5">
          {buttons.map((b, i) => (
            <li key={i} className="grid grid-cols-[1fr_150px_1fr_32px] gap-2">
              <input
                aria-label={`Words of button ${i + 1}`}
                placeholder="What stands on it"
                value={b.label}
                maxLength={120}
                onChange={(e) => set(i, { label: e.target.value })}
                className={SELECT}
              />
              <select
                aria-label={`What button ${i + 1} does`}
                value={b.act.do}
                onChange={(e) => {
                  const act = kinds.find((k) => k.value === e.target.value)?.make();
                  if (act) set(i, { act });
                }}
                className={SELECT}
              >
                {kinds.map((k) => (
                  <option key={k.value} value={k.value}>
                    {k.label}
                  </option>
                ))}
              </select>
              <Target act={b.act} onChange={(act) => set(i, { act })} />
              <IconButton
                label={`Take button ${i + 1} away`}
                onClick={() => setButtons(buttons.filter((_, k) => k !== i))}
              >
                <X size={14} />
              </IconButton>
            </li>
          ))}
        </ul>
        <Button
          className="mt-2"
          disabled={buttons.length >= 24}
          onClick={() =>
            setButtons([
              ...buttons,
              { label: '', act: { do: 'go', list: firstList(show)?.id ?? '' } },
            ])
          }
        >
          <Plus size={13} /> Button
        </Button>
        <p className="mt-3 mb-1 text-[12px] text-muted">Faders, at most 8</p>
        <div className="grid grid-cols-3">
          {all.map((f) => (
            <Check
              key={f.id}
              checked={faders.includes(f.id)}
              disabled={!faders.includes(f.id) && faders.length >= 8}
              onChange={(on) =>
                setFaders(on ? [...faders, f.id] : faders.filter((x) => x !== f.id))
              }
            >
              {f.number} {f.name}
            </Check>
          ))}
          {all.length === 0 && <span className="text-muted">This show has no faders yet.</span>}
        </div>
        <div className="mt-4 flex justify-end">
          <Button kind="strong" type="submit" disabled={name.trim() === '' || nothing}>
            {page ? 'Keep' : 'Make it'}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** Palettes, looks and effects, in the order of their numbers. */
const playable = (
  show: Show,
): { key: string; label: string; thing: { kind: PlayedKind; id: string } }[] =>
  PLAYED_KINDS.flatMap((kind) =>
    [...show[HELD_TABLES[kind]].values()]
      .sort((a, b) => a.number - b.number)
      .map(({ id, number, name }) => ({
        key: `${kind}/${id}`,
        label: `${kind} ${number} ${name}`,
        thing: { kind, id },
      })),
  );

function Target({ act, onChange }: { act: PageAct; onChange: (act: PageAct) => void }) {
  const show = useShow();
  const lists = [...show.lists.values()].sort((a, b) => a.number - b.number);
  if (act.do === 'release-all') return <span />;
  if (act.do === 'go' || act.do === 'release')
    return (
      <select
        aria-label="Which list"
        value={act.list}
        onChange={(e) => onChange({ ...act, list: e.target.value })}
        className={SELECT}
      >
        {lists.map((l) => (
          <option key={l.id} value={l.id}>
            {l.name}
          </option>
        ))}
      </select>
    );
  if (act.do === 'cue')
    return (
      <select
        aria-label="Which cue"
        value={act.cue}
        onChange={(e) => onChange({ ...act, cue: e.target.value })}
        className={SELECT}
      >
        {lists.flatMap((l) =>
          show.cuesOf(l.id).map((c) => (
            <option key={c.id} value={c.id}>
              {lists.length > 1 ? `${l.name} ` : ''}
              {formatCueNumber(c.number)} {c.name}
            </option>
          )),
        )}
      </select>
    );
  if (act.do === 'play')
    return (
      <select
        aria-label="What it plays"
        value={`${act.kind}/${act.id}`}
        onChange={(e) => {
          const to = playable(show).find((p) => p.key === e.target.value);
          if (to) onChange({ ...act, ...to.thing });
        }}
        className={SELECT}
      >
        {playable(show).map((p) => (
          <option key={p.key} value={p.key}>
            {p.label}
          </option>
        ))}
      </select>
    );
  return (
    <select
      aria-label="Which fader"
      value={act.fader}
      onChange={(e) => onChange({ ...act, fader: e.target.value })}
      className={SELECT}
    >
      {[...show.faders.values()].map((f) => (
        <option key={f.id} value={f.id}>
          {f.number} {f.name}
        </option>
      ))}
    </select>
  );
}
