/** Palettes: applied to the selection by a click, recorded from what you hold, updated with their consequences said. */
'use client';
import { Aperture, Crosshair, Plus, RefreshCw, Sun, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import { consequences } from '@/core/cues/consequences';
import { plural } from '@/core/edits/edit';
import { paletteUses } from '@/core/edits/palettes';
import { ofFamily, reachOf } from '@/core/palettes/resolve';
import { familyOf } from '@/core/rig/attributes';
import { PALETTE_FAMILIES, type PaletteFamily, type PaletteRow } from '@/core/show/rows';
import { Ask, Button, Choice, Dialog, Field, IconButton } from '../parts/controls';
import { cssOf } from '../parts/patterns';
import { edit, live, tryEdit } from '../state/actions';
import { mayEdit, mayPlay, useScreen, useShow } from '../state/store';

const WORDS: Record<PaletteFamily, string> = { intensity: 'Intensity', position: 'Position', colour: 'Colour', beam: 'Beam' };

function Picture({ palette }: { palette: PaletteRow }) {
  if (palette.any?.colour) return <i className="size-4 flex-none rounded-full shadow-[inset_0_0_0_1px_#ffffff30]" style={{ background: cssOf({ ...palette.any.colour, Y: 1 }) }} />;
  const Icon = palette.family === 'intensity' ? Sun : palette.family === 'position' ? Crosshair : Aperture;
  return palette.family === 'colour' ? <i className="size-4 flex-none rounded-full border border-dashed border-muted" title="differs by fixture" /> : <Icon size={15} className="flex-none text-muted" />;
}

/** What you hold of a family, as a palette's entries. */
function useHeld(family: PaletteFamily): { fixtureId: string; attribute: string; level: number }[] {
  const values = useScreen((s) => s.values);
  return ofFamily([...values.values()], family).map(({ fixtureId, attribute, level }) => ({ fixtureId, attribute, level }));
}

function RecordPalette({ onClose }: { onClose: () => void }) {
  const values = useScreen((s) => s.values);
  const held = PALETTE_FAMILIES.filter((f) => [...values.values()].some((v) => familyOf(v.attribute) === f));
  const [family, setFamily] = useState<PaletteFamily>(held[0] ?? 'colour');
  const [name, setName] = useState('');
  const taken = useHeld(family);
  const fixtures = new Set(taken.map((v) => v.fixtureId)).size;
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title="Record a palette" about="It takes its own family of what you hold, and nothing else." width="w-[400px]">
      {held.length === 0 ? (
        <p className="text-soft">You hold nothing yet. Select fixtures, set them, then record what you see.</p>
      ) : (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            void edit('record-palette', { family, values: taken, ...(name.trim() === '' ? {} : { name: name.trim() }) }).then((a) => 'seq' in a && onClose());
          }}
        >
          <div className="grid grid-cols-[130px_1fr] gap-3">
            <Choice label="Family" value={family} onChange={(e) => setFamily(e.target.value as PaletteFamily)} options={held.map((f) => ({ value: f, label: WORDS[f] }))} />
            <Field label="Name" autoFocus value={name} maxLength={120} onChange={(e) => setName(e.target.value)} />
          </div>
          <p className="mt-3 text-[12.5px] text-soft">
            {plural(taken.length, 'value')} of {plural(fixtures, 'fixture')}. If all of them agree, it will serve any other unit too.
          </p>
          <div className="mt-4 flex justify-end">
            <Button kind="strong" type="submit" disabled={taken.length === 0}>
              Record palette
            </Button>
          </div>
        </form>
      )}
    </Dialog>
  );
}

