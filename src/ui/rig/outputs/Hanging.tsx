/** What hangs at the nodes, by RDM, against what is patched: looked for when somebody asks; set after a question. */
'use client';
import { Lightbulb } from 'lucide-react';
import { useMemo, useState } from 'react';
import { formatPortAddress } from '@/core/output/artnet';
import { compareDevices, type Compared } from '@/core/rdm/devices';
import { Ask } from '../../parts/Ask';
import { Button, IconButton } from '../../parts/controls';
import { said } from '../../state/commands';
import { mayEdit, useScreen, useShow } from '../../state/store';
import { plural } from '@/core/words';

const INK: Readonly<Record<Compared['verdict'], string>> = {
  right: 'text-lime-word',
  address: 'text-warning',
  mode: 'text-warning',
  stranger: 'text-muted',
};
const ORDER: readonly Compared['verdict'][] = ['address', 'mode', 'stranger', 'right'];

/** `Basic, 5 channels, at 20`. */
function sayNow({ device }: Compared): string {
  const mode = device.modes[device.mode - 1]?.name;
  const size = `${plural(device.footprint, 'channel')}${device.address === null ? '' : ` at ${device.address}`}`;
  return mode ? `${mode}, ${size}` : size;
}

/** Hours and sensors, for whoever points at it. */
function sayMore({ device }: Compared): string {
  const all = [
    `${device.uid}, at ${device.node}`,
    device.software && `software ${device.software}`,
    device.hours !== null && `${device.hours} hours`,
    device.lampHours !== null && `lamp ${device.lampHours} hours`,
    ...device.sensors.map((s) => `${s.name} ${Math.round(s.value * 10) / 10} ${s.unit}`),
  ];
  return all.filter(Boolean).join(' · ');
}

/** What would be done, as a question. */
const sayAct = ({ set, device }: Compared): string => {
  if (set && 'address' in set) return `Set it to ${set.address}`;
  if (set) return `Set it to ${device.modes[set.mode - 1]?.name || `mode ${set.mode}`}`;
  return '';
};

function Unit({ it }: { it: Compared }) {
  const [asking, setAsking] = useState(false);
  const editable = mayEdit(useScreen((s) => s.you.role));
  const { device, set, verdict } = it;
  const put = (): void => {
    if (!set) return;
    const [what, value] =
      'address' in set ? (['address', set.address] as const) : (['mode', set.mode] as const);
    void said({ command: 'rdm', do: what, uid: device.uid, value });
  };
  const name = device.model || device.uid;
  const isWrong = verdict === 'address' || verdict === 'mode' || device.odd !== null;
  return (
    <li
      data-unit={device.uid}
      className="flex min-h-8 items-center gap-3 border-b border-raised py-1"
      title={sayMore(it)}
    >
      <span className="num w-14 flex-none text-[12px] text-muted">
        {it.universe ?? formatPortAddress(device.portAddress)}.{device.address ?? '—'}
      </span>
      <span className="flex min-w-0 flex-1 flex-wrap items-baseline gap-x-3">
        <span className="truncate">{name}</span>
        <span className="truncate text-[12.5px] text-muted">{sayNow(it)}</span>
        <span
          className={`text-[12.5px] ${isWrong ? 'basis-full' : ''} ${device.odd ? 'text-danger' : INK[verdict]}`}
        >
          {device.odd ?? it.says}
        </span>
      </span>
      {editable && (
        <>
          {set && !device.odd && <Button onClick={() => setAsking(true)}>{sayAct(it)} …</Button>}
          <IconButton
            label={device.identifies ? `${name} shows itself: end it` : `Have ${name} show itself`}
            aria-pressed={device.identifies}
            onClick={() =>
              void said({
                command: 'rdm',
                do: 'identify',
                uid: device.uid,
                value: device.identifies ? 0 : 1,
              })
            }
            className={`!size-7 ${device.identifies ? 'text-standby' : ''}`}
          >
            <Lightbulb size={14} />
          </IconButton>
        </>
      )}
      <Ask
        open={asking}
        onClose={() => setAsking(false)}
        title={`${sayAct(it)}?`}
        act={sayAct(it)}
        keep="Leave it"
        kind="strong"
        onAct={put}
      >
        {it.says} The {name} keeps it; what is patched stays as it is. Its light may change at once.
      </Ask>
    </li>
  );
}

/** Units that hang at nodes, by RDM. */
export function Hanging() {
  const show = useShow();
  const revision = useScreen((s) => s.revision);
  const rdm = useScreen((s) => s.rdm);
  const editable = mayEdit(useScreen((s) => s.you.role));
  const all = useMemo(() => {
    void revision;
    return compareDevices(show, rdm?.devices ?? []).sort(
      (a, b) => ORDER.indexOf(a.verdict) - ORDER.indexOf(b.verdict),
    );
  }, [show, rdm, revision]);
  const wrong = all.filter((c) => c.verdict === 'address' || c.verdict === 'mode').length;
  return (
    <section aria-label="What hangs there" className="mt-4">
      <div className="flex items-center gap-3">
        <h2 className="cap">What hangs there</h2>
        {rdm?.looked && (
          <span className={wrong > 0 ? 'text-[12.5px] text-warning' : 'text-[12.5px] text-muted'}>
            {plural(all.length, 'unit')}{' '}
            {wrong > 0 ? `answered, ${wrong} not as patched` : 'answered'}
          </span>
        )}
        {editable && (
          <Button
            className="ml-auto"
            disabled={rdm?.looking ?? false}
            onClick={() => void said({ command: 'rdm', do: 'look' })}
          >
            {rdm?.looking ? 'Asking them …' : 'Ask them'}
          </Button>
        )}
      </div>
      {!rdm?.looked && !rdm?.looking && (
        <p className="mt-1 text-muted">
          Units at Art-Net nodes that speak RDM say what they are, where, and in which mode. Asking
          takes a moment of the wire.
        </p>
      )}
      <ul>
        {all.map((it) => (
          <Unit key={it.device.uid} it={it} />
        ))}
      </ul>
    </section>
  );
}
