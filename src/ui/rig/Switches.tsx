/** The ten switches of an older unit, as they are to be set. */
'use client';
import { useState } from 'react';
import { switchesFor } from '@/core/rig/switches';

/** Drawn as the unit shows them: `up` is on, or the other way round when it hangs upside down. */
function SwitchBank({
  address,
  fromZero,
  flipped,
}: {
  address: number;
  fromZero: boolean;
  flipped: boolean;
}) {
  const switches = switchesFor(address, fromZero).map((on, i) => ({ on, number: i + 1 }));
  const shown = flipped ? [...switches].reverse() : switches;
  const said = switches.filter((s) => s.on).map((s) => s.number);
  return (
    <div
      role="img"
      aria-label={`On: ${said.length === 0 ? 'none' : said.join(', ')}`}
      className="flex gap-[3px]"
    >
      {shown.map(({ on, number }) => (
        <span key={number} className="flex flex-1 flex-col items-center">
          <span
            className={`relative h-[26px] w-full rounded-[4px] shadow-[inset_0_0_0_1px_var(--color-edge)] ${on ? 'bg-lift' : ''}`}
          >
            <i
              className={`absolute inset-x-[3px] h-[11px] rounded-[2px] ${on ? 'bg-text' : 'bg-faint'} ${on !== flipped ? 'top-[3px]' : 'bottom-[3px]'}`}
            />
          </span>
          <span className={`num mt-0.5 text-[11px] ${on ? 'text-text' : 'text-muted'}`}>
            {number}
          </span>
        </span>
      ))}
    </div>
  );
}

/** How a unit’s address switches are set. */
export function Switches({ address, place }: { address: number; place: string }) {
  const [fromZero, setFromZero] = useState(false);
  const [flipped, setFlipped] = useState(false);
  const toggle = (on: boolean, text: string, title: string, act: () => void): React.ReactNode => (
    <button
      type="button"
      aria-pressed={on}
      title={title}
      onClick={act}
      className={`h-6 rounded px-1 text-[11.5px] whitespace-nowrap ${on ? 'bg-lift text-text' : 'text-muted hover:text-soft'}`}
    >
      {text}
    </button>
  );
  return (
    <section aria-label="Address switches" className="border-b border-line px-4 py-2.5">
      <div className="mb-1.5 flex items-center gap-1">
        <span className="cap mr-auto">Switches</span>
        {toggle(fromZero, 'from 0', 'Units that count addresses from 0', () =>
          setFromZero(!fromZero),
        )}
        {toggle(flipped, 'turned', 'As seen with the unit turned over', () => setFlipped(!flipped))}
        <span className="num pl-1 text-[12px]">{place}</span>
      </div>
      <SwitchBank address={address} fromZero={fromZero} flipped={flipped} />
    </section>
  );
}
