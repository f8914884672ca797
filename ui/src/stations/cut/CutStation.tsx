import { useState } from 'react';

import { type Cut, type Force, useForce } from '../../api/cut';
import type { Schemas } from '../../api/client';
import { Button } from '../../kit/Button';
import { showLength, showWay, useUnit } from '../../kit/units';
import { Empty, Figure, Frame } from '../../look/Frame';
import { Findings } from '../../look/Findings';
import { Looks } from '../../look/Looks';
import { SheetRow, useSheet } from '../../look/SheetRow';
import { Loaded } from '../../look/Loaded';
import { SheetView } from '../../look/SheetView';
import type { StationProps } from '../../look/station';
import { ByHand } from './ByHand';
import { CardLook } from './CardLook';
import { CareLook } from './CareLook';
import { ForceLook } from './ForceLook';
import { ForcePanel } from './ForcePanel';
import { PathLook } from './PathLook';
import { PathPanel } from './PathPanel';
import { TabsFold } from './TabsFold';
import { SettingsLook } from './SettingsLook';
import { SettingsPanel } from './SettingsPanel';

type Plan = NonNullable<StationProps['view']['plan']>;
type Look = 'force' | 'way' | 'settings' | 'care' | 'card';

const LOOKS: readonly (readonly [Look, string])[] = [
  ['force', 'Pressure'],
  ['way', 'The cut path'],
  ['settings', 'Your machine’s settings'],
  ['care', 'Blade and mat'],
  ['card', 'Bench card'],
];

// Its program takes no force, and finds its own way.
const BY_PROGRAM = LOOKS.filter(([key]) => key !== 'force' && key !== 'way');

const BY_HAND: typeof LOOKS = [
  ['way', 'Guide lines'],
  ['card', 'Bench card'],
];

/** The right force, said in the machine's own words; the way of the blade; and the card for the bench. */
export default function CutStation(props: StationProps) {
  const { view, add } = props;
  const plan = view.plan;
  if (!plan || plan.sheets.length === 0)
    return <Frame foot={null} side={null} children={<Empty view={view} add={add} />} />;
  return <Cutting {...props} plan={plan} />;
}

function Cutting({ view, change, plan }: StationProps & { plan: Plan }) {
  const jobId = view.job.id;
  const sheet = useSheet(plan);
  const used = plan.settings.filter((setting) => setting.used);
  const [asked, setLook] = useState<Look>('force');
  const [cut, setCut] = useState<Cut | null>(null);
  const setting = used.find((one) => one.cut === cut) ?? used[0] ?? plan.settings[0];
  const looks = plan.by_hand ? BY_HAND : plan.by_program ? BY_PROGRAM : LOOKS;
  const look = looks.some(([key]) => key === asked) ? asked : (looks[0]?.[0] ?? 'way');
  return (
    <Frame
      foot={
        <div className="flex items-center gap-8">
          <SheetRow plan={plan} />
          <CutFigures plan={plan} setting={setting} />
        </div>
      }
      side={
        <>
          {used.length > 1 && !plan.by_hand && (look === 'force' || look === 'settings') && (
            <div role="group" aria-label="Which cut" className="flex gap-1.5">
              {used.map((one) => (
                <Button
                  key={one.cut}
                  look={one === setting ? 'act' : 'plain'}
                  aria-pressed={one === setting}
                  onClick={() => setCut(one.cut)}
                >
                  {one.cut === 'kiss' ? (plan.by_program ? 'Face only' : 'Kiss cut') : 'Cut through'}
                </Button>
              ))}
            </div>
          )}
          {plan.by_hand && <ByHand />}
          {setting && !plan.by_hand && (plan.by_program || look === 'settings') && look !== 'way' && (
            <SettingsPanel view={view} plan={plan} setting={setting} />
          )}
          {setting && !plan.by_hand && !plan.by_program && look !== 'way' && look !== 'settings' && (
            <WithForce jobId={jobId} setting={setting}>
              {(force) => (
                <ForcePanel
                  view={view}
                  plan={plan}
                  setting={setting}
                  force={force}
                  change={change}
                  sheet={sheet}
                />
              )}
            </WithForce>
          )}
          {!plan.by_hand && look === 'way' && (
            <>
              <PathPanel jobId={jobId} plan={plan} sheet={sheet} />
              <TabsFold view={view} plan={plan} change={change} />
            </>
          )}
          {plan.corrected && look === 'way' && (
            <p className="border-t border-rule pt-2 text-sm">
              <b>Corrected.</b> Cut files are drawn by the calibration of these machines, so that the cut
              lands where the print is. What is drawn here stays as planned.
            </p>
          )}
          <Findings
            findings={view.findings.filter((finding) => finding.station === 'cut')}
            items={view.job.document.items ?? []}
            jobId={jobId}
          />
        </>
      }
    >
      <div className="absolute inset-0 flex flex-col">
        <Looks looks={looks} look={look} choose={setLook} />
        <div className="relative min-h-0 flex-1">
          {look === 'force' && setting && (
            <WithForce jobId={jobId} setting={setting}>
              {(force) => <ForceLook jobId={jobId} force={force} practice={plan.practice} />}
            </WithForce>
          )}
          {look === 'way' &&
            (plan.by_hand ? (
              <SheetView jobId={jobId} plan={plan} sheet={sheet} mode="cut" />
            ) : (
              <PathLook key={sheet} jobId={jobId} plan={plan} sheet={sheet} cut={setting?.cut ?? 'kiss'} />
            ))}
          {look === 'settings' && setting && (
            <SettingsLook key={setting.cut} jobId={jobId} cut={setting.cut} practice={plan.practice} />
          )}
          {look === 'care' && <CareLook view={view} />}
          {look === 'card' && (
            <CardLook jobId={jobId} title={view.job.document.title ?? ''} version={plan.packing.layout} />
          )}
        </div>
      </div>
    </Frame>
  );
}

interface WithForceProps {
  jobId: number;
  setting: Schemas['SettingOut'];
  children: (force: Force) => React.ReactNode;
}

function WithForce({ jobId, setting, children }: WithForceProps) {
  return (
    <Loaded query={useForce(jobId, setting.cut, null)} doing="Weighing forces" className="p-4">
      {children}
    </Loaded>
  );
}

function CutFigures({ plan, setting }: { plan: Plan; setting: Schemas['SettingOut'] | undefined }) {
  const sheet = plan.sheets[useSheet(plan)];
  const unit = useUnit((state) => state.unit);
  return (
    <>
      <Figure name="cut length">{showWay(sheet?.cut_length_mm ?? 0, unit)}</Figure>
      {!plan.by_hand && setting && (
        <>
          {setting.mat && <Figure name="mat">{setting.mat} tack</Figure>}
          {!plan.by_program && (
            <Figure name="blade out by">{showLength(setting.exposure_mm, unit, 2)}</Figure>
          )}
        </>
      )}
    </>
  );
}
