/** Pages of this house for phones and tablets, as codes to be photographed. */
'use client';
import { capital } from '@/core/words';
import { Copy } from 'lucide-react';
import { QRCodeSVG } from 'qrcode.react';
import { useEffect, useState } from 'react';
import { copyWords } from '../state/copy';
import { Button, Dialog } from './controls';

/** A page that a phone opens. */
export interface PageLink {
  name: string;
  about: string;
  path: string;
}

/** Loopback addresses reach this machine alone: a code with one is of no use to a phone. */
const reachesOthers = (origin: string): boolean =>
  !/^https?:\/\/(localhost|127\.|\[::1\])/.test(origin);

/** Whether this house has a certificate of its own making, which a device has to be told to trust first. */
const ownCertificate = async (): Promise<boolean> => {
  if (window.location.protocol !== 'https:') return false;
  const answer = await fetch('/trust/house.crt', { method: 'HEAD' }).catch(() => null);
  return answer?.ok === true;
};

/** A page as a code to be photographed, with its link. */
export function PhoneCode({ link, onClose }: { link: PageLink; onClose: () => void }) {
  const [origin, setOrigin] = useState('');
  const [isTrusted, setTrusted] = useState(true);
  useEffect(() => {
    setOrigin(window.location.origin);
    void ownCertificate().then((own) => setTrusted(!own));
  }, []);
  const url = isTrusted
    ? `${origin}${link.path}`
    : `http://${window.location.host}/trust?to=${encodeURIComponent(link.path)}`;
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
          {!isTrusted && (
            <p className="mt-2 text-[12.5px] text-muted">
              A device that does not know this house yet is taken through trusting it; one that does
              goes straight on.
            </p>
          )}
          {!reachesOthers(origin) && (
            <p className="mt-2 text-[12.5px] text-warning">
              You are here by an address of this machine alone. For a phone, open Wingman by the
              machine’s name or address in the house’s network first; the code shows that one then.
            </p>
          )}
          <div className="mt-4 flex justify-end">
            <Button kind="strong" onClick={() => void copyWords(url)}>
              <Copy size={14} /> Copy the link
            </Button>
          </div>
        </>
      )}
    </Dialog>
  );
}
