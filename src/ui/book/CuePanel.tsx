/** The cue that is looked at: name, number, call, notes, how the next one comes, each changed where it stands. */
'use client';
import type { ReactNode } from 'react';
import { formatTime } from '@/core/cues/clock';
import { formatCueNumber, parseCueNumber } from '@/core/cues/number';
import { stateAt } from '@/core/cues/tracking';
import { plural } from '@/core/words';
import { CLOCK_TIME, CURVES } from '@/core/cues/rows';
import type { CueRow } from '@/core/cues/rows';
import { edit } from '../state/edits';
import { useBookList } from '../state/book';
import { mayEdit, useScreen, useShow } from '../state/store';
import type { Written } from '../parts/use-writing';
import { Time, Value } from './fields';
import { Liked } from './Liked';

const SELECT =
  'mt-0.5 h-7 w-full rounded-md bg-ink px-1.5 text-[12.5px] shadow-[inset_0_0_0_1px_var(--color-edge)] disabled:text-dim';
const CURVE_WORDS = {
  linear: 'Linear',
  smooth: 'Eased',
  'ease-in': 'Slow start',
  'ease-out': 'Slow end',
} as const;

/** A cue, and what it takes to change it where it stands. */
interface Editing {
  cue: CueRow;
  disabled: boolean;
  change: (fields: Record<string, unknown>) => Promise<unknown>;
}
const MOST_LETTERS = { line: 120, note: 2000 } as const;

/** A text of at most so many letters. @param isCleared empty, it is not there */
const textField =
  ({ change }: Editing, field: keyof CueRow, most: number, isCleared = false) =>
  (t: string): Written => {
    const text = t.trim();
    return t.length > most
      ? `At most ${most} characters`
      : change({ [field]: text === '' && isCleared ? null : text });
  };

/** A cue’s own fields. */
export function CuePanel({ cue }: { cue: CueRow }) {
  const show = useShow();
  const disabled = !mayEdit(useScreen((s) => s.you.role));
  const editing: Editing = {
    cue,
    disabled,
    change: (set) => edit('change-cue', { id: cue.id, set }, { quiet: true }),
  };
  const sets = show.valuesOf(cue.id).size;
  const shown = stateAt(show, cue.listId, cue.number).size;
  return (
    <div
      className="space-y-1.5 overflow-y-auto px-3.5 pb-3"
      data-testid="cue-panel"
      data-of={`cues/${cue.id}`}
      data-scroll="cue-panel"
    >
      <p className="text-[12px] text-muted">
        Sets {plural(sets, 'value')}, shows {shown}.
        {cue.block ? ' Blocked: nothing reaches past it.' : ''}
      </p>
      <Liked cue={cue} />
      <Called {...editing} />
      <Times {...editing} />
      <Onward {...editing} />
      <Notes {...editing} />
      <EarlyMoves {...editing} />
    </div>
  );
}

/** A choice of a few, with its name above it. */
function Pick({
  label,
  value,
  disabled,
  onPick,
  children,
}: {
  label: string;
  value: string;
  disabled: boolean;
  onPick: (value: string) => void;
  children: ReactNode;
}) {
  return (
    <label className="block min-w-0 flex-1">
      <span className="block truncate text-[12px] leading-4 text-muted">{label}</span>
      <select
        disabled={disabled}
        value={value}
        onChange={(e) => onPick(e.target.value)}
        className={SELECT}
      >
        {children}
      </select>
    </label>
  );
}

function Called(editing: Editing) {
  const { cue, disabled, change } = editing;
  return (
    <div className="flex gap-2">
      <Value
        label="Number"
        mono
        value={formatCueNumber(cue.number)}
        disabled={disabled}
        onDone={(t) => {
          const number = parseCueNumber(t);
          return number === undefined ? 'Like 2 or 2.5' : change({ number });
        }}
      />
      <Value
        label="Name"
        wide
        value={cue.name}
        disabled={disabled}
        onDone={textField(editing, 'name', MOST_LETTERS.line)}
      />
      <Value
        label="Called on"
        wide
        value={cue.call}
        disabled={disabled}
        onDone={textField(editing, 'call', MOST_LETTERS.line)}
      />
    </div>
  );
}

const TIMES = [
  ['up_s', 'Up'],
  ['down_s', 'Down'],
  ['delay_s', 'Delay'],
] as const;

function Times({ cue, disabled, change }: Editing) {
  return (
    <div className="flex gap-2">
      {TIMES.map(([field, label]) => (
        <Time
          key={field}
          label={label}
          value={cue[field]}
          disabled={disabled}
          onDone={(t) => change({ [field]: t })}
        />
      ))}
      <Pick
        label="Curve"
        disabled={disabled}
        value={cue.curve ?? ''}
        onPick={(curve) => void change({ curve: curve === '' ? null : curve })}
      >
        <option value="">As usual</option>
        {CURVES.map((c) => (
          <option key={c} value={c}>
            {CURVE_WORDS[c]}
          </option>
        ))}
      </Pick>
    </div>
  );
}

