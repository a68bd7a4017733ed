/** One set of controls for unlike fixtures: what the selection has in common, by family. */
'use client';
import { mayPlay, useScreen } from '../state/store';
import { BeamControl } from './deck/Beam';
import { useChosen } from './deck/chosen';
import { ColourControl } from './deck/Colour';
import { Line } from './deck/Line';
import { PositionControl } from './deck/Position';
import { Section } from './deck/Section';
import { ChooseMenu, SelectBar } from './deck/SelectBar';
import { live } from '../state/commands';

/** What the selection has in common, by family. */
export function Deck() {
  const you = useScreen((s) => s.you);
  const connection = useScreen((s) => s.connection);
  const chosen = useChosen();
  const disabled = !mayPlay(you.role) || connection !== 'live';
  if (chosen.length === 0) {
    return (
      <aside aria-label="Controls" className="h-full bg-panel p-4 text-muted">
        <p className="font-semibold text-soft">Nothing selected</p>
        <p className="mt-1">
          Click fixtures on the plan, drag a box round them, pick a group, or type their numbers: 1
          thru 8.
        </p>
        <div className="mt-3 inline-flex rounded-md bg-ink p-0.5 shadow-[inset_0_0_0_1px_var(--color-line)]">
          <ChooseMenu label="Choose" />
        </div>
      </aside>
    );
  }
  const dimmable = chosen.some((c) => c.attributes.includes('Dimmer'));
  return (
    <aside aria-label="Controls" className="h-full overflow-y-auto bg-panel">
      <SelectBar chosen={chosen} disabled={disabled} />
      {dimmable && (
        <Section
          title="Intensity"
          family="intensity"
          chosen={chosen}
          disabled={disabled}
          says={
            <span className="flex gap-1">
              {(
                [
                  ['Out', 0],
                  ['50', 0.5],
                  ['Full', 1],
                ] as const
              ).map(([label, level]) => (
                <button
                  key={label}
                  type="button"
                  disabled={disabled}
                  onClick={() => void live({ command: 'set', attribute: 'Dimmer', level })}
                  className="h-7 rounded bg-raised px-2 text-[12px] text-soft hover:bg-lift disabled:opacity-45"
                >
                  {label}
                </button>
              ))}
            </span>
          }
        >
          <Line chosen={chosen} attribute="Dimmer" disabled={disabled} labelled={false} />
        </Section>
      )}
      <ColourControl chosen={chosen} disabled={disabled} />
      <PositionControl chosen={chosen} disabled={disabled} />
      <BeamControl chosen={chosen} family="beam" disabled={disabled} />
      <BeamControl chosen={chosen} family="control" disabled={disabled} />
    </aside>
  );
}
