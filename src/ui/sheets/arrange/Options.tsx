/** What a piece is, in detail: what it points at, what a press does, which form it has. */
'use client';
import { useState } from 'react';
import { seconds } from '@/core/cues/clock';
import { formatCueNumber } from '@/core/cues/number';
import {
  FADER_FORMS,
  LIST_PRESSES,
  TURNS_DEG,
  type Part,
  type PieceIs,
  type PieceRow,
} from '@/core/sheets/rows';
import { HELD_TABLES } from '@/core/faders/rows';
import { pointedAt } from '@/core/sheets/pieces';
import type { Show } from '@/core/show/show';
import { Button, Check, Choice, Dialog, Field } from '../../parts/controls';
import { modeOf } from '@/core/fixtures/points';
import { cellsOf } from '@/core/rig/attributes';
import { boxOf } from '@/core/areas/within';
import { actionWords } from '@/core/cues/action-words';
import { ActionForm } from '../../book/actions/ActionForm';
import { optionsOf } from '../../parts/options';
import { useWriting } from '../../parts/use-writing';
import { useScreen, useShow } from '../../state/store';

interface Of<K extends PieceIs['kind']> {
  is: Extract<PieceIs, { kind: K }>;
  put: (is: PieceIs) => void;
}

interface Named {
  id: string;
  name: string;
  number?: number;
}
const WHAT = 'What is selected';

/** Rows that a piece of this kind may point at, by the field that names them. */
function targetsOf(
  show: Show,
  is: PieceIs,
): { field: string; rows: Named[]; none?: string } | undefined {
  const rows = (
    table: ReadonlyMap<string, { id: string; name: string; number?: number }>,
  ): Named[] => [...table.values()].sort((a, b) => (a.number ?? 0) - (b.number ?? 0));
  switch (is.kind) {
    case 'plan':
      return { field: 'layout', rows: rows(show.layouts), none: 'The stage’s own plan' };
    case 'unit':
      return {
        field: 'fixture',
        rows: [...show.fixtures.values()]
          .sort((a, b) => a.number - b.number)
          .map((f) => ({ id: f.id, name: `${f.number} ${f.label}`.trim() })),
      };
    case 'area':
      return { field: 'area', rows: rows(show.areas) };
    case 'group':
      return { field: 'group', rows: rows(show.groups) };
    case 'level':
    case 'colours':
    case 'field':
    case 'pad':
      return { field: 'group', rows: rows(show.groups), none: WHAT };
    case 'tile':
      return { field: 'id', rows: rows(show[HELD_TABLES[is.of]]) };
    case 'list':
      return { field: 'list', rows: rows(show.lists) };
    case 'now':
      return { field: 'list', rows: rows(show.lists), none: 'The first list' };
    case 'cue':
      return {
        field: 'cue',
        rows: [...show.cues.values()]
          .sort((a, b) => a.number - b.number)
          .map((c) => ({ id: c.id, name: `${formatCueNumber(c.number)} ${c.name}`.trim() })),
      };
    case 'fader':
    case 'to':
      return { field: 'fader', rows: rows(show.faders) };
    case 'picture':
      return { field: 'picture', rows: rows(show.pictures) };
    case 'sheet':
      return { field: 'sheet', rows: rows(show.sheets) };
    default:
      return undefined;
  }
}

/** What it points at: also where that is gone, so that it is pointed anew. */
function Target({ is, put }: { is: PieceIs; put: (is: PieceIs) => void }) {
  const show = useShow();
  const targets = targetsOf(show, is);
  if (!targets) return null;
  const { field, rows, none } = targets;
  const now = pointedAt(is)?.id ?? '';
  const isGone = now !== '' && !rows.some((r) => r.id === now);
  return (
    <Choice
      label="It is about"
      value={now}
      onChange={(e) => {
        // Another unit has other cells.
        const { [field]: old, cell, ...rest } = is as Record<string, unknown>;
        void [old, cell];
        put((e.target.value === '' ? rest : { ...rest, [field]: e.target.value }) as PieceIs);
      }}
      options={[
        ...(none === undefined ? [] : [{ value: '', label: none }]),
        ...(isGone ? [{ value: now, label: 'deleted: choose another' }] : []),
        ...rows.map((r) => ({ value: r.id, label: r.name })),
      ]}
    />
  );
}

