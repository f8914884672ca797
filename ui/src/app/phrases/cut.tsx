/** How each design is cut. */
import { Button } from '../../kit/Button';
import type { PanelProps } from './phrase';

export default function Cuts({ view, change }: PanelProps) {
  const items = view.job.document.items ?? [];
  // What is really made: a stock without a backing is cut through, whatever was asked for.
  const made = (item: (typeof items)[number]) =>
    view.plan?.items.find((one) => one.number === item.number)?.cut ?? item.cut;
  const possible = (cut: string) => view.plan?.settings.some((one) => one.cut === cut) ?? true;
  const all = (cut: string) =>
    change({ label: `${cut} cut for all`, numbers: items.map((item) => item.number), changes: { cut } });
  return (
    <>
      <ul className="flex flex-col gap-1.5">
        {items.map((item) => (
          <li key={item.number} className="flex items-center justify-between gap-3">
            <span className="truncate">{item.name}</span>
            <span className="flex gap-1">
              {['kiss', 'through'].map((cut) => (
                <Button
                  key={cut}
                  aria-pressed={made(item) === cut}
                  disabled={!possible(cut)}
                  aria-label={`${item.name}: ${cut} cut`}
                  look={made(item) === cut ? 'act' : 'plain'}
                  onClick={() =>
                    change({ label: `${cut} cut for ${item.name}`, numbers: [item.number], changes: { cut } })
                  }
                >
                  {cut}
                </Button>
              ))}
            </span>
          </li>
        ))}
      </ul>
      <div className="flex gap-2">
        <Button onClick={() => all('kiss')} disabled={!possible('kiss')}>
          All kiss
        </Button>
        <Button onClick={() => all('through')}>All through</Button>
      </div>
      {!possible('kiss') && (
        <p className="text-sm text-soft">This stock has no backing to stop in, so it is cut through.</p>
      )}
    </>
  );
}
