import { Button } from '../kit/Button';

interface Props<Key extends string> {
  looks: readonly (readonly [Key, string])[];
  look: Key;
  choose: (look: Key) => void;
}

/** What a station's middle can show, one of them at a time. */
export function Looks<Key extends string>({ looks, look, choose }: Props<Key>) {
  return (
    <div
      role="group"
      aria-label="Look at"
      className="flex flex-wrap gap-1.5 border-b border-rule px-3 py-1.5"
    >
      {looks.map(([key, words]) => (
        <Button
          key={key}
          look={look === key ? 'act' : 'bare'}
          aria-pressed={look === key}
          onClick={() => choose(key)}
        >
          {words}
        </Button>
      ))}
    </div>
  );
}
