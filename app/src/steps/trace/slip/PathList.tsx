import type { Path } from '@steady-moth/core/sketch';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Fragment, type ReactNode, useEffect, useLayoutEffect, useRef, useState } from 'react';

/** So many lines stand on the slip as they are; of more, those in sight. */
const MOST_LINES = 80;
/** Height of a line that is not open, px: a first guess, measured once it is there. */
const LINE_PX = 62;

/** The paths of a job, a line each. */
export function PathList({
  paths,
  chosen,
  line,
}: {
  paths: readonly Path[];
  chosen: string | null;
  line(path: Path): ReactNode;
}) {
  if (paths.length <= MOST_LINES)
    return (
      <ol>
        {paths.map((path) => (
          <Fragment key={path.id}>{line(path)}</Fragment>
        ))}
      </ol>
    );
  return <LongList paths={paths} chosen={chosen} line={line} />;
}

function LongList({
  paths,
  chosen,
  line,
}: {
  paths: readonly Path[];
  chosen: string | null;
  line(path: Path): ReactNode;
}) {
  const ref = useRef<HTMLDivElement>(null);
  const [above, setAbove] = useState(0);
  const rows = useVirtualizer({
    count: paths.length,
    getScrollElement: () => ref.current?.closest('aside') ?? null,
    estimateSize: () => LINE_PX,
    getItemKey: (k) => paths[k]!.id,
    overscan: 4,
    scrollMargin: above,
  });
  useLayoutEffect(() => setAbove(ref.current?.offsetTop ?? 0), []);
  const place = chosen === null ? -1 : paths.findIndex((r) => r.id === chosen);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when another one is chosen
  useEffect(() => {
    const isInSight = rows.getVirtualItems().some((item) => item.index === place);
    if (place >= 0 && !isInSight) rows.scrollToIndex(place, { align: 'start' });
  }, [chosen]);
  return (
    <div
      role="list"
      ref={ref}
      className="relative"
      style={{ height: rows.getTotalSize() }}
      aria-label={`${paths.length} paths`}
    >
      {rows.getVirtualItems().map(({ key, index, start }) => (
        <div
          key={key}
          role="none"
          ref={rows.measureElement}
          data-index={index}
          className="absolute top-0 left-0 w-full"
          style={{ transform: `translateY(${start - above}px)` }}
        >
          {line(paths[index]!)}
        </div>
      ))}
    </div>
  );
}
