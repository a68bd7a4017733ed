/** What the simulated node received: read from packets, not from what was meant to be sent. */
'use client';
import { useEffect, useState } from 'react';
import { formatPortAddress } from '@/core/output/artnet';
import { PROTOCOL_NAMES } from '@/core/routes/tables';
import type { Faults } from '@/core/wires/faults';
import { api } from '../state/api';
import { FaultsForm } from './FaultsForm';

interface Received {
  protocol: 'sacn' | 'artnet';
  universe: number;
  source: string;
  priority: number | null;
  packets: number;
  outOfOrder: number;
  lastPacket_ms: number;
  largestGap_ms: number;
  state: 'receiving' | 'lost' | 'terminated';
  /** Nobody who sends this universe now has a higher priority. */
  wins: boolean;
  slots: number[];
}
interface Report {
  sacnPort: number;
  artnetPort: number;
  oscPort: number;
  peerPort: number;
  midiPort: number;
  faults: Faults;
  names: { shortName: string };
  messages: { kind: 'osc' | 'midi'; text: string; ago_s: number }[];
  universes: Received[];
}

const EVERY_MS = 250;
const WORDS = {
  receiving: 'receiving',
  lost: 'lost: nothing for 2.5 s',
  terminated: 'ended by its source',
};

const HEADINGS = [
  'Protocol',
  'On the wire',
  'From',
  'Priority',
  'State',
  'Packets',
  'Out of order',
  'Largest gap',
  'Channels lit',
];

/** What the node says, asked again and again; `problem` while it does not answer. */
function useReport(): { report: Report | undefined; problem: string | undefined } {
  const [report, setReport] = useState<Report>();
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    let stopped = false;
    const ask = async (): Promise<void> => {
      try {
        const next = await api<Report>('/api/sim/node');
        if (!stopped) {
          setReport(next);
          setProblem(undefined);
        }
      } catch (error) {
        if (!stopped) setProblem((error as Error).message);
      }
      if (!stopped) setTimeout(() => void ask(), EVERY_MS);
    };
    void ask();
    return () => {
      stopped = true;
    };
  }, []);
  return { report, problem };
}

const nameOf = (u: Received): string => `${u.protocol}/${u.universe}/${u.source}`;
const isBeaten = (u: Received): boolean => u.state === 'receiving' && !u.wins;

/** What the simulated node receives. */
export function NodePage() {
  const { report, problem } = useReport();
  const [chosen, setChosen] = useState('');
  const universes = report?.universes ?? [];
  const shown = universes.find((u) => nameOf(u) === chosen) ?? universes[0];
  return (
    <main className="mx-auto flex h-screen max-w-[1180px] flex-col px-6 py-5">
      <header className="flex items-baseline gap-4">
        <h1 className="text-[19px] font-semibold">Simulated node</h1>
        {report && <span className="text-soft">called “{report.names.shortName}”</span>}
        <p className="text-muted">
          {report ? (
            <>
              listens on 127.0.0.1, sACN on UDP <span className="num">{report.sacnPort}</span>,
              Art-Net on UDP <span className="num">{report.artnetPort}</span>
            </>
          ) : (
            'asking …'
          )}
        </p>
      </header>
      {problem && <p className="mt-3 text-danger">{problem}</p>}
      {report && <FaultsForm faults={report.faults} />}
      {report && universes.length === 0 && (
        <p className="mt-6 max-w-md text-muted">
          Nothing has arrived. Put a show on air whose universes are routed to the simulated node,
          and its packets appear here.
        </p>
      )}
      {universes.length > 0 && (
        <Universes universes={universes} shown={shown} onShow={(u) => setChosen(nameOf(u))} />
      )}
      {report && <Messages report={report} />}
      {shown && <Values of={shown} />}
      <p className="pt-3 text-[12px] text-muted">
        Art-Net counts its port addresses from 0, sACN its universes from 1: universe 1 of a show is
        0.0.0 in Art-Net.{' '}
        <a href="/" className="text-standby underline">
          Back to the shows
        </a>
      </p>
    </main>
  );
}

