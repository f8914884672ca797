/** What lies over the print, with what each would mean. */
import { CoverFigures } from '../../look/CoverChoice';
import { Choices } from './Choices';
import type { PanelProps } from './phrase';

export default function CoverPhrase(props: PanelProps) {
  const cover = props.view.job.document.finish?.cover;
  return (
    <div className="flex flex-col gap-3">
      <Choices {...props} />
      {cover && <CoverFigures cover={cover} coats={cover.coats ?? null} change={props.change} />}
    </div>
  );
}
