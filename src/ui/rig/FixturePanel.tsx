/** The selected fixture: its switches and channels, what lies between level and wire, its wheels and circuit, and what can be done with it. */
'use client';
import { useState } from 'react';
import {
  attributeInfo,
  channelCount,
  hasVirtualDimmer,
  scaledByVirtual,
} from '@/core/rig/attributes';
import { formatPoint, formatPoints, modeOf, morePoints, widthAt } from '@/core/fixtures/points';
import { rawOf, sayLevel } from '@/core/rig/channel';
import { capacity_W, powerSettings, wattsOf } from '@/core/rig/power';
import { sourceAttribute, transformed } from '@/core/rig/transform';
import { plural } from '@/core/words';
import { slotKey } from '@/core/cues/rows';
import type { FixtureRow } from '@/core/fixtures/rows';
import type { TypeRow } from '@/core/types/rows';
import { Button, Check, Choice, Field, Scrub } from '../parts/controls';
import { live } from '../state/commands';
import { edit } from '../state/edits';
import { levels, useLevelTick } from '../state/levels';
import { mayEdit, mayPlay, useScreen, useShow } from '../state/store';
import { RunningMacros } from './fixtures/macros';
import { putBack, takeOff } from './FixtureMenu';
import { doIt, useRig } from './rig-state';
import { Limits } from './limits/Limits';
import { Switches } from './Switches';
import { WheelSlots } from './WheelSlots';
import { useReport } from './use-report';
import { useParts } from '../state/use-parts';

const SHOWN = 12;

/** Channels as they are sent now: the level in words, and the byte values. */
function Channels({ fixture, type }: { fixture: FixtureRow; type: TypeRow | undefined }) {
  useLevelTick();
  const show = useShow();
  const { index, over } = useParts(useScreen, 'index', 'over');
  const [all, setAll] = useState(false);
  const mode = modeOf(show, fixture);
  if (!mode) return null;
  const virtual = hasVirtualDimmer(mode);
  const at = (attribute: string): number =>
    levels.now[index.get(slotKey(fixture.id, attribute)) ?? -1] ?? 0;
  const dimmer = virtual ? transformed(fixture.transforms?.Dimmer, at('Dimmer')) : 1;
  const channels = all ? mode.channels : mode.channels.slice(0, SHOWN);
  const parked = new Set(
    over.parked.filter((p) => p.fixtureId === fixture.id).map((p) => p.attribute),
  );
  return (
    <section aria-label="Channels" className="px-4 py-2.5">
      <div className="mb-1 flex items-baseline justify-between">
        <span className="cap">Channels</span>
        {mode.channels.length > SHOWN && (
          <button
            type="button"
            className="text-[12px] text-muted hover:text-soft"
            aria-expanded={all}
            onClick={() => setAll(!all)}
          >
            {all ? `first ${SHOWN}` : `all ${mode.channels.length}`}
          </button>
        )}
      </div>
      {virtual && (
        <div
          className="flex h-[26px] items-center justify-between"
          title="Has no channel of its own: its emitters are scaled by it"
        >
          <span className="pl-[40px] text-soft">Intensity</span>
          <span className="num text-[12px] text-muted">virtual {Math.round(dimmer * 100)} %</span>
        </div>
      )}
      {channels.map((c) => {
        const scale = virtual && scaledByVirtual(mode, c) ? dimmer : 1;
        const level =
          transformed(
            fixture.transforms?.[c.attribute],
            at(sourceAttribute(fixture, c.attribute)),
          ) * scale;
        const point = fixture.patch.find((p) => (p.break ?? 1) === (c.break ?? 1));
        return (
          <div
            key={c.attribute}
            className="grid h-[26px] grid-cols-[40px_1fr_auto] items-center"
            title={`${c.attribute}${c.offset.length > 1 ? `, ${c.offset.length * 8} bit` : ''}: ${rawOf(c, level)} of ${256 ** c.offset.length - 1}`}
          >
            <span className="num text-[12px] text-muted">
              {point ? point.address + (c.offset[0] ?? 1) - 1 : (c.offset[0] ?? 1)}
            </span>
            <span className="truncate pr-2 text-soft">
              {attributeInfo(c.attribute).label}
              {parked.has(c.attribute) && <span className="text-warning"> parked</span>}
            </span>
            <span className="num text-[12px] whitespace-nowrap">
              {sayLevel(type, c, level, fixture, at)}
            </span>
          </div>
        );
      })}
    </section>
  );
}

/** The same fields of all that are chosen. */
const changeAll = (
  chosen: readonly FixtureRow[],
  set: (fixture: FixtureRow) => Record<string, unknown>,
): Promise<unknown> =>
  edit('change-fixtures', { fixtures: chosen.map((f) => ({ id: f.id, set: set(f) })) });

