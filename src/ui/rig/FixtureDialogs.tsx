/** What is done with fixtures as a whole: swapping their type, copying programming, control macros, deleting. */
'use client';
import { useState } from 'react';
import { willDo } from '@/core/edits/will';
import { numberRanges } from '@/core/words';
import { plural } from '@/core/words';
import { swapReport } from '@/core/fixtures/edits/swap-type';
import { attributeInfo } from '@/core/rig/attributes';
import { modeOf, parsePoint } from '@/core/fixtures/points';
import { usesOf } from '@/core/rig/uses';
import type { FixtureRow } from '@/core/fixtures/rows';
import { canRun, lengthOf } from '@/core/types/macros';
import type { Macro, Mode, TypeRow } from '@/core/types/rows';
import { Ask, Button, Check, Choice, Dialog, Field, Tabs } from '../parts/controls';
import { edit, live, tryEdit } from '../state/actions';
import { typeAlong } from '../state/library';
import { ApiError } from '../state/api';
import { useScreen, useShow } from '../state/store';
import { TypeList } from './TypeList';

const numbersOf = (fixtures: readonly FixtureRow[]): string =>
  numberRanges(fixtures.map((f) => f.number));

const FATES = {
  same: 'kept',
  palette: 'follows its palette',
  converted: 'converted',
  clipped: 'as near as it can',
  dropped: 'dropped',
} as const;

