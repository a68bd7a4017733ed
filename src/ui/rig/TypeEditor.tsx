/** The type editor: a type for this show, mode by mode, checked as it is typed and tried on one address. */
'use client';
import { Copy, Trash2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { plural } from '@/core/words';
import { attributesOf, baseOf } from '@/core/rig/attributes';
import { checkType } from '@/core/rig/check-type';
import { makeType, mode as makeMode, wheelFunctions } from '@/core/rig/make-type';
import { SHAPES, type Channel, type TypeRow } from '@/core/types/rows';
import { Ask } from '../parts/Ask';
import { Button, Choice, Dialog, Field, IconButton, Tabs } from '../parts/controls';
import { edit } from '../state/edits';
import { ApiError } from '../state/api';
import { useScreen, useShow } from '../state/store';
import { LiveTest } from './LiveTest';
import { ModeTable } from './ModeTable';
import { number, type Draft } from './TypeCell';
import { Emitters, MacroRows, WheelRows } from './TypeParts';
import { useRig } from './rig-state';

const NEW = makeType({
  id: 'new',
  maker: '',
  name: '',
  shape: 'wash',
  watts: 100,
  modes: [makeMode('Standard', ['Dimmer'])],
});
const SHAPE_WORDS: Record<(typeof SHAPES)[number], string> = {
  profile: 'profile',
  wash: 'wash or par',
  head: 'moving head',
  strip: 'strip',
  house: 'house or practical',
  hazer: 'hazer',
};

type Part = 'modes' | 'colour' | 'wheels' | 'macros';

/** A draft, what is wrong with it, and what becomes of it. @param own it is a type of this show, and changes */
function useTypeDraft(type: TypeRow | null, own: boolean, onClose: () => void) {
  const [draft, setDraft] = useState<Draft>(() => {
    const { id, ...rest } = type ?? NEW;
    void id;
    return own || !type ? rest : { ...rest, name: `${rest.name} own` };
  });
  const [refusal, setRefusal] = useState('');
  const [dirty, setDirty] = useState(false);
  const problems = useMemo(
    () => checkType({ id: type?.id ?? 'new', ...completed(draft) }),
    [draft, type],
  );
  const put = (fields: Partial<Draft>): void => {
    setRefusal('');
    setDirty(true);
    setDraft((d) => ({ ...d, ...fields }));
  };
  const save = async (): Promise<void> => {
    const answer = await edit('set-type', {
      type: completed(draft),
      ...(own && type ? { id: type.id } : {}),
    });
    if (answer instanceof ApiError) {
      setRefusal(answer.message);
      return;
    }
    const row = answer.changes.find((c) => c.table === 'types')?.after as TypeRow | undefined;
    const first = row?.modes[0];
    if (row && first) useRig.setState({ picked: { type: row, mode: first } });
    onClose();
  };
  return { draft, put, save, problems, refusal, dirty };
}
type TypeDraft = ReturnType<typeof useTypeDraft>;

function sayUse(own: boolean, users: number): string {
  if (!own) return 'It belongs to this show; the shipped library stays as it is.';
  return users > 0
    ? `${plural(users, 'fixture')} of this show use it and change with it.`
    : 'Nothing of this show uses it yet.';
}

/** A fixture type, whole; without one, a new type. */
export function TypeEditor({ type, onClose }: { type: TypeRow | null; onClose: () => void }) {
  const show = useShow();
  useScreen((s) => s.revision);
  const own = type !== null && show.types.has(type.id);
  const editing = useTypeDraft(type, own, onClose);
  const { draft, dirty } = editing;
  const [index, setIndex] = useState(0);
  const [part, setPart] = useState<Part>('modes');
  const [leaving, setLeaving] = useState(false);
  // What was typed is not thrown away by a slip of the hand.
  const leave = (): void => (dirty ? setLeaving(true) : onClose());
  const users = type ? [...show.fixtures.values()].filter((f) => f.typeId === type.id).length : 0;
  const mode = draft.modes[index];
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && leave()}
      title={own ? `Type ${draft.maker} ${draft.name}` : 'A new type for this show'}
      about={sayUse(own, users)}
      width="w-[960px]"
      tall
    >
      <WhatItIs editing={editing} />
      <Figures editing={editing} />
      <div className="mt-3 flex items-center gap-2 border-b border-line pb-2">
        <Tabs<Part>
          label="Parts of the type"
          value={part}
          options={[
            { value: 'modes', label: `Modes ${draft.modes.length}` },
            { value: 'colour', label: 'Emitters' },
            { value: 'wheels', label: `Wheels ${draft.wheels?.length ?? 0}` },
            { value: 'macros', label: `Macros ${draft.macros?.length ?? 0}` },
          ]}
          onChange={setPart}
        />
      </div>
      <div className="h-[270px] overflow-y-auto py-3 pr-1">
        <Shown part={part} editing={editing} index={index} onIndex={setIndex} />
      </div>
      {mode && <LiveTest mode={mode} />}
      <Ask
        open={leaving}
        onClose={() => setLeaving(false)}
        title="Leave the type as it was?"
        act="Throw it away"
        keep="Go on writing"
        onAct={onClose}
      >
        <p>What you have typed here is in no show yet and would be gone.</p>
      </Ask>
      <Foot
        editing={editing}
        own={own}
        unused={own && users === 0 ? type : null}
        onLeave={leave}
        onGone={onClose}
      />
    </Dialog>
  );
}

