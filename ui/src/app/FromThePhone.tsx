import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';

import { ask, client } from '../api/client';
import { Button } from '../kit/Button';
import { Window } from '../kit/Window';

/** Where a phone in the same network finds this workshop, if it may. */
export function FromThePhone() {
  const [open, setOpen] = useState(false);
  const lan = useQuery({
    queryKey: ['lan'],
    queryFn: () => ask(client.GET('/api/lan')),
    staleTime: Infinity,
  });
  if (lan.data === undefined) return null;
  return (
    <>
      <Button onClick={() => setOpen(true)}>From the phone</Button>
      <Window title="From the phone" open={open} close={() => setOpen(false)}>
        {lan.data ? (
          <div className="flex flex-col gap-3">
            <p>
              Point the phone’s camera at this, or type the address. It asks for the passphrase; then pictures
              can be sent from it, and each job read step by step at the bench.
            </p>
            <svg
              viewBox={`0 0 ${lan.data.side} ${lan.data.side}`}
              className="mx-auto h-64 w-64"
              role="img"
              aria-label={`QR code of ${lan.data.address}`}
              shapeRendering="crispEdges"
            >
              <rect width={lan.data.side} height={lan.data.side} fill="#ffffff" />
              <path d={lan.data.code} fill="#000000" />
            </svg>
            <p className="text-center font-bold break-all">{lan.data.address}</p>
            {lan.data.caution && <p className="text-sm text-soft">{lan.data.caution}</p>}
          </div>
        ) : (
          <div className="flex flex-col gap-3">
            <p>
              Now only this computer reaches the workshop. To let a phone in the same network in, start it
              with
            </p>
            <p className="figure rounded-[6px] bg-tray px-3 py-2 font-bold">vamper serve --lan</p>
            <p>
              It asks for a passphrase once. Then the address stands here, with a code to point the phone’s
              camera at.
            </p>
          </div>
        )}
      </Window>
    </>
  );
}
