import { useHelpers } from '../../api/marks';
import type { Plan } from '../../api/view';
import { Button } from '../../kit/Button';
import { Fold } from '../../kit/Fold';
import { asSentence } from '../../kit/words';

interface Props {
  jobId: number;
  plan: Plan;
  sheet: number;
  chosen: string | null;
  choose: (key: string | null) => void;
}

/** Helpers to print: each drawn on the sheet when it is chosen. */
export function Helpers({ jobId, plan, sheet, chosen, choose }: Props) {
  const helpers = useHelpers(jobId, sheet, plan.packing.layout).data ?? [];
  return (
    <Fold title="Helpers to print" summary="patches, cover trim, spray guard" open={chosen !== null}>
      {helpers.map((one) => (
        <div
          key={one.key}
          className="flex flex-col gap-1 border-t border-rule pt-2 first:border-0 first:pt-0"
        >
          <b>{one.name}</b>
          <p className="text-sm text-soft">{one.what}</p>
          {one.size_words && <p className="text-sm font-bold">{one.size_words}</p>}
          {one.problem ? (
            <p className="text-sm text-rowan">{asSentence(one.problem)}</p>
          ) : (
            <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
              <Button
                look={chosen === one.key ? 'act' : 'plain'}
                aria-pressed={chosen === one.key}
                onClick={() => choose(chosen === one.key ? null : one.key)}
              >
                Show on the sheet
              </Button>
              {(['pdf', 'svg'] as const).map((kind) => (
                <a
                  key={kind}
                  className="text-sm font-bold text-kingfisher underline"
                  href={`/api/jobs/${jobId}/sheets/${sheet + 1}/helpers/${one.key}.${kind}`}
                  download
                >
                  {one.name}, {kind.toUpperCase()}
                </a>
              ))}
            </div>
          )}
        </div>
      ))}
    </Fold>
  );
}

/** The helper that is chosen, over the sheet. */
export function HelperOnSheet({ jobId, plan, sheet, chosen }: Omit<Props, 'choose'>) {
  const helper = useHelpers(jobId, sheet, plan.packing.layout).data?.find((one) => one.key === chosen);
  return (
    <g fill="var(--d-edge)" fillOpacity="0.1" stroke="var(--d-edge)" strokeWidth="2">
      {helper?.paths.map((path, index) => (
        <path key={index} d={path} vectorEffect="non-scaling-stroke" />
      ))}
    </g>
  );
}
