import type { ItemDocument } from '../../api/client';
import { useMakeBack } from '../../api/sheets';
import { Button } from '../../kit/Button';
import { Fold } from '../../kit/Fold';

/** Both sides of a blank: the back is cut to the front's edge, turned over. */
export function BothSidesFold({
  jobId,
  document,
  items,
}: {
  jobId: number;
  document: ItemDocument;
  items: readonly ItemDocument[];
}) {
  const make = useMakeBack(jobId);
  const front = items.find((one) => one.number === document.back_of);
  const back = items.find((one) => one.back_of === document.number);
  const summary = front ? `back of ${front.name}` : back ? `its back is ${back.name}` : 'one side only';
  return (
    <Fold title="Both sides" summary={summary}>
      {front ? (
        <p className="text-sm">
          It is cut to the edge of {front.name}, turned over, so its own border settings do not matter. Its
          art reads the right way.
        </p>
      ) : back ? (
        <p className="text-sm">{back.name} follows its edge; make as many of both.</p>
      ) : (
        <>
          <p className="text-sm text-soft">
            For pieces seen from both sides: a second design, cut to the mirrored edge, as many as of this
            one.
          </p>
          <Button onClick={() => make.mutate(document.number)} disabled={make.isPending}>
            Make a back
          </Button>
        </>
      )}
    </Fold>
  );
}
