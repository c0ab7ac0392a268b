import type { StandPart } from '@/workers/server/stand';
import { ROW } from './use-stand';

/** px of the engraving. */
const OVER = 7;
const SHORT = 9;

/** A line from the note that the hand leaves to the one it comes to, with its guide note; a short one where the other note is on another system. */
export function ShiftLines({ shifts, system: { heads, widthPx, heightPx } }: { shifts: StandPart['shifts']; system: StandPart['systems'][number] }) {
  const here = shifts.filter(({ to }) => heads[to]);
  if (here.length === 0) return null;
  return (
    <svg
      viewBox={`0 ${-ROW} ${widthPx} ${heightPx + ROW}`}
      className="pointer-events-none absolute inset-0 text-spruce"
      style={{ width: widthPx, height: heightPx + ROW }}
    >
      {here.map(({ from, to, guide }) => {
        const end = heads[to]!;
        const start = heads[from] && heads[from].x < end.x ? heads[from] : { x: end.x - 3 * SHORT, y: end.y + SHORT };
        const far = Math.hypot(end.x - start.x, end.y - start.y) || 1;
        const [dx, dy] = [((end.x - start.x) / far) * OVER, ((end.y - start.y) / far) * OVER];
        return (
          <g key={to} data-shift={to}>
            {far > 2 * OVER && (
              <line x1={start.x + dx} y1={start.y + dy} x2={end.x - dx} y2={end.y - dy} stroke="currentColor" strokeWidth={1.3} strokeDasharray="4 2.5" />
            )}
            {guide && (
              <text
                x={end.x - 6}
                y={end.y + 14}
                textAnchor="end"
                fontSize={10}
                className="fill-current italic [paint-order:stroke] stroke-sheet stroke-[3px] [stroke-linejoin:round]"
              >
                ({guide})
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
