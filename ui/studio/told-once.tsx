'use client';

import { useQuery } from '@tanstack/react-query';
import QRCode from 'qrcode';
import { useState } from 'react';
import { Button } from '@/ui/kit/button';
import { Dialog } from '@/ui/kit/dialog';

/** An address that opens a door. */
export interface Told {
  title: string;
  url: string;
  /** How long it is good, and for what. */
  note: string;
}

/** An address that is told once: to be copied, sent, or read by another device’s camera. */
export function ToldOnce({ told, onClose }: { told: Told; onClose(): void }) {
  const [copied, setCopied] = useState<'no' | 'yes' | 'failed'>('no');
  const { data: picture } = useQuery({
    queryKey: ['picture of an address', told.url],
    queryFn: () => QRCode.toString(told.url, { type: 'svg', errorCorrectionLevel: 'M', margin: 2 }),
    gcTime: 0,
  });
  const copy = () =>
    navigator.clipboard.writeText(told.url).then(
      () => setCopied('yes'),
      () => setCopied('failed'),
    );
  return (
    <Dialog open onOpen={(open) => !open && onClose()} title={told.title} description={told.note} size="narrow">
      <div className="grid justify-items-start gap-3">
        <code className="block w-full rounded-lg border border-line bg-paper px-2 py-1 text-[13px] break-all select-all">{told.url}</code>
        <span className="flex flex-wrap gap-2">
          <Button look="spruce" onClick={() => void copy()}>
            {copied === 'yes' ? 'Copied' : 'Copy it'}
          </Button>
          {copied === 'failed' && <span className="text-plum">The browser does not let us: select it and copy it by hand.</span>}
        </span>
        {picture && (
          // eslint-disable-next-line @next/next/no-img-element
          <img
            className="size-56 rounded-lg border border-line bg-white"
            alt="The address as a picture for a camera"
            src={`data:image/svg+xml;utf8,${encodeURIComponent(picture)}`}
          />
        )}
        <p className="text-soft">It is shown this once: only a digest of it is kept.</p>
      </div>
    </Dialog>
  );
}
