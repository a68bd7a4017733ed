/** Outputs: where each universe goes, over which protocol, on or off, with what left; and who is on the network. */
'use client';
import { OutputChart } from './OutputChart';
import { Plus, Trash2 } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import { formatPortAddress } from '@/core/output/artnet';
import { usedByUniverse } from '@/core/rig/addresses';
import { universeName } from '@/core/show/show';
import { PROTOCOL_NAMES } from '@/core/routes/tables';
import type { RouteRow } from '@/core/routes/rows';
import { Button, Choice, Field, IconButton } from '../parts/controls';
import { fieldKeys } from '../parts/field-keys';
import { edit, useWatch } from '../state/actions';
import { ApiError } from '../state/api';
import { mayEdit, useScreen, useShow } from '../state/store';

const TO = { node: 'simulated node', multicast: 'multicast', broadcast: 'broadcast' } as const;
type To = keyof typeof TO | 'unicast';
const toOf = (destination: string): To =>
  destination in TO ? (destination as keyof typeof TO) : 'unicast';

/** `net.sub-net.universe` or a whole number, as port address. */
function parsePort(text: string): number | undefined {
  const dotted = /^(\d{1,3})\.(\d{1,2})\.(\d{1,2})$/.exec(text.trim());
  if (!dotted) return /^\d{1,5}$/.test(text.trim()) ? Number(text) : undefined;
  const [net, sub, universe] = [Number(dotted[1]), Number(dotted[2]), Number(dotted[3])];
  return net <= 127 && sub <= 15 && universe <= 15 ? (net << 8) | (sub << 4) | universe : undefined;
}
const sayWire = (r: Pick<RouteRow, 'protocol' | 'wire'>): string =>
  r.protocol === 'sacn' ? String(r.wire) : formatPortAddress(r.wire);
const count = (n: number): string => n.toLocaleString('en').replaceAll(',', ' ');

/** A text field that writes when it is left, and takes back what cannot be. */
function Cell({
  label,
  value,
  disabled,
  width,
  onDone,
}: {
  label: string;
  value: string;
  disabled: boolean;
  width: string;
  onDone: (text: string) => void;
}) {
  return (
    <input
      key={value}
      aria-label={label}
      defaultValue={value}
      disabled={disabled}
      onFocus={(e) => e.currentTarget.select()}
      onBlur={(e) => e.target.value !== value && onDone(e.target.value)}
      onKeyDown={fieldKeys(value)}
      className={`num h-7 rounded bg-transparent px-1.5 text-[12.5px] hover:bg-ink focus:bg-ink focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)] focus:outline-none ${width}`}
    />
  );
}

