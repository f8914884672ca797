import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';

import { Button } from './Button';

interface Props {
  name: string;
  label?: string;
  choices: { words: string; do: () => void; chosen?: boolean }[];
  bare?: boolean;
}

/** A button with a few things to choose from behind it. */
export function Choose({ name, label, choices, bare = false }: Props) {
  return (
    <Menu>
      <MenuButton
        as={Button}
        look={bare ? 'bare' : 'plain'}
        className="px-2 whitespace-nowrap"
        aria-label={label ? `${label}: ${name}` : undefined}
      >
        {name}
        <span aria-hidden> ▾</span>
      </MenuButton>
      <MenuItems
        anchor={{ to: 'bottom end', gap: 6, padding: 12 }}
        className="panel z-50 flex flex-col p-1 shadow-card"
      >
        {choices.map((choice) => (
          <MenuItem key={choice.words}>
            <button
              type="button"
              className={`rounded-[4px] px-3 py-1.5 text-left text-sm data-focus:bg-tray ${choice.chosen ? 'font-bold text-kingfisher' : ''}`}
              onClick={choice.do}
            >
              {choice.words}
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  );
}
