/** Outputs: where each universe goes, over which protocol, on or off, with what left; and who is on the network. */
'use client';
import Link from 'next/link';
import { useMemo } from 'react';
import { usedByUniverse } from '@/core/rig/addresses';
import type { RouteRow } from '@/core/routes/rows';
import type { Show } from '@/core/show/show';
import { SmallTable } from '../parts/table/SmallTable';
import { useTable } from '../parts/table/use-table';
import { useWatch } from '../state/link';
import { mayEdit, useScreen, useShow } from '../state/store';
import { ROUTE_COLUMNS, type RouteLine } from './outputs/columns';
import { Hanging } from './outputs/Hanging';
import { Inputs } from './outputs/Inputs';
import { OnNetwork } from './outputs/OnNetwork';
import { OutputChart } from './outputs/OutputChart';
import { RouteForm } from './outputs/RouteForm';
import { WiresLine } from './outputs/WiresLine';

/** By universe, sACN first. */
const inOrder = (a: RouteRow, b: RouteRow): number =>
  a.universe - b.universe ||
  b.protocol.localeCompare(a.protocol) ||
  a.destination.localeCompare(b.destination);

/** Universes that have units and go nowhere. */
function unrouted(show: Show): number[] {
  const sent = new Set([...show.routes.values()].filter((r) => r.on).map((r) => r.universe));
  return [...usedByUniverse(show).keys()].filter((u) => !sent.has(u)).sort((a, b) => a - b);
}

function useRouteTable() {
  const show = useShow();
  const counts = useScreen((s) => s.outputs?.lines);
  const revision = useScreen((s) => s.revision);
  const rows = useMemo(() => {
    void revision;
    return [...show.routes.values()].sort(inOrder).map((route): RouteLine => ({
      route,
      count: counts?.find((c) => c.routeId === route.id),
    }));
  }, [show, counts, revision]);
  const hasCards = useScreen(
    (s) => (s.outputs?.cards.length ?? 0) > 1 || rows.some((r) => r.route.card !== undefined),
  );
  const columns = useMemo(
    () => (hasCards ? ROUTE_COLUMNS : ROUTE_COLUMNS.filter((c) => c.id !== 'card')),
    [hasCards],
  );
  return useTable({
    name: 'routes',
    rows,
    columns,
    rowId: ({ route }) => route.id,
    sorted: 'universe',
  });
}

/** Why routes send nothing, in the words of whoever knows: said once for all that it is true of. */
function Stuck() {
  const show = useShow();
  const lines = useScreen((s) => s.outputs?.lines);
  const by = new Map<string, number[]>();
  for (const { routeId, problem } of lines ?? []) {
    const universe = show.routes.get(routeId)?.universe;
    if (problem !== null && universe !== undefined)
      by.set(problem, [...(by.get(problem) ?? []), universe]);
  }
  return [...by].map(([problem, universes]) => (
    <p key={problem} data-testid="stuck" className="mt-2 text-warning">
      Universe {[...new Set(universes)].join(', ')}: {problem}
    </p>
  ));
}

/** Where universes go, and what comes in. */
export function Routes() {
  const show = useShow();
  useWatch([], { outputs: true });
  const editable = mayEdit(useScreen((s) => s.you.role));
  const sending = useScreen((s) => s.air.showId === s.showId);
  const table = useRouteTable();
  const silent = unrouted(show);
  const onlyNode = [...show.routes.values()].every((r) => !r.on || r.destination === 'node');
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
      {silent.length > 0 && (
        <p className="mt-2 text-warning">Patched but not sent: universe {silent.join(', ')}.</p>
      )}
      {sending && <Stuck />}
      {!sending && (
        <p className="mt-2 text-muted">
          This show is in rehearsal: nothing is sent, and nothing is counted.
        </p>
      )}
      <WiresLine />
      <SmallTable
        table={table}
        label="Routes"
        rowClass={({ route }) => (route.on ? '' : 'text-dim')}
      />
      <p className="mt-1.5 text-[12px] text-muted">
        sACN counts universes from 1. Art-Net counts from 0, as net.sub-net.universe: universe 1
        here is 0.0.0 there, port address 0.
      </p>
      {editable && <RouteForm />}
      <Inputs />
      <OnNetwork />
      <Hanging />
      <OutputChart />
      <Link href="/node" className="mt-3 inline-block text-[12.5px] text-standby hover:underline">
        What the simulated node receives
      </Link>
    </div>
  );
}
