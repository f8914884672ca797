/** A sentence whose words of the craft can be pressed, to be told below it what they mean. */
import { Fragment, useId, useState } from 'react';

import { useCatalog } from '../api/jobs';
import { partsOf } from './explainedParts';
import { TermPicture } from './TermPicture';

export function Explained({ text }: { text: string }) {
  const terms = useCatalog().data?.terms ?? [];
  const [open, setOpen] = useState('');
  const told = terms.find((term) => term.key === open);
  const id = useId();
  return (
    <>
      {partsOf(text, terms).map((part, place) =>
        part.term ? (
          <button
            key={place}
            type="button"
            className="border-b border-dotted border-current"
            aria-expanded={open === part.term.key}
            aria-controls={open === part.term.key ? id : undefined}
            aria-label={`${part.words}: what is that?`}
            onClick={() => setOpen(open === part.term?.key ? '' : (part.term?.key ?? ''))}
          >
            {part.words}
          </button>
        ) : (
          <Fragment key={place}>{part.words}</Fragment>
        ),
      )}
      {told && (
        <span id={id} className="mt-1.5 flex items-start gap-3 rounded-[6px] bg-tray p-2">
          <TermPicture term={told.key} />
          <span>
            <b>{told.name}</b>: {told.text}
          </span>
        </span>
      )}
    </>
  );
}
