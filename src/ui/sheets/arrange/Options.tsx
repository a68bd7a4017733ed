/** What a piece is, in detail: what it points at, what a press does, which form it has. */
'use client';
import { seconds } from '@/core/cues/clock';
import { formatCueNumber } from '@/core/cues/number';
import {
  FADER_FORMS,
  LIST_PRESSES,
  TURNS_DEG,
  type PieceIs,
  type PieceRow,
} from '@/core/sheets/rows';
import { HELD_TABLES } from '@/core/faders/rows';
import { pointedAt } from '@/core/sheets/pieces';
import type { Show } from '@/core/show/show';
import { Check, Choice, Field } from '../../parts/controls';
import { optionsOf } from '../../parts/options';
import { notice } from '../../state/messages';
import { useShow } from '../../state/store';

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
        const { [field]: old, ...rest } = is as Record<string, unknown>;
        void old;
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
  const leave = (text: string): void => {
    if (text.trim() === value) return;
    const wrong = write(text.trim());
    if (wrong !== undefined) notice.error(wrong, { id: 'piece-text' });
  };
  return (
    <Field
      key={value}
      label={label}
      number={number}
      defaultValue={value}
      onBlur={(e) => leave(e.target.value)}
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
    />
  );
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

/** What only this kind has. */
function Own({ is, put }: { is: PieceIs; put: (is: PieceIs) => void }) {
  switch (is.kind) {
    case 'plan':
      return <PlanOptions is={is} put={put} />;
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
    case 'command':
      return <TextOption is={is} put={put} label="Types the line" />;
    case 'words':
      return <TextOption is={is} put={put} label="Words" />;
    default:
      return null;
  }
}

export function Options({ piece, put }: { piece: PieceRow; put: (is: PieceIs) => void }) {
  return (
    <div className="space-y-2">
      <Target is={piece.is} put={put} />
      <Own is={piece.is} put={put} />
    </div>
  );
}
