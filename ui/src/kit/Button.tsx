import type { ButtonHTMLAttributes, Ref } from 'react';

const LOOKS = {
  plain: 'bg-paper border-rule text-ink hover:border-kingfisher',
  main: 'bg-kingfisher border-kingfisher text-on-kingfisher hover:brightness-110',
  act: 'bg-paper border-kingfisher text-kingfisher font-bold hover:bg-tray',
  bare: 'border-transparent text-ink hover:bg-tray',
} as const;

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  look?: keyof typeof LOOKS;
  hotkey?: string;
  ref?: Ref<HTMLButtonElement>;
}

/** A verb; with `hotkey`, the key that does the same. */
export function Button({ look = 'plain', hotkey, className = '', children, ...rest }: Props) {
  return (
    <button
      type="button"
      className={`inline-flex items-center justify-center gap-2 rounded-[6px] border px-3 py-1.5 text-sm leading-tight disabled:opacity-60 ${LOOKS[look]} ${className}`}
      {...rest}
    >
      {children}
      {hotkey && (
        <kbd aria-hidden className="figure border-b border-current px-0.5 opacity-80">
          {hotkey}
        </kbd>
      )}
    </button>
  );
}
