import { useState } from 'react';

import type { Schemas } from '../../api/client';
import { useGroups, useTrial } from '../../api/designs';
import { Findings } from '../../look/Findings';
import { ArtSize } from './ArtSize';
import { AfarFold } from './AfarFold';
import { CoverFold } from './CoverFold';
import { WantedFold } from './WantedFold';
import { GroundFold, PageFold, RimFold, SeveralFold } from './ArtFolds';
import { Composing } from '../../look/compose/Composing';
import { ForItem, type OpenItem } from '../../look/ForItem';
import { Figure, Frame } from '../../look/Frame';
import type { StationProps } from '../../look/station';
import { ItemStrip, useNumbers } from '../../look/ItemStrip';
import { ItemView } from '../../look/ItemView';

/** Is this picture fit to print and cut at this size? */
export default function ArtStation(props: StationProps) {
  return (
    <ForItem {...props} waiting="Sizes and findings of each picture come here.">
      {(open) => <OpenArt key={open.item.number} {...open} />}
    </ForItem>
  );
}

function OpenArt({ view, change, item, document, stock, white, clearOnce }: OpenItem) {
  const trial = useTrial(view.job.id, item.number);
  const numbers = useNumbers(view, item);
  const [apart, setApart] = useState<number | null>(null);
  const groups = useGroups(view.job.id, item.number, apart, view.job.changed_at);
  const shown = { ...item, ...trial.tried };
  const own = view.findings.filter((finding) => finding.item_number === item.number);
  const set = (label: string, changes: Record<string, unknown>) =>
    change({ label, numbers, changes }, trial.drop);
  const setThis = (label: string, changes: Record<string, unknown>) =>
    change({ label, numbers: [item.number], changes }, trial.drop);
  return (
    <Frame
      foot={
        <div className="flex items-center justify-between gap-6">
          <ItemStrip view={view} chosen={item} />
          <div className="flex shrink-0 gap-6">
            <Figure name="resolution">
              {shown.ppi === null ? 'any size' : `${Math.round(shown.ppi)} ppi`}
            </Figure>
            <Figure name="placed">
              {item.placed} of {item.wanted}
            </Figure>
          </div>
        </div>
      }
      side={
        <>
          <ArtSize
            jobId={view.job.id}
            item={shown}
            document={document}
            numbers={numbers}
            set={set}
            setThis={setThis}
          />
          <Findings
            findings={own}
            all={view.findings}
            named={false}
            items={view.job.document.items ?? []}
            jobId={view.job.id}
            title={`About the ${item.name}`}
          />
          <Composing view={view} item={item} />
          <div className="flex flex-col gap-2">
            <PageFold item={item} document={document} set={setThis} />
            <GroundFold document={document} set={setThis} attempt={trial.attempt} />
            <RimFold document={document} set={setThis} attempt={trial.attempt} />
            <CoverFold
              jobId={view.job.id}
              document={document}
              blank={view.job.document.finish?.blank ?? null}
              numbers={numbers}
              all={(view.job.document.items ?? []).map((one) => one.number)}
              set={setThis}
            />
            <AfarFold
              key={`afar ${item.number}`}
              jobId={view.job.id}
              number={item.number}
              from={JSON.stringify([document.prepare, shown.size])}
              start={view.job.document.finish?.place?.distance_m ?? 0}
              set={setThis}
            />
            <WantedFold
              jobId={view.job.id}
              number={item.number}
              from={JSON.stringify([document.prepare, shown.size])}
            />
            <SeveralFold
              jobId={view.job.id}
              number={item.number}
              groups={groups.data}
              apart={apart}
              setApart={setApart}
            />
          </div>
        </>
      }
    >
      <ItemView item={shown} stock={stock} white={white} clearOnce={clearOnce} withEdge={false}>
        {apart !== null && groups.data && <GroupBoxes groups={groups.data} />}
      </ItemView>
    </Frame>
  );
}

/** A box round each drawing that would become a design of its own. */
function GroupBoxes({ groups }: { groups: Schemas['GroupsOut'] }) {
  return (
    <g fill="none" stroke="var(--d-edge)" strokeWidth="2">
      {groups.boxes.map((box, index) => (
        <rect
          key={index}
          x={box.x_mm - 0.5}
          y={box.y_mm - 0.5}
          width={box.width_mm + 1}
          height={box.height_mm + 1}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </g>
  );
}
