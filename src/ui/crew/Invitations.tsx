/** Invitations by link: those that are open, and a new one. */
'use client';
import { fullDay, lastMoment } from '@/core/dates';
import { Copy, QrCode } from 'lucide-react';
import { useState } from 'react';
import { z } from 'zod';
import { aRole, ROLES } from '@/core/roles';
import type { Invitation } from '@/core/live/answers';
import { Button, Check, Dialog } from '../parts/controls';
import { FormChoice, FormField, useSchemaForm } from '../parts/form';
import { PhoneCode } from '../parts/PhoneCode';
import { copyWords } from '../state/copy';
import { useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';
import { MEANS, ROLE_OPTIONS } from './role-words';
import { useLoad, useSend } from './use-load';

const MOST_DAYS = 60;
const Draft = z.object({
  role: z.enum(ROLES),
  until: z.string(),
  days: z
    .string()
    .trim()
    .refine(
      (t) => /^\d+$/.test(t) && Number(t) >= 1 && Number(t) <= MOST_DAYS,
      `From 1 to ${MOST_DAYS} days.`,
    ),
  pages: z.array(z.string()),
});

interface Made {
  path: string;
  invitations: Invitation[];
}

/** Who is invited, for how long. */
function Ask({ onMade }: { onMade: (made: Made) => void }) {
  const showId = useScreen((s) => s.showId);
  const sheets = [...useShow().sheets.values()].sort((a, b) => a.number - b.number);
  const send = useSend();
  const form = useSchemaForm(Draft, { role: 'programmer', until: '', days: '7', pages: [] });
  const [role, pages] = form.watch(['role', 'pages']);
  const make = form.handleSubmit(async (d) => {
    const made = await send<Made>(`/api/shows/${showId}/invitations`, 'POST', {
      role: d.role,
      // What another role would have is not this one's.
      pages: d.role === 'volunteer' ? d.pages : [],
      memberUntil: d.role === 'owner' ? null : lastMoment(d.until),
      days: Number(d.days),
    });
    if (made) onMade(made);
  });
  return (
    <form className="space-y-3" onSubmit={(e) => void make(e)}>
      <div className="grid grid-cols-3 gap-2">
        <FormChoice form={form} name="role" label="Role" options={ROLE_OPTIONS} />
        {role !== 'owner' && (
          <FormField form={form} name="until" label="In the show until" type="date" />
        )}
        <FormField form={form} name="days" label="Link good for, days" number inputMode="numeric" />
      </div>
      <p className="text-[12.5px] text-muted">
        {aRole(role)} {MEANS[role]}.
      </p>
      {role === 'volunteer' &&
        sheets.map((p) => (
          <Check
            key={p.id}
            checked={pages.includes(p.id)}
            onChange={(on) =>
              form.setValue('pages', on ? [...pages, p.id] : pages.filter((x) => x !== p.id))
            }
          >
            {p.name}
          </Check>
        ))}
      <div className="flex justify-end">
        <Button kind="strong" type="submit">
          Make the link
        </Button>
      </div>
    </form>
  );
}

/** The link, which nobody can ask for again. */
function TheLink({ link }: { link: string }) {
  const [code, setCode] = useState(false);
  return (
    <div>
      <p className="text-soft">Send this to the person. It is shown this once.</p>
      <div className="mt-2 flex gap-2">
        <input
          readOnly
          aria-label="The link"
          data-testid="invitation-link"
          value={link}
          onFocus={(e) => e.currentTarget.select()}
          className="num h-9 flex-1 rounded-md bg-ink px-2.5 text-[12px] shadow-[inset_0_0_0_1px_var(--color-edge)]"
        />
        <Button kind="strong" className="!h-9" onClick={() => void copyWords(link)}>
          <Copy size={14} /> Copy
        </Button>
        <Button className="!h-9" onClick={() => setCode(true)}>
          <QrCode size={14} /> As a code
        </Button>
      </div>
      {code && (
        <PhoneCode
          link={{
            name: 'Invitation',
            about: 'for whoever photographs it, once',
            path: link.replace(window.location.origin, ''),
          }}
          onClose={() => setCode(false)}
        />
      )}
    </div>
  );
}

function Open({ i, onWithdraw }: { i: Invitation; onWithdraw: () => void }) {
  return (
    <li className="flex h-9 items-center gap-3 border-b border-raised">
      <span className="flex-1 text-soft">
        for {aRole(i.role).toLowerCase()}
        {i.memberUntil ? `, in the show until ${fullDay(i.memberUntil)}` : ''}
      </span>
      <span className="text-[12px] text-muted">good until {fullDay(i.expiresAt)}</span>
      <Button kind="quiet" onClick={onWithdraw}>
        Withdraw
      </Button>
    </li>
  );
}

/** Ways into the show that nobody has taken yet. */
export function Invitations() {
  const { showId, people } = useParts(useScreen, 'showId', 'people');
  const send = useSend();
  const [asking, setAsking] = useState(false);
  const [link, setLink] = useState<string>();
  const list = useLoad<{ invitations: Invitation[] }>(`/api/shows/${showId}/invitations`, people);
  const withdraw = ({ id }: Invitation): void =>
    void send<{ invitations: Invitation[] }>(
      `/api/shows/${showId}/invitations?invitation=${id}`,
      'DELETE',
    ).then((r) => r && list.set(r));
  const made = ({ path, invitations }: Made): void => {
    list.set({ invitations });
    setLink(`${window.location.origin}${path}`);
  };
  return (
    <div className="mt-5">
      <div className="flex items-center gap-3">
        <h2 className="text-[15px] font-semibold">Invitations</h2>
        <Button
          kind="strong"
          onClick={() => {
            setLink(undefined);
            setAsking(true);
          }}
        >
          Invite by link …
        </Button>
      </div>
      <ul>
        {(list.data?.invitations ?? [])
          .filter((i) => i.state === 'open')
          .map((i) => (
            <Open key={i.id} i={i} onWithdraw={() => withdraw(i)} />
          ))}
      </ul>
      <Dialog
        open={asking}
        onOpenChange={setAsking}
        title="Invite by link"
        about="Whoever opens the link first is in the show, in this role. It works once."
      >
        {link === undefined ? <Ask onMade={made} /> : <TheLink link={link} />}
      </Dialog>
    </div>
  );
}
