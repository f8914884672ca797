import { pictureUrl } from '../api/client';
import type { Item, View } from '../api/view';
import { useLook } from './shown';
import { useOnward } from './useOnward';
import { Bead } from '../kit/Bead';
import { Button } from '../kit/Button';
import type { Schemas } from '../api/client';

/** All designs in a row, each with the state of its findings. */
export function ItemStrip({ view, chosen }: { view: View; chosen: Item }) {
  const { showItem, picked, pick, pickOnly } = useLook();
  const state = (number: number): Schemas['StationState'] => {
    const severities = view.findings
      .filter((one) => one.item_number === number && !one.meant)
      .map((one) => one.severity);
    return severities.includes('stop') ? 'stop' : severities.includes('look') ? 'look' : 'settled';
  };
  const items = view.plan?.items ?? [];
  const all = picked.length === items.length;
  const { strip, look, go, before, after } = useOnward(
    items.length,
    items.findIndex((item) => item.number === chosen.number),
  );
  return (
    <div className="flex min-w-0 items-center gap-3">
      {before > 0 && (
        <Button look="bare" className="shrink-0" onClick={() => go(-1)}>
          {before} before
        </Button>
      )}
      <div
        ref={strip}
        data-strip
        role="group"
        aria-label="Designs"
        onScroll={look}
        className="flex min-w-0 gap-2 overflow-x-auto py-0.5 [scrollbar-width:none]"
      >
        {items.map((item) => (
          <div key={item.number} className="group relative shrink-0">
            <button
              type="button"
              aria-pressed={item.number === chosen.number}
              aria-label={item.name}
              title={item.name}
              onClick={(event) =>
                event.shiftKey || event.ctrlKey || event.metaKey ? pick(item.number) : showItem(item.number)
              }
              className={`relative h-14 w-14 rounded-[6px] border p-1 ${
                item.number === chosen.number
                  ? 'border-kingfisher bg-paper shadow-[inset_0_0_0_1px_var(--kingfisher)]'
                  : 'border-transparent hover:border-rule'
              }`}
            >
              <img src={pictureUrl(item, 160)} alt="" className="h-full w-full object-contain" />
              <span className="absolute -top-0.5 right-0">
                <Bead state={state(item.number)} size={12} />
              </span>
            </button>
            {items.length > 1 && (
              <input
                type="checkbox"
                aria-label={`Pick ${item.name} too`}
                title="set the same for several"
                className={`absolute top-0.5 left-0.5 h-4 w-4 accent-kingfisher ${
                  picked.length ? '' : 'opacity-0 group-hover:opacity-100 focus-visible:opacity-100'
                }`}
                checked={picked.includes(item.number)}
                onChange={() => pick(item.number)}
              />
            )}
          </div>
        ))}
      </div>
      {after > 0 && (
        <Button look="bare" className="shrink-0" onClick={() => go(1)}>
          {after} more
        </Button>
      )}
      {items.length > 1 && (
        <Button
          look="bare"
          className="shrink-0"
          onClick={() => pickOnly(all ? [] : items.map((item) => item.number))}
        >
          {all ? 'Pick none' : 'Pick all'}
        </Button>
      )}
    </div>
  );
}

/** The designs that a change is for: the picked ones, or the one in sight. */
export function useNumbers(view: View, item: Item): number[] {
  const picked = useLook((state) => state.picked);
  const there = picked.filter((number) => view.plan?.items.some((one) => one.number === number));
  return there.length ? [...new Set([...there, item.number])] : [item.number];
}

/** The design that is looked at: the chosen one, else the first with something to see, else the first. */
export function useItem(view: View): Item | undefined {
  const number = useLook((state) => state.item);
  const items = view.plan?.items ?? [];
  const pressing = view.findings.find(
    (finding) => finding.item_number !== null && finding.severity !== 'note' && !finding.meant,
  );
  return (
    items.find((item) => item.number === number) ??
    items.find((item) => item.number === pressing?.item_number) ??
    items[0]
  );
}
