import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'wouter';

import { readAgain } from '../api/again';
import { ask, client } from '../api/client';
import { useJobs } from '../api/jobs';
import { type Upload, useUploads } from '../api/uploads';
import { ArtPicker } from '../look/ArtPicker';
import { groupsOf } from '../look/findingGroups';
import { asSentence } from '../kit/words';

const NEW = 'new';
const BIG =
  'flex w-full items-center justify-center rounded-[6px] px-4 py-4 text-lg font-bold leading-tight disabled:opacity-60';

/** From the phone: send pictures into a job, and read at the bench what to do. */
export default function PhonePage() {
  const jobs = useJobs();
  const queries = useQueryClient();
  const picker = useRef<HTMLInputElement>(null);
  const [to, setTo] = useState(NEW);
  const { uploads, add } = useUploads();
  useEffect(() => {
    document.title = 'From the phone · Vamper';
  }, []);
  const send = useMutation({
    mutationFn: async (files: File[]) => {
      const job = to === NEW ? (await ask(client.POST('/api/jobs', { body: {} }))).id : Number(to);
      add(job, files, () => void readAgain(queries, ['jobs']));
      return job;
    },
    onSuccess: (job) => setTo(String(job)),
  });
  return (
    <main className="mx-auto flex max-w-lg flex-col gap-5 p-4">
      <h1 className="font-head text-2xl font-bold">From the phone</h1>
      <Link href="/tonight" className={`${BIG} border border-kingfisher text-kingfisher`}>
        Tonight at the bench
      </Link>
      <section aria-label="Send pictures" className="panel flex flex-col gap-3 p-4">
        <label className="flex flex-col gap-1 font-bold">
          Into
          <select className="field py-3 text-lg" value={to} onChange={(event) => setTo(event.target.value)}>
            <option value={NEW}>a new job</option>
            {jobs.data?.map((job) => (
              <option key={job.id} value={job.id}>
                {job.title}
              </option>
            ))}
          </select>
        </label>
        <button
          type="button"
          className={`${BIG} bg-kingfisher text-on-kingfisher`}
          onClick={() => picker.current?.click()}
          disabled={send.isPending}
        >
          Send pictures
        </button>
        {send.error && <p className="text-rowan">{asSentence(send.error.message)}</p>}
        <ul className="flex flex-col gap-2" aria-live="polite">
          {uploads.map((one) => (
            <Sent key={one.id} one={one} />
          ))}
        </ul>
        {to !== NEW &&
          uploads.length > 0 &&
          uploads.every((one) => one.state === 'done' || one.state === 'failed') && (
            <WhatWasFound jobId={Number(to)} count={uploads.length} />
          )}
        <ArtPicker picker={picker} take={(files) => files.length > 0 && send.mutate(files)} />
      </section>
      <section aria-label="At the bench" className="flex flex-col gap-2">
        <h2 className="font-head text-xl font-bold">At the bench</h2>
        {jobs.error && <p className="text-rowan">{asSentence(jobs.error.message)}</p>}
        {jobs.data?.length === 0 && <p className="text-soft">No job yet. Send the first pictures.</p>}
        {jobs.data
          ?.filter((job) => job.pieces > 0)
          .map((job) => (
            <Link
              key={job.id}
              href={`/jobs/${job.id}/bench`}
              className={`${BIG} panel justify-start! text-left text-kingfisher`}
            >
              {job.title}
            </Link>
          ))}
      </section>
    </main>
  );
}

/** What was found on what has arrived, so that it can be cured before anybody sits down at the screen. */
function WhatWasFound({ jobId, count }: { jobId: number; count: number }) {
  const view = useQuery({
    queryKey: ['arrived', jobId, count],
    queryFn: () => ask(client.GET('/api/jobs/{job_id}', { params: { path: { job_id: jobId } } })),
  }).data;
  if (!view) return <p className="text-soft">Looking at them …</p>;
  const found = groupsOf(
    view.findings.filter((one) => one.severity !== 'note' && !one.meant && one.item_number),
  );
  if (found.length === 0) return <p>Nothing stops you: all of them can be printed and cut.</p>;
  const name = (number: number | null) => view.job.document.items?.find((one) => one.number === number)?.name;
  return (
    <div>
      <h2 className="font-bold">What Vamper found</h2>
      <ul className="flex flex-col gap-1.5">
        {found.map(({ key, first, members }) => (
          <li key={key}>
            <b>{members.length > 1 ? `${members.length} designs` : name(first.item_number)}</b>: {first.title}
          </li>
        ))}
      </ul>
    </div>
  );
}

const WORDS = { waiting: 'waiting', sending: 'on its way', reading: 'being read', done: 'arrived' } as const;

function Sent({ one }: { one: Upload }) {
  return (
    <li>
      <b className="break-all">{one.name}</b>{' '}
      {one.state === 'failed' ? (
        <span className="text-rowan">Not added: {one.sentence}</span>
      ) : (
        <span className="text-soft">{WORDS[one.state]}</span>
      )}
    </li>
  );
}
