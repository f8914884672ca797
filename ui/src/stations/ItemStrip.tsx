import { artUrl, type Item, type View } from '../api/client';
import { useLook } from '../app/look';
import { Bead } from '../kit/Bead';
import type { Schemas } from '../api/client';

/** All designs in a row, each with the state of its findings. */
export function ItemStrip({ view, chosen }: { view: View; chosen: Item }) {
  const showItem = useLook((state) => state.showItem);
  const state = (number: number): Schemas['StationState'] => {
    const severities = view.findings.filter((one) => one.item_number === number).map((one) => one.severity);
    return severities.includes('stop') ? 'stop' : severities.includes('look') ? 'look' : 'settled';
  };
  return (
    <div data-strip role="group" aria-label="Designs" className="flex gap-2 overflow-x-auto py-0.5">
      {view.plan?.items.map((item) => (
        <button
          key={item.number}
          type="button"
          aria-pressed={item.number === chosen.number}
          aria-label={item.name}
          title={item.name}
          onClick={() => showItem(item.number)}
          className={`relative h-14 w-14 shrink-0 rounded-[6px] border p-1 ${
            item.number === chosen.number
              ? 'border-kingfisher bg-paper shadow-[inset_0_0_0_1px_var(--kingfisher)]'
              : 'border-transparent hover:border-rule'
          }`}
        >
          <img src={artUrl(item.art, 160)} alt="" className="h-full w-full object-contain" />
          <span className="absolute -top-0.5 right-0">
            <Bead state={state(item.number)} size={12} />
          </span>
        </button>
      ))}
    </div>
  );
}

/** The design that is looked at: the chosen one, else the first with something to see, else the first. */
export function useItem(view: View): Item | undefined {
  const number = useLook((state) => state.item);
  const items = view.plan?.items ?? [];
  const pressing = view.findings.find(
    (finding) => finding.item_number !== null && finding.severity !== 'note',
  );
  return (
    items.find((item) => item.number === number) ??
    items.find((item) => item.number === pressing?.item_number) ??
    items[0]
  );
}
