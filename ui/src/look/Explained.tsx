/** A sentence whose words of the craft can be pressed, to be told what they mean. */
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { Fragment } from 'react';

import { useCatalog } from '../api/jobs';
import { partsOf } from './explainedParts';
import { TermPicture } from './TermPicture';

export function Explained({ text }: { text: string }) {
  const terms = useCatalog().data?.terms ?? [];
  return partsOf(text, terms).map((part, place) =>
    part.term ? (
      <Popover key={place} as="span" className="inline">
        <PopoverButton
          className="border-b border-dotted border-current"
          aria-label={`${part.words}: what is that?`}
        >
          {part.words}
        </PopoverButton>
        <PopoverPanel
          anchor={{ to: 'bottom start', gap: 4, padding: 8 }}
          className="panel z-20 flex w-72 items-start gap-3 p-3 text-sm shadow-card"
        >
          <TermPicture term={part.term.key} />
          <span>
            <b>{part.term.name}</b>: {part.term.text}
          </span>
        </PopoverPanel>
      </Popover>
    ) : (
      <Fragment key={place}>{part.words}</Fragment>
    ),
  );
}
