import type { Printing } from '../../api/printing';

/** The printer's own dialog in words, in the order in which a person meets it. */
export function DialogLines({ printing }: { printing: Printing }) {
  return (
    <section aria-label="In the printer’s own dialog">
      <h2 className="font-head text-lg leading-tight font-bold">In the printer’s own dialog</h2>
      <dl className="mt-1.5 grid grid-cols-[5.25rem_1fr] text-sm">
        {printing.lines.map((line) => (
          <div
            key={line.name}
            className="col-span-2 grid grid-cols-subgrid gap-x-2 border-t border-rule py-1.5"
          >
            <dt className="text-soft">{line.name}</dt>
            <dd>
              <b>{line.value}</b>
              {line.why && <span className="block text-soft">{line.why}</span>}
            </dd>
          </div>
        ))}
      </dl>
      <p className="border-t border-rule pt-1.5 text-sm">
        <b>{printing.mirror_words}</b> Expect it {printing.look}.{' '}
        {printing.dry_minutes > 0
          ? `Let it dry ${printing.dry_minutes} minutes: it is dry when nothing comes off on a clean finger.`
          : 'It is dry as it comes out.'}
      </p>
    </section>
  );
}
