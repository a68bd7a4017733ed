/** The selected fixture: its channels with what they are at, its place, what uses it, and taking it off. */
'use client';
import { useState } from 'react';
import { attributeInfo, hasVirtualDimmer, isEmitter } from '@/core/rig/attributes';
import { formatPoint, modeOf } from '@/core/rig/addresses';
import { numberRanges, plural } from '@/core/edits/edit';
import { slotKey } from '@/core/show/rows';
import { Button, Dialog } from '../parts/controls';
import { edit, tryEdit } from '../state/actions';
import { levels, useLevelTick } from '../state/levels';
import { mayEdit, useScreen, useShow } from '../state/store';

export function FixturePanel() {
  useLevelTick();
  const show = useShow();
  const { selection, index, you } = useScreen();
  const [asking, setAsking] = useState(false);
  const chosen = selection.flatMap((id) => show.fixtures.get(id) ?? []);
  const fixture = chosen.at(-1);
  if (!fixture) {
    return (
      <aside aria-label="Fixture" className="h-full bg-panel p-4 text-muted">
        <p className="font-semibold text-soft">No fixture selected</p>
        <p className="mt-1">Click one in the table or on the plan. Double click a number, label or address to change it.</p>
      </aside>
    );
  }
  const type = show.types.get(fixture.typeId);
  const mode = modeOf(show, fixture);
  const editable = mayEdit(you.role);
  const plan = asking ? tryEdit('delete-fixtures', { ids: chosen.map((f) => f.id) }) : undefined;
  const virtual = mode ? hasVirtualDimmer(mode) : false;
  const dimmer = virtual ? (levels.now[index.get(slotKey(fixture.id, 'Dimmer')) ?? -1] ?? 0) : 1;
  return (
    <aside aria-label="Fixture" className="flex h-full flex-col bg-panel">
      <div className="border-b border-line px-4 py-3">
        <div className="flex items-baseline gap-2">
          <b className="num text-[18px] font-semibold text-standby">{fixture.number}</b>
          <b className="truncate text-[15px] font-semibold">{fixture.label}</b>
        </div>
        <p className="truncate text-muted">
          {type?.maker} {type?.name} · {mode?.footprint} ch
        </p>
        {chosen.length > 1 && <p className="mt-1 text-[12px] text-standby">{chosen.length} selected</p>}
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto px-4 py-2">
        <div className="mb-1 flex justify-between">
          <span className="cap">Channels</span>
          <span className="num text-[11.5px] text-muted">{fixture.patch.map(formatPoint).join(', ') || 'off the rig'}</span>
        </div>
        {virtual && (
          <div className="flex h-7 items-center justify-between" title="Has no channel of its own: its emitters are scaled by it">
            <span className="text-soft">Intensity</span>
            <span className="num text-[12px] text-muted">virtual {Math.round(dimmer * 100)}</span>
          </div>
        )}
        {mode?.channels.map((c) => {
          const level = (levels.now[index.get(slotKey(fixture.id, c.attribute)) ?? -1] ?? 0) * (isEmitter(c.attribute) && virtual ? dimmer : 1);
          const first = fixture.patch[0];
          return (
            <div key={c.attribute} className="grid h-7 grid-cols-[44px_1fr_auto] items-center">
              <span className="num text-[12px] text-muted">{first ? first.address + (c.offset[0] ?? 1) - 1 : c.offset[0]}</span>
              <span className="truncate text-soft">
                {attributeInfo(c.attribute).label}
                {c.offset.length > 1 && <span className="text-muted"> {c.offset.length * 8} bit</span>}
              </span>
              <span className="num text-[12px]" title="as sent, of 255">
                {Math.round(level * 255)}
              </span>
            </div>
          );
        })}
      </div>
      {editable && (
        <div className="border-t border-line p-3">
          <label className="mb-2 flex h-7 items-center gap-2 text-[12.5px] text-soft">
            <input type="checkbox" checked={fixture.noGrandMaster} onChange={(e) => void edit('change-fixtures', { fixtures: chosen.map((f) => ({ id: f.id, set: { noGrandMaster: e.target.checked } })) })} className="accent-[var(--color-standby)]" />
            Grand master leaves it alone
          </label>
          <Button kind="danger" className="w-full" onClick={() => setAsking(true)}>
            Delete {chosen.length === 1 ? fixture.number : plural(chosen.length, 'fixture')}
          </Button>
        </div>
      )}
      <Dialog open={asking} onOpenChange={setAsking} title={`Delete fixture ${numberRanges(chosen.map((f) => f.number))}?`}>
        <p className="text-soft">{plan && 'summary' in plan ? `${plan.summary.replace('Deleted', 'This deletes')}.` : plan?.message} Undo brings all of it back.</p>
        <div className="mt-4 flex justify-end gap-2">
          <Button kind="quiet" onClick={() => setAsking(false)}>
            Keep
          </Button>
          <Button
            kind="danger"
            onClick={() => {
              setAsking(false);
              void edit('delete-fixtures', { ids: chosen.map((f) => f.id) });
            }}
          >
            Delete
          </Button>
        </div>
      </Dialog>
    </aside>
  );
}
