import { useState } from 'react';
import { Link } from 'wouter';

import { placingUrl, useAddToEvening, useFinish, usePieces } from '../../api/finish';
import { useCatalog } from '../../api/jobs';
import { clockTime } from '../../kit/clock';
import { Button } from '../../kit/Button';
import { Empty, Figure, Frame } from '../../look/Frame';
import type { StationProps } from '../../look/station';
import { Findings } from '../../look/Findings';
import { ItemStrip, useItem } from '../../look/ItemStrip';
import { Looks } from '../../look/Looks';
import { ClothProducts } from './ClothProducts';
import { CupScreen } from './CupScreen';
import { PressScreen } from './PressScreen';
import { ShrinkScreen } from './ShrinkScreen';
import { FinishPanel } from './FinishPanel';
import { PlaceFold } from './PlaceFold';
import { ProductsFold } from './ProductsFold';
import { StepRow } from './StepRow';

type Shown = 'steps' | 'cup' | 'press' | 'shrink';

/** What happens after the print: every step with its time, its check and its caution, in order. */
export default function FinishStation({ view, change, add }: StationProps) {
  const jobId = view.job.id;
  const { finish: spec, stock, purpose, target, shrink, copies } = view.job.document;
  const laid = view.stations.find((one) => one.station === 'sheet');
  const from = JSON.stringify([spec, stock, purpose, target, shrink, copies, laid]);
  const finish = useFinish(jobId, from).data ?? null;
  const pieces = usePieces(jobId, from).data ?? null;
  const start = useCatalog().data?.start;
  const tonight = useAddToEvening();
  const item = useItem(view);
  const [look, setLook] = useState<Shown>('steps');
  const own = view.findings.filter((finding) => finding.station === 'finish');
  if (!finish) return <Frame foot={null} side={null} children={<Empty view={view} add={add} />} />;
  const looks: (readonly [Shown, string])[] = [['steps', 'The steps']];
  if (pieces?.goes_round && item) looks.push(['cup', 'On a cup']);
  if (pieces?.press) looks.push(['press', 'Under the press']);
  if (pieces?.shrinks) looks.push(['shrink', 'As it shrinks']);
  const shown = looks.some(([key]) => key === look) ? look : 'steps';
  const longest = Math.max(...finish.steps.map((step) => step.minutes));
  return (
    <Frame
      foot={
        <div className="flex flex-wrap items-center gap-x-8 gap-y-2">
          <Figure name="Takes">{finish.takes}</Figure>
          <Figure name="Begun now, done">{clockTime(finish.done_at)}</Figure>
          <Figure name="Of it by hand">{finish.hands_on}</Figure>
          <span className="ml-auto flex items-center gap-3">
            {finish.tonight && <span className="text-sm font-bold text-moss">in tonight’s plan</span>}
            <Button look={finish.tonight ? 'plain' : 'act'} onClick={() => tonight.mutate(jobId)}>
              {finish.tonight ? 'Put it in again' : 'Plan it for tonight'}
            </Button>
            <Link href="/tonight" className="text-sm font-bold text-kingfisher underline">
              Tonight
            </Link>
          </span>
        </div>
      }
      side={
        <>
          {own.length > 0 && <Findings findings={own} items={view.job.document.items ?? []} jobId={jobId} />}
          <FinishPanel
            jobId={jobId}
            finish={finish}
            pieces={pieces}
            added={spec?.added ?? []}
            change={change}
          />
          {finish.outdoors && (
            <PlaceFold
              key={JSON.stringify(spec?.place ?? null)}
              place={spec?.place ?? null}
              letters={finish.letters}
              change={change}
            />
          )}
          <ProductsFold view={view} change={change} />
        </>
      }
    >
      <div className="absolute inset-0 flex flex-col">
        <Looks looks={looks} look={shown} choose={setLook} />
        {shown === 'cup' && item && (
          <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} aria-label="On a cup">
            <div className="px-5 pt-3">
              <ItemStrip view={view} chosen={item} />
            </div>
            <CupScreen key={item.number} view={view} item={item} change={change} />
          </div>
        )}
        {shown === 'press' && pieces?.press && (
          <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} aria-label="Under the press">
            <PressScreen press={pieces.press} cloth={pieces.cloth} />
            {pieces.cloth && <ClothProducts products={pieces.cloth.products} change={change} />}
          </div>
        )}
        {shown === 'shrink' && pieces && start && (
          <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} aria-label="As it shrinks">
            <ShrinkScreen pieces={pieces} spec={shrink ?? null} start={start.shrink} change={change} />
          </div>
        )}
        {shown === 'steps' && (
          <div className="min-h-0 flex-1 overflow-y-auto p-5" tabIndex={0} aria-label="The steps">
            <div className="mx-auto flex max-w-3xl flex-col gap-4">
              <header>
                <h2 className="font-head text-xl leading-tight font-bold">{finish.name}</h2>
                <p className="text-soft">{finish.words}</p>
              </header>
              {finish.needs.length > 0 && (
                <section aria-label="Have ready before you begin" className="panel p-3">
                  <h3 className="font-bold">Have ready before you begin</h3>
                  <ul className="mt-1 flex flex-wrap gap-x-6 gap-y-0.5 text-sm">
                    {finish.needs.map((need) => (
                      <li key={need}>{need}</li>
                    ))}
                  </ul>
                </section>
              )}
              <ol className="flex flex-col">
                {finish.steps.map((step, index) => (
                  <StepRow key={step.key} step={step} number={index + 1} longest={longest} />
                ))}
              </ol>
              {pieces && pieces.layers.length > 1 && (
                <section aria-label="The layers" className="panel p-3">
                  <h3 className="font-bold">The layers, bottom one first</h3>
                  <ol className="mt-1 flex flex-wrap gap-x-6 gap-y-1 text-sm">
                    {pieces.layers.map((layer, place) => (
                      <li key={layer.number} className="flex items-center gap-2">
                        <span
                          aria-hidden
                          className="h-4 w-4 rounded-sm border border-rule"
                          style={{ background: layer.colour }}
                        />
                        {place + 1}. {layer.name}
                        <span className="text-soft">
                          cut off {layer.cut_off}, its mask as large
                          {layer.scraps.length > 0 && `; you kept ${layer.scraps.join(' and ')}`}
                        </span>
                      </li>
                    ))}
                  </ol>
                  {pieces.layer_words.map((words) => (
                    <p key={words} className="mt-1 text-sm">
                      {words}
                    </p>
                  ))}
                </section>
              )}
              <p className="text-sm">
                <a className="font-bold text-kingfisher underline" href={placingUrl(jobId)} download>
                  Placing templates
                </a>
                , true to size on paper: tape one on at its hinge edge to find the place.
              </p>
              {finish.later.map((words) => (
                <p key={words} className="text-sm">
                  {words}
                </p>
              ))}
              <p className="text-sm font-bold">{finish.always}</p>
            </div>
          </div>
        )}
      </div>
    </Frame>
  );
}