const PRESS_WORDS = {
  go: 'GO',
  back: 'Back',
  pause: 'Pause',
  release: 'Release',
  toggle: 'On, and released again',
  round: 'Step round and round',
} as const;
const FORM_WORDS = {
  upright: 'A fader, upright',
  level: 'A fader, lying',
  knob: 'A knob',
  flash: 'Its key: full while pressed',
} as const;

const PART_MARGIN_M = 0.5;

/** The part of the stage that it shows: all, an area, or what is round the selected units now. */
function PlanPart({ is, put }: Of<'plan'>) {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const chosen = selection.flatMap((id) => show.fixtures.get(id)?.position ?? []);
  const areas = [...show.areas.values()].sort((a, b) => a.number - b.number);
  const partOf = (points: readonly { x: number; y: number }[]): Part => {
    const { left, right, near, far } = boxOf(points);
    const m = PART_MARGIN_M;
    return { left: left - m, right: right + m, near: near - m, far: far + m };
  };
  const choose = (value: string): void => {
    const { part, ...whole } = is;
    void part;
    const area = show.areas.get(value);
    if (area) put({ ...whole, part: partOf(area.corners) });
    else put(value === 'chosen' ? { ...whole, part: partOf(chosen) } : whole);
  };
  const kept = is.part ? [{ value: 'kept', label: 'A part of the stage' }] : [];
  return (
    <Choice
      label="Shows"
      value={is.part ? 'kept' : ''}
      onChange={(e) => e.target.value !== 'kept' && choose(e.target.value)}
      options={[
        { value: '', label: 'The whole stage' },
        ...kept,
        ...(chosen.length > 0 ? [{ value: 'chosen', label: 'What is round the selected' }] : []),
        ...areas.map((a) => ({ value: a.id, label: `Round area ${a.name}` })),
      ]}
    />
  );
}

function PlanOptions({ is, put }: Of<'plan'>) {
  return (
    <>
      <Choice
        label="Turned"
        value={String(is.turn_deg)}
        onChange={(e) =>
          put({ ...is, turn_deg: TURNS_DEG.find((t) => String(t) === e.target.value) ?? 0 })
        }
        options={TURNS_DEG.map((t) => ({ value: String(t), label: `${t}°` }))}
      />
      <PlanPart is={is} put={put} />
      <Check checked={is.areas} onChange={(areas) => put({ ...is, areas })}>
        Areas of the floor
      </Check>
    </>
  );
}

/** A text that is written when it is left. */
function Text({
  label,
  value,
  write,
  number = false,
}: {
  label: string;
  value: string;
  /** @returns why it cannot be */
  write: (text: string) => string | undefined;
  number?: boolean;
}) {
  const { field, problem } = useWriting(label, value, (text) => write(text.trim()));
  return <Field label={label} number={number} {...field} problem={problem} />;
}

function TimeOption({ is, put }: Of<'time'> | Of<'to'>) {
  return (
    <Text
      label="Seconds"
      number
      value={String(is.time_s)}
      write={(text) => {
        const time_s = seconds(text);
        if (time_s === undefined) return `“${text}” is no time. Nothing was changed.`;
        put({ ...is, time_s });
        return undefined;
      }}
    />
  );
}

function ToOptions({ is, put }: Of<'to'>) {
  return (
    <>
      <Text
        label="Level, %"
        number
        value={String(Math.round(is.level * 100))}
        write={(text) => {
          const percent = Number(text);
          if (text === '' || !(percent >= 0 && percent <= 100))
            return 'A level goes from 0 to 100 %. Nothing was changed.';
          put({ ...is, level: percent / 100 });
          return undefined;
        }}
      />
      <TimeOption is={is} put={put} />
    </>
  );
}

function TextOption({ is, put, label }: (Of<'words'> | Of<'command'>) & { label: string }) {
  return (
    <Text
      label={label}
      value={is.text}
      write={(text) => {
        if (text === '') return 'It needs words. Nothing was changed.';
        put({ ...is, text });
        return undefined;
      }}
    />
  );
}

