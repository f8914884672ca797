/** How pieces are packed: turns, sharing, gap, sheets. */
import { useCatalog } from '../../api/jobs';
import { Button } from '../../kit/Button';
import { CountField } from '../../kit/CountField';
import { LengthField } from '../../kit/LengthField';
import { Options } from '../../kit/Options';
import { Choices } from './Choices';
import type { PanelProps } from './phrase';

export default function Turns(props: PanelProps) {
  return (
    <>
      <Choices {...props} />
      <Packing {...props} />
    </>
  );
}

function Packing({ view, change }: PanelProps) {
  const catalog = useCatalog();
  const packing = view.job.document.packing;
  const limit = packing.max_sheets ?? null;
  return (
    <div className="flex flex-col gap-3 border-t border-rule pt-3">
      {view.plan?.by_hand ? (
        <p className="text-sm text-soft">When you cut by hand, pieces always lie in straight rows.</p>
      ) : (
        <Options
          label="How pieces share sheets"
          columns={2}
          options={catalog.data?.modes ?? []}
          value={packing.mode}
          onChange={(mode) => change({ label: 'how pieces share sheets', changes: { 'packing.mode': mode } })}
        />
      )}
      <LengthField
        label="Between pieces"
        value={packing.gap_mm}
        hint="3 mm or more beside pieces that are cut through"
        onChange={(mm) => change({ label: 'gap', changes: { 'packing.gap_mm': mm } })}
      />
      <div className="flex flex-wrap items-center gap-2">
        <span>Sheets</span>
        <Button
          aria-pressed={limit === null}
          look={limit === null ? 'act' : 'plain'}
          onClick={() => change({ label: 'any number of sheets', changes: { 'packing.max_sheets': null } })}
        >
          as many as needed
        </Button>
        <span>at most</span>
        <CountField
          label="Sheets at most"
          value={limit ?? view.plan?.sheets.length ?? 1}
          onChange={(count) => change({ label: 'sheets at most', changes: { 'packing.max_sheets': count } })}
        />
      </div>
      <div className="flex items-center gap-2">
        <span>The whole job, how many times</span>
        <CountField
          label="The whole job, how many times"
          value={view.job.document.copies ?? 1}
          onChange={(copies) => change({ label: 'times over', changes: { copies } })}
        />
      </div>
    </div>
  );
}
