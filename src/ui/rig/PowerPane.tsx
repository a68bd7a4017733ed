/** Watts, circuits, phases: with everything at full, and in the cue that draws most. */
'use client';
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import { numberRanges } from '@/core/words';
import { powerSettings, type Load } from '@/core/rig/power';
import { VOLTAGES, type CircuitRow, type Power } from '@/core/circuits/rows';
import type { CueRow } from '@/core/cues/rows';
import { Ask, Button, Choice, Field, IconButton } from '../parts/controls';
import { fieldKeys } from '../parts/field-keys';
import { edit, select } from '../state/actions';
import { mayEdit, useScreen, useShow } from '../state/store';
import { PowerChart } from './PowerChart';
import { useReport } from './use-report';

const watts = (w: number): string => Math.round(w).toLocaleString('en').replaceAll(',', '\u00a0');
const cueWord = (cue: CueRow | null): string =>
  cue ? `cue ${formatCueNumber(cue.number)}` : 'dark';

/** Two loads against a breaker: the worst cue over everything at full, with the safe share marked. */
function Meter({ load, power }: { load: Load; power: Power }) {
  const share = (w: number): number => Math.min(100, (w / load.capacity_W) * 100);
  const colour =
    load.worst_W > load.capacity_W + 0.5
      ? 'bg-danger'
      : load.worst_W > load.safe_W + 0.5
        ? 'bg-warning'
        : 'bg-soft';
  return (
    <div
      className="relative h-3 overflow-hidden rounded bg-lift"
      role="meter"
      aria-label={`Worst load of ${load.circuit?.name ?? ''}`}
      aria-valuemin={0}
      aria-valuemax={Math.round(load.capacity_W)}
      aria-valuenow={Math.round(load.worst_W)}
    >
      <i
        className="absolute inset-y-0 left-0 bg-faint"
        style={{ width: `${share(load.full_W)}%` }}
      />
      <i
        className={`absolute inset-y-0 left-0 ${colour}`}
        style={{ width: `${share(load.worst_W)}%` }}
      />
      <i
        className="absolute inset-y-0 w-px bg-ink"
        style={{ left: `${power.safety * 100}%` }}
        title="safe share"
      />
    </div>
  );
}

function CircuitForm() {
  const [name, setName] = useState('');
  const [breaker, setBreaker] = useState('16');
  const [phase, setPhase] = useState('1');
  return (
    <form
      className="mt-3 grid grid-cols-[1fr_90px_90px_auto] items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        void edit('set-circuit', {
          set: { name, breaker_A: Number(breaker), phase: Number(phase) },
        }).then((a) => {
          if ('seq' in a) setName('');
        });
      }}
    >
      <Field
        label="New circuit"
        value={name}
        maxLength={120}
        placeholder="D1"
        onChange={(e) => setName(e.target.value)}
      />
      <Field
        label="Breaker, A"
        number
        value={breaker}
        onChange={(e) => setBreaker(e.target.value)}
      />
      <Choice
        label="Phase"
        value={phase}
        onChange={(e) => setPhase(e.target.value)}
        options={['1', '2', '3'].map((p) => ({ value: p, label: p }))}
      />
      <Button type="submit" disabled={name.trim() === '' || !(Number(breaker) > 0)}>
        <Plus size={14} /> Add
      </Button>
    </form>
  );
}

