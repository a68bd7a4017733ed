/** Patching: pick a type, say how many and where, read what will happen, do it. */
'use client';
import { Search } from 'lucide-react';
import { useState } from 'react';
import { formatPoint, nextFree, nextNumber, parsePoint } from '@/core/rig/addresses';
import { libraryTypes } from '@/core/rig/library/index';
import type { TypeRow } from '@/core/show/rows';
import { Button, Choice, Field } from '../parts/controls';
import { edit, tryEdit } from '../state/actions';
import { ApiError } from '../state/api';
import { mayEdit, useScreen, useShow } from '../state/store';

const plain = (text: string): string => text.toLowerCase().replace(/[^a-z0-9]/g, '');

export function PatchForm() {
  const show = useShow();
  const { you } = useScreen();
  const [search, setSearch] = useState('');
  const [picked, setPicked] = useState<{ type: TypeRow; mode: string }>();
  const [quantity, setQuantity] = useState('1');
  const [first, setFirst] = useState('');
  const [label, setLabel] = useState('');
  const [address, setAddress] = useState('');
  const [gap, setGap] = useState('0');
  const [hang, setHang] = useState('');
  const [busy, setBusy] = useState(false);

  const types = [...new Map([...libraryTypes(), ...show.types.values()].map((t) => [t.id, t])).values()].sort((a, b) => a.maker.localeCompare(b.maker) || a.name.localeCompare(b.name));
  const wanted = plain(search);
  const found = types.filter((t) => t.modes.some((m) => plain(`${t.maker}${t.name}${m.name}${m.footprint}`).includes(wanted)));
  const makers = [...new Set(found.map((t) => t.maker))];

  const mode = picked?.type.modes.find((m) => m.name === picked.mode);
  const units = /^\d+$/.test(quantity) ? Number(quantity) : Number.NaN;
  const spacing = /^\d+$/.test(gap) ? Number(gap) : Number.NaN;
  const freeNumber = nextNumber(show, Number.isFinite(units) ? Math.min(units, 500) : 1);
  const freePoint = mode ? nextFree(show, mode.footprint, Number.isFinite(units) ? units : 1, Number.isFinite(spacing) ? spacing : 0) : undefined;
  const point = address.trim() === '' ? freePoint : parsePoint(address);
  const params = picked && {
    typeId: picked.type.id,
    mode: picked.mode,
    quantity: units,
    ...(first.trim() === '' ? {} : { first: Number(first) }),
    ...(label.trim() === '' ? {} : { label: label.trim() }),
    ...(point ?? {}),
    gap: spacing,
    hang,
  };
  const plan = params && point && Number.isFinite(units) && Number.isFinite(spacing) ? tryEdit('patch-fixtures', params) : undefined;
  const problem = plan && 'message' in plan ? plan : undefined;
  const fields = problem?.fields ?? {};
  const bars = [...show.pieces.values()].filter((p) => (p.kind === 'bar' || p.kind === 'boom') && p.name !== '');

  const patch = async (): Promise<void> => {
    setBusy(true);
    const answer = await edit('patch-fixtures', params);
    setBusy(false);
    if (answer instanceof ApiError) return;
    setFirst('');
    setAddress('');
    setLabel('');
  };

  const last = mode && point && Number.isFinite(units) && Number.isFinite(spacing) ? point.address + units * mode.footprint + (units - 1) * spacing - 1 : 0;
  return (
    <section aria-label="Patch" className="flex h-full flex-col">
      <div className="px-4 pt-3">
        <label className="flex h-9 items-center gap-2.5 rounded-lg bg-raised px-3">
          <Search size={15} className="text-muted" />
          <input aria-label="Find a fixture type" value={search} onChange={(e) => setSearch(e.target.value)} placeholder="Find a type" className="min-w-0 flex-1 bg-transparent text-[14px] outline-none placeholder:text-dim" />
          <span className="text-[12px] text-muted">{found.length}</span>
        </label>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto py-2" role="listbox" aria-label="Fixture types">
        {found.length === 0 && <p className="px-4 text-muted">No type is called that. Search by maker, type, mode or channel count.</p>}
        {makers.map((maker) => (
          <div key={maker} className="pb-1">
            <div className="cap px-4 pb-0.5 pt-1.5">{maker}</div>
            {found
              .filter((t) => t.maker === maker)
              .flatMap((t) =>
                t.modes.map((m) => {
                  const on = picked?.type.id === t.id && picked.mode === m.name;
                  return (
                    <button key={`${t.id}/${m.name}`} type="button" role="option" aria-selected={on} onClick={() => setPicked({ type: t, mode: m.name })} className={`flex h-[30px] w-full items-center justify-between gap-2 pl-4 pr-3 text-left ${on ? 'bg-standby-wash text-standby shadow-[inset_2px_0_0_var(--color-standby)]' : 'text-soft hover:bg-panel'}`}>
                      <span className="truncate">
                        {t.name} <span className={on ? '' : 'text-muted'}>{m.name}</span>
                      </span>
                      <span className="num whitespace-nowrap text-[11.5px] text-muted">{m.footprint} ch</span>
                    </button>
                  );
                }),
              )}
          </div>
        ))}
      </div>
      {mayEdit(you.role) ? (
        <form
          className="border-t border-line bg-panel px-4 pb-3 pt-2.5"
          onSubmit={(e) => {
            e.preventDefault();
            void patch();
          }}
        >
          <div className="mb-2 flex items-baseline justify-between">
            <span className="cap">Patch</span>
            <span className="truncate pl-2 text-[12.5px] text-soft">{picked ? `${picked.type.name} · ${picked.mode}` : 'pick a type above'}</span>
          </div>
          <div className="grid grid-cols-[64px_72px_1fr] gap-2">
            <Field label="Quantity" number value={quantity} onChange={(e) => setQuantity(e.target.value)} problem={fields.quantity ?? (Number.isNaN(units) ? 'A number' : undefined)} />
            <Field label="First no." number value={first} placeholder={String(freeNumber)} onChange={(e) => setFirst(e.target.value.replace(/[^\d]/g, ''))} problem={fields.first ? ' ' : undefined} />
            <Field label="Label" value={label} maxLength={120} placeholder={picked ? `${picked.type.name} #` : ''} onChange={(e) => setLabel(e.target.value)} problem={fields.label} />
          </div>
          <div className="mt-2 grid grid-cols-[72px_56px_1fr] gap-2">
            <Field label="Address" number value={address} placeholder={freePoint ? formatPoint(freePoint) : ''} onChange={(e) => setAddress(e.target.value)} problem={address.trim() !== '' && !point ? 'Like 2.101' : fields.address ? ' ' : undefined} />
            <Field label="Gap" number value={gap} onChange={(e) => setGap(e.target.value)} problem={Number.isNaN(spacing) ? 'Number' : undefined} />
            <Choice label="Hang on" value={hang} onChange={(e) => setHang(e.target.value)} options={[{ value: '', label: 'standing free' }, ...bars.map((b) => ({ value: b.name, label: b.name }))]} />
          </div>
          <p data-testid="patch-says" className={`my-2 min-h-9 text-[12.5px] leading-[18px] ${problem ? 'text-warning' : 'text-soft'}`}>
            {problem
              ? problem.message
              : picked && point && mode && plan
                ? `${units === 1 ? (first || freeNumber) : `${first || freeNumber}–${Number(first || freeNumber) + units - 1}`} ${units === 1 ? 'takes' : 'take'} ${formatPoint(point)} to ${point.universe}.${last}, ${mode.footprint} ${mode.footprint === 1 ? 'channel' : 'channels each'}.`
                : picked
                  ? 'Say how many and where.'
                  : 'Pick a type, and the next free number and address are filled in.'}
          </p>
          <Button kind="strong" type="submit" className="w-full" disabled={busy || !plan || problem !== undefined}>
            {picked && Number.isFinite(units) ? `Patch ${units} ${units === 1 ? 'fixture' : 'fixtures'}` : 'Patch'}
          </Button>
        </form>
      ) : (
        <p className="border-t border-line bg-panel p-4 text-muted">A {you.role} looks at the rig; the owner and programmers patch it.</p>
      )}
    </section>
  );
}
