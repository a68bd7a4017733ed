/** Trying a type on a real unit while it is written. */
'use client';
import { UNIVERSE_SLOTS } from '@/core/dmx';
import { useEffect, useState } from 'react';
import { plural } from '@/core/words';
import { attributeInfo } from '@/core/rig/attributes';
import { parsePoint } from '@/core/fixtures/points';
import { topOf } from '@/core/rig/channel';
import type { Channel, Mode } from '@/core/types/rows';
import { Button, Field, Slider } from '../parts/controls';
import { live } from '../state/commands';

/** One address on which the channels of the mode are tried, straight to the wire. */
export function LiveTest({ mode }: { mode: Mode }) {
  const [address, setAddress] = useState('');
  const [on, setOn] = useState(false);
  const [values, setValues] = useState<Record<string, number>>({});
  const point = parsePoint(address);
  const fits = point && point.address + mode.footprint - 1 <= UNIVERSE_SLOTS;
  // Whatever was forced for the test is let off with it.
  useEffect(() => {
    if (!on) return undefined;
    return () => void live({ command: 'check', value: null });
  }, [on]);
  // One address is tried: what a type has on a further address is not on this one.
  const channels = mode.channels.filter((c) => (c.break ?? 1) === 1);
  const send = (channel: Channel, level: number): void => {
    setValues((v) => ({ ...v, [channel.attribute]: level }));
    if (!point) return;
    const raw = Math.round(level * topOf(channel));
    channel.offset.forEach((offset, i) => {
      const value = Math.floor(raw / 256 ** (channel.offset.length - 1 - i)) % 256;
      void live({
        command: 'check',
        universe: point.universe,
        address: point.address + offset - 1,
        value,
      });
    });
  };
  const needed = point ? `Needs ${plural(mode.footprint, 'channel')}` : 'Like 2.101';
  return (
    <section aria-label="Live test" className="rounded-lg bg-ink p-3">
      <div className="flex items-end gap-3">
        <Field
          label="Try it on a unit at"
          number
          className="w-32"
          value={address}
          placeholder="2.101"
          disabled={on}
          onChange={(e) => setAddress(e.target.value)}
          problem={address.trim() !== '' && !fits ? needed : undefined}
        />
        <Button
          disabled={!fits}
          onClick={() => {
            setOn(!on);
            if (!on)
              setValues(Object.fromEntries(mode.channels.map((c) => [c.attribute, c.default])));
          }}
        >
          {on ? 'End the test' : 'Begin the test'}
        </Button>
        <p className="pb-2 text-[12px] text-muted">
          {on
            ? 'Values go straight to the address, over whatever plays. They end with the test.'
            : 'Moves a real unit while you write its type.'}
        </p>
      </div>
      {on && (
        <div className="mt-3 grid max-h-44 grid-cols-2 gap-x-6 overflow-y-auto">
          {channels.map((c) => (
            <div key={c.attribute} className="flex h-7 items-center gap-2 text-[12.5px] text-soft">
              <span className="w-28 truncate">{attributeInfo(c.attribute).label}</span>
              <Slider
                label={attributeInfo(c.attribute).label}
                value={values[c.attribute] ?? 0}
                onChange={(v) => send(c, v)}
              />
              <span className="num w-12 text-right text-[12px]">
                {Math.round((values[c.attribute] ?? 0) * topOf(c))}
              </span>
            </div>
          ))}
        </div>
      )}
    </section>
  );
}
