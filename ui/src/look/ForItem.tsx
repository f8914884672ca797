import type { ReactNode } from 'react';

import type { ItemDocument } from '../api/client';
import type { Item } from '../api/view';
import { Empty, Frame } from './Frame';
import type { StationProps } from './station';
import { useItem } from './ItemStrip';

export interface OpenItem extends StationProps {
  item: Item;
  document: ItemDocument;
  stock: string;
  white: boolean;
  clearOnce: string;
}

interface Props extends StationProps {
  /** What stands beside while there is no design yet. */
  waiting: string;
  children: (open: OpenItem) => ReactNode;
}

/** A station about one design: the chosen one, or what to do while there is none. */
export function ForItem({ waiting, children, ...props }: Props) {
  const { view, add } = props;
  const item = useItem(view);
  const document = view.job.document.items?.find((one) => one.number === item?.number);
  if (!view.plan || !item || !document)
    return (
      <Frame side={<p className="text-soft">{waiting}</p>} foot={null}>
        <Empty view={view} add={add} />
      </Frame>
    );
  return children({
    ...props,
    item,
    document,
    stock: view.plan.stock.colour,
    white: view.plan.stock.shows_white,
    clearOnce: view.plan.stock.clear_once,
  });
}
