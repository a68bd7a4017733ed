/** Outputs: where each universe goes, over which protocol, on or off; the numbering difference is shown. */
'use client';
import { Plus, Trash2 } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import { formatPortAddress } from '@/core/output/artnet';
import type { RouteRow } from '@/core/show/rows';
import { Button, Choice, Field, IconButton } from '../parts/controls';
import { edit } from '../state/actions';
import { mayEdit, useScreen, useShow } from '../state/store';

const DESTINATIONS: Record<string, string> = { node: 'simulated node', multicast: 'multicast' };

export function Routes() {
  const show = useShow();
  const { you } = useScreen();
  const editable = mayEdit(you.role);
  const [draft, setDraft] = useState({ universe: '1', protocol: 'sacn' as RouteRow['protocol'], destination: '' });
  const routes = [...show.routes.values()].sort((a, b) => a.universe - b.universe || a.protocol.localeCompare(b.protocol) * -1);
  const patched = new Set([...show.fixtures.values()].flatMap((f) => f.patch.map((p) => p.universe)));
  const unrouted = [...patched].filter((u) => !routes.some((r) => r.universe === u && r.on)).sort((a, b) => a - b);
  const universe = Number(draft.universe);
  return (
    <div className="h-full overflow-y-auto px-3 pb-3">
      {unrouted.length > 0 && <p className="mt-2 text-warning">Patched but not sent: universe {unrouted.join(', ')}.</p>}
      <table className="w-full text-left">
        <thead className="text-[12px] text-muted">
          <tr className="h-8">
            <th className="font-normal">Universe</th>
            <th className="font-normal">Protocol</th>
            <th className="font-normal">On the wire</th>
            <th className="font-normal">To</th>
            <th className="font-normal">Priority</th>
            <th className="font-normal">On</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {routes.map((r) => {
            const { id, ...set } = r;
            return (
              <tr key={id} className={`h-8 border-t border-[#1b2723] ${r.on ? '' : 'text-dim'}`}>
                <td className="num text-[12.5px]">{r.universe}</td>
                <td>{r.protocol === 'sacn' ? 'sACN' : 'Art-Net'}</td>
                <td className="num text-[12.5px]">{r.protocol === 'sacn' ? `universe ${r.wire}` : `${formatPortAddress(r.wire)} (port ${r.wire})`}</td>
                <td>{DESTINATIONS[r.destination] ?? <span className="num text-[12.5px]">{r.destination}</span>}</td>
                <td className="num text-[12.5px]">{r.protocol === 'sacn' ? r.priority : '—'}</td>
                <td>
                  <input type="checkbox" aria-label={`Send universe ${r.universe} over ${r.protocol}`} checked={r.on} disabled={!editable} onChange={(e) => void edit('set-route', { id, set: { ...set, on: e.target.checked } })} className="size-4 accent-[var(--color-lime)]" />
                </td>
                <td className="text-right">
                  {editable && (
                    <IconButton label={`Delete this route of universe ${r.universe}`} onClick={() => void edit('delete-route', { id })} className="!size-7">
                      <Trash2 size={13} />
                    </IconButton>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {editable && (
        <form
          className="mt-3 grid grid-cols-[72px_110px_1fr_auto] items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            void edit('set-route', { set: { universe, protocol: draft.protocol, destination: draft.destination.trim() || 'node', wire: draft.protocol === 'sacn' ? universe : universe - 1, priority: 100, on: true } });
          }}
        >
          <Field label="Universe" number value={draft.universe} onChange={(e) => setDraft({ ...draft, universe: e.target.value.replace(/\D/g, '') })} />
          <Choice label="Protocol" value={draft.protocol} onChange={(e) => setDraft({ ...draft, protocol: e.target.value as RouteRow['protocol'] })} options={[{ value: 'sacn', label: 'sACN' }, { value: 'artnet', label: 'Art-Net' }]} />
          <Field label="To: an IPv4 address, or multicast" value={draft.destination} placeholder="simulated node" onChange={(e) => setDraft({ ...draft, destination: e.target.value })} />
          <Button type="submit">
            <Plus size={14} /> Add route
          </Button>
        </form>
      )}
      <Link href="/node" className="mt-3 inline-block text-[12.5px] text-standby hover:underline">
        What the simulated node receives
      </Link>
    </div>
  );
}