function WhatItIs({ editing: { draft, put } }: { editing: TypeDraft }) {
  return (
    <div className="grid grid-cols-[1.2fr_1.2fr_150px] gap-3">
      <Field
        label="Maker"
        value={draft.maker}
        maxLength={120}
        onChange={(e) => put({ maker: e.target.value })}
        problem={draft.maker.trim() === '' ? 'Who makes it?' : undefined}
      />
      <Field
        label="Name"
        value={draft.name}
        maxLength={120}
        onChange={(e) => put({ name: e.target.value })}
        problem={draft.name.trim() === '' ? 'What is it called?' : undefined}
      />
      <Choice
        label="Kind"
        value={draft.shape}
        onChange={(e) => put({ shape: e.target.value as TypeRow['shape'] })}
        options={SHAPES.map((s) => ({ value: s, label: SHAPE_WORDS[s] }))}
      />
    </div>
  );
}

/** Figures that a type may have; an empty field: it is not known. */
const FIGURES = [
  ['idle_W', 'Idle, W', undefined],
  ['weight_kg', 'Weight, kg', undefined],
  ['panSpeed_deg_s', 'Pan speed, °/s', undefined],
  ['tiltSpeed_deg_s', 'Tilt speed, °/s', undefined],
  ['lamp_K', 'Lamp, K', '3200'],
  ['beam_deg', 'Beam, °', undefined],
  ['lumens', 'Light, lm', undefined],
  ['reach_m', 'To its axes, m', undefined],
] as const satisfies readonly (readonly [keyof Draft, string, string | undefined])[];

function Figures({ editing: { draft, put, problems } }: { editing: TypeDraft }) {
  return (
    <div className="mt-2 grid grid-cols-9 gap-2">
      <Field
        label="Watts"
        number
        defaultValue={draft.watts}
        onChange={(e) => put({ watts: number(e.target.value) })}
        problem={problems.some((p) => p.path === 'watts') ? ' ' : undefined}
      />
      {FIGURES.map(([field, label, placeholder]) => (
        <Field
          key={field}
          label={label}
          number
          defaultValue={draft[field] ?? ''}
          placeholder={placeholder}
          problem={problems.some((p) => p.path === field) ? ' ' : undefined}
          onChange={({ target: { value } }) =>
            put({ [field]: value.trim() === '' ? undefined : number(value) })
          }
        />
      ))}
    </div>
  );
}

/** The part that was chosen. @param index of the mode that is looked at */
function Shown({
  part,
  editing,
  index,
  onIndex,
}: {
  part: Part;
  editing: TypeDraft;
  index: number;
  onIndex: (index: number) => void;
}) {
  const { draft, put, problems } = editing;
  if (part === 'colour')
    return <Emitters draft={completed(draft)} onChange={(emitters) => put({ emitters })} />;
  if (part === 'wheels')
    return (
      <WheelRows
        wheels={draft.wheels ?? []}
        onChange={(wheels) => put({ wheels: wheels.length === 0 ? undefined : wheels })}
      />
    );
  if (part === 'macros')
    return (
      <MacroRows
        macros={draft.macros ?? []}
        attributes={[...new Set(draft.modes.flatMap((m) => attributesOf(m)))]}
        onChange={(macros) => put({ macros: macros.length === 0 ? undefined : macros })}
      />
    );
  return (
    <div className="grid grid-cols-[150px_1fr] gap-4">
      <ModeList editing={editing} index={index} onIndex={onIndex} />
      <ModeTable
        draft={draft}
        index={index}
        problems={problems}
        onChange={(m) => put({ modes: draft.modes.map((x, i) => (i === index ? m : x)) })}
      />
    </div>
  );
}

