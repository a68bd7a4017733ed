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

export function FaultsForm({ faults }: { faults: Faults }) {
  const [problem, setProblem] = useState<string>();
  const rival = faults.rival ?? RIVAL;
  const set = (more: Partial<Faults>): void => {
    api('/api/sim/node', { method: 'POST', body: JSON.stringify({ ...faults, ...more }) }).then(
      () => setProblem(undefined),
      (error: unknown) => setProblem((error as Error).message),
    );
  };
  return (
    <section aria-label="Faults" className="mt-3 flex flex-wrap items-center gap-x-5">
      <h2 className="cap">Faults</h2>
      <Check checked={faults.loss > 0} onChange={(on) => set({ loss: on ? LOSS : 0 })}>
        3 of 10 packets are lost
      </Check>
      <Check checked={faults.reorder} onChange={(reorder) => set({ reorder })}>
        Packets come late
      </Check>
      <Check
        checked={faults.deadPort !== null}
        onChange={(on) => set({ deadPort: on ? DEAD_PORT : null })}
      >
        Art-Net port {formatPortAddress(faults.deadPort ?? DEAD_PORT)} has a short circuit
      </Check>
      <Check checked={faults.rival !== null} onChange={(on) => set({ rival: on ? RIVAL : null })}>
        Another source sends sACN universe {rival.universe} with priority {rival.priority}
      </Check>
      <Check checked={faults.pulled} onChange={(pulled) => set({ pulled })}>
        The cable is out
      </Check>
      {problem && <p className="text-danger">{problem}</p>}
    </section>
  );
}