export function Routes() {
  const show = useShow();
  const { you, outputs, air, showId } = useScreen();
  useWatch([], { outputs: true });
  const editable = mayEdit(you.role);
  const [draft, setDraft] = useState({
    universe: '1',
    protocol: 'sacn' as RouteRow['protocol'],
    to: 'node' as To,
    address: '',
  });
  const routes = [...show.routes.values()].sort(
    (a, b) =>
      a.universe - b.universe ||
      a.protocol.localeCompare(b.protocol) * -1 ||
      a.destination.localeCompare(b.destination),
  );
  const used = usedByUniverse(show);
  const unrouted = [...used.keys()]
    .filter((u) => !routes.some((r) => r.universe === u && r.on))
    .sort((a, b) => a - b);
  const universe = Number(draft.universe);
  const counts = new Map(outputs?.lines.map((l) => [l.routeId, l]) ?? []);
  const put = (r: RouteRow, fields: Partial<RouteRow>): void => {
    const { id, ...set } = { ...r, ...fields };
    void edit('set-route', { id, set }, { quiet: 'on' in fields });
  };
  const sending = air.showId === showId;
  const onlyNode = routes.every((r) => !r.on || r.destination === 'node');
  return (
    <div className="h-full overflow-auto px-3 pb-3">
      {onlyNode && (
        <p
          data-testid="only-node"
          className="mt-2 rounded-md bg-standby-wash px-3 py-1.5 text-soft"
        >
          Only the simulated node is fed: nothing leaves this machine. For lights, choose under{' '}
          <i>To</i> where a universe goes: multicast, broadcast or one address.
        </p>
      )}
      {unrouted.length > 0 && (
        <p className="mt-2 text-warning">Patched but not sent: universe {unrouted.join(', ')}.</p>
      )}
      {!sending && (
        <p className="mt-2 text-muted">
          This show is in rehearsal: nothing is sent, and nothing is counted.
        </p>
      )}
      <table className="w-full min-w-[520px] text-left [&_td]:pr-1.5 [&_th]:pr-1.5">
        <thead className="text-[12px] text-muted">
          <tr className="h-8">
            {['Universe', 'Over', 'There', 'To', 'Priority', 'On'].map((h) => (
              <th key={h} className="font-normal">
                {h}
              </th>
            ))}
            <th className="text-right font-normal">Packets</th>
            <th className="text-right font-normal">Errors</th>
            <th>
              <span className="sr-only">More</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {routes.map((r) => {
            const c = counts.get(r.id);
            const name = universeName(show, r.universe);
            return (
              <tr key={r.id} className={`h-8 border-t border-raised ${r.on ? '' : 'text-dim'}`}>
                <td className="max-w-[104px] truncate" title={name}>
                  <span className="num text-[12.5px]">{r.universe}</span>{' '}
                  {name && <span className="text-muted">{name}</span>}
                </td>
                <td className="whitespace-nowrap">{PROTOCOL_NAMES[r.protocol]}</td>
                <td
                  className="whitespace-nowrap"
                  title={
                    r.protocol === 'sacn'
                      ? 'sACN universes count from 1'
                      : `Art-Net counts from 0: net.sub-net.universe, port address ${r.wire}`
                  }
                >
                  <Cell
                    label={`Number of universe ${r.universe} over ${r.protocol}`}
                    value={sayWire(r)}
                    disabled={!editable}
                    width="w-14"
                    onDone={(text) => {
                      const wire = r.protocol === 'sacn' ? Number(text) : parsePort(text);
                      put(r, { wire: wire === undefined || !Number.isInteger(wire) ? -1 : wire });
                    }}
                  />
                </td>
                <td>
                  <select
                    aria-label={`Where universe ${r.universe} goes over ${r.protocol}`}
                    disabled={!editable}
                    value={toOf(r.destination)}
                    onChange={(e) =>
                      put(r, {
                        destination: e.target.value === 'unicast' ? '127.0.0.1' : e.target.value,
                      })
                    }
                    className="h-7 rounded bg-transparent pr-1 hover:bg-ink"
                  >
                    <option value="node">{TO.node}</option>
                    <option value={r.protocol === 'sacn' ? 'multicast' : 'broadcast'}>
                      {r.protocol === 'sacn' ? 'multicast' : 'broadcast'}
                    </option>
                    <option value="unicast">one address</option>
                  </select>
                  {toOf(r.destination) === 'unicast' && (
                    <Cell
                      label={`Address for universe ${r.universe}`}
                      value={r.destination}
                      disabled={!editable}
                      width="w-28"
                      onDone={(destination) => put(r, { destination: destination })}
                    />
                  )}
                </td>
                <td>
                  {r.protocol === 'sacn' ? (
                    <Cell
                      label={`Priority of universe ${r.universe}`}
                      value={String(r.priority)}
                      disabled={!editable}
                      width="w-10"
                      onDone={(text) => put(r, { priority: Number(text) })}
                    />
                  ) : (
                    <span className="text-dim">—</span>
                  )}
                </td>
                <td>
                  <input
                    type="checkbox"
                    aria-label={`Send universe ${r.universe} over ${r.protocol}`}
                    checked={r.on}
                    disabled={!editable}
                    onChange={(e) => put(r, { on: e.target.checked })}
                    className="size-4 accent-[var(--color-lime)]"
                  />
                </td>
                <td className={`num text-right text-[12.5px] ${c ? 'text-lime-word' : 'text-dim'}`}>
                  {c ? count(c.packets) : '—'}
                </td>
                <td
                  className={`num text-right text-[12.5px] ${c && c.errors > 0 ? 'text-danger' : 'text-dim'}`}
                  title={c?.problem ?? undefined}
                >
                  {c ? count(c.errors) : '—'}
                </td>
                <td className="text-right">
                  {editable && (
                    <IconButton
                      label={`Delete this route of universe ${r.universe}`}
                      onClick={() => void edit('delete-route', { id: r.id })}
                      className="!size-7"
                    >
                      <Trash2 size={13} />
                    </IconButton>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="mt-1.5 text-[12px] text-muted">
        sACN counts universes from 1. Art-Net counts from 0, as net.sub-net.universe: universe 1
        here is 0.0.0 there, port address 0.
      </p>
      {editable && (
        <form
          className="mt-3 flex flex-wrap items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            const destination = draft.to === 'unicast' ? draft.address.trim() : draft.to;
            void edit('set-route', {
              set: {
                universe,
                protocol: draft.protocol,
                destination,
                wire: draft.protocol === 'sacn' ? universe : universe - 1,
                priority: 100,
                on: true,
              },
            }).then(
              (done) =>
                !(done instanceof ApiError) &&
                setDraft((d) => ({ ...d, universe: String(universe + 1) })),
            );
          }}
        >
          <Field
            label="Universe"
            number
            className="w-20"
            value={draft.universe}
            onChange={(e) => setDraft({ ...draft, universe: e.target.value.replace(/\D/g, '') })}
          />
          <Choice
            label="Over"
            className="w-28"
            value={draft.protocol}
            onChange={(e) =>
              setDraft({ ...draft, protocol: e.target.value as RouteRow['protocol'], to: 'node' })
            }
            options={Object.entries(PROTOCOL_NAMES).map(([value, label]) => ({ value, label }))}
          />
          <Choice
            label="To"
            className="w-40"
            value={draft.to}
            onChange={(e) => setDraft({ ...draft, to: e.target.value as To })}
            options={[
              { value: 'node', label: 'simulated node' },
              draft.protocol === 'sacn'
                ? { value: 'multicast', label: 'multicast' }
                : { value: 'broadcast', label: 'broadcast' },
              { value: 'unicast', label: 'one address' },
            ]}
          />
          {draft.to === 'unicast' && (
            <Field
              label="IPv4 address"
              number
              className="w-36"
              value={draft.address}
              placeholder="10.0.0.20"
              onChange={(e) => setDraft({ ...draft, address: e.target.value })}
            />
          )}
          <Button type="submit">
            <Plus size={14} /> Add
          </Button>
        </form>
      )}
      <OutputChart />
      <div className="mt-4 grid grid-cols-2 gap-6">
        <section aria-label="Art-Net nodes">
          <h2 className="cap">Art-Net nodes that answer</h2>
          {(outputs?.nodes.length ?? 0) === 0 && (
            <p className="mt-1 text-muted">
              None yet; they are asked every 3 s while this is open.
            </p>
          )}
          <ul>
            {outputs?.nodes.map((n) => (
              <li
                key={`${n.address}${n.shortName}${n.outputs.join()}`}
                className="flex h-7 items-center gap-2"
                title={`${n.longName} · ${n.report}`}
              >
                <span className="num text-[12.5px]">{n.address}</span>
                <span className="min-w-0 flex-1 truncate text-soft">{n.shortName}</span>
                <span className="num text-[12px] text-muted">
                  {n.outputs.map(formatPortAddress).join(', ')}
                </span>
              </li>
            ))}
          </ul>
        </section>
        <section aria-label="sACN sources">
          <h2 className="cap">sACN sources heard</h2>
          {(outputs?.sources.length ?? 0) === 0 && (
            <p className="mt-1 text-muted">None yet; sources tell their universes every 10 s.</p>
          )}
          <ul>
            {outputs?.sources.map((s) => (
              <li key={s.cid} className="flex h-7 items-center gap-2" title={s.cid}>
                <span className="min-w-0 flex-1 truncate text-soft">
                  {s.name} {s.own && <span className="text-muted">(this one)</span>}
                </span>
                <span className="num truncate text-[12px] text-muted">
                  {s.universes.join(', ')}
                </span>
              </li>
            ))}
          </ul>
        </section>
      </div>
      {outputs?.osc.problem && (
        <p data-testid="osc" className="mt-2 text-[12px] text-warning">
          {outputs.osc.problem}
        </p>
      )}
      {outputs?.osc.port && !outputs.osc.problem && (
        <p className="mt-2 text-[12px] text-muted">
          Remote controls are heard by OSC on UDP port {outputs.osc.port}.
        </p>
      )}
      {outputs && outputs.deaf.length > 0 && (
        <p className="mt-2 text-[12px] text-warning">
          Cannot listen for {outputs.deaf.join(' and ')}: the port is taken on this machine.
        </p>
      )}
      <Link href="/node" className="mt-3 inline-block text-[12.5px] text-standby hover:underline">
        What the simulated node receives
      </Link>
    </div>
  );
}