/** What it does, and another instead. */
function ActionOption({ is, put }: Of<'action'>) {
  const show = useShow();
  const [changes, setChanges] = useState(false);
  return (
    <>
      <p className="text-[12.5px] leading-4 text-soft">{actionWords(show, is.action)}</p>
      <Button kind="line" onClick={() => setChanges(true)}>
        Does something else …
      </Button>
      {changes && (
        <Dialog
          open
          onOpenChange={(open) => setChanges(open)}
          title="What a press does"
          about="What a cue can do besides light. It is done once, at each press."
          width="w-[520px]"
        >
          <ActionForm
            when="A press does"
            act="That"
            first={is.action}
            onDone={(action) => {
              setChanges(false);
              if (action) put({ kind: 'action', action });
            }}
          />
        </Dialog>
      )}
    </>
  );
}

/** The whole unit, or one of its cells. */
function CellOption({ is, put }: Of<'unit'>) {
  const show = useShow();
  const unit = show.fixtures.get(is.fixture);
  const mode = unit && modeOf(show, unit);
  const cells = mode ? cellsOf(mode) : [];
  if (cells.length === 0) return null;
  return (
    <Choice
      label="Shows"
      value={String(is.cell ?? '')}
      onChange={(e) => {
        const { cell, ...whole } = is;
        void cell;
        put(e.target.value === '' ? whole : { ...whole, cell: Number(e.target.value) });
      }}
      options={[
        { value: '', label: 'The whole unit' },
        ...cells.map((cell) => ({ value: String(cell), label: `Cell ${cell}` })),
      ]}
    />
  );
}

/** A second cue, between which and the first a press goes to and fro. */
function CueOption({ is, put }: Of<'cue'>) {
  const show = useShow();
  const cues = [...show.cues.values()].filter((c) => c.id !== is.cue);
  return (
    <Choice
      label="And while that is on stage, to"
      value={is.other ?? ''}
      onChange={(e) => {
        const { other, ...rest } = is;
        void other;
        const next = cues.find((c) => c.id === e.target.value);
        put(next ? { ...rest, other: next.id } : rest);
      }}
      options={[
        { value: '', label: 'the same cue again' },
        ...cues
          .sort((a, b) => a.number - b.number)
          .map((c) => ({ value: c.id, label: `${formatCueNumber(c.number)} ${c.name}`.trim() })),
      ]}
    />
  );
}

/** What only this kind has. */
function Own({ is, put }: { is: PieceIs; put: (is: PieceIs) => void }) {
  switch (is.kind) {
    case 'plan':
      return <PlanOptions is={is} put={put} />;
    case 'unit':
      return <CellOption is={is} put={put} />;
    case 'tile':
      return (
        <Choice
          label="A press"
          value={is.press}
          onChange={(e) => put({ ...is, press: e.target.value === 'play' ? 'play' : 'give' })}
          options={[
            { value: 'give', label: 'gives it to what is selected' },
            { value: 'play', label: 'plays it by itself' },
          ]}
        />
      );
    case 'list':
      return (
        <Choice
          label="A press"
          value={is.press}
          onChange={(e) =>
            put({ ...is, press: LIST_PRESSES.find((p) => p === e.target.value) ?? 'go' })
          }
          options={optionsOf(LIST_PRESSES, PRESS_WORDS)}
        />
      );
    case 'fader':
      return (
        <Choice
          label="As"
          value={is.as}
          onChange={(e) =>
            put({ ...is, as: FADER_FORMS.find((f) => f === e.target.value) ?? 'upright' })
          }
          options={optionsOf(FADER_FORMS, FORM_WORDS)}
        />
      );
    case 'to':
      return <ToOptions is={is} put={put} />;
    case 'time':
      return <TimeOption is={is} put={put} />;
    case 'cue':
      return <CueOption is={is} put={put} />;
    case 'action':
      return <ActionOption is={is} put={put} />;
    case 'command':
      return <TextOption is={is} put={put} label="Types the line" />;
    case 'words':
      return <TextOption is={is} put={put} label="Words" />;
    default:
      return null;
  }
}

/** What a piece is, beyond its place. */
export function Options({ piece, put }: { piece: PieceRow; put: (is: PieceIs) => void }) {
  return (
    <div className="space-y-2">
      <Target is={piece.is} put={put} />
      <Own is={piece.is} put={put} />
    </div>
  );
}
