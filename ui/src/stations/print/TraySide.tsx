/** Which side of a sheet in the tray this printer prints: found once, kept for the printer. */
import type { Schemas } from '../../api/client';
import { useCatalog } from '../../api/jobs';
import { useKeepPrinter, usePrinters } from '../../api/shop';
import { Fold } from '../../kit/Fold';
import { Options } from '../../kit/Options';
import { asSentence } from '../../kit/words';

export function TraySide({ printerId }: { printerId: number }) {
  const printer = usePrinters().data?.find((one) => one.id === printerId);
  const faces = useCatalog().data?.tray_faces ?? [];
  const keep = useKeepPrinter();
  if (!printer) return null;
  const known = faces.find((face) => face.key === printer.profile.printer.tray);
  return (
    <Fold title="Which way up in the tray" summary={known ? `it prints ${known.name}` : 'not known yet'}>
      <p className="text-sm">
        Pencil a cross on a plain sheet, lay it in the tray with the cross up, and print one line. Where did
        the line come out? {printer.profile.name} keeps the answer.
      </p>
      <Options
        label="It prints"
        columns={2}
        options={faces}
        value={known?.key ?? null}
        onChange={(tray) =>
          keep.mutate({
            id: printer.id,
            profile: {
              ...printer.profile,
              printer: { ...printer.profile.printer, tray: tray as Schemas['TrayFace'] },
            },
          })
        }
      />
      {keep.error && <p className="text-rowan">{asSentence(keep.error.message)}</p>}
    </Fold>
  );
}
