/** Something that is on or off. */
export function Tick({ label, on, set }: { label: string; on: boolean; set: (on: boolean) => void }) {
  return (
    <label className="flex items-center gap-2">
      <input
        type="checkbox"
        className="accent-kingfisher"
        checked={on}
        onChange={(event) => set(event.target.checked)}
      />
      {label}
    </label>
  );
}
