/** What to do where no machine cuts. */
export function ByHand() {
  return (
    <section aria-label="By hand" className="flex flex-col gap-2">
      <h2 className="font-head text-base font-bold">By hand</h2>
      <p>
        Trim the sheet into its rows first: lay the guillotine’s rule on the ticks at the rim, one tick at
        each end.
      </p>
      <p>Then cut each piece along the inner side of its thin line, so that the line stays on the waste.</p>
      <p className="text-sm text-soft">
        No bend is tighter than 4 mm. Keep fingers away from the blade, put a mat under a knife, and follow
        what the makers of your tools say.
      </p>
    </section>
  );
}
