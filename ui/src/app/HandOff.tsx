import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import type { Ref } from 'react';
import { Link } from 'wouter';

import type { View } from '../api/view';
import { useHandedOff } from '../api/jobs';

/** Every file there is to take away, by sheet, or all at once. */
export function HandOff({ view, button }: { view: View; button: Ref<HTMLButtonElement> }) {
  const handedOff = useHandedOff(view.job.id);
  const sheets = view.plan?.sheets ?? [];
  const row = 'block rounded-[6px] px-2.5 py-1.5 data-focus:bg-tray';
  return (
    <Menu>
      <MenuButton
        ref={button}
        disabled={sheets.length === 0}
        className="inline-flex items-center gap-2 rounded-[6px] border border-kingfisher bg-kingfisher px-3 py-1.5 text-sm leading-tight font-bold text-on-kingfisher disabled:opacity-60"
      >
        Hand off
        <kbd aria-hidden className="figure border-b border-current px-0.5">
          H
        </kbd>
      </MenuButton>
      <MenuItems
        anchor={{ to: 'bottom end', gap: 8, padding: 12 }}
        className="panel z-20 w-80 p-1.5 shadow-card"
      >
        {view.plan?.by_program && (
          <MenuItem>
            <Link className={row} href={`/jobs/${view.job.id}/print`} onClick={() => handedOff.mutate()}>
              <span className="block font-bold">The picture, and what to type</span>
              <span className="block text-sm text-soft">for your machine’s own program</span>
            </Link>
          </MenuItem>
        )}
        <MenuItem>
          <a
            className={row}
            href={`/api/jobs/${view.job.id}/hand-off.zip`}
            download
            onClick={() => handedOff.mutate()}
          >
            <span className="block font-bold">Everything (zip)</span>
            <span className="block text-sm text-soft">all sheets, the plan, the job file and its art</span>
          </a>
        </MenuItem>
        {sheets.map((_, sheet) => (
          <div key={sheet} className="mt-1 border-t border-rule pt-1">
            <p className="px-2.5 text-sm text-soft">
              Sheet {sheet + 1} of {sheets.length}
            </p>
            {view.plan?.files.map(({ ending, words }) => (
              <MenuItem key={ending}>
                <a className={row} href={`/api/jobs/${view.job.id}/sheets/${sheet + 1}/${ending}`} download>
                  {words[0]?.toUpperCase() + words.slice(1)}
                </a>
              </MenuItem>
            ))}
          </div>
        ))}
      </MenuItems>
    </Menu>
  );
}
