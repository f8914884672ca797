import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useLocation } from 'wouter';

import { readAgain } from '../api/again';
import { ask, client } from '../api/client';
import { useNotices } from '../api/notices';
import { Button } from '../kit/Button';

/** What an empty workshop can begin with. */
export function FirstRun({ pick }: { pick: () => void }) {
  const [, go] = useLocation();
  const queries = useQueryClient();
  const tell = useNotices((state) => state.tell);
  const example = useMutation({
    mutationFn: () => ask(client.POST('/api/example')),
    onSuccess: (job) => {
      void readAgain(queries, ['jobs']);
      go(`/jobs/${job.id}/sheet`);
    },
    onError: (error) => tell(error.message),
  });
  return (
    <section
      aria-label="Begin"
      className="panel flex flex-col items-center gap-4 border-2 border-dashed px-6 py-10 text-center"
    >
      <h2 className="font-head text-xl font-bold">Drop your pictures anywhere on this page</h2>
      <p className="max-w-xl text-soft">
        They become a job: Vamper traces each one, gives it an edge for the blade and lays the sheet. Pasting
        works too. Photos, drawings with a clear ground, SVG and PDF are all taken.
      </p>
      <div className="flex flex-wrap justify-center gap-3">
        <Button look="main" onClick={pick}>
          Choose pictures
        </Button>
        <Button onClick={() => example.mutate()} disabled={example.isPending}>
          {example.isPending ? 'Drawing the example' : 'Look at an example job'}
        </Button>
      </div>
    </section>
  );
}
