/** The columns of the routes: where a universe goes, and what has left. */
'use client';
import type { ColumnDef } from '@tanstack/react-table';
import { Trash2 } from 'lucide-react';
import type { OutputState } from '@/core/live/messages';
import { formatPortAddress, parsePortAddress } from '@/core/output/artnet';
import { PROTOCOL_NAMES } from '@/core/routes/tables';
import type { RouteRow } from '@/core/routes/rows';
import { universeName } from '@/core/show/show';
import { IconButton } from '../../parts/controls';
import { WrittenCell } from '../../parts/WrittenCell';
import { buttonsColumn } from '../../parts/table/use-table';
import { edit } from '../../state/edits';
import { mayEdit, useScreen, useShow } from '../../state/store';

type LineCount = OutputState['lines'][number];

/** A route, and what has left on it; nothing is counted in rehearsal. */
export interface RouteLine {
  route: RouteRow;
  count: LineCount | undefined;
}

const TO = {
  node: 'simulated node',
  multicast: 'multicast',
  nodes: 'nodes that ask',
  broadcast: 'broadcast',
} as const;
type To = keyof typeof TO | 'unicast';
const toOf = (destination: string): To =>
  destination in TO ? (destination as keyof typeof TO) : 'unicast';

const sayWire = (r: Pick<RouteRow, 'protocol' | 'wire'>): string =>
  r.protocol === 'sacn' ? String(r.wire) : formatPortAddress(r.wire);
const grouped = (n: number): string => n.toLocaleString('en').replaceAll(',', ' ');

/** A whole route, as it is to be. */
const replaceRoute = ({ id, ...set }: RouteRow): Promise<unknown> => edit('set-route', { id, set });
function put(r: RouteRow, fields: Partial<RouteRow>): Promise<unknown> {
  const { id, ...set } = { ...r, ...fields };
  return edit('set-route', { id, set }, { quiet: 'on' in fields });
}

function Universe({ route }: { route: RouteRow }) {
  const name = universeName(useShow(), route.universe);
  return (
    <span title={name}>
      <span className="num text-[12.5px]">{route.universe}</span>{' '}
      {name && <span className="text-muted">{name}</span>}
    </span>
  );
}

function There({ route }: { route: RouteRow }) {
  const isSacn = route.protocol === 'sacn';
  return (
    <span
      title={
        isSacn
          ? 'sACN universes count from 1'
          : `Art-Net counts from 0: net.sub-net.universe, port address ${route.wire}`
      }
    >
      <WrittenCell
        label={`Number of universe ${route.universe} over ${route.protocol}`}
        value={sayWire(route)}
        className="num w-[52px] text-[12.5px]"
        write={(text) => {
          const wire = isSacn ? Number(text) : parsePortAddress(text);
          return put(route, { wire: wire === undefined || !Number.isInteger(wire) ? -1 : wire });
        }}
      />
    </span>
  );
}

const FIRST_ADDRESS = '127.0.0.1';
/** Where a universe goes besides one address, by protocol. */
const MANY = { sacn: ['multicast'], artnet: ['nodes', 'broadcast'] } as const;

function Destination({ route }: { route: RouteRow }) {
  const disabled = !mayEdit(useScreen((s) => s.you.role));
  const many = route.protocol === 'sacn' ? MANY.sacn : MANY.artnet;
  const to = toOf(route.destination);
  return (
    <>
      <select
        aria-label={`Where universe ${route.universe} goes over ${route.protocol}`}
        disabled={disabled}
        value={to}
        onChange={({ target: { value } }) =>
          void put(route, { destination: value === 'unicast' ? FIRST_ADDRESS : value })
        }
        className="h-7 rounded bg-transparent pr-1 hover:bg-ink"
      >
        <option value="node">{TO.node}</option>
        {many.map((m) => (
          <option key={m} value={m}>
            {TO[m]}
          </option>
        ))}
        <option value="unicast">one address</option>
      </select>
      {to === 'unicast' && (
        <WrittenCell
          label={`Address for universe ${route.universe}`}
          value={route.destination}
          className="num w-28 text-[12.5px]"
          write={(destination) => put(route, { destination })}
        />
      )}
    </>
  );
}

