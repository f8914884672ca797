/** The stock, from a list in groups by what is made of it; where printing comes or goes, what becomes of the edges. */
import { useState } from 'react';

import type { Schemas } from '../../api/client';
import { useChoices } from '../../api/jobs';
import { useFoundStocks } from '../../api/shop';
import { Button } from '../../kit/Button';
import { StockWindow } from '../../shop/StockWindow';
import { Choices } from './Choices';
import type { PanelProps } from './phrase';

type Choice = Schemas['Choice'];

export default function Stocks(props: PanelProps) {
  const { phrase, view, change, close } = props;
  const choices = useChoices(view.job.id, phrase);
  const [words, setWords] = useState('');
  const [asking, setAsking] = useState<Choice | null>(null);
  const [shelf, setShelf] = useState(false);
  const meant = useFoundStocks(words);
  const take = (choice: Choice, answer?: Schemas['PhraseAnswer']) => {
    change({
      label: choice.label,
      changes: { ...choice.changes, ...answer?.changes },
      each: { ...choice.each, ...answer?.each },
    });
    close();
  };
  if (!choices.data) return <Choices {...props} />;
  if (asking?.question)
    return (
      <section aria-label={asking.label} className="flex flex-col gap-2">
        <p>{asking.question.sentence}</p>
        {asking.question.answers.map((answer, index) => (
          <div key={answer.label}>
            <Button
              look={index === 0 ? 'main' : 'plain'}
              autoFocus={index === 0}
              onClick={() => take(asking, answer)}
            >
              {answer.label}
            </Button>
            <p className="mt-0.5 text-sm text-soft">{answer.effect}</p>
          </div>
        ))}
        <Button look="bare" className="self-start" onClick={() => setAsking(null)}>
          Back to the list
        </Button>
      </section>
    );
  const found = choices.data.filter(
    (choice) => words.trim() === '' || !meant || meant.includes(String(choice.changes.stock)),
  );
  const groups = [...new Set(found.map((choice) => choice.group))];
  return (
    <>
      <input
        type="search"
        aria-label="Find a stock"
        placeholder="Find a stock: holographic, iron-on, cardstock …"
        className="w-full rounded-[6px] border border-rule bg-paper px-2.5 py-1.5"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      <StockWindow open={shelf} close={() => setShelf(false)} change={change} />
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <Button onClick={() => setShelf(true)}>A stock of your own …</Button>
      </div>
      {found.length === 0 && <p className="text-soft">No stock matches that.</p>}
      {groups.map((group) => (
        <section key={group} aria-label={group}>
          <h2 className="font-head text-sm font-bold text-soft">{group}</h2>
          <ul>
            {found
              .filter((choice) => choice.group === group)
              .map((choice) => (
                <li key={choice.label}>
                  <button
                    type="button"
                    aria-pressed={choice.chosen}
                    className={`w-full rounded-[6px] border px-2.5 py-1 text-left leading-snug hover:border-kingfisher ${
                      choice.chosen ? 'border-kingfisher bg-tray' : 'border-transparent'
                    }`}
                    onClick={() => (choice.question ? setAsking(choice) : take(choice))}
                  >
                    <span className="block font-bold">{choice.label}</span>
                    {choice.use && <span className="block text-sm">{choice.use}</span>}
                    <span className="block text-sm text-soft">{choice.consequence}</span>
                  </button>
                  {choice.question && (
                    <div className="flex flex-wrap gap-2 px-2.5 pb-1.5">
                      {choice.question.answers.map((answer) => (
                        <Button
                          key={answer.label}
                          title={answer.effect}
                          aria-label={`${choice.label}: ${answer.label}`}
                          onClick={() => take(choice, answer)}
                        >
                          {answer.label}
                        </Button>
                      ))}
                    </div>
                  )}
                </li>
              ))}
          </ul>
        </section>
      ))}
    </>
  );
}
