import { useState } from 'react';

import { usePrinting } from '../../api/printing';
import { showSize, useUnit } from '../../kit/units';
import { Empty, Figure, Frame } from '../../look/Frame';
import { Findings } from '../../look/Findings';
import { Looks } from '../../look/Looks';
import { SheetRow, useSheet } from '../../look/SheetRow';
import { SheetView } from '../../look/SheetView';
import type { StationProps } from '../../look/station';
import { DialogLines } from './DialogLines';
import { OwnProgram } from './OwnProgram';
import { InkFigures, PrintFiles } from './PrintFiles';
import { Fold } from '../../kit/Fold';
import { OtherFiles } from './OtherFiles';
import { PhotoScreen } from './PhotoScreen';
import { ProgramHandOff } from './ProgramHandOff';
import { ProofScreen } from './ProofScreen';
import { Schools } from './Schools';
import { TraySide } from './TraySide';

type Look = 'picture' | 'page' | 'proof' | 'photo';
type Looked = readonly [readonly [Look, string], ...(readonly [Look, string])[]];

const LOOKS: Looked = [
  ['page', 'The page'],
  ['proof', 'Proof'],
  ['photo', 'Photo check'],
];
// Its program prints: what is handed over is one picture.
const BY_PROGRAM: Looked = [
  ['picture', 'For your machine’s program'],
  ['photo', 'Photo check'],
];

const NO_SHEETS = { sheets: [] };

/** The page as it goes to the printer, what to choose there, and the proof before it. */
export default function PrintStation({ view, change, add }: StationProps) {
  const plan = view.plan;
  const unit = useUnit((state) => state.unit);
  const printing = usePrinting(view.job.id).data ?? null;
  const sheet = useSheet(plan ?? NO_SHEETS);
  const [asked, setLook] = useState<Look>('page');
  const ready = plan && plan.sheets.length > 0;
  const looks = plan?.by_program ? BY_PROGRAM : LOOKS;
  const look = looks.some(([key]) => key === asked) && (printing || plan?.by_program) ? asked : looks[0][0];
  const own = view.findings.filter((finding) => finding.station === 'print');
  const pressing = own.some((finding) => finding.severity !== 'note' && !finding.meant);
  const found = <Findings findings={own} items={view.job.document.items ?? []} jobId={view.job.id} />;
  const percent = (scale: number) => (100 / scale).toFixed(scale === 1 ? 0 : 2);
  return (
    <Frame
      foot={
        ready && (
          <div className="flex items-center gap-8">
            <SheetRow plan={plan} />
            {printing && !plan.by_program && (
              <>
                <Figure name="page">{showSize(printing.page_width_mm, printing.page_height_mm, unit)}</Figure>
                <Figure name="drawn at">
                  {printing.scale_x === printing.scale_y
                    ? `${percent(printing.scale_x)} %`
                    : `${percent(printing.scale_x)} × ${percent(printing.scale_y)} %`}
                </Figure>
              </>
            )}
            <Figure name="reads">{plan.mirror ? 'backwards, on purpose' : 'the right way'}</Figure>
          </div>
        )
      }
      side={
        <>
          {pressing && found}
          {ready && printing && !plan.by_program && <PrintFiles view={view} plan={plan} change={change} />}
          {printing && <DialogLines printing={printing} />}
          {printing && <TraySide printerId={view.job.document.printer_id} />}
          {ready && printing && (
            <>
              <InkFigures jobId={view.job.id} plan={plan} sheet={sheet} />
              <Schools jobId={view.job.id} printing={printing} />
            </>
          )}
          {ready && printing && plan.by_program && (
            <Fold title="Other files" summary="PDF, cut files">
              <PrintFiles view={view} plan={plan} change={change} />
              <OtherFiles jobId={view.job.id} sheet={sheet} />
            </Fold>
          )}
          {ready && plan.granted.length > 0 && !plan.by_program && (
            <OwnProgram jobId={view.job.id} plan={plan} sheet={sheet} />
          )}
          {!pressing && found}
        </>
      }
    >
      {ready ? (
        <div className="absolute inset-0 flex flex-col">
          {(printing || plan.by_program) && <Looks looks={looks} look={look} choose={setLook} />}
          <div className="relative min-h-0 flex-1">
            {look === 'picture' ? (
              <ProgramHandOff view={view} plan={plan} />
            ) : look === 'proof' && printing ? (
              <ProofScreen jobId={view.job.id} plan={plan} sheet={sheet} printing={printing} />
            ) : look === 'photo' ? (
              <PhotoScreen jobId={view.job.id} plan={plan} sheet={sheet} />
            ) : (
              <SheetView jobId={view.job.id} plan={plan} sheet={sheet} mode="print" />
            )}
          </div>
        </div>
      ) : (
        <Empty view={view} add={add} />
      )}
    </Frame>
  );
}
