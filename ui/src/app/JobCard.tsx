import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef } from 'react';
import { Link, useLocation } from 'wouter';

import { readAgain } from '../api/again';
import { ask, client, type Schemas } from '../api/client';
import { useDoing } from '../api/doing';
import { useCost } from '../api/ledger';
import { useNotices } from '../api/notices';
import { Choose } from '../kit/Choose';
import { SheetGlance, useGlance } from '../look/SheetGlance';
import { useSeen } from '../look/useSeen';

const count = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`;
const when = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' });

/** One job of the list: its sheet, its art, what becomes of it, and what can be done to it as a whole. */
export function JobCard({ job }: { job: Schemas['JobSummary'] }) {
  const queries = useQueryClient();
  const [, go] = useLocation();
  const tell = useNotices((state) => state.tell);
  const glance = useGlance(job).data ?? null;
  const again = () => readAgain(queries, ['jobs']);
  const path = { params: { path: { job_id: job.id } } };
  const putBack = useMutation({
    mutationFn: () => ask(client.POST('/api/jobs/{job_id}/put-back', path)),
    onSettled: again,
  });
  const remove = useMutation({
    mutationFn: () => ask(client.DELETE('/api/jobs/{job_id}', path)),
    onSuccess: () => tell(`“${job.title}” was removed.`, () => putBack.mutate()),
    onError: (error) => tell(error.message),
    onSettled: again,
  });
  const copy = useMutation({
    mutationFn: () => ask(client.POST('/api/jobs/{job_id}/copy', path)),
    onSettled: again,
  });
  const shelf = useDoing([['jobs']], (body: Schemas['ShelfIn']) =>
    ask(client.POST('/api/jobs/{job_id}/shelf', { ...path, body })),
  );
  const card = useRef<HTMLLIElement>(null);
  const cost = useCost(job.id, job.changed_at, useSeen(card) && job.designs > 0).data;
  const aside = job.archived_at !== null;
  return (
    <li ref={card} className="panel relative flex gap-4 p-3">
      <Link href={`/jobs/${job.id}/sheet`} className="group flex min-w-0 flex-1 gap-4">
        <span className="flex h-36 w-28 shrink-0 items-center justify-center">
          {glance ? (
            <SheetGlance glance={glance} jobId={job.id} />
          ) : (
            <span className="text-center text-sm text-soft">{job.designs ? '' : 'no art yet'}</span>
          )}
        </span>
        <span className="flex min-w-0 flex-1 flex-col gap-0.5 pr-20">
          <span className="line-clamp-2 font-head text-lg leading-snug font-bold group-hover:text-kingfisher">
            {job.title}
          </span>
          {job.customer && <span className="truncate">for {job.customer}</span>}
          <span className="text-soft">
            {count(job.pieces, 'piece')} of {count(job.designs, 'design')}, {job.stock}
          </span>
          <span className="text-soft">
            {glance && sheets(glance)}
            {cost?.a_piece && `, ${cost.a_piece} a piece`}
          </span>
          <span className="mt-auto -mr-20 text-sm text-soft">
            {job.handed_off_at
              ? `handed off ${when.format(new Date(job.handed_off_at))}`
              : 'not handed off yet'}
            {job.last_run ? `; ${job.last_run}` : ''}, changed {when.format(new Date(job.changed_at))}
          </span>
        </span>
      </Link>
      <span className="absolute top-3 right-3">
        <Choose
          label={`More for ${job.title}`}
          name="More"
          choices={[
            { words: job.is_template ? 'New job from this one' : 'Copy it', do: () => copy.mutate() },
            ...(job.last_run
              ? [
                  {
                    words: 'Make one of its runs again',
                    do: () => go(`/ledger?part=runs&find=${encodeURIComponent(job.title)}`),
                  },
                ]
              : []),
            {
              words: job.is_template ? 'No longer a template' : 'Keep as a template',
              do: () => shelf.mutate({ is_template: !job.is_template }),
            },
            {
              words: aside ? 'Bring it back' : 'Put it aside',
              do: () => shelf.mutate({ archived: !aside }),
            },
            { words: 'Remove it', do: () => remove.mutate() },
          ]}
        />
      </span>
    </li>
  );
}

/** How many pieces go on a sheet, and how many sheets are cut. */
function sheets(glance: Schemas['GlanceOut']): string {
  const all = glance.sheets * glance.copies;
  if (all === 0) return 'nothing laid yet';
  const most = glance.pieces.length / 4;
  return all === 1 ? `${most} on the sheet` : `${most} on the fullest of ${all} sheets`;
}
