/** What goes by itself: by the time of day, on weekdays and dates, with the sun; what comes next, and skipping it once. */
'use client';
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { fullDay, hourMinute, shortDay } from '@/core/dates';
import { formatCueNumber } from '@/core/cues/number';
import { coming } from '@/core/occasions/next';
import { OCCASION_DOES, SUN, type OccasionAt, type OccasionRow } from '@/core/occasions/rows';
import { sayAt } from '@/core/occasions/tables';
import { rowsByNumber } from '@/core/show/numbered';
import type { Show } from '@/core/show/show';
import { Button, Check, Dialog, Field, IconButton } from '../../parts/controls';
import { useWriting } from '../../parts/use-writing';
import { edit } from '../../state/actions';
import { mayEdit, useScreen, useShow } from '../../state/store';
import { useHouseNow } from '../../state/house-clock';

const DOES_WORDS = {
  go: 'GO on',
  goto: 'to a cue of',
  play: 'plays along time',
  release: 'releases',
} as const;
const DAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'] as const;
const SELECT = 'h-8 rounded-md bg-raised px-2 text-[13px]';
const NEXT = 8;
/** What has come is no longer next. */
const LOOK_MS = 5000;

const says = (show: Show, o: OccasionRow): string => {
  const list = show.lists.get(o.list)?.name ?? 'a list that is gone';
  const cue = show.cues.get(o.cue ?? '');
  return o.does === 'goto'
    ? `${list} to ${cue ? formatCueNumber(cue.number) : '?'}`
    : `${DOES_WORDS[o.does]} ${list}`;
};

/** What comes next, with a way to leave it out once. */
function Coming() {
  const show = useShow();
  const may = mayEdit(useScreen((s) => s.you.role));
  const place = show.settings.get('show')?.place;
  const now = useHouseNow(LOOK_MS);
  const next = coming(show.occasions.values(), new Date(now), place, NEXT);
  if (next.length === 0) return <p className="text-[12.5px] text-muted">Nothing goes by itself.</p>;
  return (
    <ul aria-label="What comes next">
      {next.map(({ occasion, at, day, isSkipped }) => (
        <li
          key={`${occasion.id}/${day}`}
          className="flex h-9 items-center gap-3 border-b border-raised text-[13px]"
        >
          <span className="num w-32 flex-none">
            {shortDay(at)}, {hourMinute(at)}
          </span>
          <span className={`min-w-0 flex-1 truncate ${isSkipped ? 'text-dim line-through' : ''}`}>
            {occasion.name}: {says(show, occasion)}
          </span>
          <Button
            disabled={!may}
            onClick={() => void edit('skip-occasion', { id: occasion.id, day, skip: !isSkipped })}
          >
            {isSkipped ? 'Do it after all' : 'Skip it once'}
          </Button>
        </li>
      ))}
    </ul>
  );
}

function NewOccasion({ onDone }: { onDone: () => void }) {
  const show = useShow();
  const lists = rowsByNumber(show.lists);
  const [name, setName] = useState('');
  const [list, setList] = useState(lists[0]?.id ?? '');
  const [does, setDoes] = useState<(typeof OCCASION_DOES)[number]>('go');
  const [cue, setCue] = useState('');
  const [by, setBy] = useState<'clock' | (typeof SUN)[number]>('clock');
  const [time, setTime] = useState('19:30');
  const [plus, setPlus] = useState('0');
  const [days, setDays] = useState<readonly number[]>([]);
  const [wrong, setWrong] = useState<string>();
  const save = async (): Promise<void> => {
    const at: OccasionAt =
      by === 'clock'
        ? {
            by: 'clock',
            time: /^\d\d?:\d\d$/.test(time.trim())
              ? `${time.trim().padStart(5, '0')}:00`
              : time.trim(),
          }
        : { by: 'sun', event: by, plus_min: Math.round(Number(plus)) };
    const set = {
      name: name.trim() || (by === 'clock' ? time.trim() : by),
      list,
      does,
      on: true,
      at,
      ...(does === 'goto' ? { cue } : {}),
      ...(days.length > 0 && days.length < 7 ? { days: [...days].sort() } : {}),
    };
    const answer = await edit('set-occasion', { set });
    if ('changes' in answer) onDone();
    else setWrong(answer.message);
  };
  return (
    <div className="space-y-2 rounded-lg bg-raised p-3">
      <Field
        label="Name"
        value={name}
        onChange={(e) => setName(e.target.value)}
        placeholder="Foyer in the evening"
      />
      <div className="flex flex-wrap items-center gap-2">
        <select
          aria-label="What it does"
          value={does}
          onChange={(e) => setDoes(OCCASION_DOES.find((d) => d === e.target.value) ?? 'go')}
          className={SELECT}
        >
          {OCCASION_DOES.map((d) => (
            <option key={d} value={d}>
              {DOES_WORDS[d]}
            </option>
          ))}
        </select>
        <select
          aria-label="List"
          value={list}
          onChange={(e) => setList(lists.find((l) => l.id === e.target.value)?.id ?? '')}
          className={SELECT}
        >
          {lists.map((l) => (
            <option key={l.id} value={l.id}>
              {l.name}
            </option>
          ))}
        </select>
        {does === 'goto' && (
          <select
            aria-label="Cue"
            value={cue}
            onChange={(e) => setCue(e.target.value)}
            className={SELECT}
          >
            <option value="">which cue?</option>
            {show.cuesOf(list).map((c) => (
              <option key={c.id} value={c.id}>
                {formatCueNumber(c.number)} {c.name}
              </option>
            ))}
          </select>
        )}
      </div>
      <div className="flex flex-wrap items-center gap-2">
        <select
          aria-label="When"
          value={by}
          onChange={(e) => setBy(SUN.find((s) => s === e.target.value) ?? 'clock')}
          className={SELECT}
        >
          <option value="clock">at a time of day</option>
          {SUN.map((s) => (
            <option key={s} value={s}>
              at {s}
            </option>
          ))}
        </select>
        {by === 'clock' ? (
          <input
            aria-label="Time of day"
            value={time}
            onChange={(e) => setTime(e.target.value)}
            className="num h-8 w-24 rounded-md bg-ink px-2 inset-ring inset-ring-edge"
          />
        ) : (
          <label className="flex items-center gap-2 text-[12.5px] text-muted">
            and minutes
            <input
              aria-label="Minutes after it"
              value={plus}
              onChange={(e) => setPlus(e.target.value)}
              className="num h-8 w-16 rounded-md bg-ink px-2 text-text inset-ring inset-ring-edge"
            />
          </label>
        )}
      </div>
      <div role="group" aria-label="On these days; none chosen is every day" className="flex gap-1">
        {DAYS.map((d, i) => (
          <button
            key={d}
            type="button"
            aria-pressed={days.includes(i)}
            onClick={() =>
              setDays((now) => (now.includes(i) ? now.filter((n) => n !== i) : [...now, i]))
            }
            className="h-8 rounded-md bg-ink px-2 text-[12.5px] text-muted aria-pressed:bg-standby-wash aria-pressed:text-standby"
          >
            {d}
          </button>
        ))}
      </div>
      {wrong !== undefined && <p className="text-[12.5px] text-danger">{wrong}</p>}
      <div className="flex justify-end gap-2">
        <Button kind="quiet" onClick={onDone}>
          Not now
        </Button>
        <Button kind="strong" onClick={() => void save()}>
          Make it
        </Button>
      </div>
    </div>
  );
}

