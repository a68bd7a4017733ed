/**
 * For a phone on the ladder: find a fixture by number, by where it hangs, or on the plan; bring it up, hold it, go to the
 * next one, let it off, and check its address. Large, with one thumb.
 */
'use client';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useMemo, useState, type ReactNode } from 'react';
import { formatPoints } from '@/core/fixtures/points';
import { byNumber } from '@/core/select/select';
import type { FixtureRow } from '@/core/fixtures/rows';
import { Tabs } from '../parts/controls';
import { Plan } from '../plan/Plan';
import { live, said, select } from '../state/commands';
import { mayEdit, mayPlay, useScreen, useShow, usePlayback } from '../state/store';
import { RemoteBar, RemotesOff } from './RemoteBar';
import { useParts } from '../state/use-parts';

const BIG =
  'flex min-h-14 items-center justify-center gap-2 rounded-xl text-[17px] font-semibold disabled:opacity-40';
const LEVELS = [0.25, 0.5, 0.75, 1] as const;
type Find = 'number' | 'place' | 'plan';

const FINDS: { value: Find; label: string }[] = [
  { value: 'number', label: 'By number' },
  { value: 'place', label: 'By where it hangs' },
  { value: 'plan', label: 'On the plan' },
];

/** A page for whoever focuses: units one by one, lit. */
export function FocusPage() {
  const show = useShow();
  const { selection, over, connection, you } = useParts(
    useScreen,
    'selection',
    'over',
    'connection',
    'you',
  );
  const { remotes } = usePlayback('remotes');
  const version = show.version('fixtures');
  const all = useMemo(() => {
    void version;
    return byNumber(show);
  }, [show, version]);
  const fixture = show.fixtures.get(selection[0] ?? '');
  const can = connection === 'live' && remotes && mayPlay(you.role);
  const step = (by: 1 | -1): void => {
    const before = by === 1 ? -1 : 0;
    const at = fixture ? all.findIndex((f) => f.id === fixture.id) : before;
    choose(all[(at + by + all.length) % all.length]);
  };
  return (
    <div className="flex h-full flex-col bg-ink">
      <RemoteBar title="Focusing" />
      <RemotesOff />
      <section aria-label="The fixture" className="flex-none px-4 pt-3 pb-2 text-center">
        <Which fixture={fixture} onStep={step} />
        <Held fixture={fixture} can={can} />
        <Address fixture={fixture} can={can && mayEdit(you.role)} />
      </section>
      <Finder all={all} fixture={fixture} />
      {over.focus.length > 0 && (
        <button
          type="button"
          disabled={!can}
          onClick={() => void said({ command: 'focus', on: false, level: 1 })}
          className="min-h-12 flex-none bg-warning text-[15px] font-semibold text-ink disabled:opacity-60"
        >
          {over.focus.length} held: let all off
        </button>
      )}
    </div>
  );
}

const choose = (f: FixtureRow | undefined): void => {
  if (f) select([f.id]);
};

/** Which unit it is, and the one before and after it by number. */
function Which({
  fixture,
  onStep,
}: {
  fixture: FixtureRow | undefined;
  onStep: (by: 1 | -1) => void;
}) {
  const step = (by: 1 | -1, label: string, sign: ReactNode) => (
    <button
      type="button"
      aria-label={label}
      onClick={() => onStep(by)}
      className={`${BIG} bg-raised`}
    >
      {sign}
    </button>
  );
  return (
    <div className="grid grid-cols-[56px_1fr_56px] items-center gap-2">
      {step(-1, 'The one before', <ChevronLeft />)}
      <div className="min-w-0">
        <div
          data-testid="focus-number"
          className="num text-[46px] leading-[50px] font-semibold text-standby"
        >
          {fixture?.number ?? '–'}
        </div>
        <div className="truncate text-[15px]">{fixture ? fixture.label : 'Choose a fixture'}</div>
        <div className="truncate text-[12.5px] text-muted">
          {fixture
            ? `${fixture.hang || 'stands free'} · ${fixture.patch.length > 0 ? formatPoints(fixture.patch) : 'off the rig'}`
            : ' '}
        </div>
      </div>
      {step(1, 'The next one', <ChevronRight />)}
    </div>
  );
}

/** Held at a level over everything, let off, and highlight. */
function Held({ fixture, can }: { fixture: FixtureRow | undefined; can: boolean }) {
  const focused = useScreen((s) => s.over.focus);
  const isHighlighted = useScreen((s) => s.programmer.highlight);
  const held = fixture ? focused.find((f) => f.fixtureId === fixture.id) : undefined;
  const focus = (on: boolean, level = 1): void => {
    if (fixture) void said({ command: 'focus', fixtures: [fixture.number], level, on });
  };
  return (
    <>
      {held && (
        <p className="mt-1 text-[13px] text-warning">
          held at {Math.round(held.level * 100)} % by {held.by}
        </p>
      )}
      <div className="mt-3 grid grid-cols-4 gap-2">
        {LEVELS.map((l) => (
          <button
            key={l}
            type="button"
            disabled={!can || !fixture}
            aria-pressed={held?.level === l}
            onClick={() => focus(true, l)}
            className={`${BIG} num ${held?.level === l ? 'bg-warning text-ink' : 'bg-raised'}`}
          >
            {l === 1 ? 'Full' : Math.round(l * 100)}
          </button>
        ))}
      </div>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <button
          type="button"
          disabled={!can || !held}
          onClick={() => focus(false)}
          className={`${BIG} bg-raised`}
        >
          Let it off
        </button>
        <button
          type="button"
          disabled={!can || !fixture}
          aria-pressed={isHighlighted}
          onClick={() => void live({ command: 'highlight' })}
          className={`${BIG} bg-raised`}
        >
          <span className={isHighlighted ? 'text-standby' : ''}>
            {isHighlighted ? 'Highlight is on' : 'Highlight'}
          </span>
        </button>
      </div>
    </>
  );
}

