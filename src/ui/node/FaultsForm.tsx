/** Faults of the simulated house, to be switched on: what a rig does to a desk, tried where nobody is in the dark for it. */
'use client';
import { useState } from 'react';
import type { Faults } from '@/core/wires/faults';
import { formatPortAddress } from '@/core/output/artnet';
import { Check } from '../parts/controls';
import { api } from '../state/api';

const LOSS = 0.3;
const DEAD_PORT = 0;
const RIVAL = { universe: 1, priority: 120, level: 128 };

/** What was asked for, without what the node says by now. */
const notYetSaid = (asked: Partial<Faults>, faults: Faults): Partial<Faults> =>
  Object.fromEntries(
    Object.entries(asked).filter(
      ([key, value]) => JSON.stringify(value) !== JSON.stringify(faults[key as keyof Faults]),
    ),
  );

/** What the simulated node does wrong. */
export function FaultsForm({ faults }: { faults: Faults }) {
  const [problem, setProblem] = useState<string>();
  // What was asked for counts until the node says it too: a second switch must not undo the first (FaultsForm.test.tsx).
  const [asked, setAsked] = useState<Partial<Faults>>({});
  const [said, setSaid] = useState(faults);
  if (said !== faults) {
    setSaid(faults);
    setAsked(notYetSaid(asked, faults));
  }
  const { loss, reorder, deadPort, rival, pulled }: Faults = { ...faults, ...asked };
  const { universe, priority } = rival ?? RIVAL;
  const set = (more: Partial<Faults>): void => {
    const all = { ...asked, ...more };
    setAsked(all);
    api('/api/sim/node', { method: 'POST', body: JSON.stringify({ ...faults, ...all }) }).then(
      () => setProblem(undefined),
      (error: unknown) => {
        setAsked({});
        setProblem((error as Error).message);
      },
    );
  };
  return (
    <section aria-label="Faults" className="mt-3 flex flex-wrap items-center gap-x-5">
      <h2 className="cap">Faults</h2>
      <Check checked={loss > 0} onChange={(on) => set({ loss: on ? LOSS : 0 })}>
        3 of 10 packets are lost
      </Check>
      <Check checked={reorder} onChange={(reorder) => set({ reorder })}>
        Packets come late
      </Check>
      <Check
        checked={deadPort !== null}
        onChange={(on) => set({ deadPort: on ? DEAD_PORT : null })}
      >
        Art-Net port {formatPortAddress(deadPort ?? DEAD_PORT)} has a short circuit
      </Check>
      <Check checked={rival !== null} onChange={(on) => set({ rival: on ? RIVAL : null })}>
        Another source sends sACN universe {universe} with priority {priority}
      </Check>
      <Check checked={pulled} onChange={(pulled) => set({ pulled })}>
        The cable is out
      </Check>
      {problem && <p className="text-danger">{problem}</p>}
    </section>
  );
}
