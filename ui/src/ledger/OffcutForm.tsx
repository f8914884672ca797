import { useState } from 'react';

import { useKeepOffcut, useLookAtSheet, useSupplies } from '../api/ledger';
import { useCatalog } from '../api/jobs';
import { Button } from '../kit/Button';
import { FileButton } from '../kit/FileButton';
import { LengthField } from '../kit/LengthField';
import { Select } from '../kit/Select';
import { WordsField } from '../kit/WordsField';
import { asSentence } from '../kit/words';
import { CornerHelp } from '../look/CornerHelp';
import { GoneSheet } from './GoneSheet';

/** A used sheet as it lies there: its size, and what of it is gone, shown by hand or by a photo. */
export function OffcutForm({ close }: { close: () => void }) {
  const stocks = useSupplies().data?.can_buy ?? [];
  const catalog = useCatalog().data;
  const keep = useKeepOffcut();
  const look = useLookAtSheet();
  const [stock, setStock] = useState<string | null>(null);
  const [name, setName] = useState('');
  const [size, setSize] = useState<{ width_mm: number; height_mm: number } | null>(null);
  const [margin, setMargin] = useState<number | null>(null);
  const [gone, setGone] = useState<number[][]>([]);
  const [file, setFile] = useState<File | null>(null);
  if (!catalog) return null;
  const { width_mm, height_mm } = size ?? catalog.usual_paper;
  const margin_mm = margin ?? catalog.feed_error_mm;
  const paper = { width_mm, height_mm, gone, margin_mm };
  return (
    <div className="grid grid-cols-[17rem_minmax(0,1fr)] gap-6 max-[52rem]:grid-cols-1">
      <div className="flex flex-col gap-3">
        <Select
          label="Stock"
          options={stocks.map((one) => ({ key: one.key, name: one.words }))}
          value={stock ?? stocks[0]?.key ?? ''}
          onChange={setStock}
        />
        <WordsField
          label="What it is called"
          value={name}
          onChange={setName}
          hint="half a sheet of gold"
          wide
        />
        <div className="flex gap-4">
          <LengthField
            label="Width"
            value={width_mm}
            onChange={(mm) => setSize({ width_mm: mm, height_mm })}
          />
          <LengthField
            label="Height"
            value={height_mm}
            onChange={(mm) => setSize({ width_mm, height_mm: mm })}
          />
        </div>
        <LengthField
          label="Kept free round what is gone"
          value={margin_mm}
          onChange={setMargin}
          hint="No printer draws a sheet in twice alike."
        />
        <FileButton
          words={look.isPending ? 'Looking …' : 'Find what is gone in a photo'}
          label="A photo or scan of the sheet"
          accept="image/*"
          disabled={look.isPending}
          take={setFile}
        />
        {look.data && !file && (
          <p className="text-sm">{look.data.words} Look it over, and add what it missed.</p>
        )}
        {[look.error, keep.error].map(
          (error) =>
            error && (
              <p key={error.message} role="alert" className="text-sm text-rowan">
                {asSentence(error.message)}
              </p>
            ),
        )}
        <Button
          look="main"
          disabled={keep.isPending || !name.trim()}
          onClick={() =>
            keep.mutate(
              { stock: stock ?? stocks[0]?.key ?? '', name: name.trim(), paper },
              { onSuccess: close },
            )
          }
        >
          Put it on the shelf
        </Button>
        {!name.trim() && <p className="text-sm text-soft">Give it a name to find it by.</p>}
      </div>
      {file ? (
        <div className="flex flex-col gap-2">
          <CornerHelp
            file={file}
            done={(corners) =>
              look.mutate(
                { file, width_mm, height_mm, corners },
                {
                  onSuccess: (found) => setGone([...gone, ...found.gone]),
                  onSettled: () => setFile(null),
                },
              )
            }
          />
          <Button look="bare" className="self-start" onClick={() => setFile(null)}>
            Without the picture
          </Button>
        </div>
      ) : (
        <GoneSheet paper={paper} change={setGone} />
      )}
    </div>
  );
}