/** Asks before a palette is written anew, naming the cues that will look different. */
function UpdatePalette({ palette, onClose }: { palette: PaletteRow; onClose: () => void }) {
  const show = useShow();
  const values = useHeld(palette.family);
  const params = { id: palette.id, family: palette.family, values };
  const plan = tryEdit('record-palette', params);
  const refused = 'message' in plan ? plan.message : undefined;
  const found = 'message' in plan ? [] : consequences(show, plan.changes);
  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title={`Update palette ${palette.number} “${palette.name}”?`} width="w-[420px]">
      {refused ? (
        <p className="text-warning">{refused}</p>
      ) : (
        <>
          <p className="text-soft">{found.length === 0 ? 'No cue looks different.' : `${plural(found.length, 'cue')} will look different:`}</p>
          <ul className="mt-2 max-h-40 overflow-y-auto text-[12.5px]" data-testid="palette-consequences">
            {found.map((c) => (
              <li key={c.cueId} className="flex justify-between">
                <span>
                  {formatCueNumber(c.number)} {c.name}
                </span>
                <span className="text-muted">{plural(c.slots, 'value')}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button kind="quiet" onClick={onClose}>
          Leave it
        </Button>
        <Button kind="strong" disabled={refused !== undefined} onClick={() => void edit('record-palette', params).then(onClose)}>
          Update
        </Button>
      </div>
    </Dialog>
  );
}

export function Palettes() {
  const show = useShow();
  const { selection, you, values } = useScreen();
  const [recording, setRecording] = useState(false);
  const [updating, setUpdating] = useState<PaletteRow | null>(null);
  const [deleting, setDeleting] = useState<PaletteRow | null>(null);
  const editable = mayEdit(you.role);
  const palettes = [...show.palettes.values()].sort((a, b) => a.number - b.number);
  const chosen = selection.flatMap((id) => show.fixtures.get(id) ?? []);
  const followed = new Set([...values.values()].flatMap((v) => v.palette ?? []));
  const uses = deleting ? paletteUses(show, deleting.id) : [];
  return (
    <section aria-label="Palettes" className="h-full overflow-y-auto border-t border-line py-2.5">
      <div className="flex h-7 items-center justify-between pl-4 pr-1.5">
        <span className="cap">Palettes</span>
        {editable && (
          <IconButton label="Record a palette of what you hold" onClick={() => setRecording(true)} className="!size-7">
            <Plus size={14} />
          </IconButton>
        )}
      </div>
      {palettes.length === 0 && <p className="px-4 pt-1 text-[12px] leading-4 text-muted">Set a colour, a level or a position and press + to keep it as a palette; cues follow it when it changes.</p>}
      {PALETTE_FAMILIES.map((family) => {
        const own = palettes.filter((p) => p.family === family);
        if (own.length === 0) return null;
        return (
          <div key={family} role="group" aria-label={WORDS[family]}>
            <div className="px-4 pb-0.5 pt-1.5 text-[11.5px] text-muted">{WORDS[family]}</div>
            <ul>
              {own.map((p) => {
                const reached = chosen.filter((f) => reachOf(show, p, f).size > 0);
                const none = chosen.length > 0 && reached.length === 0;
                return (
                  <li key={p.id} className="group relative">
                    <button
                      type="button"
                      disabled={!mayPlay(you.role)}
                      aria-pressed={followed.has(p.id)}
                      title={chosen.length === 0 ? `Palette ${p.number}: select fixtures first` : none ? `Palette ${p.number} says nothing for the selected fixtures` : `Palette ${p.number} for ${reached.length} of ${chosen.length} selected`}
                      onClick={() => void live({ command: 'palette', palette: p.id, fixtures: chosen.map((f) => f.number) })}
                      className={`flex h-7 w-full items-center gap-2 pl-4 pr-2 text-left ${none || chosen.length === 0 ? 'text-dim' : 'text-soft hover:bg-panel'} ${followed.has(p.id) ? 'text-text' : ''}`}
                    >
                      <Picture palette={p} />
                      <span className="min-w-0 flex-1 truncate">{p.name}</span>
                      <span className={`num text-[11.5px] text-muted ${editable ? 'group-hover:opacity-0' : ''}`}>{p.number}</span>
                    </button>
                    {editable && (
                      <span className="absolute right-0.5 top-0 flex opacity-0 focus-within:opacity-100 group-hover:opacity-100">
                        <button type="button" aria-label={`Update palette ${p.name}`} title="Update with what you hold" onClick={() => setUpdating(p)} className="grid size-7 place-items-center rounded bg-panel text-muted hover:text-text">
                          <RefreshCw size={12} />
                        </button>
                        <button type="button" aria-label={`Delete palette ${p.name}`} title="Delete" onClick={() => setDeleting(p)} className="grid size-7 place-items-center rounded bg-panel text-muted hover:text-danger">
                          <Trash2 size={12} />
                        </button>
                      </span>
                    )}
                  </li>
                );
              })}
            </ul>
          </div>
        );
      })}
      {recording && <RecordPalette onClose={() => setRecording(false)} />}
      {updating && <UpdatePalette palette={updating} onClose={() => setUpdating(null)} />}
      {deleting && (
        <Ask open onClose={() => setDeleting(null)} title={`Delete palette ${deleting.number} “${deleting.name}”?`} act="Delete" onAct={() => void edit('delete-palette', { id: deleting.id })}>
          <p>{uses.length === 0 ? 'No cue follows it.' : `${plural(uses.length, 'cue')} follow it and keep its present levels as values: ${uses.slice(0, 8).map((u) => u.label).join(', ')}${uses.length > 8 ? ' …' : ''}.`}</p>
        </Ask>
      )}
    </section>
  );
}
