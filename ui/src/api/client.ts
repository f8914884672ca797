/** The typed client: every call either gives data or throws a `Problem` with a sentence for people. */
import createClient from 'openapi-fetch';

import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type Design = Schemas['ItemOut'];
export type ItemDocument = Schemas['ItemSpec'];
export type EdgeSpec = Schemas['EdgeSpec'];
export type Finding = Schemas['FindingOut'];
export type StationKey = Schemas['Station'];

export class Problem extends Error {
  constructor(
    sentence: string,
    /** The field that it is about, where it is about one. */
    readonly where = '',
  ) {
    super(sentence);
  }
}

/** It could not be done now, for no fault of what was asked; the same will do later. */
export class NotNow extends Problem {}
/** There was no answer at all. */
export class NoAnswer extends NotNow {}
/** The least status that says so: a fault of the server, or a file that could not be written. */
export const NOT_NOW = 500;

export const client = createClient<paths>({ baseUrl: window.location.origin });

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The data of an answer, or its problem thrown. */
export async function ask<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw new NoAnswer('Vamper does not answer; is it still running?');
  }
  if (!answer.response.ok) {
    const { detail, where } = (answer.error ?? {}) as { detail?: unknown; where?: unknown };
    const sentence = typeof detail === 'string' ? detail : 'Something went wrong; try again.';
    throw answer.response.status >= NOT_NOW
      ? new NotNow(sentence)
      : new Problem(sentence, String(where ?? ''));
  }
  return answer.data as T;
}

/** The prepared picture of a design, at most `px` at its longer side. */
export const pictureUrl = (item: Design, px: number) => `${item.picture}&px=${px}`;

/** An art as it came. */
export const artUrl = (digest: string, px: number) => `/api/art/${digest}.png?px=${px}`;

/** An art as it is prepared for a composed piece. */
export function preparedUrl(placed: Schemas['PlacedArt'], px: number): string {
  const query = new URLSearchParams({ page: String(placed.page), px: String(px) });
  if (placed.lift_de != null) query.set('lift', String(placed.lift_de));
  if (placed.crop) query.set('crop', placed.crop.join(','));
  return `/api/art/${placed.art}.png?${query}`;
}
