import type { Changer } from '../../api/changes';
import type { Schemas } from '../../api/client';
import { useCatalog } from '../../api/jobs';
import type { Reading } from '../../api/marks';
import { useCutters, useKeepCutter, useKeepPrinter, usePrinters } from '../../api/shop';
import type { View } from '../../api/view';
import { Button } from '../../kit/Button';
import { Fold } from '../../kit/Fold';
import { NumberField } from '../../kit/NumberField';
import { Options } from '../../kit/Options';

interface Props {
  view: View;
  reading: Reading;
  change: Changer;
}

/** The sensor, the room and the printer's black: three steps each in words, figures behind a fold. */
export function ReadingSettings({ view, reading, change }: Props) {
  const catalog = useCatalog().data;
  const document = view.job.document;
  const cutter = useCutters().data?.find((one) => one.id === document.cutter_id);
  const printer = usePrinters().data?.find((one) => one.id === document.printer_id);
  const keepCutter = useKeepCutter();
  const keepPrinter = useKeepPrinter();
  if (!catalog || !cutter || !printer) return null;
  const sensor = cutter.profile.cutter.sensor;
  const setSensor = (next: Schemas['Cutter']['sensor']) =>
    keepCutter.mutate({
      id: cutter.id,
      profile: { ...cutter.profile, cutter: { ...cutter.profile.cutter, sensor: next } },
    });
  const light = document.room_light ?? 'usual';
  const figures = typeof sensor === 'object' ? sensor : catalog.sensor_figures[sensor ?? 'usual'];
  return (
    <>
      <Fold title="Sensor" summary={typeof sensor === 'string' ? sensor : 'own figures'}>
        <Options
          label="Sensor of the cutter"
          options={catalog.sensors}
          value={typeof sensor === 'string' ? sensor : null}
          onChange={(key) => setSensor(key as Schemas['SensorWord'])}
        />
        <p className="text-sm text-soft">It belongs to {cutter.profile.name}; all jobs on it follow.</p>
      </Fold>
      <Fold title="Light of the room" summary={typeof light === 'string' ? light : `own: ${light}`}>
        <Options
          label="Light of the room"
          options={catalog.rooms}
          value={typeof light === 'string' ? light : null}
          onChange={(key) => change({ label: `room: ${key}`, changes: { room_light: key } })}
        />
      </Fold>
      <Fold title="The printer’s black" summary={printer.profile.printer.black ?? ''}>
        <Options
          label="The printer’s black"
          options={catalog.blacks}
          value={printer.profile.printer.black ?? null}
          onChange={(key) =>
            keepPrinter.mutate({
              id: printer.id,
              profile: {
                ...printer.profile,
                printer: { ...printer.profile.printer, black: key as Schemas['Black'] },
              },
            })
          }
        />
      </Fold>
      <Fold title="The stock’s face" summary={view.plan?.stock.face_words ?? ''}>
        <label className="flex items-center gap-3 text-sm">
          Its colour, where it comes in several
          <input
            type="color"
            className="h-8 w-14"
            value={(document.stock_colour ?? view.plan?.stock.colour ?? '#ffffff').toLowerCase()}
            onChange={(event) =>
              change({
                label: 'colour of the stock',
                changes: { stock_colour: event.target.value.toUpperCase() },
              })
            }
          />
        </label>
        {document.stock_colour && (
          <Button
            onClick={() => change({ label: 'the stock’s usual colour', changes: { stock_colour: null } })}
          >
            As usual for this stock
          </Button>
        )}
      </Fold>
      <Fold title="Figures" summary={`signal ${reading.scene.signal}, noise ${reading.scene.noise}`}>
        {figures && (
          <div className="grid grid-cols-2 gap-2">
            {(
              [
                ['lamp', 'Its own lamp'],
                ['n0', 'Its own noise'],
                ['k', 'Takes in glare'],
                ['t', 'Finds from'],
              ] as const
            ).map(([name, label]) => (
              <NumberField
                key={name}
                label={label}
                value={figures[name]}
                unit={name === 't' ? '× noise' : ''}
                onChange={(value) => setSensor({ ...figures, [name]: value })}
              />
            ))}
          </div>
        )}
        {[keepCutter.error, keepPrinter.error].map(
          (error) =>
            error && (
              <p key={error.message} role="alert" className="text-rowan">
                {error.message}
              </p>
            ),
        )}
        <dl className="grid grid-cols-[1fr_auto] gap-x-3 text-sm">
          {(
            [
              ['Light on the mark', reading.scene.light],
              ['The face throws back', reading.scene.face],
              ['The ink throws back', reading.scene.ink],
              ['Gloss', reading.scene.gloss],
              ['Signal', reading.scene.signal],
              ['Noise', reading.scene.noise],
              ['Found from a signal of', reading.scene.threshold],
            ] as const
          ).map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="text-soft">{name}</dt>
              <dd className="figure">{value.toFixed(3)}</dd>
            </div>
          ))}
        </dl>
      </Fold>
    </>
  );
}