function Universes({
  universes,
  shown,
  onShow,
}: {
  universes: readonly Received[];
  shown: Received | undefined;
  onShow: (u: Received) => void;
}) {
  return (
    <table className="mt-4 w-full text-left">
      <thead className="text-[12px] text-muted">
        <tr className="h-8 border-b border-line">
          {HEADINGS.map((h) => (
            <th key={h} className="font-normal">
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {universes.map((u) => (
          <tr
            key={nameOf(u)}
            data-received={`${u.protocol}-${u.universe}`}
            onClick={() => onShow(u)}
            aria-selected={u === shown}
            className={`h-8 cursor-pointer border-b border-raised ${u === shown ? 'bg-standby-wash' : 'hover:bg-panel'}`}
          >
            <td className="pl-2">
              <button type="button" onClick={() => onShow(u)}>
                {PROTOCOL_NAMES[u.protocol]}
              </button>
            </td>
            <td className="num text-[12.5px]">
              {u.protocol === 'sacn' ? `universe ${u.universe}` : formatPortAddress(u.universe)}
            </td>
            <td>{u.source}</td>
            <td className="num text-[12.5px]">{u.priority ?? '—'}</td>
            <td
              className={
                u.state === 'receiving' && !isBeaten(u) ? 'text-lime-word' : 'text-warning'
              }
            >
              {isBeaten(u) ? 'receiving, another one wins' : WORDS[u.state]}
            </td>
            <td className="num text-[12.5px]">{u.packets}</td>
            <td className="num text-[12.5px]">{u.outOfOrder}</td>
            <td className="num text-[12.5px]">{u.largestGap_ms} ms</td>
            <td className="num text-[12.5px]">{u.slots.filter((v) => v > 0).length}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Messages({ report }: { report: Report }) {
  return (
    <section aria-label="Messages received" className="mt-4 max-h-28 flex-none overflow-y-auto">
      <h2 className="cap mb-1">
        OSC peer on UDP <span className="num">{report.peerPort}</span>, MIDI port on UDP{' '}
        <span className="num">{report.midiPort}</span>; remote controls send OSC to{' '}
        <span className="num">{report.oscPort}</span>
      </h2>
      {report.messages.length === 0 && (
        <p className="text-[12.5px] text-muted">No message yet: an action of a cue sends one.</p>
      )}
      {[...report.messages].reverse().map((m, i) => (
        <p key={i} data-message={m.kind} className="num text-[12.5px] leading-5 text-soft">
          <span className="inline-block w-14 text-muted">{m.kind === 'osc' ? 'OSC' : 'MIDI'}</span>
          {m.text} <span className="text-muted">· {m.ago_s} s ago</span>
        </p>
      ))}
    </section>
  );
}

function Values({ of }: { of: Received }) {
  return (
    <section
      aria-label="Received values"
      tabIndex={0}
      className="mt-4 min-h-0 flex-1 overflow-y-auto"
    >
      <h2 className="cap mb-2">
        {of.protocol === 'sacn'
          ? `sACN universe ${of.universe}`
          : `Art-Net ${formatPortAddress(of.universe)}`}
        : the 512 values as they arrived
      </h2>
      <div
        className="grid grid-cols-[repeat(32,minmax(0,1fr))] gap-px"
        role="group"
        aria-label="512 values"
      >
        {of.slots.map((v, i) => (
          <span
            key={i}
            title={`address ${i + 1}: ${v} of 255`}
            className={`num grid h-[22px] place-items-center rounded-sm text-[11px] ${v > 0 ? 'text-text' : 'text-dim'}`}
            style={{
              background: `color-mix(in srgb, var(--color-panel), var(--color-lime) ${Math.round((v / 255) * 80)}%)`,
            }}
          >
            {v}
          </span>
        ))}
      </div>
    </section>
  );
}
