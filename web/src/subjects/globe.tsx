import { BANDS, type Coverage, cellWords, SECTORS } from '@miradero/core/subject';

const CELL = { width: 39, height: 30 };
const LEFT = 82;
const TOP = 18;
/** From so many pictures on a view counts as well covered. */
const FULL = 4;
/** What stands under the sectors: the map is cut open behind the subject. */
const AXIS: readonly (readonly [column: number, words: string])[] = [
  [0, 'back'],
  [3, 'right'],
  [6, 'front'],
  [9, 'left'],
];

/** Sectors from left to right: the front in the middle. */
const sectorAt = (column: number) => (column - SECTORS / 2 + SECTORS) % SECTORS;

/** The views round a subject, unrolled: the darker, the more pictures; an open cell is a view that nobody has found. */
export function Globe({
  coverage,
  chosen,
  onChoose,
}: {
  coverage: Coverage;
  chosen: number | undefined;
  onChoose: (cell: number) => void;
}) {
  const bands = BANDS.map((_, band) => BANDS.length - 1 - band);
  return (
    <svg
      viewBox={`0 0 ${LEFT + SECTORS * CELL.width + 2} ${TOP + BANDS.length * CELL.height + 20}`}
      className="w-full"
    >
      <title>Views of the subject</title>
      <defs>
        <pattern
          id="open-view"
          width="6"
          height="6"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <path d="M0 0V6" stroke="var(--line)" strokeWidth="2" />
        </pattern>
      </defs>
      <g fontSize="13" fill="var(--muted)" fontFamily="var(--font-sans)">
        {bands.map((band, row) => (
          <text key={band} x={LEFT - 8} y={TOP + (row + 0.5) * CELL.height + 4} textAnchor="end">
            {BANDS[band]!.name}
          </text>
        ))}
        {AXIS.map(([column, words]) => (
          <text
            key={words}
            x={LEFT + (column + 0.5) * CELL.width}
            y={TOP + BANDS.length * CELL.height + 14}
            textAnchor="middle"
          >
            {words}
          </text>
        ))}
      </g>
      {bands.map((band, row) =>
        Array.from({ length: SECTORS }, (_, column) => {
          const sector = sectorAt(column);
          const cell = band * SECTORS + sector;
          const count = coverage.cells[cell]!.length;
          const place = { x: LEFT + column * CELL.width, y: TOP + row * CELL.height };
          return (
            // biome-ignore lint/a11y/useSemanticElements: a cell of a drawing
            <g
              key={cell}
              role="button"
              tabIndex={0}
              aria-pressed={chosen === cell}
              aria-label={`${cellWords(sector, band)}: ${count === 0 ? 'no picture' : count === 1 ? 'one picture' : `${count} pictures`}`}
              className="globe-cell"
              onClick={() => onChoose(cell)}
              onKeyDown={(event) => {
                if (event.key !== 'Enter' && event.key !== ' ') return;
                event.preventDefault();
                onChoose(cell);
              }}
            >
              <rect
                {...place}
                width={CELL.width - 2}
                height={CELL.height - 2}
                fill={count === 0 ? 'url(#open-view)' : 'var(--verdigris)'}
                fillOpacity={count === 0 ? 1 : 0.35 + (0.65 * Math.min(FULL, count)) / FULL}
                stroke={chosen === cell ? 'var(--ink)' : 'var(--line)'}
                strokeWidth={chosen === cell ? 2 : 1}
              />
              {count > 0 && (
                <text
                  x={place.x + CELL.width / 2 - 1}
                  y={place.y + CELL.height / 2 + 3}
                  textAnchor="middle"
                  fontSize="13"
                  fill="var(--paper)"
                  fontFamily="var(--font-mono)"
                >
                  {count}
                </text>
              )}
            </g>
          );
        }),
      )}
    </svg>
  );
}
