import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useLocation } from 'wouter';

import { readAgain } from '../api/again';
import { ask, client, type Schemas } from '../api/client';
import { useCatalog } from '../api/jobs';
import { useNotices } from '../api/notices';
import { type Route, useChooseRoute } from '../api/program';
import { useCutters, usePrinters, usePutUsual, useUsual } from '../api/shop';
import { useKeepUnit } from './unit';
import { Button } from '../kit/Button';
import { Options } from '../kit/Options';
import { useUnit, type Unit } from '../kit/units';
import { RouteChoice } from '../look/RouteChoice';

const LATER = 'later';

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

/** A few short questions; each answer can be left for later. */
export function Questions() {
  const usual = useUsual().data;
  const printers = usePrinters().data;
  const cutters = useCutters().data;
  const put = usePutUsual();
  const choose = useChooseRoute();
  const catalog = useCatalog().data;
  const unit = useUnit((state) => state.unit);
  const keepUnit = useKeepUnit();
  if (!usual || usual.asked || !printers || !cutters) return null;
  const isHand = (one: (typeof cutters)[number]) => one.profile.cutter.feed === 'hand';
  const chosen = cutters.find((one) => one.id === usual.cutter_id);
  const route = chosen ? (isHand(chosen) ? 'hand' : chosen.profile.cutter.route) : null;
  // The answer belongs to a machine: the one that is named, else the first there is.
  const cutBy = (way: Route) => {
    const takes = (one: (typeof cutters)[number]) => isHand(one) === (way === 'hand');
    const id = (chosen && takes(chosen) ? chosen : cutters.find(takes))?.id;
    if (id === undefined) return;
    const name = () => put.mutate({ ...usual, cutter_id: id });
    if (way === 'hand') name();
    else choose.mutate({ id, route: way }, { onSuccess: name });
  };
  const named = (machines: { id: number; profile: { name: string } }[]) => [
    ...machines.map((one) => ({ key: String(one.id), name: one.profile.name })),
    { key: LATER, name: 'Leave it for later' },
  ];
  const answer = (field: 'printer_id' | 'cutter_id') => (key: string) =>
    put.mutate({ ...usual, [field]: key === LATER ? null : Number(key) });
  const value = (id: number | null | undefined) => (id ? String(id) : LATER);
  return (
    <section aria-label="A few questions" className="panel flex flex-col gap-4 p-5">
      <Question title="How do you cut?">
        <RouteChoice value={route} onChange={cutBy} />
      </Question>
      <div className="grid gap-5 md:grid-cols-4">
        <Question title="What do you print on?">
          <Options
            label="Printer"
            options={named(printers)}
            value={value(usual.printer_id)}
            onChange={answer('printer_id')}
          />
        </Question>
        <Question title="Which machine cuts?">
          <Options
            label="Cutter"
            options={named(cutters)}
            value={value(usual.cutter_id)}
            onChange={answer('cutter_id')}
          />
        </Question>
        <Question title="What do you make most?">
          <Options
            label="What you make"
            options={[...(catalog?.makes ?? []), { key: LATER, name: 'Leave it for later' }]}
            value={usual.makes ?? LATER}
            onChange={(key) =>
              put.mutate({ ...usual, makes: key === LATER ? null : (key as Schemas['Makes']) })
            }
          />
        </Question>
        <Question title="What do you measure in?">
          <Options
            label="Unit"
            options={[
              { key: 'mm', name: 'Millimetres' },
              { key: 'in', name: 'Inches' },
            ]}
            value={unit}
            onChange={(key) => keepUnit.mutate(key as Unit)}
          />
        </Question>
      </div>
      <div className="flex flex-wrap items-center justify-between gap-3">
        <p className="text-sm text-soft">
          Margins, reach and force of each machine are set in a job’s first line; until you name one, a job
          says which it takes for now.
        </p>
        <Button look="act" onClick={() => put.mutate({ ...usual, asked: true })}>
          That is all
        </Button>
      </div>
    </section>
  );
}

function Question({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <div className="flex flex-col gap-2">
      <h3 className="font-bold">{title}</h3>
      {children}
    </div>
  );
}
