/** Which audio input of this screen linear timecode is heard at. */
'use client';
import { useEffect, useState } from 'react';
import { inputDevices, listenTo, useLtcIn } from '../../sound/timecode-in';

const NONE = 'none';

/** Where this browser hears timecode. */
export function LtcInput() {
  const { input, problem, read_ms } = useLtcIn();
  const [inputs, setInputs] = useState<{ id: string; name: string }[]>([]);
  // Names are told to a page that may hear.
  const isRead = read_ms !== null;
  useEffect(() => void inputDevices().then(setInputs), [isRead, input]);
  return (
    <>
      <select
        aria-label="Audio input of this screen"
        value={input ?? NONE}
        onChange={(e) => void listenTo(e.target.value === NONE ? null : e.target.value)}
        className="h-7 max-w-36 rounded-md bg-raised px-1"
      >
        <option value={NONE}>not heard here</option>
        <option value="">this screen’s input</option>
        {inputs
          .filter((i) => i.id !== 'default')
          .map((i) => (
            <option key={i.id} value={i.id}>
              {i.name}
            </option>
          ))}
      </select>
      {problem !== null && (
        <span className="max-w-52 truncate text-warning" title={problem}>
          {problem}
        </span>
      )}
    </>
  );
}
