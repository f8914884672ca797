import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';

import { useEffect, useRef } from 'react';

import { Button } from './Button';
import type { ChoiceProps } from './Choose';

interface MenuProps extends ChoiceProps {
  reach: 'focused' | 'pressed' | null;
}

/** A button with its menu; `reach` says that the button it stands in for had the focus, or was pressed already. */
export default function ChoiceMenu({ name, label, choices, bare = false, reach }: MenuProps) {
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (reach) button.current?.focus();
    if (reach === 'pressed') button.current?.click();
  }, [reach]);
  return (
    <Menu>
      <MenuButton
        ref={button}
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
