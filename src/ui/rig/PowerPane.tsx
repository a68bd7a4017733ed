/** Watts, circuits, phases: with everything at full, and in the cue that draws most. */
'use client';
import { useMemo } from 'react';
import { VOLTAGES, type Power } from '@/core/circuits/rows';
import { powerSettings } from '@/core/rig/power';
import { numberRanges } from '@/core/words';
import { Choice } from '../parts/controls';
import { SmallTable } from '../parts/table/SmallTable';
import { useTable } from '../parts/table/use-table';
import { edit } from '../state/edits';
import { mayEdit, useScreen, useShow } from '../state/store';
import { CircuitForm } from './power/CircuitForm';
import { CIRCUIT_COLUMNS, cueWord, sayWatts, type CircuitLoad } from './power/columns';
import { PowerChart } from './power/PowerChart';
import { useReport } from './use-report';

const SHARES = [0.7, 0.8, 0.9, 1];

type Report = ReturnType<typeof useReport>;

/** The whole house: at full, in its worst cue, and by phase. */
function Sums({ report }: { report: Report }) {
  const phases = report.phases.map(
    (p) =>
      `Phase ${p.phase}: ${sayWatts(p.worst_W)} W in its worst cue, ${sayWatts(p.full_W)} W with everything at full`,
  );
  return (
    <>
      <div>
        <p className="cap">All at full</p>
        <p className="num text-[16px] leading-[26px]">{sayWatts(report.full_W)} W</p>
      </div>
      <div>
        <p className="cap">Worst, {cueWord(report.worstCue)}</p>
        <p className="num text-[16px] leading-[26px]">{sayWatts(report.worst_W)} W</p>
      </div>
      <div title={phases.join('\n')}>
        <p className="cap">Worst by phase</p>
        <p className="num text-[13px] leading-[26px]">
          {report.phases.map((p, i) => (
            <span key={p.phase}>
              {i > 0 && <span className="text-muted"> · </span>}
              <span className="text-muted">{p.phase}</span> {sayWatts(p.worst_W)}
            </span>
          ))}
        </p>
      </div>
    </>
  );
}

function MainsSettings({ power }: { power: Power }) {
  const disabled = !mayEdit(useScreen((s) => s.you.role));
  const put = (fields: Partial<Power>): void => void edit('set-power', { ...power, ...fields });
  const shares = [...new Set([...SHARES, power.safety])].sort();
  return (
    <div className="ml-auto flex gap-2">
      <Choice
        label="Mains"
        className="w-[92px]"
        disabled={disabled}
        value={String(power.voltage_V)}
        onChange={(e) => put({ voltage_V: Number(e.target.value) as Power['voltage_V'] })}
        options={VOLTAGES.map((v) => ({ value: String(v), label: `${v} V` }))}
      />
      <Choice
        label="Safe share"
        className="w-[92px]"
        disabled={disabled}
        value={String(power.safety)}
        onChange={(e) => put({ safety: Number(e.target.value) })}
        options={shares.map((s) => ({ value: String(s), label: `${Math.round(s * 100)} %` }))}
      />
    </div>
  );
}

function Circuits({ report }: { report: Report }) {
  const show = useShow();
  const rows = useMemo(() => {
    const power = powerSettings(show);
    return report.loads.flatMap((load): CircuitLoad[] =>
      load.circuit ? [{ circuit: load.circuit, load, power }] : [],
    );
  }, [report, show]);
  const table = useTable({
    name: 'circuits',
    rows,
    columns: CIRCUIT_COLUMNS,
    rowId: ({ circuit }) => circuit.id,
    sorted: 'circuit',
  });
  return <SmallTable table={table} label="Circuits" />;
}

/** What circuits and phases carry. */
export function PowerPane() {
  const show = useShow();
  const editable = mayEdit(useScreen((s) => s.you.role));
  const report = useReport();
  const power = powerSettings(show);
  const loose = report.loads.find((l) => l.circuit === null && l.fixtures.length > 0);
  const any = show.circuits.size > 0;
  return (
    <div className="h-full overflow-y-auto px-4 pb-4">
      <div className="flex flex-wrap items-end gap-x-5 gap-y-2 py-3">
        <Sums report={report} />
        <MainsSettings power={power} />
      </div>
      {any ? (
        <Circuits report={report} />
      ) : (
        <p className="max-w-lg text-muted">
          No circuits yet. Add the house’s circuits with their breakers, then put fixtures on them
          in the panel on the right or in the table’s Circuit column; loads are counted from the
          types’ watts and from the cue list.
        </p>
      )}
      {any && loose && (
        <p className="mt-2 text-muted">
          On no circuit:{' '}
          <span className="num text-soft">{numberRanges(loose.fixtures.map((f) => f.number))}</span>
          , {sayWatts(loose.full_W)} W at full.
        </p>
      )}
      {editable && <CircuitForm />}
      {any && (
        <div className="mt-5">
          <PowerChart />
        </div>
      )}
    </div>
  );
}
