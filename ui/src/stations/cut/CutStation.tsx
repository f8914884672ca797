import type { Schemas } from '../../api/client';
import { Findings } from '../../look/Findings';
import { SheetRow, useSheet } from '../../look/SheetRow';
import { SheetView } from '../../look/SheetView';
import { showLength, showSpeed, showWay, useUnit } from '../../kit/units';
import { DepthPicture } from './DepthPicture';
import { Empty, Figure, Frame } from '../../look/Frame';
import type { StationProps } from '../../look/station';

/** Blade, force, passes, speed and mat, each with its reason. */
export function CutStation({ view, change, add }: StationProps) {
  const plan = view.plan;
  const ready = plan && plan.sheets.length > 0;
  return (
    <Frame
      foot={
        ready && (
          <div className="flex items-center gap-8">
            <SheetRow plan={plan} />
            <CutFigures plan={plan} />
          </div>
        )
      }
      side={
        <>
          {plan?.by_hand && <ByHand />}
          {plan &&
            !plan.by_hand &&
            plan.settings
              .filter((setting) => setting.used || plan.items.length === 0)
              .map((setting) => <Setting key={setting.cut} setting={setting} stock={plan.stock} />)}
          {plan?.corrected && (
            <p className="border-t border-rule pt-2 text-sm">
              <b>Corrected.</b> Cut files are drawn by the calibration of these machines, so that the cut
              lands where the print is. What is drawn here stays as planned.
            </p>
          )}
          <Findings
            findings={view.findings.filter((finding) => finding.station === 'cut')}
            items={view.job.document.items ?? []}
            jobId={view.job.id}
            change={change}
          />
        </>
      }
    >
      {ready ? <Path jobId={view.job.id} plan={plan} /> : <Empty view={view} add={add} />}
    </Frame>
  );
}

/** What to do where no machine cuts. */
function ByHand() {
  return (
    <section aria-label="By hand" className="flex flex-col gap-2">
      <h2 className="font-head text-base font-bold">By hand</h2>
      <p>
        Trim the sheet into its rows first: lay the guillotine’s rule on the ticks at the rim, one tick at
        each end.
      </p>
      <p>Then cut each piece along the inner side of its thin line, so that the line stays on the waste.</p>
      <p className="text-sm text-soft">
        Edges are no tighter than 4 mm. Fingers away from the blade, a mat under a knife; mind what the makers
        of your tools say.
      </p>
    </section>
  );
}

function CutFigures({ plan }: { plan: NonNullable<StationProps['view']['plan']> }) {
  const sheet = plan.sheets[useSheet(plan)];
  const unit = useUnit((state) => state.unit);
  const used = plan.settings.find((setting) => setting.used);
  return (
    <>
      <Figure name="cut length">{showWay(sheet?.cut_length_mm ?? 0, unit)}</Figure>
      {!plan.by_hand && (
        <>
          <Figure name="mat">{used?.mat ?? '–'} tack</Figure>
          <Figure name="blade out by">{used ? showLength(used.exposure_mm, unit, 2) : '–'}</Figure>
        </>
      )}
    </>
  );
}

function Path({ jobId, plan }: { jobId: number; plan: NonNullable<StationProps['view']['plan']> }) {
  const sheet = useSheet(plan);
  const path = plan.sheets[sheet]?.path ?? '';
  return (
    <SheetView jobId={jobId} plan={plan} sheet={sheet} mode="cut">
      {!plan.mirror && !plan.by_hand && (
        <>
          <polyline
            points={`0,0 ${path}`}
            fill="none"
            stroke="var(--d-look)"
            strokeWidth="1"
            strokeDasharray="2 4"
            vectorEffect="non-scaling-stroke"
          />
          {path.split(' ').map((point, index) => (
            <circle
              key={index}
              cx={point.split(',')[0]}
              cy={point.split(',')[1]}
              r="0.9"
              fill="var(--d-look)"
            />
          ))}
        </>
      )}
    </SheetView>
  );
}

function Setting({ setting, stock }: { setting: Schemas['SettingOut']; stock: Schemas['StockOut'] }) {
  const unit = useUnit((state) => state.unit);
  return (
    <section aria-label={`${setting.cut} cut`}>
      <h2 className="font-head text-base font-bold">{setting.cut === 'kiss' ? 'Kiss cut' : 'Through cut'}</h2>
      <p className="figure mt-0.5 text-base font-bold">
        {setting.force_gf} gf × {setting.passes}, {setting.blade}° blade
        <br />
        {showSpeed(setting.speed_mm_s, unit)}
      </p>
      <DepthPicture setting={setting} stock={stock} />
      <ul className="mt-2 flex list-disc flex-col gap-1 pl-5 text-sm">
        {setting.why.map((reason) => (
          <li key={reason}>{reason}</li>
        ))}
      </ul>
      <p className="mt-2 text-sm text-soft">
        A starter: the product’s own label comes before it. Try it on a scrap first; cap the blade when it is
        out.
      </p>
    </section>
  );
}