function PowerLine({ chosen, disabled }: { chosen: readonly FixtureRow[]; disabled: boolean }) {
  const show = useShow();
  const first = chosen.at(-1);
  if (!first) return null;
  const circuits = [...show.circuits.values()].sort((a, b) =>
    a.name.localeCompare(b.name, undefined, { numeric: true }),
  );
  return (
    <section aria-label="Power" className="border-t border-line px-4 py-2.5">
      <div className="flex items-center justify-between">
        <span className="cap">Power</span>
        <Watts chosen={chosen} first={first} disabled={disabled} />
      </div>
      {circuits.length === 0 ? (
        <p className="mt-1 text-[12px] text-muted">No circuits yet; they are made under Power.</p>
      ) : (
        <Choice
          label="Circuit"
          value={first.circuitId ?? ''}
          disabled={disabled}
          onChange={(e) =>
            void changeAll(chosen, () => ({
              circuitId: e.target.value === '' ? null : e.target.value,
            }))
          }
          options={[
            { value: '', label: 'none' },
            ...circuits.map((c) => ({
              value: c.id,
              label: `${c.name} · ${c.breaker_A} A · phase ${c.phase}`,
            })),
          ]}
        />
      )}
      <CircuitLoad circuitId={first.circuitId} />
    </section>
  );
}

/** What one draws: as its type says, or as another lamp in it does. */
function Watts({
  chosen,
  first,
  disabled,
}: {
  chosen: readonly FixtureRow[];
  first: FixtureRow;
  disabled: boolean;
}) {
  const show = useShow();
  const ofType = show.types.get(first.typeId)?.watts ?? 0;
  return (
    <span
      className="flex items-center text-[12px] text-muted"
      title={`The type draws ${ofType} W; a unit with another lamp says its own`}
    >
      {first.watts !== undefined && (
        <button
          type="button"
          disabled={disabled}
          className="mr-1 underline decoration-dotted hover:text-soft"
          onClick={() => void changeAll(chosen, () => ({ watts: null }))}
        >
          as the type, {ofType}
        </button>
      )}
      <Scrub
        label="Watts of this unit"
        value={wattsOf(show, first)}
        unit="W each"
        min={0}
        max={20_000}
        step={10}
        disabled={disabled}
        onSettled={(watts) =>
          changeAll(chosen, (f) => ({
            watts: watts === show.types.get(f.typeId)?.watts ? null : watts,
          }))
        }
      />
    </span>
  );
}

/** What is on the circuit at full, and how much of it that is. */
function CircuitLoad({ circuitId }: { circuitId: string | undefined }) {
  const show = useShow();
  const load = useReport().loads.find((l) => l.circuit?.id === circuitId);
  if (!load?.circuit) return null;
  const power = powerSettings(show);
  const most_W = capacity_W(load.circuit, power);
  const share = load.full_W / most_W;
  const within = share > power.safety ? 'bg-warning' : 'bg-muted';
  return (
    <>
      <div
        className="mt-2 h-1.5 overflow-hidden rounded bg-lift"
        role="meter"
        aria-label={`Load of circuit ${load.circuit.name} at full`}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(share * 100)}
      >
        <i
          className={`block h-full ${share > 1 ? 'bg-danger' : within}`}
          style={{ width: `${Math.min(100, share * 100)}%` }}
        />
      </div>
      <p className="num mt-1 text-[12px] text-muted">
        <b className="font-medium text-text">{Math.round(load.full_W)} W</b> at full of{' '}
        {Math.round(most_W)} W · {load.fixtures.length} on it
      </p>
    </>
  );
}

/** Another address for the same number. */
function AddAddress({ fixture, onClose }: { fixture: FixtureRow; onClose: () => void }) {
  const show = useShow();
  const [text, setText] = useState('');
  const points = morePoints(text, widthAt(modeOf(show, fixture), { universe: 1, address: 1 }));
  return (
    <form
      className="mt-2 flex items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (points)
          void edit('change-fixtures', {
            fixtures: [{ id: fixture.id, set: { patch: [...fixture.patch, ...points] } }],
          }).then((a) => 'seq' in a && onClose());
      }}
    >
      <Field
        label="Also at"
        number
        autoFocus
        className="flex-1"
        value={text}
        placeholder="2.301, 2.305 or 2.301 x4"
        onChange={(e) => setText(e.target.value)}
        problem={
          text.trim() !== '' && !points
            ? 'Like 2.301, 2.305, or 2.301 x4 for four of them one after the other'
            : undefined
        }
      />
      <Button type="submit" disabled={!points}>
        {points && points.length > 1 ? `Add ${points.length}` : 'Add'}
      </Button>
    </form>
  );
}

