import { useState } from 'react';

import type { Changer } from '../../api/changes';
import { useCatalog } from '../../api/jobs';
import { type Reading, useReading, useReadingTrial } from '../../api/marks';
import type { View } from '../../api/view';
import { Fold } from '../../kit/Fold';
import { showLength, useUnit } from '../../kit/units';
import { useDrag } from '../../kit/useDrag';
import { Empty, Figure, Frame } from '../../look/Frame';
import { Findings } from '../../look/Findings';
import { LargestPicture } from '../../look/LargestPicture';
import { Looks } from '../../look/Looks';
import { SheetRow, useSheet } from '../../look/SheetRow';
import { SheetView } from '../../look/SheetView';
import type { StationProps } from '../../look/station';
import { CalibrationPanel } from './CalibrationPanel';
import { CalibrationScreen } from './CalibrationScreen';
import { HelperOnSheet, Helpers } from './Helpers';
import { MarkShape } from './MarkShape';
import { MissMap, MissWords } from './MissMap';
import { ProgramCalibration } from './ProgramCalibration';
import { ProgramMarks } from './ProgramMarks';
import { ReadingSettings } from './ReadingSettings';
import { Remedies } from './Remedies';
import { SensorScreen } from './SensorScreen';
import { Explained } from '../../look/Explained';

type Look = 'sensor' | 'sheet' | 'misses' | 'calibration';

const LOOKS: readonly (readonly [Look, string])[] = [
  ['sensor', 'What the sensor sees'],
  ['sheet', 'On the sheet'],
  ['misses', 'Where cuts land'],
  ['calibration', 'Calibration'],
];

/** Will the marks be read, and will the cut land where the print is? */
export default function MarksStation({ view, change, add }: StationProps) {
  const plan = view.plan;
  const unit = useUnit((state) => state.unit);
  const reading = useReading(view.job.id).data ?? null;
  const trial = useReadingTrial(view.job.id);
  const [asked, setLook] = useState<Look>('sensor');
  const [helper, setHelper] = useState<string | null>(null);
  if (!plan) return <Frame foot={null} side={null} children={<Empty view={view} add={add} />} />;
  const looks = reading ? LOOKS : LOOKS.filter(([key]) => key === 'sheet' || key === 'misses');
  const look = looks.some(([key]) => key === asked) ? asked : 'sheet';
  const shown = trial.answer?.answer ?? reading;
  return (
    <Frame
      foot={
        <div className="flex items-center gap-8">
          <SheetRow plan={plan} />
          <Figure name="area you can use">
            {showLength(plan.live_size.width_mm, unit)} × {showLength(plan.live_size.height_mm, unit)}
          </Figure>
          {shown && <Figure name="all marks read">{shown.short} in 100</Figure>}
          <Figure name="95 of 100 cut within">{showLength(plan.miss_mm, unit, 2)}</Figure>
        </div>
      }
      side={
        <Side
          view={view}
          look={look}
          reading={reading}
          shown={shown}
          trial={trial}
          change={change}
          helper={helper}
          showHelper={(key) => {
            setHelper(key);
            if (key) setLook('sheet');
          }}
          calibrate={() => setLook('calibration')}
        />
      }
    >
      <div className="absolute inset-0 flex flex-col">
        <Looks looks={looks} look={look} choose={setLook} />
        <div className="relative min-h-0 flex-1">
          {look === 'sensor' && shown && (
            <div className="absolute inset-0 flex flex-col overflow-y-auto">
              <LightSlider view={view} reading={shown} change={change} trial={trial} />
              <SensorScreen reading={shown} />
            </div>
          )}
          {look === 'sheet' && <Marked view={view} helper={helper} />}
          {look === 'misses' && <Misses view={view} />}
          {look === 'calibration' &&
            (plan.by_program ? (
              <ProgramCalibration view={view} plan={plan} />
            ) : (
              <CalibrationScreen view={view} />
            ))}
        </div>
      </div>
    </Frame>
  );
}

interface SideProps {
  view: View;
  look: Look;
  reading: Reading | null;
  shown: Reading | null;
  trial: ReturnType<typeof useReadingTrial>;
  change: Changer;
  helper: string | null;
  showHelper: (key: string | null) => void;
  calibrate: () => void;
}

