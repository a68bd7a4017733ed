/** At which input of the player’s machine linear timecode is heard, beside those of screens. */
'use client';
import { edit } from '../../state/edits';
import { useSounds } from '../../state/sounds';
import { useShow } from '../../state/store';

const NONE = 'none';
/** The machine’s own choice, which has no name. */
const OWN = 'own';

/** Where timecode is heard at the player’s machine. */
export function CodeInput({ disabled }: { disabled: boolean }) {
  const out = useShow().settings.get('show')?.soundOut;
  const { inputs, inputProblem } = useSounds((s) => s.player);
  const chosen = out?.codeIn;
  const all = [...new Set([...inputs, ...(chosen ? [chosen] : [])])];
  const put = (value: string): void => {
    const { codeIn: old, ...rest } = out ?? { at: 'screens' as const };
    void old;
    const soundOut = value === NONE ? rest : { ...rest, codeIn: value === OWN ? '' : value };
    void edit('change-show', { set: { soundOut } });
  };
  return (
    <>
      <select
        aria-label="Audio input of the player’s machine"
        disabled={disabled}
        value={chosen === undefined ? NONE : chosen || OWN}
        onChange={(e) => put(e.target.value)}
        className="h-7 max-w-40 rounded-md bg-raised px-1"
      >
        <option value={NONE}>not at the player</option>
        <option value={OWN}>the player’s own input</option>
        {all.map((d) => (
          <option key={d}>{d}</option>
        ))}
      </select>
      {chosen !== undefined && inputProblem !== null && (
        <span className="max-w-52 truncate text-warning" title={inputProblem}>
          {inputProblem}
        </span>
      )}
    </>
  );
}
