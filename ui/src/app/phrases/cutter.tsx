/** The cutter: another one, who leads its cut, or this one changed. */
import { useChooseRoute } from '../../api/program';
import { useCutters } from '../../api/shop';
import { RouteChoice } from '../../look/RouteChoice';
import { Choices } from './Choices';
import { Machine } from './Machine';
import type { PanelProps } from './phrase';

export default function CutterPanel(props: PanelProps) {
  const id = props.view.job.document.cutter_id;
  const cutter = useCutters().data?.find((one) => one.id === id)?.profile.cutter;
  const choose = useChooseRoute();
  return (
    <>
      <Choices {...props} />
      {cutter && cutter.feed !== 'hand' && (
        <section
          aria-label="What runs the cutter?"
          className="mt-2 flex flex-col gap-1.5 border-t border-rule pt-2"
        >
          <h2 className="font-bold">What runs the cutter?</h2>
          <RouteChoice
            value={cutter.route}
            onChange={(route) => choose.mutate({ id, route }, { onSuccess: props.close })}
          />
        </section>
      )}
      <Machine {...props} kind="cutter" />
    </>
  );
}
