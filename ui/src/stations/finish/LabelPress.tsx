/** What a heat product's label gives its time for, when it is peeled, and whether it is pressed twice. */
import type { Changer } from '../../api/changes';
import type { Schemas } from '../../api/client';
import { Fold } from '../../kit/Fold';
import { Options } from '../../kit/Options';
import { Tick } from '../../kit/Tick';

type Press = Schemas['PressSpec'];

const FOR = [
  { key: 'whole', name: 'for the whole motif', hint: 'patches share it' },
  { key: 'spot', name: 'for every spot', hint: 'each patch gets all of it' },
];
const PEEL = [
  { key: 'hot', name: 'hot', hint: 'within 15 seconds' },
  { key: 'cold', name: 'cold', hint: 'a wait with your hands free' },
];

export function LabelPress({ press, cold, change }: { press: Press; cold: boolean; change: Changer }) {
  const put = (next: Partial<Press>) =>
    change({ label: 'press', changes: { 'finish.press': { ...press, ...next } } });
  const said = FOR.find((one) => one.key === press.time_for)?.name;
  return (
    <Fold title="Heat, by the label" summary={said ? `its time is ${said}` : 'not read yet'} open>
      <p className="text-sm">The label’s time under the press is …</p>
      <Options
        label="What its time is for"
        columns={2}
        options={FOR}
        value={press.time_for ?? null}
        onChange={(key) => put({ time_for: key as Schemas['TimeFor'] })}
      />
      <p className="text-sm">It is peeled …</p>
      <Options
        label="It is peeled"
        columns={2}
        options={PEEL}
        value={cold ? 'cold' : 'hot'}
        onChange={(key) => put({ cold: key === 'cold', peel_after_s: null })}
      />
      <Tick
        on={press.twice === true || press.second_s != null}
        label="It wants a second press, once the carrier is off"
        set={(on) => put({ twice: on, second_s: null })}
      />
    </Fold>
  );
}
