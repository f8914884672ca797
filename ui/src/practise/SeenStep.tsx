import { type MadeSheet, type Play, stepPictureUrl } from '../api/practise';
import { isDrawn, SymptomPicture } from '../look/SymptomPicture';
import { PICTURE_SIZES, PICTURE_WORDS } from './figures';

interface SeenProps {
  play: Play;
  step: number;
  title: React.Ref<HTMLHeadingElement>;
}

/** What a step showed: pictures, and what came of its sheets. */
export function SeenStep({ play, step, title }: SeenProps) {
  const one = step > 0 ? play.steps[step - 1] : undefined;
  const shows = one ? one.shows : play.first_shows;
  const made = one ? one.made.at(-1) : play.first;
  const words = one ? one.text : 'The sheet it began with';
  return (
    <section aria-label="What is seen" className="panel flex flex-col gap-3 p-4">
      <h2 ref={title} tabIndex={-1} className="font-bold outline-none">
        {words}
      </h2>
      {!one && play.symptoms.length > 0 && (
        <ul className="flex flex-wrap gap-4">
          {play.symptoms.map((key, place) => (
            <li key={key} className="flex items-center gap-2 text-sm">
              <SymptomPicture symptom={key} />
              {play.seen[place]}
            </li>
          ))}
        </ul>
      )}
      {made && (
        <Came made={made} drawn={one ? made.spoiled.map((spoilt) => spoilt.code).filter(isDrawn) : []} />
      )}
      <div className="flex flex-wrap items-start gap-4">
        {shows.map((what) => (
          <figure key={what} className="flex min-w-0 flex-col gap-1">
            <img
              key={`${step}-${what}`}
              src={stepPictureUrl(play.id, step, what)}
              alt={`${PICTURE_WORDS[what]}: ${words}`}
              className={`rounded-[4px] border border-rule bg-tray ${PICTURE_SIZES[what]}`}
            />
            <figcaption className="text-sm text-soft">{PICTURE_WORDS[what]}</figcaption>
          </figure>
        ))}
      </div>
    </section>
  );
}

/** What came of a sheet; `drawn` are the symptoms that are not drawn beside it already. */
function Came({ made, drawn }: { made: MadeSheet; drawn: string[] }) {
  if (!made.marks_read)
    return <p>The marks were not found, so nothing was cut. The sheet is whole: it can be loaded again.</p>;
  return (
    <div className="flex flex-wrap items-center gap-3">
      <p>
        <b>
          {made.good} of {made.pieces} are good.
        </b>{' '}
        {made.spoiled.map((one) => `${one.pieces} ${one.text}.`).join(' ')}
      </p>
      {drawn.map((code) => (
        <SymptomPicture key={code} symptom={code} />
      ))}
    </div>
  );
}
