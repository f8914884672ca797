/** What a phrase can be changed to, each with what it would mean. */
import { useChoices } from '../../api/jobs';
import { Loaded } from '../../look/Loaded';
import type { PanelProps } from './phrase';

export function Choices({ phrase, view, change, close }: PanelProps) {
  return (
    <Loaded query={useChoices(view.job.id, phrase)} doing="Working out what each would mean">
      {(choices) => (
        <ul className="flex flex-col gap-1">
          {choices.map((choice, place, every) => (
            <li key={choice.label}>
              {choice.group && choice.group !== every[place - 1]?.group && (
                <h2 className="mt-2 border-t border-rule pt-2 pb-1 font-bold">{choice.group}</h2>
              )}
              <button
                type="button"
                aria-pressed={choice.chosen}
                className={`w-full rounded-[6px] border px-2.5 py-1.5 text-left hover:border-kingfisher ${
                  choice.chosen ? 'border-kingfisher bg-tray' : 'border-transparent'
                }`}
                onClick={() => {
                  change({ label: choice.label, changes: choice.changes });
                  close();
                }}
              >
                <span className="block font-bold">
                  {choice.label}
                  {choice.proposed && <span className="ml-2 text-sm font-normal text-moss">proposed</span>}
                </span>
                <span className="block text-sm text-soft">{choice.consequence}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </Loaded>
  );
}
