/** A job's view, put together from its parts: an answer names the revision of each, and brings those that are new. */
import { keepPreviousData, type QueryClient, useQuery, useQueryClient } from '@tanstack/react-query';

import { readAgain } from './again';
import { ask, client, type Design, type Schemas } from './client';

type Answer = Schemas['ViewOut'];
export type Pin = Schemas['Pin'];

/** One piece where it lies. */
export interface Placement {
  item_number: number;
  x_mm: number;
  y_mm: number;
  turn_deg: number;
  pin: Pin;
}

/** A design with how many of it are wanted, and lie on sheets. */
export type Item = Design & { placed: number; wanted: number };

export type Sheet = Omit<Schemas['SheetOut'], 'pieces'> & { placements: Placement[] };

export type Plan = Omit<Schemas['SheetPart'], 'revision'> &
  Omit<Schemas['LayoutPart'], 'revision' | 'sheets' | 'placed' | 'pins'> & {
    items: Item[];
    sheets: Sheet[];
    settings: Schemas['SettingOut'][];
    packing: Schemas['PackingOut'];
    /** The revision of its layout: its figures are asked for by it. */
    layoutRevision: string;
  };

export type Figures = Schemas['FiguresPart'];

export type View = Answer & { plan: Plan | null };

const NUMBERS_A_PIECE = 5;

/** Pieces out of their numbers. */
export function placementsOf(numbers: readonly number[], pins: readonly Pin[]): Placement[] {
  const found: Placement[] = [];
  for (let n = 0; n + NUMBERS_A_PIECE <= numbers.length; n += NUMBERS_A_PIECE) {
    const [item_number, x_mm, y_mm, turn_deg, pin] = numbers.slice(n) as [
      number,
      number,
      number,
      number,
      number,
    ];
    found.push({ item_number, x_mm, y_mm, turn_deg, pin: pins[pin] ?? 'free' });
  }
  return found;
}

const KEPT = 400;

/** Parts by their revisions: what was had before is not asked for again. */
class Known<T> {
  private parts = new Map<string, T>();

  get = (revision: string) => this.parts.get(revision);

  put(revision: string, part: T) {
    this.parts.delete(revision);
    this.parts.set(revision, part);
    for (const old of this.parts.keys()) {
      if (this.parts.size <= KEPT) break;
      this.parts.delete(old);
    }
    return part;
  }
}

const sheets = new Known<Schemas['SheetPart']>();
const layouts = new Known<Omit<Schemas['LayoutPart'], 'sheets'> & { sheets: Sheet[] }>();
const cuts = new Known<Schemas['CutPart']>();
const designs = new Known<Design>();

/** The revisions of what is here already, so that it is not sent once more. */
export function knownParts(view: View | undefined): Schemas['KnownParts'] {
  const parts = view?.parts;
  if (!parts) return { sheet: '', layout: '', cut: '', designs: [] };
  return { sheet: parts.sheet, layout: parts.layout, cut: parts.cut, designs: Object.values(parts.designs) };
}

/** The part that came, or the one of that revision that was here. */
function take<T>(known: Known<T>, revision: string, came: T | null): T | undefined {
  return came === null ? known.get(revision) : known.put(revision, came);
}

const laid = ({ sheets: raw, ...rest }: Schemas['LayoutPart']) => ({
  ...rest,
  sheets: raw.map((one) => ({ ...one, placements: placementsOf(one.pieces, rest.pins) })),
});

/** A view out of an answer; null where a part of it is neither in it nor here any more. */
export function viewIn(answer: Answer): View | null {
  const { parts } = answer;
  if (!parts) return { ...answer, plan: null };
  for (const one of parts.new_designs) designs.put(one.revision, one);
  const sheet = take(sheets, parts.sheet, parts.new_sheet);
  const layout = take(layouts, parts.layout, parts.new_layout && laid(parts.new_layout));
  const cut = take(cuts, parts.cut, parts.new_cut);
  const items = Object.values(parts.designs).flatMap((revision) => designs.get(revision) ?? []);
  if (!sheet || !layout || !cut || items.length < Object.keys(parts.designs).length) return null;
  const quantity = new Map(answer.job.document.items.map((item) => [item.number, item.quantity]));
  return {
    ...answer,
    plan: {
      ...sheet,
      ...layout,
      settings: cut.settings,
      packing: parts.packing,
      layoutRevision: parts.layout,
      items: items.map((item) => ({
        ...item,
        placed: layout.placed[item.number] ?? 0,
        wanted: quantity.get(item.number) ?? 0,
      })),
    },
  };
}

const viewKey = (jobId: number) => ['job', jobId];

async function viewOf(queries: QueryClient, jobId: number): Promise<View> {
  const params = { path: { job_id: jobId } };
  const known = knownParts(queries.getQueryData<View>(viewKey(jobId)));
  const found = viewIn(await ask(client.POST('/api/jobs/{job_id}/view', { params, body: known })));
  if (found) return found;
  const whole = viewIn(await ask(client.GET('/api/jobs/{job_id}', { params })));
  if (!whole) throw new Error('Part of this job could not be loaded; reload the page.');
  return whole;
}

/** Show a job as an answer to a change has it, and read again whatever else is known of the job. */
export async function showAnswer(queries: QueryClient, jobId: number, answer: Answer) {
  const view = viewIn(answer);
  if (!view) return readAgain(queries, viewKey(jobId));
  // What is on its way was asked before the change.
  await queries.cancelQueries({ queryKey: viewKey(jobId), exact: true });
  queries.setQueryData(viewKey(jobId), view);
  const besides = (query: { queryKey: readonly unknown[] }) => query.queryKey.length > viewKey(jobId).length;
  await queries.invalidateQueries({ queryKey: viewKey(jobId), predicate: besides });
}

export function useView(jobId: number) {
  const queries = useQueryClient();
  return useQuery({
    meta: { told: true },
    queryKey: viewKey(jobId),
    queryFn: () => viewOf(queries, jobId),
    placeholderData: keepPreviousData,
  });
}

/** How good a layout is; it comes after the drawing, and until then the figures of the layout before stand. */
export const useFigures = (jobId: number, plan: Plan) =>
  useQuery({
    queryKey: ['figures', jobId, plan.layoutRevision],
    queryFn: async () =>
      (await ask(
        client.GET('/api/jobs/{job_id}/parts/figures/{revision}', {
          params: { path: { job_id: jobId, revision: plan.layoutRevision } },
        }),
      )) ?? null,
    placeholderData: keepPreviousData,
  }).data ?? null;
