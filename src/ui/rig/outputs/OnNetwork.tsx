/** Who else is on the network: nodes with their ports, sources and who wins, and what cannot be heard. */
'use client';
import { Pencil } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { z } from 'zod';
import type { NetworkState, NodeSeen, OutputState } from '@/core/live/messages';
import { formatPortAddress } from '@/core/output/artnet';
import { ART_STYLE, type ArtPort } from '@/core/output/art-poll';
import type { RouteRow } from '@/core/routes/rows';
import { Dialog, IconButton } from '../../parts/controls';
import { FormField, useSchemaForm } from '../../parts/form';
import { said } from '../../state/commands';
import { mayEdit, useScreen, useShow } from '../../state/store';
import { Foot } from '../../parts/Foot';

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

/** What a port does now, in a word. */
function sayPort({ way, active, merges, fault }: ArtPort): string {
  if (fault !== '') return fault;
  if (!active) return way === 'out' ? 'puts nothing out' : 'takes nothing in';
  if (merges) return 'merges several sources';
  return way === 'out' ? 'puts light out' : 'takes light in';
}

function Port({ port }: { port: ArtPort }) {
  const says = sayPort(port);
  const well = port.active ? 'bg-lime' : 'bg-faint';
  const dot = port.fault !== '' ? 'bg-danger' : well;
  return (
    <span
      className="inline-flex items-center gap-1"
      title={`${port.way === 'out' ? 'Output' : 'Input'} ${formatPortAddress(port.portAddress)}: ${says}`}
    >
      <i className={`size-1.5 rounded-full ${dot}`} aria-hidden />
      <span className="num text-[12px] text-muted">{formatPortAddress(port.portAddress)}</span>
      {(port.fault !== '' || port.merges) && (
        <span className={port.fault === '' ? 'text-[12px] text-muted' : 'text-[12px] text-danger'}>
          {says}
        </span>
      )}
    </span>
  );
}

const Names = z
  .object({ shortName: z.string().trim().max(17), longName: z.string().trim().max(63) })
  .refine((n) => n.shortName !== '' || n.longName !== '', {
    path: ['shortName'],
    message: 'Give it a name.',
  });

/** A node keeps what it is called, and everybody sees it: so it is asked. */
function RenameNode({ node, onClose }: { node: NodeSeen; onClose: () => void }) {
  const form = useSchemaForm(Names, { shortName: node.shortName, longName: node.longName });
  const send = form.handleSubmit(async (names) => {
    const { address, bindIndex } = node;
    const done = await said({ command: 'rename-node', address, bindIndex, ...names });
    if (done.ok) onClose();
  });
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={`Rename the node at ${node.address}?`}
      about="It keeps the name itself: everybody on this network sees it, also other desks."
    >
      <form onSubmit={(e) => void send(e)} className="flex flex-col gap-3">
        <FormField form={form} name="shortName" label="Short name, 17 letters at most" />
        <FormField form={form} name="longName" label="Long name" />
        <Foot leave="Keep its name" onLeave={onClose} act="Rename it" />
      </form>
    </Dialog>
  );
}

function Node({ node }: { node: NodeSeen }) {
  const [renaming, setRenaming] = useState(false);
  const editable = mayEdit(useScreen((s) => s.you.role));
  return (
    <li className="py-0.5" title={`${node.longName} · ${node.report}`}>
      <div className="flex min-h-7 items-center gap-2">
        <span className="num text-[12.5px]">{node.address}</span>
        <span className="min-w-0 flex-1 truncate text-soft">
          {node.shortName || node.longName}
          {node.style === ART_STYLE.controller && <span className="text-muted"> (a desk)</span>}
        </span>
        {node.card !== null && <span className="text-[12px] text-muted">{node.card}</span>}
        {editable && node.style === ART_STYLE.node && (
          <IconButton
            label={`Rename ${node.shortName || node.address}`}
            onClick={() => setRenaming(true)}
            className="!size-7"
          >
            <Pencil size={13} />
          </IconButton>
        )}
      </div>
      <div className="flex flex-wrap gap-x-3 gap-y-0.5">
        {node.ports.map((p) => (
          <Port key={`${p.way}${p.portAddress}`} port={p} />
        ))}
      </div>
      {renaming && <RenameNode node={node} onClose={() => setRenaming(false)} />}
    </li>
  );
}

function Source({ source }: { source: NetworkState['sources'][number] }) {
  return (
    <li className="flex min-h-7 items-center gap-2" title={source.cid}>
      <span className="min-w-0 flex-1 truncate text-soft">
        {source.name} {source.own && <span className="text-muted">(this one)</span>}
      </span>
      <span className="num truncate text-[12px] text-muted">{source.universes.join(', ')}</span>
    </li>
  );
}

/** Who wins a universe that we and somebody else send: the higher priority; of the same one, receivers decide. */
function sayContest(
  universe: number,
  ours: number,
  other: { name: string; address: string; priority: number },
): { text: string; isTheirs: boolean } {
  const who = `“${other.name}” (${other.address})`;
  const begin = `sACN universe ${universe} is sent by ${who} too, with priority ${other.priority}; ours is ${ours}: `;
  if (other.priority > ours) return { text: `${begin}theirs is seen.`, isTheirs: true };
  if (other.priority < ours)
    return { text: `${begin}ours is seen, and theirs if we stop.`, isTheirs: false };
  return { text: `${begin}each receiver decides what is seen.`, isTheirs: true };
}

function Contests({ network, routes }: { network: NetworkState; routes: Iterable<RouteRow> }) {
  const ours = new Map<number, number>();
  for (const r of routes)
    if (r.on && r.protocol === 'sacn')
      ours.set(r.wire, Math.max(r.priority, ours.get(r.wire) ?? 0));
  const all = network.contested.flatMap(({ universe, others }) =>
    others.map((o) => sayContest(universe, ours.get(universe) ?? 0, o)),
  );
  if (all.length === 0) return null;
  return (
    <ul aria-label="Universes that others send too" className="mt-3">
      {all.map(({ text, isTheirs }) => (
        <li key={text} className={isTheirs ? 'text-warning' : 'text-soft'}>
          {text}
        </li>
      ))}
    </ul>
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

/** Nodes and sources on the network. */
export function OnNetwork() {
  const show = useShow();
  const outputs = useScreen((s) => s.outputs);
  const nodes = outputs?.nodes ?? [];
  const sources = outputs?.sources ?? [];
  return (
    <>
      {outputs && <Contests network={outputs} routes={show.routes.values()} />}
      <div className="mt-4 grid grid-cols-2 gap-6">
        <Found
          label="Art-Net nodes"
          title="Art-Net nodes that answer"
          none="None; they are asked every 3 s."
          empty={nodes.length === 0}
        >
          {nodes.map((n) => (
            <Node key={`${n.address}/${n.bindIndex}/${n.ports[0]?.portAddress}`} node={n} />
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