function ModeList({
  editing: { draft, put, problems },
  index,
  onIndex,
}: {
  editing: TypeDraft;
  index: number;
  onIndex: (index: number) => void;
}) {
  const mode = draft.modes[index];
  const isWrong = (i: number): boolean => problems.some((p) => p.path.startsWith(`modes.${i}.`));
  const copy = (): void => {
    if (!mode) return;
    put({ modes: [...draft.modes, { ...structuredClone(mode), name: `${mode.name} 2` }] });
    onIndex(draft.modes.length);
  };
  const remove = (): void => {
    put({ modes: draft.modes.filter((_, i) => i !== index) });
    onIndex(Math.max(0, index - 1));
  };
  return (
    <div>
      <ul>
        {draft.modes.map((m, i) => (
          <li key={i}>
            <button
              type="button"
              aria-pressed={i === index}
              onClick={() => onIndex(i)}
              className={`flex h-8 w-full items-center justify-between rounded-md px-2 text-left ${i === index ? 'bg-standby-wash text-standby' : 'text-soft hover:bg-raised'}`}
            >
              <span className="truncate">{m.name || 'unnamed'}</span>
              <span className={`num text-[11.5px] ${isWrong(i) ? 'text-danger' : 'text-muted'}`}>
                {m.footprint}
              </span>
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-1 flex gap-1">
        <IconButton label="One more mode like this" onClick={copy}>
          <Copy size={14} />
        </IconButton>
        <IconButton label="Remove this mode" disabled={draft.modes.length < 2} onClick={remove}>
          <Trash2 size={14} />
        </IconButton>
      </div>
    </div>
  );
}

function sayState({ draft, problems, refusal }: TypeDraft): string {
  const [first] = problems;
  if (refusal !== '') return refusal;
  if (!first) return `${plural(draft.modes.length, 'mode')}, nothing wrong with it.`;
  return `${first.message}${problems.length > 1 ? ` And ${problems.length - 1} more.` : ''}`;
}

function Foot({
  editing,
  own,
  unused,
  onLeave,
  onGone,
}: {
  editing: TypeDraft;
  own: boolean;
  /** A type of the show that no unit is of. */
  unused: TypeRow | null;
  onLeave: () => void;
  onGone: () => void;
}) {
  const isWrong = editing.refusal !== '' || editing.problems.length > 0;
  return (
    <div className="mt-3 flex items-center gap-3">
      <p
        role="status"
        data-testid="type-says"
        className={`min-w-0 flex-1 text-[12.5px] ${isWrong ? 'text-warning' : 'text-soft'}`}
      >
        {sayState(editing)}
      </p>
      {unused && (
        <Button
          kind="danger"
          title="No unit is of it; undo brings it back"
          onClick={() =>
            void edit('delete-type', { id: unused.id }).then((a) => 'seq' in a && onGone())
          }
        >
          Take it out of the show
        </Button>
      )}
      <Button kind="quiet" onClick={onLeave}>
        Leave it
      </Button>
      <Button
        kind="strong"
        disabled={editing.problems.length > 0}
        onClick={() => void editing.save()}
      >
        {own ? 'Change the type' : 'Make the type'}
      </Button>
    </div>
  );
}

/**
 * What follows from the rest: documented chromaticities for emitters that nobody has described yet, and a wheel's slots
 * on the channels that are called after it.
 */
function completed(draft: Draft): Draft {
  const { emitters } = makeType({ id: 'x', ...draft });
  const modes = draft.modes.map((m) => ({
    ...m,
    channels: m.channels.map((c): Channel => {
      const wheel = draft.wheels?.find((w) => w.name === baseOf(c.attribute));
      if (!wheel) return c;
      if (!c.functions || c.functions.length === 0)
        return { ...c, functions: wheelFunctions(wheel, Math.max(1, c.offset.length)), snap: true };
      return {
        ...c,
        functions: c.functions.map((f) =>
          f.sets?.some((x) => x.slot !== undefined) && f.wheel === undefined
            ? { ...f, wheel: wheel.name }
            : f,
        ),
      };
    }),
  }));
  return { ...draft, modes, emitters };
}
