import { Marked } from 'marked';
import { useEffect, useMemo } from 'react';
import { Link, useLocation } from 'wouter';

import { NothingHere } from './Fallen';

// The pages and pictures of docs/guide, as they are: there is one guide.
const TEXTS: Record<string, string> = import.meta.glob('../../../docs/guide/*.md', {
  query: '?raw',
  import: 'default',
  eager: true,
});
const PICTURES: Record<string, string> = import.meta.glob('../../../docs/screenshots/*.png', {
  query: '?url',
  import: 'default',
  eager: true,
});
const FIRST = 'README';

const named = (path: string) => path.replace(/^.*\//, '').replace(/\.\w+$/, '');
const PAGES = new Map(Object.entries(TEXTS).map(([path, text]) => [named(path), text]));
const PICTURE_URLS = new Map(Object.entries(PICTURES).map(([path, url]) => [named(path), url]));

const titleOf = (text: string) => text.match(/^# (.+)$/m)?.[1] ?? '';
/** The pages in the order of the guide's own list. */
const ORDER = [...(PAGES.get(FIRST) ?? '').matchAll(/\]\(([\w-]+)\.md\)/g)].map((found) => found[1] ?? '');

/** Links of the guide lead to its pages here; pictures are those that ship with the page. */
const reader = new Marked({
  walkTokens: (token) => {
    if (token.type === 'link') token.href = token.href.replace(/^([\w-]+)\.md$/, '/guide/$1');
    if (token.type === 'image') token.href = PICTURE_URLS.get(named(token.href)) ?? token.href;
  },
});

/** The guide, a page for each thing a maker wants to know. */
export default function GuidePage({ page = FIRST }: { page?: string }) {
  const text = PAGES.get(page);
  const [, go] = useLocation();
  const html = useMemo(() => (text ? (reader.parse(text) as string) : ''), [text]);
  useEffect(() => {
    if (text) document.title = `${titleOf(text)} · Vamper`;
    window.scrollTo(0, 0);
  }, [text]);
  if (!text) return <NothingHere />;
  const follow = (event: React.MouseEvent) => {
    const link = (event.target as HTMLElement).closest('a')?.getAttribute('href');
    if (!link?.startsWith('/guide/') || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    go(link);
  };
  return (
    <div className="mx-auto flex min-h-full max-w-6xl flex-col gap-4 px-6 py-5 max-[40rem]:px-4">
      <header className="flex gap-5">
        <Link href="/" className="font-bold text-kingfisher underline">
          All jobs
        </Link>
        <Link href="/words" className="font-bold text-kingfisher underline">
          Words of the craft
        </Link>
      </header>
      <div className="grid grid-cols-[13rem_minmax(0,1fr)] items-start gap-8 max-[50rem]:grid-cols-1">
        <nav aria-label="Pages of the guide" className="flex flex-col gap-1 text-sm">
          <Link href="/guide" aria-current={page === FIRST ? 'page' : undefined} className="guide-link">
            The guide
          </Link>
          {ORDER.map((key) => (
            <Link
              key={key}
              href={`/guide/${key}`}
              aria-current={page === key ? 'page' : undefined}
              className="guide-link"
            >
              {titleOf(PAGES.get(key) ?? '')}
            </Link>
          ))}
        </nav>
        <main
          className="guide panel min-w-0 p-6"
          onClick={follow}
          dangerouslySetInnerHTML={{ __html: html }}
        />
      </div>
    </div>
  );
}
