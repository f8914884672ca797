import { type ReactNode, useEffect, useRef, useState } from 'react';

import type { Schemas } from '../api/client';
import { useCatalog } from '../api/jobs';
import { type Route, useChooseRoute } from '../api/program';
import { useCutters, usePrinters, usePutUsual, useUsual } from '../api/shop';
import { Button } from '../kit/Button';
import { ROUTES } from '../look/routes';
import { MAKE_PICTURES, PRINTER_PICTURES } from './QuestionPictures';

interface Answer {
  key: string;
  name: string;
  hint?: string;
  picture: ReactNode;
  chosen: boolean;
  take: (done: () => void) => void;
}

/** Three questions with drawn answers, one press each; whatever else a workshop needs to know waits until it matters. */
export function Questions() {
  const usual = useUsual().data;
  const printers = usePrinters().data;
  const cutters = useCutters().data;
  const put = usePutUsual();
  const choose = useChooseRoute();
  const catalog = useCatalog().data;
  const [step, setStep] = useState(0);
  const title = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    if (step > 0) title.current?.focus();
  }, [step]);
  if (!usual || usual.asked || !printers || !cutters || !catalog) return null;
  const isHand = (one: (typeof cutters)[number]) => one.profile.cutter.feed === 'hand';
  const chosen = cutters.find((one) => one.id === usual.cutter_id);
  const route = chosen ? (isHand(chosen) ? 'hand' : chosen.profile.cutter.route) : null;
  // The answer belongs to a machine: the one that is named, else the first there is.
  const cutBy = (way: Route, done: () => void) => {
    const takes = (one: (typeof cutters)[number]) => isHand(one) === (way === 'hand');
    const id = (chosen && takes(chosen) ? chosen : cutters.find(takes))?.id;
    if (id === undefined) return done();
    const name = () => put.mutate({ ...usual, cutter_id: id }, { onSuccess: done });
    if (way === 'hand') name();
    else choose.mutate({ id, route: way }, { onSuccess: name });
  };
  const keep = (change: Partial<Schemas['Usual']>) => (done: () => void) =>
    put.mutate({ ...usual, ...change }, { onSuccess: done });
  const questions: { title: string; answers: Answer[] }[] = [
    {
      title: 'What cuts?',
      answers: ROUTES.map(([key, name, hint, picture]) => ({
        key,
        name,
        hint,
        picture,
        chosen: route === key,
        take: (done) => cutBy(key, done),
      })),
    },
    {
      title: 'What prints?',
      answers: printers
        .filter((one) => one.profile.printer.practice === null)
        .map((one) => ({
          key: String(one.id),
          name: one.profile.name.replace(/^the /, '').replace(/^./, (first) => first.toUpperCase()),
          picture: PRINTER_PICTURES[one.profile.printer.kind],
          chosen: usual.printer_id === one.id,
          take: keep({ printer_id: one.id }),
        })),
    },
    {
      title: 'What do you make most?',
      answers: catalog.makes.map((one) => ({
        key: one.key,
        name: one.name,
        picture: MAKE_PICTURES[one.key],
        chosen: usual.makes === one.key,
        take: keep({ makes: one.key as Schemas['Makes'], asked: true }),
      })),
    },
  ];
  const last = questions.length - 1;
  const at = questions[step];
  if (!at) return null;
  const onward = () => setStep(step + 1);
  const busy = put.isPending || choose.isPending;
  return (
    <section aria-label="Three questions" className="panel flex flex-col gap-4 p-5">
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h2 ref={title} tabIndex={-1} className="font-head text-xl font-bold outline-none">
          {at.title}
        </h2>
        <span className="text-sm text-soft">
          {step + 1} of {questions.length}
        </span>
      </div>
      <ul
        className={`grid gap-3 ${at.answers.length > 3 ? 'sm:grid-cols-3' : 'sm:grid-cols-[repeat(auto-fit,minmax(13rem,1fr))]'}`}
      >
        {at.answers.map((one) => (
          <li key={one.key}>
            <button
              type="button"
              aria-pressed={one.chosen}
              disabled={busy}
              className="flex h-full w-full items-center gap-3 rounded-[6px] border border-rule bg-paper p-3 text-left leading-tight hover:border-kingfisher aria-pressed:border-kingfisher aria-pressed:shadow-[inset_0_0_0_1px_var(--kingfisher)]"
              onClick={() => one.take(onward)}
            >
              <svg viewBox="0 0 80 46" className="h-14 w-24 shrink-0" aria-hidden>
                {one.picture}
              </svg>
              <span>
                <span className="block font-bold">{one.name}</span>
                {one.hint && <span className="text-sm text-soft">{one.hint}</span>}
              </span>
            </button>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-center justify-between gap-3">
        <p className="text-sm text-soft">Each answer can be changed later, in the first line of any job.</p>
        <span className="flex gap-2">
          {step > 0 && (
            <Button look="bare" onClick={() => setStep(step - 1)}>
              Back
            </Button>
          )}
          <Button
            look="bare"
            disabled={busy}
            onClick={() => (step < last ? onward() : keep({ asked: true })(() => undefined))}
          >
            I’ll say later
          </Button>
        </span>
      </div>
    </section>
  );
}
