import { useEffect } from 'react';
import { Link } from 'wouter';

import { useCatalog } from '../api/jobs';
import { TermPicture } from '../look/TermPicture';

/** The words of the craft, each with a drawing: the same table that explains them where they stand. */
export default function WordsPage() {
  const terms = useCatalog().data?.terms ?? [];
  useEffect(() => {
    document.title = 'Words · Vamper';
  }, []);
  return (
    <main className="mx-auto flex min-h-full max-w-4xl flex-col gap-4 px-6 py-5 max-[40rem]:px-4">
      <header>
        <Link href="/" className="font-bold text-kingfisher underline">
          All jobs
        </Link>
      </header>
      <h1 className="font-head text-2xl leading-tight font-bold">Words of the craft</h1>
      <ul className="grid gap-3 md:grid-cols-2">
        {terms.map((term) => (
          <li key={term.key} className="panel flex items-start gap-4 p-3">
            <TermPicture term={term.key} />
            <div>
              <h2 className="font-bold">{term.name}</h2>
              <p className="text-sm">{term.text}</p>
            </div>
          </li>
        ))}
      </ul>
    </main>
  );
}