const HOUSE_AT = 'Place of the house';

/** Where the house stands: without it there is no sun. */
function Place() {
  const show = useShow();
  const may = mayEdit(useScreen((s) => s.you.role));
  const place = show.settings.get('show')?.place;
  const shown = place ? `${place.latitude}, ${place.longitude}` : '';
  const { field, problem: wrong } = useWriting(HOUSE_AT, shown, (text) => {
    const read = /^(-?\d{1,2}(?:\.\d+)?)(?:\s*[,;]\s*|\s+)(-?\d{1,3}(?:\.\d+)?)$/.exec(text.trim());
    return read
      ? edit('change-show', {
          set: { place: { latitude: Number(read[1]), longitude: Number(read[2]) } },
        })
      : 'Degrees north and east, like 54.32, -7.65. Nothing was changed.';
  });
  return (
    <label className="flex flex-wrap items-center gap-2 text-[12.5px] text-muted">
      The house stands at, north and east
      <input
        {...field}
        aria-label={HOUSE_AT}
        disabled={!may}
        placeholder="54.32, -7.65"
        className="num h-8 w-36 rounded-md bg-ink px-2 text-text inset-ring inset-ring-edge"
      />
      {!place && <span className="text-warning">without it there is no sunrise</span>}
      {wrong !== undefined && <span className="text-danger">{wrong}</span>}
    </label>
  );
}

export function CalendarDialog({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const may = mayEdit(useScreen((s) => s.you.role));
  const [adding, setAdding] = useState(false);
  const now = useHouseNow(LOOK_MS);
  const all = rowsByNumber(show.occasions);
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title="Calendar"
      about={`What goes by itself while this show is on air, in the time of the player’s machine. Today is ${fullDay(now)}.`}
      width="w-[600px]"
    >
      <div className="max-h-[64vh] space-y-4 overflow-y-auto">
        <Coming />
        <section aria-label="Occasions">
          {all.map((o) => (
            <div key={o.id} className="flex h-9 items-center gap-3 text-[13px]">
              <Check
                checked={o.on}
                onChange={(on) => {
                  const { id, number, skipped, ...set } = o;
                  void [number, skipped];
                  void edit('set-occasion', { id, set: { ...set, on } });
                }}
              >
                {o.name}
              </Check>
              <span className="min-w-0 flex-1 truncate text-muted">
                {says(show, o)}, {sayAt(o.at)}
                {o.days ? `, ${o.days.map((d) => DAYS[d]).join(' ')}` : ''}
              </span>
              <IconButton
                label={`Delete ${o.name}`}
                disabled={!may}
                onClick={() => void edit('delete-occasion', { id: o.id })}
              >
                <Trash2 size={14} />
              </IconButton>
            </div>
          ))}
        </section>
        {adding ? (
          <NewOccasion onDone={() => setAdding(false)} />
        ) : (
          <Button disabled={!may} onClick={() => setAdding(true)}>
            <Plus size={14} /> Another occasion
          </Button>
        )}
        <Place />
      </div>
    </Dialog>
  );
}
