/** The pages for phones and tablets, each as a link to open, to copy, or to hand round as a code to be photographed. */
'use client';
import { QrCode } from 'lucide-react';
import { useState } from 'react';
import { IconButton } from '../parts/controls';
import { PhoneCode, type PageLink } from '../parts/PhoneCode';

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

/** A page for phones, with its code. */
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
      {shown && <PhoneCode link={link} onClose={() => setShown(false)} />}
    </li>
  );
}
