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
import { PhotoScreen } from './PhotoScreen';
import { ProofScreen } from './ProofScreen';
import { Schools } from './Schools';

const LOOKS = [
  ['page', 'The page'],
  ['proof', 'Proof'],
  ['photo', 'Photo check'],
] as const;

const NO_SHEETS = { sheets: [] };

/** The page as it goes to the printer, what to choose there, and the proof before it. */
export default function PrintStation({ view, change, add }: StationProps) {
  const plan = view.plan;
  const unit = useUnit((state) => state.unit);
  const printing = usePrinting(view.job.id).data ?? null;
  const sheet = useSheet(plan ?? NO_SHEETS);
  const [asked, setLook] = useState<'page' | 'proof' | 'photo'>('page');
  const ready = plan && plan.sheets.length > 0;
  const look = printing ? asked : 'page';
  const own = view.findings.filter((finding) => finding.station === 'print');
  const pressing = own.some((finding) => finding.severity !== 'note');
  const found = <Findings findings={own} items={view.job.document.items ?? []} jobId={view.job.id} />;
  const percent = (scale: number) => (100 / scale).toFixed(scale === 1 ? 0 : 2);
  return (
    <Frame
      foot={
        ready && (
          <div className="flex items-center gap-8">
            <SheetRow plan={plan} />
            {printing && (
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
          {ready && printing && <PrintFiles view={view} plan={plan} change={change} />}
          {printing && <DialogLines printing={printing} />}
          {ready && printing && (
            <>
              <InkFigures jobId={view.job.id} plan={plan} sheet={sheet} />
              <Schools jobId={view.job.id} printing={printing} />
            </>
          )}
          {ready && plan.granted.length > 0 && <OwnProgram jobId={view.job.id} plan={plan} sheet={sheet} />}
          {!pressing && found}
        </>
      }
    >
      {ready ? (
        <div className="absolute inset-0 flex flex-col">
          {printing && <Looks looks={LOOKS} look={look} choose={setLook} />}
          <div className="relative min-h-0 flex-1">
            {look === 'proof' && printing ? (
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
