/** Files of a sheet that this machine is not cut by, all the same to be had. */
const FILES = [
  ['cut.svg', 'cut file (SVG)'],
  ['cut.dxf', 'cut file (DXF)'],
  ['cut.hpgl', 'cut file (HP-GL)'],
] as const;

export function OtherFiles({ jobId, sheet }: { jobId: number; sheet: number }) {
  return (
    <ul className="flex flex-col gap-1 text-sm">
      {FILES.map(([ending, words]) => (
        <li key={ending}>
          <a
            className="font-bold text-kingfisher underline"
            href={`/api/jobs/${jobId}/sheets/${sheet + 1}/${ending}`}
            download
          >
            Sheet {sheet + 1}: {words}
          </a>
        </li>
      ))}
    </ul>
  );
}
