/** What is odd about the rig, with a way to it. Nothing here stands in anybody's way. */
'use client';
import { CircleCheck, TriangleAlert } from 'lucide-react';
import { AsideList, PutAside } from '../parts/Aside';
import { select } from '../state/commands';
import { useShow } from '../state/store';
import { setUniverse, useRig } from './rig-state';
import { useAside, useFindings } from './use-report';

const ABOUT = {
  addresses: 'Addresses',
  outputs: 'Outputs',
  power: 'Power',
  programming: 'Programming',
  movement: 'Movement',
  groups: 'Groups',
  units: 'What hangs',
} as const;

/** What somebody should look at in the rig. */
export function FindingsPane() {
  const show = useShow();
  const findings = useFindings();
  const aside = useAside();
  if (findings.length === 0) {
    return (
      <div className="grid h-full place-items-center text-muted">
        <div>
          <p className="flex items-center gap-2">
            <CircleCheck size={16} /> Nothing odd: addresses, outputs, power and programming fit
            together.
          </p>
          <AsideList findings={aside} />
        </div>
      </div>
    );
  }
  return (
    <div className="h-full overflow-y-auto px-3 py-2">
      <ul aria-label="Findings">
        {findings.map((f) => (
          <li
            key={f.key}
            className="flex min-h-9 items-center gap-2 border-b border-raised px-1 py-1"
          >
            <TriangleAlert
              size={15}
              className={`flex-none ${f.grave ? 'text-danger' : 'text-warning'}`}
              aria-label={f.grave ? 'grave' : 'to look at'}
            />
            {f.about === 'power' || f.about === 'outputs' || f.about === 'units' ? (
              <button
                type="button"
                className="w-[84px] flex-none text-left text-[12px] text-standby hover:underline"
                onClick={() =>
                  useRig.setState({ lower: f.about === 'power' ? 'power' : 'outputs' })
                }
              >
                {ABOUT[f.about]}
              </button>
            ) : (
              <span className="w-[84px] flex-none text-[12px] text-muted">{ABOUT[f.about]}</span>
            )}
            <span className="min-w-0 flex-1">{f.text}</span>
            {f.fixtures.length > 0 && (
              <button
                type="button"
                className="h-7 flex-none rounded-md px-2 text-[12px] text-standby hover:bg-raised"
                onClick={() => {
                  select(f.fixtures);
                  const at = f.fixtures.flatMap((id) => show.fixtures.get(id)?.patch ?? [])[0];
                  if (at) setUniverse(at.universe);
                }}
              >
                Show{' '}
                {f.fixtures.length === 1
                  ? show.fixtures.get(f.fixtures[0] ?? '')?.number
                  : f.fixtures.length}
              </button>
            )}
            <PutAside finding={f} />
          </li>
        ))}
      </ul>
      <AsideList findings={aside} />
    </div>
  );
}