/** The fixture that is selected, in its fields. */
export function FixturePanel() {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const editable = mayEdit(useScreen((s) => s.you.role));
  const chosen = selection.flatMap((id) => show.fixtures.get(id) ?? []);
  const fixture = chosen.at(-1);
  if (!fixture) return <NothingSelected />;
  const [first] = fixture.patch;
  return (
    <aside
      aria-label="Fixture"
      data-of={`fixtures/${fixture.id}`}
      className="flex h-full flex-col bg-panel"
    >
      <PanelHead fixture={fixture} count={chosen.length} />
      <div className="min-h-0 flex-1 overflow-y-auto">
        {first && <Switches address={first.address} place={formatPoint(first)} />}
        <Channels fixture={fixture} type={show.types.get(fixture.typeId)} />
        <Limits chosen={chosen} disabled={!editable} />
        <WheelSlots chosen={chosen} disabled={!editable} />
        <PowerLine chosen={chosen} disabled={!editable} />
        {editable && <PanelActions chosen={chosen} fixture={fixture} />}
      </div>
      <RunningMacros />
    </aside>
  );
}

function NothingSelected() {
  return (
    <aside aria-label="Fixture" className="flex h-full flex-col bg-panel text-muted">
      <div className="flex-1 p-4">
        <p className="font-semibold text-soft">No fixture selected</p>
        <p className="mt-1">
          Click one in the table or on the map. Double click a number, label or address in the table
          to change it; Shift and click takes a whole column.
        </p>
      </div>
      <RunningMacros />
    </aside>
  );
}

/** Which one it is, of what type, and where it stands. */
function PanelHead({ fixture, count }: { fixture: FixtureRow; count: number }) {
  const show = useShow();
  const type = show.types.get(fixture.typeId);
  const mode = modeOf(show, fixture);
  const what = `${type?.maker} ${type?.name} · ${fixture.mode}`;
  const wasAt = fixture.wasAt ? `, was at ${formatPoints(fixture.wasAt)}` : '';
  return (
    <div className="flex-none border-b border-line px-4 py-2.5">
      <div className="flex items-baseline gap-2">
        <b className="num text-[18px] font-semibold text-standby">{fixture.number}</b>
        <b className="truncate text-[15px] font-semibold">{fixture.label}</b>
      </div>
      <p className="truncate text-muted" title={what}>
        {what} · {mode ? channelCount(mode) : 0} ch
      </p>
      <p className="num truncate text-[12px] text-soft">
        {formatPoints(fixture.patch) || `off the rig${wasAt}`}
      </p>
      {count > 1 && (
        <p className="text-[12px] text-standby">{count} selected; changes go to all of them</p>
      )}
    </div>
  );
}

/** What is done with those that are chosen. */
function PanelActions({ chosen, fixture }: { chosen: readonly FixtureRow[]; fixture: FixtureRow }) {
  const { you, over } = useParts(useScreen, 'you', 'over');
  const doing = useRig((s) => s.doing);
  const isOne = chosen.length === 1;
  const isOn = chosen.some((f) => f.patch.length > 0);
  const ids = new Set(chosen.map((f) => f.id));
  const isParked = over.parked.some((p) => ids.has(p.fixtureId));
  const park = (): void =>
    void live({ command: 'park', fixtures: chosen.map((f) => f.number), on: !isParked });
  return (
    <section aria-label="Actions" className="border-t border-line px-4 py-2.5">
      <Check
        checked={fixture.noGrandMaster}
        onChange={(noGrandMaster) => void changeAll(chosen, () => ({ noGrandMaster }))}
      >
        Grand master leaves it alone
      </Check>
      <div className="mt-1 grid grid-cols-2 gap-1.5">
        <Button onClick={() => doIt('swap')}>Swap type …</Button>
        <Button onClick={() => doIt('copy')} disabled={!isOne}>
          Copy to …
        </Button>
        {isOn ? (
          <Button onClick={() => takeOff(chosen)}>Off the rig</Button>
        ) : (
          <Button onClick={() => putBack(chosen.map((f) => f.id))}>Back on</Button>
        )}
        <Button
          onClick={() => doIt(doing === 'patch' ? null : 'patch')}
          disabled={!isOne || fixture.patch.length === 0}
          title="One more address with the same values"
        >
          Also at …
        </Button>
        {mayPlay(you.role) && <Button onClick={park}>{isParked ? 'Let off park' : 'Park'}</Button>}
        <Button onClick={() => doIt('macro')}>Control …</Button>
      </div>
      {doing === 'patch' && <AddAddress fixture={fixture} onClose={() => doIt(null)} />}
      <Button kind="danger" className="mt-2 w-full" onClick={() => doIt('delete')}>
        Delete {isOne ? fixture.number : plural(chosen.length, 'fixture')}
      </Button>
    </section>
  );
}
