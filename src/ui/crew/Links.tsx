/** The pages for phones and tablets, each as a link to open, to copy, or to hand round as a code to be photographed. */
'use client';
import { capital } from '@/core/words';
import { Copy, QrCode } from 'lucide-react';
import { QRCodeSVG } from 'qrcode.react';
import { useEffect, useState } from 'react';
import { Button, Dialog, IconButton } from '../parts/controls';
import { notice } from '../state/messages';

export interface PageLink {
  name: string;
  about: string;
  path: string;
}

/** The pages that every show has. */
export const standingPages = (
  showId: string,
  departments: readonly { id: string; name: string }[],
): PageLink[] => [
  { name: 'GO', about: 'for the operator: now, next, the word', path: `/shows/${showId}/go` },
  { name: 'Calling', about: 'for who calls the show', path: `/shows/${showId}/caller` },
  { name: 'Calls for light', about: 'stand by and go, answered', path: `/shows/${showId}/booth` },
  ...departments.map((d) => ({
    name: `Calls for ${d.name}`,
    about: 'stand by and go, answered',
    path: `/shows/${showId}/booth#${d.id}`,
  })),
  { name: 'Notes', about: 'for a designer in the house', path: `/shows/${showId}/notes` },
  { name: 'Focusing', about: 'for a phone on the ladder', path: `/shows/${showId}/focus` },
];

/** Loopback addresses reach this machine alone: a code with one is of no use to a phone. */
const reachesOthers = (origin: string): boolean =>
  !/^https?:\/\/(localhost|127\.|\[::1\])/.test(origin);

export function LinkRow({ link, children }: { link: PageLink; children?: React.ReactNode }) {
  const [shown, setShown] = useState(false);
  return (
    <li
      data-page-link={link.name}
      className="flex min-h-10 items-center gap-3 border-b border-raised"
    >
      <span className="min-w-0 flex-1 truncate">
        <span className="font-medium">{link.name}</span>{' '}
        <span className="text-muted">{link.about}</span>
      </span>
      {children}
      <a
        href={link.path}
        target="_blank"
        rel="noreferrer"
        className="text-[12.5px] text-standby hover:underline"
      >
        Open
      </a>
      <IconButton label={`Hand round: ${link.name}`} onClick={() => setShown(true)}>
        <QrCode size={16} />
      </IconButton>
      {shown && <Code link={link} onClose={() => setShown(false)} />}
    </li>
  );
}

function Code({ link, onClose }: { link: PageLink; onClose: () => void }) {
  const [origin, setOrigin] = useState('');
  useEffect(() => setOrigin(window.location.origin), []);
  const url = `${origin}${link.path}`;
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title={link.name}
      about={`${capital(link.about)}. Whoever opens it signs in as themselves.`}
      width="w-[400px]"
    >
      {origin !== '' && (
        <>
          <div className="mx-auto w-fit rounded-lg bg-white p-4">
            <QRCodeSVG data-testid="qr" value={url} size={260} level="M" title={url} />
          </div>
          <p className="num mt-3 text-center text-[12.5px] [overflow-wrap:anywhere] select-all">
            {url}
          </p>
          {!reachesOthers(origin) && (
            <p className="mt-2 text-[12.5px] text-warning">
              You are here by an address of this machine alone. For a phone, open Wingman by the
              machine’s name or address in the house’s network first; the code shows that one then.
            </p>
          )}
          <div className="mt-4 flex justify-end">
            <Button
              kind="strong"
              onClick={() =>
                void navigator.clipboard?.writeText(url).then(() => notice.done('Copied'))
              }
            >
              <Copy size={14} /> Copy the link
            </Button>
          </div>
        </>
      )}
    </Dialog>
  );
}