/** The card that it leaves by; the house’s, where it has none of its own. */
function ByCard({ route }: { route: RouteRow }) {
  const disabled = !mayEdit(useScreen((s) => s.you.role));
  const network = useScreen((s) => s.outputs);
  const names = (network?.cards ?? []).map((c) => c.name);
  if (route.destination === 'node') return <span className="text-dim">—</span>;
  const own = route.card ?? '';
  return (
    <select
      aria-label={`Card for universe ${route.universe} over ${route.protocol}`}
      disabled={disabled}
      value={own}
      onChange={({ target: { value } }) => {
        const { card, ...rest } = route;
        void card;
        void replaceRoute(value === '' ? rest : { ...rest, card: value });
      }}
      className="h-7 max-w-full rounded bg-transparent pr-1 hover:bg-ink"
    >
      <option value="">the house’s{network?.wires.card ? `, ${network.wires.card}` : ''}</option>
      {names.map((n) => (
        <option key={n} value={n}>
          {n}
        </option>
      ))}
      {own !== '' && !names.includes(own) && <option value={own}>{own}, not here</option>}
    </select>
  );
}

function Priority({ route }: { route: RouteRow }) {
  if (route.protocol !== 'sacn') return <span className="text-dim">—</span>;
  return (
    <WrittenCell
      label={`Priority of universe ${route.universe}`}
      value={String(route.priority)}
      className="num w-10 text-[12.5px]"
      write={(text) => put(route, { priority: Number(text) })}
    />
  );
}

function On({ route }: { route: RouteRow }) {
  const disabled = !mayEdit(useScreen((s) => s.you.role));
  return (
    <input
      type="checkbox"
      aria-label={`Send universe ${route.universe} over ${route.protocol}`}
      checked={route.on}
      disabled={disabled}
      onChange={(e) => void put(route, { on: e.target.checked })}
      className="size-4 accent-[var(--color-lime)]"
    />
  );
}

function Count({ line, what }: { line: RouteLine; what: 'packets' | 'errors' }) {
  const { count } = line;
  const errors = count && count.errors > 0 ? 'text-danger' : 'text-dim';
  const ink = what === 'packets' ? 'text-lime-word' : errors;
  return (
    <span
      className={`num text-[12.5px] ${count ? ink : 'text-dim'}`}
      title={count?.problem ?? undefined}
    >
      {count ? grouped(count[what]) : '—'}
    </span>
  );
}

function Delete({ route }: { route: RouteRow }) {
  if (!mayEdit(useScreen((s) => s.you.role))) return null;
  return (
    <IconButton
      label={`Delete this route of universe ${route.universe}`}
      onClick={() => void edit('delete-route', { id: route.id })}
      className="!size-7"
    >
      <Trash2 size={13} />
    </IconButton>
  );
}

/** Columns of the table of routes. */
export const ROUTE_COLUMNS: ColumnDef<RouteLine>[] = [
  {
    id: 'universe',
    size: 76,
    meta: { title: 'Universe' },
    accessorFn: ({ route }) => route.universe,
    cell: ({ row }) => <Universe route={row.original.route} />,
  },
  {
    id: 'over',
    size: 54,
    meta: { title: 'Over' },
    accessorFn: ({ route }) => PROTOCOL_NAMES[route.protocol],
  },
  {
    id: 'there',
    size: 60,
    meta: { title: 'There' },
    accessorFn: ({ route }) => route.wire,
    cell: ({ row }) => <There route={row.original.route} />,
  },
  {
    id: 'to',
    size: 116,
    meta: { title: 'To' },
    accessorFn: ({ route }) => route.destination,
    cell: ({ row }) => <Destination route={row.original.route} />,
  },
  {
    id: 'card',
    size: 84,
    meta: { title: 'Card' },
    accessorFn: ({ route }) => route.card ?? '',
    cell: ({ row }) => <ByCard route={row.original.route} />,
  },
  {
    id: 'priority',
    size: 50,
    meta: { title: 'Priority' },
    accessorFn: ({ route }) => route.priority,
    cell: ({ row }) => <Priority route={row.original.route} />,
  },
  {
    id: 'on',
    size: 28,
    meta: { title: 'On' },
    accessorFn: ({ route }) => Number(route.on),
    cell: ({ row }) => <On route={row.original.route} />,
  },
  {
    id: 'packets',
    size: 52,
    meta: { title: 'Packets', right: true },
    accessorFn: ({ count }) => count?.packets ?? -1,
    cell: ({ row }) => <Count line={row.original} what="packets" />,
  },
  {
    id: 'errors',
    size: 44,
    meta: { title: 'Errors', right: true },
    accessorFn: ({ count }) => count?.errors ?? -1,
    cell: ({ row }) => <Count line={row.original} what="errors" />,
  },
  buttonsColumn(({ route }) => <Delete route={route} />),
];