function Finder({ all, fixture }: { all: readonly FixtureRow[]; fixture: FixtureRow | undefined }) {
  const show = useShow();
  const [find, setFind] = useState<Find>('number');
  const [typed, setTyped] = useState('');
  const found = show.fixtureByNumber(Number(typed));
  return (
    <>
      <div className="flex-none px-4 pt-1">
        <Tabs
          label="Find"
          value={find}
          options={FINDS}
          onChange={setFind}
          className="[&_button]:!h-11 [&_button]:flex-1 [&_button]:!text-[14px]"
        />
      </div>
      <div className="min-h-0 flex-1 overflow-hidden px-4 pt-2 pb-3">
        {find === 'number' && (
          <Keypad
            typed={typed}
            found={found !== undefined}
            onType={setTyped}
            onFind={() => {
              choose(found);
              setTyped('');
            }}
          />
        )}
        {find === 'place' && <Places all={all} chosen={fixture?.id} onChoose={choose} />}
        {find === 'plan' && (
          <div className="h-full overflow-hidden rounded-xl bg-panel">
            <Plan arrange={false} />
          </div>
        )}
      </div>
    </>
  );
}

/** Full on its first address, over everything, while it is pressed: is this cable this unit? */
function Address({ fixture, can }: { fixture: FixtureRow | undefined; can: boolean }) {
  const checks = useScreen((s) => s.over.checks);
  const mine = checks.filter((c) => c.mine);
  const point = fixture?.patch[0];
  const on =
    point !== undefined &&
    mine.some((c) => c.universe === point.universe && c.address === point.address);
  if (!point) return null;
  return (
    <button
      type="button"
      disabled={!can}
      aria-pressed={on}
      title={can ? undefined : 'Owners and programmers check addresses'}
      onClick={() =>
        void said({
          command: 'check',
          universe: point.universe,
          address: point.address,
          value: on ? null : 255,
        })
      }
      className={`${BIG} mt-2 w-full ${on ? 'bg-warning text-ink' : 'bg-raised'}`}
    >
      {on
        ? `Address ${point.universe}.${point.address} at 255: let it off`
        : `Check address ${point.universe}.${point.address}`}
    </button>
  );
}

function Keypad({
  typed,
  found,
  onType,
  onFind,
}: {
  typed: string;
  found: boolean;
  onType: (text: string) => void;
  onFind: () => void;
}) {
  const key = `${BIG} num bg-panel`;
  return (
    <div className="grid h-full grid-rows-[40px_repeat(4,minmax(44px,1fr))] gap-2">
      <output
        aria-label="Number"
        className={`num text-center text-[28px] leading-10 ${typed !== '' && !found ? 'text-danger' : ''}`}
      >
        {typed || ' '}
      </output>
      {[
        ['1', '2', '3'],
        ['4', '5', '6'],
        ['7', '8', '9'],
        ['C', '0', 'Find'],
      ].map((row) => (
        <div key={row.join()} className="grid grid-cols-3 gap-2">
          {row.map((k) => (
            <button
              key={k}
              type="button"
              data-key={k}
              disabled={k === 'Find' && !found}
              onClick={() => {
                if (k === 'Find') onFind();
                else onType(k === 'C' ? '' : `${typed}${k}`.slice(0, 5));
              }}
              className={`${key} !min-h-0 ${k === 'Find' ? 'bg-standby text-ink' : ''}`}
            >
              {k}
            </button>
          ))}
        </div>
      ))}
    </div>
  );
}

function Places({
  all,
  chosen,
  onChoose,
}: {
  all: readonly FixtureRow[];
  chosen: string | undefined;
  onChoose: (f: FixtureRow) => void;
}) {
  const places = useMemo(() => {
    const found = new Map<string, FixtureRow[]>();
    for (const f of all)
      found.set(f.hang || 'standing free', [...(found.get(f.hang || 'standing free') ?? []), f]);
    return [...found].sort(([a], [b]) => a.localeCompare(b, 'en', { numeric: true }));
  }, [all]);
  return (
    <div className="h-full overflow-y-auto">
      {places.map(([place, units]) => (
        <section key={place} aria-label={place} className="mb-3">
          <h2 className="cap mb-1">{place}</h2>
          <div className="grid grid-cols-5 gap-1.5">
            {units.map((f) => (
              <button
                key={f.id}
                type="button"
                onClick={() => onChoose(f)}
                title={f.label}
                className={`num h-12 rounded-lg text-[16px] ${f.id === chosen ? 'bg-standby text-ink' : 'bg-panel'}`}
              >
                {f.number}
              </button>
            ))}
          </div>
        </section>
      ))}
    </div>
  );
}
