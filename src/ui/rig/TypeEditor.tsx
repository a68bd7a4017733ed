/** The type editor: a type for this show, mode by mode, checked as it is typed and tried on one address. */
'use client';
import { Copy, Trash2 } from 'lucide-react';
import { useMemo, useState } from 'react';
import { plural } from '@/core/words';
import { attributesOf, baseOf } from '@/core/rig/attributes';
import { checkType } from '@/core/rig/check-type';
import { makeType, mode as makeMode, wheelFunctions } from '@/core/rig/make-type';
import { SHAPES, type Channel, type TypeRow } from '@/core/types/rows';
import { Ask, Button, Choice, Dialog, Field, IconButton, Tabs } from '../parts/controls';
import { edit } from '../state/actions';
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

export function TypeEditor({ type, onClose }: { type: TypeRow | null; onClose: () => void }) {
  const show = useShow();
  useScreen((s) => s.revision);
  const own = type !== null && show.types.has(type.id);
  const [draft, setDraft] = useState<Draft>(() => {
    const { id, ...rest } = type ?? NEW;
    void id;
    return own || !type ? rest : { ...rest, name: `${rest.name} own` };
  });
  const [index, setIndex] = useState(0);
  const [part, setPart] = useState<Part>('modes');
  const [refusal, setRefusal] = useState('');
  const problems = useMemo(
    () => checkType({ id: type?.id ?? 'new', ...completed(draft) }),
    [draft, type],
  );
  const [dirty, setDirty] = useState(false);
  const [leaving, setLeaving] = useState(false);
  // What was typed is not thrown away by a slip of the hand.
  const leave = (): void => (dirty ? setLeaving(true) : onClose());
  const put = (fields: Partial<Draft>): void => {
    setRefusal('');
    setDirty(true);
    setDraft((d) => ({ ...d, ...fields }));
  };
  const mode = draft.modes[index];
  const users = type ? [...show.fixtures.values()].filter((f) => f.typeId === type.id).length : 0;
  const save = async (): Promise<void> => {
    const answer = await edit('set-type', {
      type: completed(draft),
      ...(own ? { id: type.id } : {}),
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
  const other = problems[0];
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && leave()}
      title={own ? `Type ${draft.maker} ${draft.name}` : 'A new type for this show'}
      about={
        own
          ? users > 0
            ? `${plural(users, 'fixture')} of this show use it and change with it.`
            : 'Nothing of this show uses it yet.'
          : 'It belongs to this show; the shipped library stays as it is.'
      }
      width="w-[960px]"
      tall
    >
      <div className="grid grid-cols-[1.2fr_1.2fr_150px_84px_84px_84px] gap-3">
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
        <Field
          label="Watts"
          number
          defaultValue={draft.watts}
          onChange={(e) => put({ watts: number(e.target.value) })}
          problem={problems.some((p) => p.path === 'watts') ? ' ' : undefined}
        />
        <Field
          label="Idle, W"
          number
          defaultValue={draft.idle_W ?? ''}
          onChange={(e) =>
            put({ idle_W: e.target.value.trim() === '' ? undefined : number(e.target.value) })
          }
        />
        <Field
          label="Weight, kg"
          number
          defaultValue={draft.weight_kg ?? ''}
          onChange={(e) =>
            put({ weight_kg: e.target.value.trim() === '' ? undefined : number(e.target.value) })
          }
        />
      </div>
      <div className="mt-2 grid grid-cols-[110px_110px_110px_1fr] gap-3">
        <Field
          label="Pan speed, °/s"
          number
          defaultValue={draft.panSpeed_deg_s ?? ''}
          onChange={(e) =>
            put({
              panSpeed_deg_s: e.target.value.trim() === '' ? undefined : number(e.target.value),
            })
          }
        />
        <Field
          label="Tilt speed, °/s"
          number
          defaultValue={draft.tiltSpeed_deg_s ?? ''}
          onChange={(e) =>
            put({
              tiltSpeed_deg_s: e.target.value.trim() === '' ? undefined : number(e.target.value),
            })
          }
        />
        <Field
          label="Lamp, K"
          number
          defaultValue={draft.lamp_K ?? ''}
          placeholder="3200"
          onChange={(e) =>
            put({ lamp_K: e.target.value.trim() === '' ? undefined : number(e.target.value) })
          }
        />
      </div>
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
        {part === 'modes' && (
          <div className="grid grid-cols-[150px_1fr] gap-4">
            <div>
              <ul>
                {draft.modes.map((m, i) => (
                  <li key={i}>
                    <button
                      type="button"
                      aria-pressed={i === index}
                      onClick={() => setIndex(i)}
                      className={`flex h-8 w-full items-center justify-between rounded-md px-2 text-left ${i === index ? 'bg-standby-wash text-standby' : 'text-soft hover:bg-raised'}`}
                    >
                      <span className="truncate">{m.name || 'unnamed'}</span>
                      <span
                        className={`num text-[11.5px] ${problems.some((p) => p.path.startsWith(`modes.${i}.`)) ? 'text-danger' : 'text-muted'}`}
                      >
                        {m.footprint}
                      </span>
                    </button>
                  </li>
                ))}
              </ul>
              <div className="mt-1 flex gap-1">
                <IconButton
                  label="One more mode like this"
                  onClick={() => {
                    if (!mode) return;
                    put({
                      modes: [...draft.modes, { ...structuredClone(mode), name: `${mode.name} 2` }],
                    });
                    setIndex(draft.modes.length);
                  }}
                >
                  <Copy size={14} />
                </IconButton>
                <IconButton
                  label="Remove this mode"
                  disabled={draft.modes.length < 2}
                  onClick={() => {
                    put({ modes: draft.modes.filter((_, i) => i !== index) });
                    setIndex(Math.max(0, index - 1));
                  }}
                >
                  <Trash2 size={14} />
                </IconButton>
              </div>
            </div>
            <ModeTable
              draft={draft}
              index={index}
              problems={problems}
              onChange={(m) => put({ modes: draft.modes.map((x, i) => (i === index ? m : x)) })}
            />
          </div>
        )}
        {part === 'colour' && (
          <Emitters draft={completed(draft)} onChange={(emitters) => put({ emitters })} />
        )}
        {part === 'wheels' && (
          <WheelRows
            wheels={draft.wheels ?? []}
            onChange={(wheels) => put({ wheels: wheels.length === 0 ? undefined : wheels })}
          />
        )}
        {part === 'macros' && (
          <MacroRows
            macros={draft.macros ?? []}
            attributes={[...new Set(draft.modes.flatMap((m) => attributesOf(m)))]}
            onChange={(macros) => put({ macros: macros.length === 0 ? undefined : macros })}
          />
        )}
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
      <div className="mt-3 flex items-center gap-3">
        <p
          role="status"
          data-testid="type-says"
          className={`min-w-0 flex-1 text-[12.5px] ${refusal !== '' || other ? 'text-warning' : 'text-soft'}`}
        >
          {refusal !== ''
            ? refusal
            : other
              ? `${other.message}${problems.length > 1 ? ` And ${problems.length - 1} more.` : ''}`
              : `${plural(draft.modes.length, 'mode')}, nothing wrong with it.`}
        </p>
        <Button kind="quiet" onClick={leave}>
          Leave it
        </Button>
        <Button kind="strong" disabled={problems.length > 0} onClick={() => void save()}>
          {own ? 'Change the type' : 'Make the type'}
        </Button>
      </div>
    </Dialog>
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
