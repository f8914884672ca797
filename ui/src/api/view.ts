/** A job's view, put together from its parts: the head names the revision of each, and only what is new is fetched. */
import { keepPreviousData, useQuery } from '@tanstack/react-query';

import { ask, client, type Design, type Schemas } from './client';

type Head = Schemas['ViewOut'];
type Parts = NonNullable<Head['parts']>;
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

export type View = Omit<Head, 'parts'> & { plan: Plan | null };

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

  async ask(revision: string, call: () => Promise<T>) {
    return this.get(revision) ?? this.put(revision, await call());
  }
}

const sheets = new Known<Schemas['SheetPart']>();
const layouts = new Known<Omit<Schemas['LayoutPart'], 'sheets'> & { sheets: Sheet[] }>();
const cuts = new Known<Schemas['CutPart']>();
const designs = new Known<Design>();

async function designsOf(jobId: number, wanted: Parts['designs']): Promise<Design[]> {
  const missing = Object.entries(wanted).filter(([, revision]) => !designs.get(revision));
  if (missing.length) {
    const fetched = await ask(
      client.POST('/api/jobs/{job_id}/parts/designs', {
        params: { path: { job_id: jobId } },
        body: { numbers: missing.map(([number]) => Number(number)) },
      }),
    );
    for (const one of fetched) designs.put(one.revision, one);
  }
  return Object.values(wanted).map((revision) => {
    const found = designs.get(revision);
    if (!found) throw new Outdated();
    return found;
  });
}

/** The job was changed between its head and its parts. */
class Outdated extends Error {}
const MOST_TRIES = 4;

async function layoutOf(jobId: number, revision: string) {
  const answer = client.GET('/api/jobs/{job_id}/parts/layout/{revision}', at(jobId, revision));
  const { sheets: raw, ...rest } = await part(answer);
  return { ...rest, sheets: raw.map((one) => ({ ...one, placements: placementsOf(one.pieces, rest.pins) })) };
}

const at = (job_id: number, revision: string) => ({ params: { path: { job_id, revision } } });

async function part<T>(call: Promise<{ data?: T | null; error?: unknown; response: Response }>): Promise<T> {
  const found = await ask(call);
  if (found === null || found === undefined) throw new Outdated();
  return found;
}

async function planOf(jobId: number, head: Head, parts: Parts): Promise<Plan> {
  const [sheet, layout, cut, items] = await Promise.all([
    sheets.ask(parts.sheet, () =>
      part(client.GET('/api/jobs/{job_id}/parts/sheet/{revision}', at(jobId, parts.sheet))),
    ),
    layouts.ask(parts.layout, () => layoutOf(jobId, parts.layout)),
    cuts.ask(parts.cut, () =>
      part(client.GET('/api/jobs/{job_id}/parts/cut/{revision}', at(jobId, parts.cut))),
    ),
    designsOf(jobId, parts.designs),
  ]);
  const quantity = new Map(head.job.document.items.map((item) => [item.number, item.quantity]));
  return {
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
  };
}

async function viewOf(jobId: number, tries = MOST_TRIES): Promise<View> {
  const head = await ask(client.GET('/api/jobs/{job_id}', { params: { path: { job_id: jobId } } }));
  const { parts, ...rest } = head;
  if (!parts) return { ...rest, plan: null };
  try {
    return { ...rest, plan: await planOf(jobId, head, parts) };
  } catch (error) {
    if (error instanceof Outdated && tries > 1) return viewOf(jobId, tries - 1);
    throw error;
  }
}

export const useView = (jobId: number) =>
  useQuery({
    meta: { told: true },
    queryKey: ['job', jobId],
    queryFn: () => viewOf(jobId),
    placeholderData: keepPreviousData,
  });

/** How good a layout is; it comes after the drawing, and until then the figures of the layout before stand. */
export const useFigures = (jobId: number, plan: Plan) =>
  useQuery({
    queryKey: ['figures', jobId, plan.layoutRevision],
    queryFn: async () =>
      (await ask(
        client.GET('/api/jobs/{job_id}/parts/figures/{revision}', at(jobId, plan.layoutRevision)),
      )) ?? null,
    placeholderData: keepPreviousData,
  }).data ?? null;