function Side({ view, look, reading, shown, trial, change, helper, showHelper, calibrate }: SideProps) {
  const plan = view.plan;
  const sheet = useSheet(plan ?? { sheets: [] });
  if (!plan) return null;
  const found = (
    <Findings
      findings={view.findings.filter((finding) => finding.station === 'marks')}
      items={view.job.document.items ?? []}
      jobId={view.job.id}
    />
  );
  if (look === 'calibration' && !plan.by_program) return <CalibrationPanel view={view} />;
  if (look === 'misses') {
    return (
      <>
        <MissWords jobId={view.job.id} plan={plan} calibrate={calibrate} />
        {found}
      </>
    );
  }
  return (
    <>
      {reading && shown && look === 'sensor' && (
        <section aria-label="Will it be read" className="flex flex-col gap-2.5">
          <h2 className="font-head text-lg leading-tight font-bold">Read in {shown.words} of 100 tries</h2>
          {shown.by_runs && <p className="text-sm font-bold">{shown.by_runs}</p>}
          {shown.cause !== 'none' && (
            <p className="text-sm">
              What takes most away: <b>{shown.cause_words}</b>.
            </p>
          )}
          <Remedies
            reading={reading}
            change={change}
            attempt={(remedies) => (remedies ? trial.ask({ remedies }) : trial.drop())}
          />
          <p className="text-sm text-soft">
            <Explained text="If the registration marks are not found, nothing is spoiled: cancel, try one of these, load again. From the first cut on, the sheet must not move." />
          </p>
          <ReadingSettings view={view} reading={shown} change={change} />
        </section>
      )}
      {plan.by_program ? (
        <ProgramMarks view={view} plan={plan} />
      ) : (
        <MarkShape view={view} change={change} open={look === 'sheet' && helper === null} />
      )}
      {reading && (
        <Helpers jobId={view.job.id} plan={plan} sheet={sheet} chosen={helper} choose={showHelper} />
      )}
      {plan.granted.length > 0 && !plan.by_program && <LargestPicture view={view} plan={plan} />}
      {look === 'sheet' && (
        <Fold title="What bounds the area you can use" summary={`${plan.bounds.length} things`} open>
          <ul className="flex list-disc flex-col gap-1.5 pl-5 text-sm">
            {plan.bounds.map((bound) => (
              <li key={bound.name}>{bound.reason}</li>
            ))}
          </ul>
        </Fold>
      )}
      {found}
    </>
  );
}

function LightSlider({
  view,
  reading,
  change,
  trial,
}: {
  view: View;
  reading: Reading;
  change: Changer;
  trial: ReturnType<typeof useReadingTrial>;
}) {
  const catalog = useCatalog().data;
  const light = view.job.document.room_light ?? 'usual';
  const value =
    typeof light === 'number' ? light : (catalog?.rooms.find((room) => room.key === light)?.light ?? 0);
  const { shown, move, letGo } = useDrag(
    value,
    (room) => trial.ask({ room }),
    // What was tried stays on the screen until it is kept and read: the old figure never comes back in between.
    (room) => change({ label: 'light of the room', changes: { room_light: room } }, trial.drop),
  );
  if (!catalog) return null;
  const at = (room: number) => `${(room / catalog.most_room) * 100}%`;
  return (
    <div className="mx-auto w-[min(40rem,92%)] shrink-0 pt-4">
      <label htmlFor="room-light" className="font-bold">
        Light of the room
      </label>
      <input
        id="room-light"
        type="range"
        className="w-full accent-kingfisher"
        min={0}
        max={catalog.most_room}
        step={0.02}
        value={Math.min(shown, catalog.most_room)}
        aria-valuetext={`${shown.toFixed(2)}; read in ${reading.words} of 100`}
        onChange={(event) => move(Number(event.target.value))}
        onPointerUp={letGo}
        onBlur={letGo}
        onKeyUp={letGo}
      />
      <div className="relative h-5 text-sm text-soft">
        {catalog.rooms.map((room) => (
          <span key={room.key} className="absolute -translate-x-1/2" style={{ left: at(room.light) }}>
            {room.name}
          </span>
        ))}
      </div>
    </div>
  );
}

function Marked({ view, helper }: { view: View; helper: string | null }) {
  const plan = view.plan;
  const sheet = useSheet(plan ?? { sheets: [] });
  if (!plan) return null;
  return (
    <SheetView jobId={view.job.id} plan={plan} sheet={sheet} mode="marks">
      <g fill="none" stroke="var(--d-look)" strokeWidth="1" strokeDasharray="5 4">
        {plan.bounds.map((bound) => (
          <path key={bound.name} d={bound.path} vectorEffect="non-scaling-stroke" />
        ))}
      </g>
      {helper && <HelperOnSheet jobId={view.job.id} plan={plan} sheet={sheet} chosen={helper} />}
    </SheetView>
  );
}

function Misses({ view }: { view: View }) {
  const plan = view.plan;
  const sheet = useSheet(plan ?? { sheets: [] });
  return plan && <MissMap jobId={view.job.id} plan={plan} sheet={sheet} />;
}