export function SwapDialog({
  chosen,
  onClose,
}: {
  chosen: readonly FixtureRow[];
  onClose: () => void;
}) {
  const show = useShow();
  const [to, setTo] = useState<{ type: TypeRow; mode: Mode } | null>(null);
  const [where, setWhere] = useState<'keep' | 'next' | 'typed'>('keep');
  const [address, setAddress] = useState('');
  const [loseAll, setLoseAll] = useState(false);
  const point = parsePoint(address);
  const ids = chosen.map((f) => f.id);
  const params = to && {
    ids,
    typeId: to.type.id,
    ...typeAlong(to.type),
    mode: to.mode.name,
    address: where === 'typed' ? (point ?? { universe: 0, address: 0 }) : where,
    loseAll,
  };
  const plan = params ? tryEdit('swap-type', params) : undefined;
  const report = to ? swapReport(show, ids, to) : undefined;
  const nothing = report && !report.common && report.dropped > 0;
  const from = [...new Set(chosen.map((f) => show.types.get(f.typeId)?.name ?? ''))].join(', ');
  const swap = async (): Promise<void> => {
    if (!((await edit('swap-type', params)) instanceof ApiError)) onClose();
  };
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title={`Swap type of ${numbersOf(chosen)}`}
      about={`${from} now. Numbers, cues and groups stay; values are said again in the new type’s attributes.`}
      width="w-[820px]"
    >
      <div className="grid h-[430px] grid-cols-[300px_1fr] gap-4">
        <div className="flex min-h-0 flex-col rounded-lg bg-ink">
          <TypeList picked={to} onPick={setTo} />
        </div>
        <div className="flex min-h-0 flex-col">
          <fieldset className="flex flex-wrap items-center gap-x-4">
            <legend className="sr-only">Address</legend>
            {(
              [
                ['keep', 'keep the address'],
                ['next', 'next free'],
                ['typed', 'at'],
              ] as const
            ).map(([value, label]) => (
              <label key={value} className="flex h-8 items-center gap-2 text-soft">
                <input
                  type="radio"
                  name="where"
                  checked={where === value}
                  onChange={() => setWhere(value)}
                  className="size-4 accent-[var(--color-standby)]"
                />
                {label}
              </label>
            ))}
            <input
              aria-label="Address for the new type"
              value={address}
              placeholder="2.101"
              onFocus={() => setWhere('typed')}
              onChange={(e) => setAddress(e.target.value)}
              className="num h-8 w-20 rounded-md bg-ink px-2 shadow-[inset_0_0_0_1px_var(--color-edge)] outline-none focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)]"
            />
          </fieldset>
          <div className="mt-2 min-h-0 flex-1 overflow-y-auto" data-testid="swap-report">
            {!report && (
              <p className="text-muted">
                Pick the new type and mode on the left; what becomes of the programming is shown
                here before anything is done.
              </p>
            )}
            {report?.lines.length === 0 && (
              <p className="text-soft">
                No cue uses {chosen.length === 1 ? 'it' : 'them'} yet: nothing to convert.
              </p>
            )}
            {report && report.lines.length > 0 && (
              <table className="w-full text-left">
                <thead className="text-[12px] text-muted">
                  <tr className="h-7">
                    <th className="font-normal">Attribute</th>
                    <th className="font-normal">Becomes</th>
                    <th className="font-normal">How</th>
                    <th className="text-right font-normal">Values</th>
                  </tr>
                </thead>
                <tbody>
                  {report.lines.map((l) => (
                    <tr
                      key={`${l.attribute}${l.fate}${l.into}`}
                      className="h-7 border-t border-line"
                    >
                      <td>{attributeInfo(l.attribute).label}</td>
                      <td className="max-w-[170px] truncate text-soft" title={l.into}>
                        {l.into || '—'}
                      </td>
                      <td
                        className={
                          l.fate === 'dropped'
                            ? 'text-danger'
                            : l.fate === 'clipped'
                              ? 'text-warning'
                              : 'text-muted'
                        }
                      >
                        {FATES[l.fate]}
                      </td>
                      <td className="num text-right text-[12.5px]">{l.values}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
          </div>
          {nothing && (
            <Check checked={loseAll} onChange={setLoseAll}>
              Nothing in common: lose{' '}
              {report.dropped === 1 ? 'the only value' : `all ${report.dropped} values`}
            </Check>
          )}
          <p
            className={`mt-2 min-h-9 text-[12.5px] leading-[18px] ${plan && 'message' in plan ? 'text-warning' : 'text-soft'}`}
          >
            {plan
              ? 'message' in plan
                ? where === 'typed' && !point
                  ? 'Say the address, such as 2.101.'
                  : plan.message
                : `${willDo(plan.summary)}.`
              : ''}
          </p>
          <div className="flex justify-end gap-2">
            <Button kind="quiet" onClick={onClose}>
              Leave it
            </Button>
            <Button kind="strong" disabled={!plan || 'message' in plan} onClick={() => void swap()}>
              Swap {plural(chosen.length, 'fixture')}
            </Button>
          </div>
        </div>
      </div>
    </Dialog>
  );
}

/** Numbers as people write them: `103 thru 106, 110`. */
function fixturesIn(
  text: string,
  byNumber: (n: number) => FixtureRow | undefined,
): FixtureRow[] | undefined {
  const found: FixtureRow[] = [];
  for (const part of text
    .split(',')
    .map((t) => t.trim())
    .filter((t) => t !== '')) {
    const range = /^(\d+)(?:\s*(?:thru|to|-|–)\s*(\d+))?$/i.exec(part);
    if (!range) return undefined;
    const [low, high] = [Number(range[1]), Number(range[2] ?? range[1])];
    if (high < low || high - low > 10_000) return undefined;
    for (let n = low; n <= high; n++) {
      const f = byNumber(n);
      if (f) found.push(f);
    }
  }
  return found;
}

export function CopyDialog({ from, onClose }: { from: FixtureRow; onClose: () => void }) {
  const show = useShow();
  const [onto, setOnto] = useState<'patched' | 'new'>('patched');
  const [text, setText] = useState('');
  const [quantity, setQuantity] = useState('1');
  const [first, setFirst] = useState('');
  const [address, setAddress] = useState('');
  const to = fixturesIn(text, (n) => show.fixtureByNumber(n))?.filter((f) => f.id !== from.id);
  const point = address.trim() === '' ? undefined : parsePoint(address);
  const wrong = {
    quantity: !/^\d+$/.test(quantity),
    first: first.trim() !== '' && !/^\d+$/.test(first.trim()),
    address: address.trim() !== '' && !point,
  };
  const fresh =
    wrong.quantity || wrong.first || wrong.address
      ? undefined
      : {
          quantity: Number(quantity),
          ...(first.trim() === '' ? {} : { first: Number(first) }),
          ...(point ? { universe: point.universe, address: point.address } : {}),
        };
  const params =
    onto === 'new'
      ? fresh && { from: from.id, fresh }
      : to && to.length > 0
        ? { from: from.id, to: to.map((f) => f.id) }
        : undefined;
  const plan = params ? tryEdit('copy-programming', params) : undefined;
  const copy = async (): Promise<void> => {
    if (!((await edit('copy-programming', params)) instanceof ApiError)) onClose();
  };
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title={`Copy the programming of ${from.number}`}
      about={
        onto === 'new'
          ? `New units of its type and mode, which do in every cue what ${from.number} does, and stand in its groups.`
          : 'The others will do in every cue what this one does, and stand in its groups. What they did before goes; undo brings it back.'
      }
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (plan && !('message' in plan)) void copy();
        }}
      >
        <Tabs
          label="Onto"
          className="mb-3 -ml-2"
          value={onto}
          options={[
            { value: 'patched', label: 'Units in the rig' },
            { value: 'new', label: 'New units' },
          ]}
          onChange={setOnto}
        />
        {onto === 'patched' ? (
          <Field
            label="To fixtures"
            number
            autoFocus
            value={text}
            placeholder="103 thru 104, 110"
            onChange={(e) => setText(e.target.value)}
            problem={text.trim() !== '' && !to ? 'Numbers such as 103 thru 104, 110' : undefined}
          />
        ) : (
          <div className="grid grid-cols-3 gap-3">
            <Field
              label="How many"
              number
              autoFocus
              value={quantity}
              onChange={(e) => setQuantity(e.target.value)}
              problem={wrong.quantity ? 'A number' : undefined}
            />
            <Field
              label="First number"
              number
              value={first}
              placeholder="next free"
              onChange={(e) => setFirst(e.target.value)}
              problem={wrong.first ? 'A number' : undefined}
            />
            <Field
              label="Address"
              number
              value={address}
              placeholder="next free"
              onChange={(e) => setAddress(e.target.value)}
              problem={wrong.address ? 'Like 2.101' : undefined}
            />
          </div>
        )}
        <p
          data-testid="copy-says"
          className={`mt-3 min-h-9 text-[12.5px] leading-[18px] ${plan && 'message' in plan ? 'text-warning' : 'text-soft'}`}
        >
          {plan
            ? 'message' in plan
              ? plan.message
              : `${willDo(plan.summary)}.`
            : onto === 'patched' && to && text.trim() !== ''
              ? 'None of these numbers is in the rig.'
              : ''}
        </p>
        <div className="flex justify-end gap-2">
          <Button kind="quiet" onClick={onClose}>
            Leave it
          </Button>
          <Button kind="strong" type="submit" disabled={!plan || 'message' in plan}>
            {onto === 'new' ? 'Patch and copy' : 'Copy'}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

const lengthOfMacro = (macro: Macro | undefined): number => (macro ? lengthOf(macro) : 0);

export function MacroDialog({
  chosen,
  onClose,
}: {
  chosen: readonly FixtureRow[];
  onClose: () => void;
}) {
  const show = useShow();
  const names = [
    ...new Set(chosen.flatMap((f) => show.types.get(f.typeId)?.macros?.map((m) => m.name) ?? [])),
  ];
  const [name, setName] = useState(names[0] ?? '');
  const [stagger, setStagger] = useState('1');
  const [together, setTogether] = useState('1');
  const macroOf = (f: FixtureRow): Macro | undefined =>
    show.types.get(f.typeId)?.macros?.find((m) => m.name === name);
  const able = chosen.filter((f) => {
    const macro = macroOf(f);
    return macro !== undefined && canRun(modeOf(show, f), macro);
  });
  const hold = Math.max(0, ...able.map((f) => lengthOfMacro(macroOf(f))));
  const [gap, size] = [Number(stagger), Number(together)];
  const ok =
    Number.isFinite(gap) &&
    gap >= 0 &&
    gap <= 60 &&
    Number.isInteger(size) &&
    size >= 1 &&
    able.length > 0;
  const total = ok ? (Math.ceil(able.length / size) - 1) * gap + hold : 0;
  const start = async (): Promise<void> => {
    const reply = await live({
      command: 'macro',
      fixtures: chosen.map((f) => f.number),
      macro: name,
      stagger_s: gap,
      together: size,
    });
    if (reply.ok) onClose();
  };
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title={`Control of ${numbersOf(chosen)}`}
      about="Sent to the units themselves, over whatever plays. It can be stopped while it runs."
    >
      {names.length === 0 ? (
        <p className="text-soft">
          The types of these fixtures know no control macros. The type editor can give them some.
        </p>
      ) : (
        <>
          <div className="grid grid-cols-[1fr_96px_96px] gap-3">
            <Choice
              label="What"
              value={name}
              onChange={(e) => setName(e.target.value)}
              options={names.map((n) => ({ value: n, label: n }))}
            />
            <Field
              label="Seconds apart"
              number
              value={stagger}
              onChange={(e) => setStagger(e.target.value)}
            />
            <Field
              label="At a time"
              number
              value={together}
              onChange={(e) => setTogether(e.target.value)}
            />
          </div>
          <p className="mt-3 min-h-9 text-[12.5px] text-soft">
            {able.length === 0
              ? `“${name}” needs a control channel, which the modes of these fixtures do not have. Swap them to a mode with one.`
              : ok
                ? `${name} for ${numbersOf(able)}, done in ${total.toFixed(0)} s.${able.length < chosen.length ? ` ${chosen.length - able.length} have no such macro in their mode.` : ''}`
                : 'Seconds apart go from 0 to 60.'}
          </p>
          <div className="flex justify-end gap-2">
            <Button kind="quiet" onClick={onClose}>
              Leave it
            </Button>
            <Button kind="strong" disabled={!ok} onClick={() => void start()}>
              Start
            </Button>
          </div>
        </>
      )}
    </Dialog>
  );
}

/** Macros that run, wherever they were started. */
export function RunningMacros() {
  const { macros } = useScreen((s) => s.over);
  if (macros.length === 0) return null;
  return (
    <ul aria-label="Running macros" className="border-t border-line bg-raised px-4 py-2">
      {macros.map((m) => (
        <li key={m.id} className="flex min-h-9 items-center gap-2">
          <span className="min-w-0 flex-1">
            <span className="flex justify-between gap-2">
              <span className="truncate" title={`Started by ${m.by}`}>
                {m.name} <span className="text-[12px] text-muted">{m.by}</span>
              </span>
              <span className="num text-[12px]">
                {m.done}/{m.total}
              </span>
            </span>
            <span
              role="progressbar"
              aria-label={m.name}
              aria-valuemin={0}
              aria-valuemax={m.total}
              aria-valuenow={m.done}
              className="mt-0.5 block h-1 overflow-hidden rounded bg-lift"
            >
              <i
                className="block h-full bg-soft"
                style={{ width: `${(m.done / m.total) * 100}%` }}
              />
            </span>
          </span>
          <button
            type="button"
            className="h-7 rounded px-2 text-[12px] text-danger hover:bg-danger-wash"
            onClick={() => void live({ command: 'macro-cancel', id: m.id })}
          >
            Stop
          </button>
        </li>
      ))}
    </ul>
  );
}

export function DeleteAsk({
  chosen,
  onClose,
}: {
  chosen: readonly FixtureRow[];
  onClose: () => void;
}) {
  const show = useShow();
  const ids = chosen.map((f) => f.id);
  const uses = usesOf(show, ids);
  return (
    <Ask
      open
      onClose={onClose}
      title={`Delete fixture ${numbersOf(chosen)}?`}
      act="Delete"
      onAct={() => void edit('delete-fixtures', { ids })}
    >
      {uses.cues.length + uses.groups.length + uses.looks.length === 0 ? (
        <p>No cue, look or group uses {chosen.length === 1 ? 'it' : 'them'}.</p>
      ) : (
        <>
          <p>
            {[
              uses.cues.length > 0 && plural(uses.cues.length, 'cue'),
              uses.looks.length > 0 && plural(uses.looks.length, 'look'),
              uses.groups.length > 0 && plural(uses.groups.length, 'group'),
            ]
              .filter(Boolean)
              .join(', ')}{' '}
            lose what they say about {chosen.length === 1 ? 'it' : 'them'}:
          </p>
          <ul className="mt-2 max-h-40 overflow-y-auto rounded-md bg-ink px-3 py-1.5 text-[12.5px]">
            {uses.cues.map((c) => (
              <li key={c.id} className="flex justify-between">
                <span className="truncate">Cue {c.label}</span>
                <span className="text-muted">{plural(c.values, 'value')}</span>
              </li>
            ))}
            {uses.looks.map((l) => (
              <li key={l.id}>Look {l.label}</li>
            ))}
            {uses.groups.map((g) => (
              <li key={g.id}>Group {g.label}</li>
            ))}
          </ul>
        </>
      )}
      <p className="mt-2">
        Undo brings all of it back. To keep the programming, take{' '}
        {chosen.length === 1 ? 'it' : 'them'} off the rig instead.
      </p>
    </Ask>
  );
}
