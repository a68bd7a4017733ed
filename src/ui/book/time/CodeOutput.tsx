/** Which output of the player’s machine gives timecode as sound: one of its own, since nobody is to hear it. */
'use client';
import { edit } from '../../state/edits';
import { useSounds } from '../../state/sounds';
import { useShow } from '../../state/store';

/** Where timecode goes as sound at the player’s machine. */
export function CodeOutput({ disabled }: { disabled: boolean }) {
  const out = useShow().settings.get('show')?.soundOut;
  const { devices } = useSounds((s) => s.player);
  const code = out?.code ?? '';
  const all = [...new Set([...devices, ...(code === '' ? [] : [code])])];
  const put = (value: string): void => {
    const { code: old, ...rest } = out ?? { at: 'screens' as const };
    void old;
    const soundOut = value === '' ? rest : { ...rest, code: value };
    void edit('change-show', { set: { soundOut } });
  };
  return (
    <select
      aria-label="Output of timecode as sound"
      disabled={disabled}
      value={code}
      onChange={(e) => put(e.target.value)}
      className="h-7 max-w-40 rounded-md bg-raised px-1"
    >
      <option value="">the machine’s own output</option>
      {all.map((d) => (
        <option key={d}>{d}</option>
      ))}
    </select>
  );
}
