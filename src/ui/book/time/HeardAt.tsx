/** Where the sounds of the show are heard: at screens, at the player’s machine, and by which device there and here. */
'use client';
import { useEffect, useState } from 'react';
import { SOUND_AT, type SoundAt } from '@/core/sounds/rows';
import { optionsOf } from '../../parts/options';
import { chooseDevice, outputDevices, useOutput } from '../../sound/context';
import { edit } from '../../state/edits';
import { setSound, useRun } from '../../state/run';
import { useSounds } from '../../state/sounds';
import { useShow } from '../../state/store';

const AT_WORDS: Record<SoundAt, string> = {
  screens: 'at screens that play sound',
  player: 'at the player’s machine',
  both: 'at both',
};
const SELECT =
  'mt-1 block h-8 w-full rounded-md bg-ink px-2 text-[13px] text-text inset-ring inset-ring-edge';

function AtPlayer({ device }: { device: string }) {
  const { devices, problem } = useSounds((s) => s.player);
  const all = [...new Set([...devices, ...(device === '' ? [] : [device])])];
  const out = useShow().settings.get('show')?.soundOut;
  return (
    <label className="text-[12px] text-muted">
      Its output
      <select
        value={device}
        className={SELECT}
        onChange={(e) => {
          const { value } = e.target;
          const { device: old, ...rest } = out ?? { at: 'player' as const };
          void old;
          const soundOut = value === '' ? rest : { ...rest, device: value };
          void edit('change-show', { set: { soundOut } });
        }}
      >
        <option value="">the one it takes by itself</option>
        {all.map((d) => (
          <option key={d}>{d}</option>
        ))}
      </select>
      {problem !== null && <span className="mt-1 block text-warning">{problem}</span>}
    </label>
  );
}

function Here() {
  const sound = useRun((s) => s.sound);
  const problem = useSounds((s) => s.here.problem);
  const [devices, setDevices] = useState<{ id: string; name: string }[]>([]);
  const output = useOutput();
  const isListed = output.device === '' || devices.some((d) => d.id === output.device);
  useEffect(() => void outputDevices().then(setDevices), []);
  return (
    <div className="text-[12px] text-muted">
      <label className="flex items-center gap-2 text-[13px] text-text">
        <input type="checkbox" checked={sound} onChange={(e) => setSound(e.target.checked)} /> This
        screen plays sound
      </label>
      {sound && (devices.length > 0 || !isListed) && (
        <select
          aria-label="Output of this screen"
          value={output.device}
          onChange={(e) => void chooseDevice(e.target.value)}
          className={SELECT}
        >
          <option value="">the browser’s own</option>
          {!isListed && <option value={output.device}>the one that was chosen</option>}
          {devices.map((d) => (
            <option key={d.id} value={d.id}>
              {d.name}
            </option>
          ))}
        </select>
      )}
      {[problem, sound ? output.problem : null].map(
        (why) =>
          why !== null && (
            <span key={why} className="mt-1 block text-warning">
              {why}
            </span>
          ),
      )}
    </div>
  );
}

/** Where the show’s sound is heard. */
export function HeardAt() {
  const out = useShow().settings.get('show')?.soundOut;
  const at = out?.at ?? 'screens';
  return (
    <fieldset className="mt-4 grid grid-cols-2 gap-3 border-t border-line pt-3">
      <label className="text-[12px] text-muted">
        Sounds of this show are heard
        <select
          value={at}
          className={SELECT}
          onChange={(e) => {
            const next = SOUND_AT.find((a) => a === e.target.value) ?? 'screens';
            void edit('change-show', { set: { soundOut: { ...out, at: next } } });
          }}
        >
          {optionsOf(SOUND_AT, AT_WORDS).map((o) => (
            <option key={o.value} value={o.value}>
              {o.label}
            </option>
          ))}
        </select>
      </label>
      {at === 'screens' ? <Here /> : <AtPlayer device={out?.device ?? ''} />}
    </fieldset>
  );
}
