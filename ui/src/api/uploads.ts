/** Files on their way into a job, each with its own progress and its own sentence where it failed. */
import { create } from 'zustand';

import { NOT_NOW, type Schemas } from './client';

export interface Upload {
  id: number;
  name: string;
  share: number;
  state: 'waiting' | 'sending' | 'reading' | 'done' | 'failed';
  sentence: string;
}

interface Uploads {
  uploads: Upload[];
  add: (jobId: number, files: File[], onAdded: () => void) => void;
  clear: () => void;
  /** Those that still wait do not come in. */
  stop: () => void;
}

const AGAIN_MS = 3000;
// Of many files, the job is asked for anew no oftener than this: drawing it takes as long as reading a picture.
const SHOWN_MS = 4000;
const MOST_NAMED = 6;
let last = 0;
const AT_ONCE = 2;
const queue: { id: number; run: () => Promise<void> }[] = [];
let running = 0;

async function work() {
  if (running >= AT_ONCE) return;
  running += 1;
  for (let next = queue.shift(); next; next = queue.shift()) await next.run();
  running -= 1;
}

type OnChange = (change: Partial<Upload>) => void;
type ArtZip = Schemas['ArtZipOut'];

/** Send a file, or ask for one that is there already; the answer, or null where it was refused. */
function send<T>(url: string, file: File | null, onChange: OnChange): Promise<T | null> {
  return new Promise((settle) => {
    const request = new XMLHttpRequest();
    const body = new FormData();
    if (file) body.append('file', file);
    request.open('POST', url);
    request.upload.onprogress = (event) =>
      onChange({
        state: event.loaded < event.total ? 'sending' : 'reading',
        share: event.loaded / event.total,
      });
    request.onload = () => {
      let detail = 'Something went wrong with this file; try it again.';
      try {
        detail = (JSON.parse(request.responseText) as { detail?: string }).detail ?? detail;
      } catch {
        // Not every answer is JSON; the general sentence stands.
      }
      if (request.status >= NOT_NOW) {
        // The file is still here; it is sent again until there is room for it.
        onChange({ state: 'waiting', share: 0, sentence: detail });
        setTimeout(() => void send<T>(url, file, onChange).then(settle), AGAIN_MS);
        return;
      }
      const came = request.status < 300;
      onChange(came ? { state: 'done', share: 1, sentence: '' } : { state: 'failed', sentence: detail });
      settle(came ? (JSON.parse(request.responseText) as T) : null);
    };
    request.onerror = () => {
      onChange({
        state: 'failed',
        sentence: 'Vamper did not answer; is it still running? Try this file again.',
      });
      settle(null);
    };
    request.send(file ? body : null);
  });
}

const isZip = (file: File) => file.name.toLowerCase().endsWith('.zip');

/** What of a zip was left out, in a sentence; nothing where all of it are pictures. */
function leftOut(zip: ArtZip): string {
  const names = zip.left_out;
  if (names.length === 0) return '';
  const some = names.slice(0, MOST_NAMED).join(', ');
  return `left out, as no pictures: ${some}${names.length > MOST_NAMED ? ' and more' : ''}`;
}

export const useUploads = create<Uploads>((set) => {
  const change = (id: number, part: Partial<Upload>) =>
    set((state) => ({ uploads: state.uploads.map((one) => (one.id === id ? { ...one, ...part } : one)) }));
  return {
    uploads: [],
    add: (jobId, files, onAdded) => {
      const fresh = files.map((file) => ({
        file,
        upload: { id: ++last, name: file.name, share: 0, state: 'waiting' as const, sentence: '' },
      }));
      set((state) => ({
        uploads: [...state.uploads.filter((one) => one.state !== 'done'), ...fresh.map((one) => one.upload)],
      }));
      let shown = 0;
      const show = () => {
        if (queue.length > 0 && Date.now() - shown < SHOWN_MS) return;
        shown = Date.now();
        onAdded();
      };
      const later = (upload: Upload, run: () => Promise<void>) => queue.push({ id: upload.id, run });
      const one = (upload: Upload, url: string, file: File | null) =>
        later(upload, async () => {
          change(upload.id, { state: file ? 'sending' : 'reading' });
          await send(url, file, (part) => change(upload.id, part));
          show();
        });
      const zip = (upload: Upload, file: File) =>
        later(upload, async () => {
          change(upload.id, { state: 'sending' });
          const url = `/api/jobs/${jobId}/art-zips`;
          const held = await send<ArtZip>(url, file, (part) => change(upload.id, part));
          if (!held) return;
          const inside = held.pictures.map(({ place, name }) => ({
            place,
            upload: { id: ++last, name, share: 0, state: 'waiting' as const, sentence: '' },
          }));
          change(upload.id, { sentence: leftOut(held) });
          set((state) => ({ uploads: [...state.uploads, ...inside.map((entry) => entry.upload)] }));
          for (const entry of inside) one(entry.upload, `${url}/${held.number}/${entry.place}`, null);
          start();
        });
      const start = () => {
        for (let n = 0; n < AT_ONCE; n += 1) void work();
      };
      for (const { file, upload } of fresh)
        if (isZip(file)) zip(upload, file);
        else one(upload, `/api/jobs/${jobId}/art`, file);
      start();
    },
    stop: () => {
      const left = new Set(queue.splice(0).map((one) => one.id));
      set((state) => ({ uploads: state.uploads.filter((one) => !left.has(one.id)) }));
    },
    clear: () =>
      set((state) => ({
        uploads: state.uploads.filter((one) => one.state !== 'done' && one.state !== 'failed'),
      })),
  };
});
