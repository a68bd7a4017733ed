/** A simulated timecode machine: it plays, stops, jumps, drops out and drifts, as MIDI time code in real bytes. */
'use client';
import { useEffect, useRef, useState } from 'react';
import { fullFrame, quarterFrame } from '@/core/timecode/mtc';
import { formatTimecode, FRAMES_A_SECOND, timecodeOf } from '@/core/timecode/rate';
import { RATES, type Rate } from '@/core/timecode/rows';
import { Button } from '../parts/controls';

const TICK_MS = 5;
const PIECES = 8;
const DROP_MS = 3000;
const HOUR_S = 3600;

interface Machine {
  /** Seconds of the tape, and of the clock at that. */
  at_s: number;
  since_ms: number;
  runs: boolean;
  /** Quarters that were sent, counted from 00:00:00:00. */
  quarter: number;
  silentUntil_ms: number;
}

/** A simulated machine that sends timecode, well or badly. */
export function TimecodeMachine({ send }: { send: (bytes: number[]) => void }) {
  const [rate, setRate] = useState<Rate>('25');
  const [drift, setDrift] = useState(1);
  const [shown, setShown] = useState('01:00:00:00');
  const [runs, setRuns] = useState(false);
  const machine = useRef<Machine>({
    at_s: HOUR_S,
    since_ms: 0,
    runs: false,
    quarter: -1,
    silentUntil_ms: 0,
  });
  const now = (): number => {
    const { at_s, since_ms, runs: isOn } = machine.current;
    return at_s + (isOn ? ((performance.now() - since_ms) / 1000) * drift : 0);
  };
  /** From where it is, at another pace or none. */
  const turn = (set: Partial<Machine>): void => {
    machine.current = { ...machine.current, at_s: now(), since_ms: performance.now(), ...set };
    setRuns(machine.current.runs);
  };
  const jump = (to_s: number): void => {
    turn({ at_s: Math.max(0, to_s), quarter: -1 });
    send([...fullFrame(timecodeOf(Math.floor(now() * FRAMES_A_SECOND[rate]), rate))]);
  };
  useEffect(() => {
    const timer = setInterval(() => {
      const m = machine.current;
      const frames = now() * FRAMES_A_SECOND[rate];
      setShown(formatTimecode(timecodeOf(Math.floor(frames), rate)));
      if (!m.runs) return;
      const quarters = Math.floor(frames * 4);
      if (m.quarter < 0 || quarters - m.quarter > PIECES * 4)
        m.quarter = Math.ceil(quarters / PIECES) * PIECES - 1;
      for (; m.quarter < quarters; m.quarter++) {
        const next = m.quarter + 1;
        const bytes = quarterFrame(next % PIECES, timecodeOf((next - (next % PIECES)) / 4, rate));
        if (performance.now() >= m.silentUntil_ms) send([...bytes]);
      }
    }, TICK_MS);
    return () => clearInterval(timer);
  });
  const SELECT = 'h-9 rounded-md bg-raised px-2 text-[13px]';
  return (
    <section aria-label="Timecode machine" className="mt-8 border-t border-line pt-4">
      <h2 className="cap mb-2">Timecode machine</h2>
      <div className="flex flex-wrap items-center gap-2">
        <span data-testid="machine-time" className="num w-36 text-[20px] font-semibold">
          {shown}
        </span>
        <Button kind="strong" onClick={() => turn({ runs: !runs, quarter: -1 })}>
          {runs ? 'Stop' : 'Play'}
        </Button>
        <Button onClick={() => jump(HOUR_S)}>To 01:00:00:00</Button>
        <Button onClick={() => jump(now() + 30)}>30 s on</Button>
        <Button onClick={() => jump(now() - 30)}>30 s back</Button>
        <Button onClick={() => (machine.current.silentUntil_ms = performance.now() + DROP_MS)}>
          Drop out for 3 s
        </Button>
        <select
          aria-label="Rate"
          value={rate}
          onChange={(e) => setRate(RATES.find((r) => r === e.target.value) ?? '25')}
          className={SELECT}
        >
          {RATES.map((r) => (
            <option key={r} value={r}>
              {r} frames
            </option>
          ))}
        </select>
        <select
          aria-label="Drift"
          value={String(drift)}
          onChange={(e) => {
            turn({});
            setDrift(Number(e.target.value));
          }}
          className={SELECT}
        >
          <option value="1">keeps time</option>
          <option value="1.01">1 % fast</option>
          <option value="0.99">1 % slow</option>
        </select>
      </div>
      <p className="mt-2 text-[12.5px] text-muted">
        MIDI time code on the same port. A list that follows MIDI time goes by it while its show is
        on air and a window of this browser has it open.
      </p>
    </section>
  );
}
