/** Files on their way into a job, each with its own progress and its own sentence where it failed. */
import { create } from 'zustand';

import { NOT_NOW } from './client';

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
}

const AGAIN_MS = 3000;
let last = 0;
const AT_ONCE = 2;
const queue: (() => Promise<void>)[] = [];
let running = 0;

async function work() {
  if (running >= AT_ONCE) return;
  running += 1;
  for (let next = queue.shift(); next; next = queue.shift()) await next();
  running -= 1;
}

function send(jobId: number, file: File, onChange: (change: Partial<Upload>) => void): Promise<void> {
  return new Promise((settle) => {
    const request = new XMLHttpRequest();
    const body = new FormData();
    body.append('file', file);
    request.open('POST', `/api/jobs/${jobId}/art`);
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
        setTimeout(() => void send(jobId, file, onChange).then(settle), AGAIN_MS);
        return;
      }
      onChange(
        request.status < 300
          ? { state: 'done', share: 1, sentence: '' }
          : { state: 'failed', sentence: detail },
      );
      settle();
    };
    request.onerror = () => {
      onChange({
        state: 'failed',
        sentence: 'Vamper did not answer; is it still running? Try this file again.',
      });
      settle();
    };
    request.send(body);
  });
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
      for (const { file, upload } of fresh)
        queue.push(async () => {
          change(upload.id, { state: 'sending' });
          await send(jobId, file, (part) => change(upload.id, part));
          onAdded();
        });
      for (let n = 0; n < AT_ONCE; n += 1) void work();
    },
    clear: () =>
      set((state) => ({
        uploads: state.uploads.filter((one) => one.state !== 'done' && one.state !== 'failed'),
      })),
  };
});
