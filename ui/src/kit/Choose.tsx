import { type ComponentType, useState } from 'react';

import { Button } from './Button';

export interface ChoiceProps {
  name: string;
  label?: string;
  choices: { words: string; do: () => void; chosen?: boolean }[];
  bare?: boolean;
}

type Reach = 'focused' | 'pressed' | null;
let loaded: ComponentType<ChoiceProps & { reach: Reach }> | null = null;

/** A button with a few things to choose from behind it. Its menu is loaded when a hand comes near it. */
export function Choose(props: ChoiceProps) {
  const [Menu, setMenu] = useState(() => loaded);
  const [reach, setReach] = useState<Reach>(null);
  const load = () =>
    void import('./ChoiceMenu').then((module) => {
      loaded = module.default;
      setMenu(() => loaded);
    });
  const press = () => {
    setReach('pressed');
    load();
  };
  if (Menu) return <Menu {...props} reach={reach} />;
  return (
    <Button
      look={props.bare ? 'bare' : 'plain'}
      className="px-2 whitespace-nowrap"
      aria-label={props.label ? `${props.label}: ${props.name}` : undefined}
      aria-haspopup="menu"
      aria-expanded={false}
      onPointerEnter={load}
      onFocus={() => {
        setReach((before) => before ?? 'focused');
        load();
      }}
      onBlur={() => setReach(null)}
      // The menu may take this button's place before the hand lets go of it; a press is kept from its beginning.
      onPointerDown={press}
      onClick={press}
    >
      {props.name}
      <span aria-hidden> ▾</span>
    </Button>
  );
}
