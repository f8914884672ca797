import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link, useLocation } from 'wouter';

import { ask, artUrl, client, type Schemas } from '../api/client';
import { useJobs } from '../api/jobs';
import { Button } from '../kit/Button';
import { Logo } from './Logo';
import { useNotices } from '../api/notices';
import { useKeys } from '../kit/shortcuts';

const count = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`;
const when = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' });

/** All jobs, the one changed last first. */
export function JobList() {
  const jobs = useJobs();
  const [words, setWords] = useState('');
  const find = useRef<HTMLInputElement>(null);
  const [, go] = useLocation();
  const tell = useNotices((state) => state.tell);
  useEffect(() => {
    document.title = 'Jobs · Vamper';
  }, []);
  const create = useMutation({
    mutationFn: () => ask(client.POST('/api/jobs', { body: { title: 'New job' } })),
    onSuccess: (job) => go(`/jobs/${job.id}/art`),
    onError: (error) => tell(error.message),
  });
  useKeys({ '/': () => find.current?.focus() });
  const shown = jobs.data?.filter((job) => job.title.toLowerCase().includes(words.toLowerCase())) ?? [];
  return (
    <main className="mx-auto flex min-h-full max-w-5xl flex-col gap-5 px-6 py-6">
      <header className="flex items-center justify-between">
        <Logo />
        <Button look="main" onClick={() => create.mutate()} disabled={create.isPending}>
          New job
        </Button>
      </header>
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="font-head text-2xl font-bold">Jobs</h1>
          <p className="text-soft">
            Each is one order or one idea: art, stock, sheets, and the files to print and cut.
          </p>
        </div>
        <label className="flex items-center gap-2 text-sm">
          Find
          <input
            ref={find}
            className="field w-56"
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
        </label>
      </div>
      {jobs.error && <p className="panel p-4 text-rowan">{jobs.error.message}</p>}
      <ul className="grid grid-cols-1 gap-3">
        {shown.map((job) => (
          <JobCard key={job.id} job={job} />
        ))}
      </ul>
      {jobs.data?.length === 0 && (
        <div className="panel p-6">
          <p className="font-bold">Nothing here yet.</p>
          <p className="text-soft">
            Start a job and drop your pictures on it. For an example, run “make demo”.
          </p>
        </div>
      )}
      {jobs.data && jobs.data.length > 0 && shown.length === 0 && (
        <p className="panel p-4">No job has “{words}” in its title.</p>
      )}
    </main>
  );
}

function JobCard({ job }: { job: Schemas['JobSummaryOut'] }) {
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  const again = () => queries.invalidateQueries({ queryKey: ['jobs'] });
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
  return (
    <li className="panel flex items-center gap-5 px-4 py-3">
      <Link href={`/jobs/${job.id}/sheet`} className="group flex min-w-0 flex-1 items-center gap-5">
        <span className="flex w-52 shrink-0 items-center gap-1.5" aria-hidden>
          {job.arts.slice(0, 4).map((art) => (
            <img key={art} src={artUrl(art, 160)} alt="" className="h-12 w-12 object-contain" />
          ))}
          {job.arts.length === 0 && <span className="text-sm text-soft">no art yet</span>}
        </span>
        <span className="min-w-0">
          <span className="block truncate font-head text-lg font-bold group-hover:text-kingfisher">
            {job.title}
          </span>
          <span className="block text-soft">
            {count(job.pieces, 'piece')} of {count(job.designs, 'design')}, {job.stock}
          </span>
          <span className="block text-sm text-soft">
            {job.handed_off_at
              ? `handed off ${when.format(new Date(job.handed_off_at))}`
              : 'not handed off yet'}
            , changed {when.format(new Date(job.changed_at))}
          </span>
        </span>
      </Link>
      <span className="flex gap-2">
        <Button onClick={() => copy.mutate()} aria-label={`Copy ${job.title}`}>
          Copy
        </Button>
        <Button onClick={() => remove.mutate()} aria-label={`Remove ${job.title}`}>
          Remove
        </Button>
      </span>
    </li>
  );
}
