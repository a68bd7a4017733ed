/** Parts of a cue: some of its values with times and a note of their own. */
'use client';
import { familyOf } from '@/core/rig/attributes';
import { plural } from '@/core/words';
import type { CuePart, CueRow } from '@/core/cues/rows';
import type { Family } from '@/core/show/fields';
import { Button, IconButton } from '../parts/controls';
import { Trash2 } from 'lucide-react';
import { edit } from '../state/actions';
import { mayEdit, useScreen, useShow } from '../state/store';
import { Time, Value } from './fields';
import { FAMILY_CHOICES } from './record';
import { useParts } from '../state/use-parts';

export function PartsPanel({ cue }: { cue: CueRow }) {
  const show = useShow();
  const { selection, you } = useParts(useScreen, 'selection', 'you');
  const disabled = !mayEdit(you.role);
  const parts = cue.parts ?? [];
  const values = [...show.valuesOf(cue.id).values()];
  const put = (number: number, fields: Partial<CuePart>): void =>
    void edit(
      'change-cue',
      {
        id: cue.id,
        set: { parts: parts.map((p) => (p.number === number ? { ...p, ...fields } : p)) },
      },
      { quiet: true },
    );
  const give = (part: number | null, which: (v: (typeof values)[number]) => boolean): void => {
    const cells = values.filter(which).map((v) => ({
      cueId: cue.id,
      fixtureId: v.fixtureId,
      attribute: v.attribute,
      times: { part },
    }));
    if (cells.length > 0) void edit('set-values', { cells });
  };
  const chosen = new Set(selection);
  const next = Math.max(0, ...parts.map((p) => p.number)) + 1;
  return (
    <div className="space-y-2 overflow-y-auto px-3.5 pb-3 text-[12.5px]">
      {parts.length === 0 && (
        <p className="leading-[18px] text-muted">
          A part gives some of this cue’s values times of their own: the colour that follows late,
          the special that snaps.
        </p>
      )}
      {parts.map((p) => {
        const own = values.filter((v) => v.part === p.number).length;
        return (
          <div key={p.number} className="border-t border-line pt-1.5 first:border-t-0">
            <div className="flex items-end gap-2">
              <span className="num pb-1 text-[13px] text-standby">{p.number}</span>
              <Value
                label={`Name · ${plural(own, 'value')}`}
                wide
                value={p.name}
                disabled={disabled}
                onDone={(t) =>
                  t.length > 120 ? 'Too long' : (put(p.number, { name: t.trim() }), undefined)
                }
              />
              <Time
                label="Up"
                value={p.up_s}
                disabled={disabled}
                onDone={(t) => put(p.number, { up_s: t ?? 0 })}
              />
              <Time
                label="Down"
                value={p.down_s}
                disabled={disabled}
                onDone={(t) => put(p.number, { down_s: t ?? 0 })}
              />
              <Time
                label="Delay"
                value={p.delay_s}
                disabled={disabled}
                onDone={(t) => put(p.number, { delay_s: t ?? 0 })}
              />
              <IconButton
                label={`Take part ${p.number} apart`}
                disabled={disabled}
                onClick={() =>
                  void edit('change-cue', {
                    id: cue.id,
                    set: { parts: parts.filter((x) => x.number !== p.number) },
                  })
                }
              >
                <Trash2 size={14} />
              </IconButton>
            </div>
            <div className="mt-1 flex flex-wrap items-center gap-1.5">
              <span className="text-muted">Give it</span>
              {FAMILY_CHOICES.map((f: Family) => (
                <button
                  key={f}
                  type="button"
                  disabled={disabled}
                  onClick={() => give(p.number, (v) => familyOf(v.attribute) === f)}
                  className="h-6 rounded bg-raised px-2 text-soft hover:bg-lift disabled:text-faint"
                >
                  {f}
                </button>
              ))}
              <button
                type="button"
                disabled={disabled || selection.length === 0}
                onClick={() => give(p.number, (v) => chosen.has(v.fixtureId))}
                className="h-6 rounded bg-raised px-2 text-soft hover:bg-lift disabled:text-faint"
              >
                the {selection.length} selected
              </button>
              <button
                type="button"
                disabled={disabled || own === 0}
                onClick={() => give(null, (v) => v.part === p.number)}
                className="h-6 rounded px-2 text-muted hover:bg-raised disabled:text-faint"
              >
                give back
              </button>
              <Value
                label=""
                wide
                placeholder="note"
                value={p.note}
                disabled={disabled}
                onDone={(t) =>
                  t.length > 2000 ? 'Too long' : (put(p.number, { note: t }), undefined)
                }
              />
            </div>
          </div>
        );
      })}
      <Button
        kind="line"
        disabled={disabled || parts.length >= 24}
        onClick={() =>
          void edit('change-cue', {
            id: cue.id,
            set: {
              parts: [
                ...parts,
                {
                  number: next,
                  name: '',
                  up_s: cue.up_s,
                  down_s: cue.down_s,
                  delay_s: 0,
                  family_s: {},
                  note: '',
                },
              ],
            },
          })
        }
      >
        New part
      </Button>
    </div>
  );
}
