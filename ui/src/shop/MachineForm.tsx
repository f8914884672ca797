import type { ReactNode } from 'react';

import type { Changer } from '../api/changes';
import { useRemoveMachine } from '../api/shop';
import type { View } from '../api/view';
import { Button } from '../kit/Button';
import { asSentence } from '../kit/words';

/** What the form of a machine is given; `asNew` makes one more, from the job's present one. */
export interface MachineProps {
  view: View;
  change: Changer;
  asNew: boolean;
  close: () => void;
}

interface Props {
  kind: 'printer' | 'cutter';
  /** None where it is new. */
  id: number | null;
  name: string;
  rename: (name: string) => void;
  error: string | undefined;
  keep: (kept: (saved: { id: number } | undefined) => void) => void;
  change: Changer;
  close: () => void;
  children: ReactNode;
}

/** What the forms of all machines share: a name, saving, removing. A job goes on a new one as soon as that is kept. */
export function MachineForm({ kind, id, name, rename, error, keep, change, close, children }: Props) {
  const remove = useRemoveMachine(`${kind}s`);
  const save = () =>
    keep((saved) => {
      if (id === null && saved) change({ label: `on ${name}`, changes: { [`${kind}_id`]: saved.id } });
      close();
    });
  return (
    <form
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <label className="flex flex-col gap-0.5 text-sm">
        Name
        <input
          className="field"
          value={name}
          maxLength={80}
          required
          onChange={(event) => rename(event.target.value)}
        />
      </label>
      {children}
      {(error ?? remove.error?.message) && (
        <p className="text-rowan" role="alert">
          {asSentence(error ?? remove.error?.message ?? '')}
        </p>
      )}
      <div className="flex gap-2">
        <Button type="submit" look="main" disabled={!name.trim()}>
          Save
        </Button>
        {id !== null && <Button onClick={() => remove.mutate(id, { onSuccess: close })}>Remove it</Button>}
      </div>
      <p className="text-sm text-soft">Every job on it is planned again with what you save here.</p>
    </form>
  );
}