type Way = 'wait' | 'follow' | 'after';
function wayOf({ follow_s, after_s }: CueRow): Way {
  if (follow_s !== null) return 'follow';
  return after_s === undefined ? 'wait' : 'after';
}
/** The time that the way before had goes along. */
const FIELDS_OF: Record<Way, (cue: CueRow) => Record<string, number | null>> = {
  wait: () => ({ follow_s: null, after_s: null }),
  follow: (cue) => ({ follow_s: cue.after_s ?? 3 }),
  after: (cue) => ({ after_s: cue.follow_s ?? 1 }),
};

/** How the next cue comes, and which one that is. */
function Onward({ cue, disabled, change }: Editing) {
  const { cues } = useBookList();
  const way = wayOf(cue);
  return (
    <div className="flex gap-2">
      <Pick
        label="The next cue"
        disabled={disabled}
        value={way}
        onPick={(to) => void change(FIELDS_OF[to as Way](cue))}
      >
        <option value="wait">waits for GO</option>
        <option value="follow">follows this GO</option>
        <option value="after">follows the end</option>
      </Pick>
      {way !== 'wait' && (
        <Time
          label="After"
          value={cue.follow_s ?? cue.after_s}
          disabled={disabled}
          onDone={(t) => change(way === 'follow' ? { follow_s: t } : { after_s: t })}
        />
      )}
      <Pick
        label="and is"
        disabled={disabled}
        value={cue.link?.to ?? ''}
        onPick={(to) => void change({ link: to === '' ? null : { to } })}
      >
        <option value="">the next in order</option>
        {cues.map((c) => (
          <option key={c.id} value={c.id}>
            {formatCueNumber(c.number)} {c.name}
          </option>
        ))}
      </Pick>
      {cue.link && (
        <Value
          label="Times"
          mono
          placeholder="always"
          value={cue.link.times === undefined ? '' : String(cue.link.times)}
          disabled={disabled}
          onDone={(t) => {
            const times = t.trim() === '' ? undefined : Number(t);
            if (times !== undefined && (!Number.isInteger(times) || times < 1 || times > 9999))
              return '1 to 9999';
            return change({
              link: { to: cue.link?.to, ...(times === undefined ? {} : { times }) },
            });
          }}
        />
      )}
      <Value
        label="At time of day"
        mono
        className="!w-[88px]"
        placeholder="19:30:00"
        value={cue.clock ?? ''}
        disabled={disabled}
        onDone={(t) => {
          const clock = t.trim();
          if (clock === '') return change({ clock: null });
          return CLOCK_TIME.test(clock) ? change({ clock }) : 'Like 19:30:00';
        }}
      />
    </div>
  );
}

function Notes(editing: Editing) {
  const { cue, disabled, change } = editing;
  return (
    <div className="flex gap-2">
      <Value
        area
        wide
        label="Note for the programmer"
        value={cue.note}
        disabled={disabled}
        onDone={(t) =>
          t.length > MOST_LETTERS.note
            ? `At most ${MOST_LETTERS.note} characters`
            : change({ note: t })
        }
      />
      <Value
        area
        wide
        label="For the operator"
        value={cue.operatorNote ?? ''}
        disabled={disabled}
        onDone={textField(editing, 'operatorNote', MOST_LETTERS.note, true)}
      />
      <Value
        area
        wide
        label="For the designer"
        value={cue.designerNote ?? ''}
        disabled={disabled}
        onDone={textField(editing, 'designerNote', MOST_LETTERS.note, true)}
      />
    </div>
  );
}

/** A choice that may also be left to the list. */
const asListed = (own: boolean | undefined): '' | 'on' | 'off' => {
  if (own === undefined) return '';
  return own ? 'on' : 'off';
};

function EarlyMoves({ cue, disabled, change }: Editing) {
  const list = useShow().lists.get(cue.listId);
  return (
    <label className="flex items-center gap-2 text-[12.5px] text-soft">
      Dark heads move before this cue
      <select
        disabled={disabled}
        value={asListed(cue.prePosition)}
        onChange={({ target: { value } }) =>
          void change({ prePosition: value === '' ? null : value === 'on' })
        }
        className="h-7 rounded-md bg-ink px-1.5 text-[12.5px] shadow-[inset_0_0_0_1px_var(--color-edge)]"
      >
        <option value="">as the list says{list?.prePosition ? ' (yes)' : ' (no)'}</option>
        <option value="on">yes</option>
        <option value="off">no</option>
      </select>
      {wayOf(cue) !== 'wait' && (
        <span className="text-muted">Next in {formatTime(cue.follow_s ?? cue.after_s ?? 0)} s</span>
      )}
    </label>
  );
}
