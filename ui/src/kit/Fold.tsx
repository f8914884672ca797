import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/react';
import type { ReactNode } from 'react';

interface Props {
  title: string;
  /** What is inside in a few words, so that it need not be opened to be read. */
  summary: string;
  open?: boolean;
  children: ReactNode;
}

/** Something that is seldom changed: its name and its state in one line, the rest behind it. */
export function Fold({ title, summary, open = false, children }: Props) {
  return (
    <Disclosure as="section" defaultOpen={open} className="border-t border-rule pt-2">
      <DisclosureButton className="group flex w-full items-baseline justify-between gap-3 text-left">
        <span className="font-bold whitespace-nowrap">
          <span aria-hidden className="mr-1.5 inline-block text-kingfisher group-data-open:rotate-90">
            ›
          </span>
          {title}
        </span>
        <span className="truncate text-sm text-soft">{summary}</span>
      </DisclosureButton>
      <DisclosurePanel className="mt-2 flex flex-col gap-2.5">{children}</DisclosurePanel>
    </Disclosure>
  );
}
