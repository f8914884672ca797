/** What a drawing would want of each kind of stock: from which size on its finest strips hold. */
import { useState } from 'react';

import { useWanted } from '../../api/designs';
import { Button } from '../../kit/Button';
import { Fold } from '../../kit/Fold';
import { showLength, useUnit } from '../../kit/units';

interface Props {
  jobId: number;
  number: number;
  /** What it is worked out from: where that changes, it is asked anew. */
  from: string;
}

export function WantedFold({ jobId, number, from }: Props) {
  const unit = useUnit((state) => state.unit);
  const [asked, setAsked] = useState(false);
  const wanted = useWanted(jobId, number, from, asked);
  return (
    <Fold title="Cut out of what?" summary="how fine it is">
      {!asked && (
        <Button className="self-start" onClick={() => setAsked(true)}>
          Compare the stocks
        </Button>
      )}
      {asked && !wanted.data && <p className="text-sm text-soft">Measuring its finest strips …</p>}
      {wanted.data && (
        <>
          <p className="text-sm text-soft">
            Cut on the drawing itself, its strips hold from this size of its longer side on:
          </p>
          <table className="w-full text-sm">
            <tbody>
              {wanted.data.map((one) => (
                <tr key={one.stock} className="border-t border-rule align-baseline">
                  <th scope="row" className="py-1 pr-3 text-left font-normal">
                    {one.name}
                  </th>
                  <td className="figure py-1 text-right">
                    {one.from_mm === null ? 'too fine for it' : showLength(one.from_mm, unit, 0)}
                  </td>
                  <td className={`py-1 pl-3 ${one.holds ? 'text-moss' : 'text-bracken'}`}>
                    {one.holds ? 'as it is' : 'larger'}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </Fold>
  );
}
