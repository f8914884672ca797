import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link, useLocation } from 'wouter';

import { readAgain } from '../api/again';
import { ask, client, type Schemas } from '../api/client';
import { useJobs } from '../api/jobs';
import { useNotices } from '../api/notices';
import { useFoundStocks } from '../api/shop';
import { useUploads } from '../api/uploads';
import { Button } from '../kit/Button';
import { useKeys } from '../kit/shortcuts';
import { ArtPicker } from '../look/ArtPicker';
import { FirstRun } from './FirstRun';
import { FromThePhone } from './FromThePhone';
import { Incoming } from './Incoming';
import { JobCard } from './JobCard';
import { Logo } from './Logo';
import { Questions } from './Questions';

type Summary = Schemas['JobSummary'];
type Shelf = 'open' | 'templates' | 'aside';

const SHELVES: readonly (readonly [Shelf, string])[] = [
  ['open', 'On the table'],
  ['templates', 'Templates'],
  ['aside', 'Put aside'],
];

const shelfOf = (job: Summary): Shelf => (job.archived_at ? 'aside' : job.is_template ? 'templates' : 'open');

/** Everything that a job can be found by. */
const searched = (job: Summary) => [job.title, job.customer, job.stock, ...job.names].join(' ').toLowerCase();

/** All jobs, the one changed last first. */
export default function JobList() {
  const jobs = useJobs();
  const [words, setWords] = useState('');
  const find = useRef<HTMLInputElement>(null);
  const [, go] = useLocation();
  const tell = useNotices((state) => state.tell);
  useEffect(() => {
    document.title = 'Jobs · Vamper';
  }, []);
  const queries = useQueryClient();
  const addUploads = useUploads((state) => state.add);
  const picker = useRef<HTMLInputElement>(null);
  const create = useMutation({
    mutationFn: async (files: File[]) => ({
      files,
      job: await ask(client.POST('/api/jobs', { body: {} })),
    }),
    onSuccess: ({ job, files }) => {
      if (files.length > 0) addUploads(job.id, files, () => void readAgain(queries, ['job', job.id]));
      go(`/jobs/${job.id}/art`);
    },
    onError: (error) => tell(error.message),
  });
  const begin = (files: File[]) => create.mutate(files);
  useKeys({ '/': () => find.current?.focus() });
  const [put, setPut] = useState<Shelf>('open');
  const wanted = words.toLowerCase();
  const meant = useFoundStocks(words);
  const found =
    jobs.data?.filter(
      (job) => searched(job).includes(wanted) || (wanted !== '' && meant?.includes(job.stock_key)),
    ) ?? [];
  // What is still to be made comes before what was made; the list comes with the newest first.
  const shown = found
    .filter((job) => shelfOf(job) === put)
    .sort((one, other) => Number(Boolean(one.last_run)) - Number(Boolean(other.last_run)));
  const count = (shelf: Shelf) => found.filter((job) => shelfOf(job) === shelf).length;
  const others = SHELVES.filter(([key]) => jobs.data?.some((job) => shelfOf(job) === key));
  return (
    <Incoming take={begin} words="Drop to begin a job with these" className="min-h-full">
      <main className="mx-auto flex min-h-full max-w-6xl flex-col gap-5 px-6 py-6">
        <header className="flex items-center justify-between">
          <Logo />
          <span className="flex gap-2">
            <FromThePhone />
            <Button onClick={() => go('/tonight')}>Tonight</Button>
            <Button onClick={() => go('/ledger')}>Ledger</Button>
            <Button onClick={() => go('/wrong')}>What went wrong?</Button>
            <Button onClick={() => go('/practise')}>Practise</Button>
            <Button look="main" onClick={() => begin([])} disabled={create.isPending}>
              New job
            </Button>
          </span>
        </header>
        <div className="flex flex-wrap items-end justify-between gap-3">
          <div>
            <h1 className="font-head text-2xl font-bold">Jobs</h1>
            <p className="text-soft">
              Each is one order or one idea: art, stock, sheets, and the files to print and cut.{' '}
              <Link href="/guide" className="text-kingfisher underline">
                The guide
              </Link>{' '}
              ·{' '}
              <Link href="/words" className="text-kingfisher underline">
                What do the words mean?
              </Link>
            </p>
          </div>
          {jobs.data && jobs.data.length > 1 && (
            <label className="flex items-center gap-2 text-sm">
              Find
              <input
                ref={find}
                className="field w-56"
                value={words}
                onChange={(event) => setWords(event.target.value)}
              />
            </label>
          )}
        </div>
        {(others.length > 1 || put !== 'open') && (
          <nav aria-label="Shelves" className="flex gap-1.5">
            {SHELVES.filter(
              ([key]) => key === put || key === 'open' || others.some(([one]) => one === key),
            ).map(([key, name]) => (
              <Button
                key={key}
                look={key === put ? 'act' : 'bare'}
                aria-current={key === put ? 'page' : undefined}
                onClick={() => setPut(key)}
              >
                {`${name} · ${count(key)}`}
              </Button>
            ))}
          </nav>
        )}
        {jobs.error && <p className="panel p-4 text-rowan">{jobs.error.message}</p>}
        {shown.length > 0 && (
          <ul className="grid grid-cols-1 gap-3 md:grid-cols-2">
            {shown.map((job) => (
              <JobCard key={job.id} job={job} />
            ))}
          </ul>
        )}
        <Questions />
        {jobs.data?.length === 0 && <FirstRun pick={() => picker.current?.click()} />}
        {jobs.data && jobs.data.length > 0 && shown.length === 0 && (
          <p className="panel p-4">
            {words
              ? `No job matches “${words}” in its title, its stock, its designs or whom it is for.`
              : 'Nothing here yet.'}
          </p>
        )}
      </main>
      <ArtPicker picker={picker} take={begin} />
    </Incoming>
  );
}
