/** One finding, or the same of several designs: what it says, what can be done about it, and “I mean it”. */
import { useState } from 'react';
import { useQueryClient } from '@tanstack/react-query';

import { useAnswer, useFix, useFixEach } from '../api/changes';
import { pictureUrl, type Finding, type ItemDocument } from '../api/client';
import type { View } from '../api/view';
import { Bead } from '../kit/Bead';
import { Button } from '../kit/Button';
import { Explained } from './Explained';
import { sharedFixes, type FindingGroup } from './findingGroups';
import { useLook } from './shown';

const BEADS = { stop: 'stop', look: 'look', note: 'not-yet' } as const;

interface Props {
  group: FindingGroup;
  items: readonly ItemDocument[];
  named: boolean;
  jobId: number;
}

export function FindingCard({ group, items, named, jobId }: Props) {
  const { first, members } = group;
  const [pointed, setPointed] = useState(first);
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const point = useLook((state) => state.point);
  const showItem = useLook((state) => state.showItem);
  const picked = members.filter((one) => one.item_number === null || !left.has(one.item_number));
  const nameOf = (number: number | null) => items.find((item) => item.number === number)?.name;
  const name = nameOf(first.item_number);
  const same = members.every((one) => one.text === first.text);
  const said = same ? null : (members.find((one) => one.item_number === pointed.item_number) ?? first);
  const turn = (number: number) =>
    setLeft(
      (before) =>
        new Set(before.has(number) ? [...before].filter((one) => one !== number) : [...before, number]),
    );
  return (
    <li
      className="panel p-3"
      onMouseEnter={() => point(first)}
      onMouseLeave={() => point(null)}
      onFocus={() => point(first)}
      onBlur={() => point(null)}
    >
      <div className="flex gap-2.5">
        <span className="pt-0.5">
          <Bead state={BEADS[first.severity]} label={first.severity} />
        </span>
        <div className="min-w-0 flex-1">
          <h3 className="leading-snug font-bold">
            {members.length > 1 ? (
              `${members.length} designs: `
            ) : named && name ? (
              <>
                <button
                  type="button"
                  className="border-b border-dotted border-soft"
                  onClick={() => showItem(first.item_number)}
                >
                  {name}
                </button>
                {': '}
              </>
            ) : null}
            {first.title}
          </h3>
          <p className="mt-0.5 text-sm">
            {/* Figures differ from design to design: whose they are is said, and pointing at another tells its own. */}
            {said && `${nameOf(said.item_number)}: `}
            <Explained text={(said ?? first).text} />
          </p>
          {members.length > 1 && (
            <Designs
              members={members}
              items={items}
              jobId={jobId}
              left={left}
              turn={turn}
              point={(one) => {
                setPointed(one);
                point(one);
              }}
            />
          )}
          <Ways jobId={jobId} picked={picked} of={members.length} done={() => point(null)} />
        </div>
      </div>
    </li>
  );
}

interface DesignsProps {
  members: Finding[];
  items: readonly ItemDocument[];
  jobId: number;
  left: ReadonlySet<number>;
  turn: (number: number) => void;
  point: (finding: Finding) => void;
}

/** The designs that have it; one that is pressed is left out of what is done. */
function Designs({ members, items, jobId, left, turn, point }: DesignsProps) {
  const shown = useQueryClient().getQueryData<View>(['job', jobId])?.plan?.items ?? [];
  return (
    <div role="group" aria-label="For which designs" className="mt-2 flex flex-wrap gap-1.5">
      {members.map((one) => {
        const number = one.item_number;
        const design = shown.find((item) => item.number === number);
        const name = items.find((item) => item.number === number)?.name ?? '';
        if (number === null) return null;
        return (
          <button
            key={number}
            type="button"
            title={name}
            aria-label={name}
            aria-pressed={!left.has(number)}
            onMouseEnter={() => point(one)}
            onFocus={() => point(one)}
            onClick={() => turn(number)}
            className={`h-10 w-10 rounded-[6px] border p-0.5 ${
              left.has(number) ? 'border-rule opacity-50' : 'border-kingfisher bg-paper'
            }`}
          >
            {design && <img src={pictureUrl(design, 160)} alt="" className="h-full w-full object-contain" />}
          </button>
        );
      })}
    </div>
  );
}

interface WaysProps {
  jobId: number;
  picked: Finding[];
  /** How many designs have it. */
  of: number;
  done: () => void;
}

/** What can be done, for all that were left picked; kept for what comes in later where that is all of them. */
function Ways({ jobId, picked, of, done }: WaysProps) {
  const take = useFix(jobId);
  const takeEach = useFixEach(jobId);
  const answer = useAnswer(jobId);
  const [first] = picked;
  if (!first) return <p className="mt-2 text-sm text-soft">Press a picture to take it in again.</p>;
  const many = of > 1 ? `: ${picked.length === of ? `all ${of}` : picked.length}` : '';
  const keep = of > 1 && picked.length === of;
  const numbers = picked.flatMap((one) => (one.item_number === null ? [] : [one.item_number]));
  const item_numbers = numbers.length ? numbers : null;
  const said = (meant: boolean) => {
    done();
    answer({ code: first.code, item_numbers, meant, keep: meant && keep });
  };
  if (first.meant)
    return (
      <Button className="mt-2" onClick={() => said(false)}>
        {`Ask again${many}`}
      </Button>
    );
  return (
    <>
      {sharedFixes(picked).map(({ fix, each }) => (
        <div key={fix.label} className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1">
          <Button
            look="act"
            onClick={() => {
              done();
              const { label, target, changes, meant } = fix;
              if (target === 'item') takeEach({ label, code: first.code, each, keep, fix_is_meant: meant });
              else take({ label, target, changes, item_number: first.item_number });
            }}
          >
            {fix.label + many}
          </Button>
          <span className="text-sm text-soft">{fix.effect}</span>
        </div>
      ))}
      {first.answer && (
        <Button className="mt-2" onClick={() => said(true)}>
          {first.answer + many}
        </Button>
      )}
    </>
  );
}
