import { useQuery } from '@tanstack/react-query';

import { ask, client, type Schemas } from '../api/client';

/** A job's fullest sheet, as far as it is laid by now. */
export const useGlance = (job: Schemas['JobSummary'] | undefined) =>
  useQuery({
    queryKey: ['glance', job?.id, job?.changed_at],
    queryFn: () =>
      ask(client.GET('/api/jobs/{job_id}/glance', { params: { path: { job_id: job?.id ?? 0 } } })),
    enabled: job !== undefined && job.designs > 0,
  });

/** The sheet, small: its pieces with their pictures. */
export function SheetGlance({ glance, jobId }: { glance: Schemas['GlanceOut']; jobId: number }) {
  const { width_mm: width, height_mm: height } = glance;
  const pieces = Array.from({ length: glance.pieces.length / 4 }, (_, n) =>
    glance.pieces.slice(4 * n, 4 * n + 4),
  );
  const id = (number: number) => `glance-${jobId}-${number}`;
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="drawing h-full w-full" aria-hidden>
      <defs>
        {glance.shapes.map((shape) => (
          <g key={shape.number} id={id(shape.number)}>
            <path d={shape.path} fill={glance.colour} fillRule="evenodd" />
            <image
              href={`${shape.picture}&px=160`}
              x={shape.picture_box.x_mm}
              y={shape.picture_box.y_mm}
              width={shape.picture_box.width_mm}
              height={shape.picture_box.height_mm}
              preserveAspectRatio="none"
            />
            <path
              d={shape.path}
              fill="none"
              stroke="var(--d-edge)"
              strokeWidth="1"
              vectorEffect="non-scaling-stroke"
            />
          </g>
        ))}
      </defs>
      <rect
        width={width}
        height={height}
        fill={glance.colour}
        stroke="var(--rule)"
        strokeWidth="1"
        vectorEffect="non-scaling-stroke"
      />
      {pieces.map(([number, x, y, turn], index) => (
        <use key={index} href={`#${id(number ?? 0)}`} transform={`translate(${x} ${y}) rotate(${turn})`} />
      ))}
    </svg>
  );
}
