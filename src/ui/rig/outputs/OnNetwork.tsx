/** Who else is on the network: nodes that answer, sources that are heard, and what cannot be heard. */
'use client';
import type { ReactNode } from 'react';
import type { OutputState } from '@/core/live/messages';
import { formatPortAddress } from '@/core/output/artnet';
import { useScreen } from '../../state/store';

function Found({
  label,
  title,
  none,
  empty,
  children,
}: {
  label: string;
  title: string;
  /** Said where there are none. */ none: string;
  empty: boolean;
  children: ReactNode;
}) {
  return (
    <section aria-label={label}>
      <h2 className="cap">{title}</h2>
      {empty && <p className="mt-1 text-muted">{none}</p>}
      <ul>{children}</ul>
    </section>
  );
}

function Node({ node }: { node: OutputState['nodes'][number] }) {
  return (
    <li className="flex min-h-7 items-center gap-2" title={`${node.longName} · ${node.report}`}>
      <span className="num text-[12.5px]">{node.address}</span>
      <span className="min-w-0 flex-1 truncate text-soft">{node.shortName}</span>
      <span className="num text-[12px] text-muted">
        {node.outputs.map(formatPortAddress).join(', ')}
      </span>
    </li>
  );
}

function Source({ source }: { source: OutputState['sources'][number] }) {
  return (
    <li className="flex min-h-7 items-center gap-2" title={source.cid}>
      <span className="min-w-0 flex-1 truncate text-soft">
        {source.name} {source.own && <span className="text-muted">(this one)</span>}
      </span>
      <span className="num truncate text-[12px] text-muted">{source.universes.join(', ')}</span>
    </li>
  );
}

/** Where remote controls are heard, and what this machine cannot hear. */
function Ears({ outputs: { osc, deaf } }: { outputs: OutputState }) {
  return (
    <>
      {osc.problem && (
        <p data-testid="osc" className="mt-2 text-[12px] text-warning">
          {osc.problem}
        </p>
      )}
      {osc.port !== null && !osc.problem && (
        <p className="mt-2 text-[12px] text-muted">
          Remote controls are heard by OSC on UDP port {osc.port}.
        </p>
      )}
      {deaf.length > 0 && (
        <p className="mt-2 text-[12px] text-warning">
          Cannot listen for {deaf.join(' and ')}: the port is taken on this machine.
        </p>
      )}
    </>
  );
}

export function OnNetwork() {
  const outputs = useScreen((s) => s.outputs);
  const nodes = outputs?.nodes ?? [];
  const sources = outputs?.sources ?? [];
  return (
    <>
      <div className="mt-4 grid grid-cols-2 gap-6">
        <Found
          label="Art-Net nodes"
          title="Art-Net nodes that answer"
          none="None yet; they are asked every 3 s while this is open."
          empty={nodes.length === 0}
        >
          {nodes.map((n) => (
            <Node key={`${n.address}${n.shortName}${n.outputs.join()}`} node={n} />
          ))}
        </Found>
        <Found
          label="sACN sources"
          title="sACN sources heard"
          none="None yet; sources tell their universes every 10 s."
          empty={sources.length === 0}
        >
          {sources.map((s) => (
            <Source key={s.cid} source={s} />
          ))}
        </Found>
      </div>
      {outputs && <Ears outputs={outputs} />}
    </>
  );
}
