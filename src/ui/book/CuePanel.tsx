/** The cue that is looked at: name, number, call, notes, how the next one comes, each changed where it stands. */
'use client';
import { formatTime } from '@/core/cues/clock';
import { formatCueNumber, parseCueNumber } from '@/core/cues/number';
import { stateAt } from '@/core/cues/tracking';
import { plural } from '@/core/words';
import { CLOCK_TIME, CURVES } from '@/core/cues/rows';
import type { CueRow } from '@/core/cues/rows';
import { edit } from '../state/actions';
import { useBookList } from '../state/book';
import { mayEdit, useScreen, useShow } from '../state/store';
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

export function CuePanel({ cue }: { cue: CueRow }) {
  const show = useShow();
  const { cues } = useBookList();
  const disabled = !mayEdit(useScreen((s) => s.you.role));
  const label = formatCueNumber(cue.number);
  const set = show.valuesOf(cue.id).size;
  const shown = stateAt(show, cue.listId, cue.number).size;
  const change = (fields: Record<string, unknown>): undefined => {
    void edit('change-cue', { id: cue.id, set: fields }, { quiet: true });
  };
  const text = (field: string, most: number) => (t: string) =>
    t.length > most
      ? `At most ${most} characters`
      : change({ [field]: t.trim() === '' && field.endsWith('Note') ? null : t.trim() });
  const onward = cue.follow_s !== null ? 'follow' : cue.after_s !== undefined ? 'after' : 'wait';
  return (
    <div
      className="space-y-1.5 overflow-y-auto px-3.5 pb-3"
      data-testid="cue-panel"
      data-of={`cues/${cue.id}`}
      data-scroll="cue-panel"
    >
      <p className="text-[12px] text-muted">
        Sets {plural(set, 'value')}, shows {shown}.
        {cue.block ? ' Blocked: nothing reaches past it.' : ''}
      </p>
      <Liked cue={cue} />
      <div className="flex gap-2">
        <Value
          label="Number"
          mono
          value={label}
          disabled={disabled}
          onDone={(t) => {
            const n = parseCueNumber(t);
            return n === undefined ? 'Like 2 or 2.5' : change({ number: n });
          }}
        />
        <Value label="Name" wide value={cue.name} disabled={disabled} onDone={text('name', 120)} />
        <Value
          label="Called on"
          wide
          value={cue.call}
          disabled={disabled}
          onDone={text('call', 120)}
        />
      </div>
      <div className="flex gap-2">
        <Time label="Up" value={cue.up_s} disabled={disabled} onDone={(t) => change({ up_s: t })} />
        <Time
          label="Down"
          value={cue.down_s}
          disabled={disabled}
          onDone={(t) => change({ down_s: t })}
        />
        <Time
          label="Delay"
          value={cue.delay_s}
          disabled={disabled}
          onDone={(t) => change({ delay_s: t })}
        />
        <label className="block min-w-0 flex-1">
          <span className="block truncate text-[12px] leading-4 text-muted">Curve</span>
          <select
            disabled={disabled}
            value={cue.curve ?? ''}
            onChange={(e) => change({ curve: e.target.value === '' ? null : e.target.value })}
            className={SELECT}
          >
            <option value="">As usual</option>
            {CURVES.map((c) => (
              <option key={c} value={c}>
                {CURVE_WORDS[c]}
              </option>
            ))}
          </select>
        </label>
      </div>
      <div className="flex gap-2">
        <label className="block min-w-0 flex-1">
          <span className="block truncate text-[12px] leading-4 text-muted">The next cue</span>
          <select
            disabled={disabled}
            value={onward}
            onChange={(e) =>
              change(
                e.target.value === 'wait'
                  ? { follow_s: null, after_s: null }
                  : e.target.value === 'follow'
                    ? { follow_s: cue.after_s ?? 3 }
                    : { after_s: cue.follow_s ?? 1 },
              )
            }
            className={SELECT}
          >
            <option value="wait">waits for GO</option>
            <option value="follow">follows this GO</option>
            <option value="after">follows the end</option>
          </select>
        </label>
        {onward !== 'wait' && (
          <Time
            label="After"
            value={cue.follow_s ?? cue.after_s}
            disabled={disabled}
            onDone={(t) => change(onward === 'follow' ? { follow_s: t } : { after_s: t })}
          />
        )}
        <label className="block min-w-0 flex-1">
          <span className="block truncate text-[12px] leading-4 text-muted">and is</span>
          <select
            disabled={disabled}
            value={cue.link?.to ?? ''}
            onChange={(e) =>
              change({ link: e.target.value === '' ? null : { to: e.target.value } })
            }
            className={SELECT}
          >
            <option value="">the next in order</option>
            {cues.map((c) => (
              <option key={c.id} value={c.id}>
                {formatCueNumber(c.number)} {c.name}
              </option>
            ))}
          </select>
        </label>
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
          onDone={(t) =>
            t.trim() === ''
              ? change({ clock: null })
              : CLOCK_TIME.test(t.trim())
                ? change({ clock: t.trim() })
                : 'Like 19:30:00'
          }
        />
      </div>
      <div className="flex gap-2">
        <Value
          area
          wide
          label="Note for the programmer"
          value={cue.note}
          disabled={disabled}
          onDone={(t) => (t.length > 2000 ? 'At most 2000 characters' : change({ note: t }))}
        />
        <Value
          area
          wide
          label="For the operator"
          value={cue.operatorNote ?? ''}
          disabled={disabled}
          onDone={text('operatorNote', 2000)}
        />
        <Value
          area
          wide
          label="For the designer"
          value={cue.designerNote ?? ''}
          disabled={disabled}
          onDone={text('designerNote', 2000)}
        />
      </div>
      <label className="flex items-center gap-2 text-[12.5px] text-soft">
        Dark heads move before this cue
        <select
          disabled={disabled}
          value={cue.prePosition === undefined ? '' : cue.prePosition ? 'on' : 'off'}
          onChange={(e) =>
            change({ prePosition: e.target.value === '' ? null : e.target.value === 'on' })
          }
          className="h-7 rounded-md bg-ink px-1.5 text-[12.5px] shadow-[inset_0_0_0_1px_var(--color-edge)]"
        >
          <option value="">
            as the list says{show.lists.get(cue.listId)?.prePosition ? ' (yes)' : ' (no)'}
          </option>
          <option value="on">yes</option>
          <option value="off">no</option>
        </select>
        {onward !== 'wait' && (
          <span className="text-muted">
            Next in {formatTime(cue.follow_s ?? cue.after_s ?? 0)} s
          </span>
        )}
      </label>
    </div>
  );
}