export function PowerPane() {
  const show = useShow();
  const { you } = useScreen();
  const report = useReport();
  const [deleting, setDeleting] = useState<CircuitRow | null>(null);
  const editable = mayEdit(you.role);
  const power = powerSettings(show);
  const put = (fields: Partial<Power>): void => void edit('set-power', { ...power, ...fields });
  const change = (circuit: CircuitRow, fields: Partial<CircuitRow>): void => {
    const { id, ...set } = { ...circuit, ...fields };
    void edit('set-circuit', { id, set });
  };
  const loose = report.loads.find((l) => l.circuit === null && l.fixtures.length > 0);
  return (
    <div className="h-full overflow-y-auto px-4 pb-4">
      <div className="flex flex-wrap items-end gap-x-5 gap-y-2 py-3">
        <div>
          <p className="cap">All at full</p>
          <p className="num text-[16px] leading-[26px]">{watts(report.full_W)} W</p>
        </div>
        <div>
          <p className="cap">Worst, {cueWord(report.worstCue)}</p>
          <p className="num text-[16px] leading-[26px]">{watts(report.worst_W)} W</p>
        </div>
        <div
          title={report.phases
            .map(
              (p) =>
                `Phase ${p.phase}: ${watts(p.worst_W)} W in its worst cue, ${watts(p.full_W)} W with everything at full`,
            )
            .join('\n')}
        >
          <p className="cap">Worst by phase</p>
          <p className="num text-[13px] leading-[26px]">
            {report.phases.map((p, i) => (
              <span key={p.phase}>
                {i > 0 && <span className="text-muted"> · </span>}
                <span className="text-muted">{p.phase}</span> {watts(p.worst_W)}
              </span>
            ))}
          </p>
        </div>
        <div className="ml-auto flex gap-2">
          <Choice
            label="Mains"
            className="w-[92px]"
            disabled={!editable}
            value={String(power.voltage_V)}
            onChange={(e) => put({ voltage_V: Number(e.target.value) as Power['voltage_V'] })}
            options={VOLTAGES.map((v) => ({ value: String(v), label: `${v} V` }))}
          />
          <Choice
            label="Safe share"
            className="w-[92px]"
            disabled={!editable}
            value={String(power.safety)}
            onChange={(e) => put({ safety: Number(e.target.value) })}
            options={[...new Set([0.7, 0.8, 0.9, 1, power.safety])]
              .sort()
              .map((s) => ({ value: String(s), label: `${Math.round(s * 100)} %` }))}
          />
        </div>
      </div>
      {show.circuits.size === 0 ? (
        <p className="max-w-lg text-muted">
          No circuits yet. Add the house’s circuits with their breakers, then put fixtures on them
          in the panel on the right or in the table’s Circuit column; loads are counted from the
          types’ watts and from the cue list.
        </p>
      ) : (
        <table className="w-full text-left [&_td]:pr-2 [&_th]:pr-2">
          <thead className="text-[12px] text-muted">
            <tr className="h-8 border-b border-line">
              <th className="font-normal">Circuit</th>
              <th className="font-normal">Phase</th>
              <th className="font-normal">Breaker</th>
              <th className="font-normal">Fixtures</th>
              <th className="w-[26%] font-normal">Load</th>
              <th className="text-right font-normal">At full</th>
              <th className="text-right font-normal">Worst cue</th>
              <th>
                <span className="sr-only">More</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {report.loads.flatMap((load) => {
              const { circuit } = load;
              if (!circuit) return [];
              return [
                <tr key={circuit.id} className="h-9 border-b border-raised">
                  <td className="num font-medium">{circuit.name}</td>
                  <td>
                    <select
                      aria-label={`Phase of ${circuit.name}`}
                      value={circuit.phase}
                      disabled={!editable}
                      onChange={(e) =>
                        change(circuit, { phase: Number(e.target.value) as 1 | 2 | 3 })
                      }
                      className="num h-7 rounded bg-ink px-1 shadow-[inset_0_0_0_1px_var(--color-line)]"
                    >
                      {[1, 2, 3].map((p) => (
                        <option key={p}>{p}</option>
                      ))}
                    </select>
                  </td>
                  <td className="whitespace-nowrap">
                    <input
                      key={circuit.breaker_A}
                      aria-label={`Breaker of ${circuit.name} in ampere`}
                      defaultValue={circuit.breaker_A}
                      disabled={!editable}
                      onFocus={(e) => e.currentTarget.select()}
                      onBlur={(e) =>
                        Number(e.target.value) !== circuit.breaker_A &&
                        change(circuit, { breaker_A: Number(e.target.value) })
                      }
                      onKeyDown={fieldKeys(circuit.breaker_A)}
                      className="num h-7 w-10 rounded bg-ink px-1.5 text-right shadow-[inset_0_0_0_1px_var(--color-line)]"
                    />{' '}
                    A
                  </td>
                  <td>
                    <button
                      type="button"
                      className="max-w-[130px] truncate text-left text-soft hover:text-standby"
                      title="Select them"
                      onClick={() => select(load.fixtures.map((f) => f.id))}
                    >
                      {load.fixtures.length === 0
                        ? '—'
                        : numberRanges(load.fixtures.map((f) => f.number))}
                    </button>
                  </td>
                  <td className="pr-3">
                    <Meter load={load} power={power} />
                  </td>
                  <td
                    className={`num text-right text-[12.5px] ${load.full_W > load.capacity_W ? 'text-warning' : 'text-soft'}`}
                  >
                    {watts(load.full_W)}
                  </td>
                  <td
                    className={`num text-right text-[12.5px] whitespace-nowrap ${load.worst_W > load.capacity_W + 0.5 ? 'text-danger' : load.worst_W > load.safe_W + 0.5 ? 'text-warning' : 'text-soft'}`}
                  >
                    {watts(load.worst_W)}{' '}
                    <span className="text-muted">{cueWord(load.worstCue)}</span>
                  </td>
                  <td className="text-right">
                    {editable && (
                      <IconButton
                        label={`Delete circuit ${circuit.name}`}
                        className="!size-7"
                        onClick={() =>
                          load.fixtures.length > 0
                            ? setDeleting(circuit)
                            : void edit('delete-circuit', { id: circuit.id })
                        }
                      >
                        <Trash2 size={13} />
                      </IconButton>
                    )}
                  </td>
                </tr>,
              ];
            })}
          </tbody>
        </table>
      )}
      {show.circuits.size > 0 && loose && (
        <p className="mt-2 text-muted">
          On no circuit:{' '}
          <span className="num text-soft">{numberRanges(loose.fixtures.map((f) => f.number))}</span>
          , {watts(loose.full_W)} W at full.
        </p>
      )}
      {editable && <CircuitForm />}
      {show.circuits.size > 0 && (
        <div className="mt-5">
          <PowerChart />
        </div>
      )}
      {deleting && (
        <Ask
          open
          onClose={() => setDeleting(null)}
          title={`Delete circuit ${deleting.name}?`}
          act="Delete"
          onAct={() => void edit('delete-circuit', { id: deleting.id })}
        >
          <p>
            {numberRanges(
              report.loads
                .find((l) => l.circuit?.id === deleting.id)
                ?.fixtures.map((f) => f.number) ?? [],
            )}{' '}
            will be on no circuit.
          </p>
        </Ask>
      )}
    </div>
  );
}
