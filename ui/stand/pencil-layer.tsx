import type { PencilMark } from '@/core/handout/pencil';
import type { StandPart } from '@/workers/server/stand';
import { ROW, type StandModel } from './use-stand';

/** A row of pencil over the staff, and where the first one is, in px of the engraving. */
const LINE = 13;
const OVER_STAFF = 8;
const HEAD = 5;

/** What the player wrote in pencil, over one system; with the pencil in hand a tap takes the nearest note. */
export function PencilLayer({ stand, system }: { stand: StandModel; system: StandPart['systems'][number] }) {
  const { pencil, which } = stand;
  const { heads, widthPx, heightPx, staffTop } = system;
  const marks = which === 'latest' ? pencil.marks.filter(({ target }) => heads[target]) : [];
  const chosen = pencil.selected === null ? undefined : heads[pencil.selected];
  if (marks.length === 0 && !pencil.isOn) return null;
  const take = (x: number, y: number) => {
    const far = (id: string) => Math.hypot((heads[id]!.x - x) * 2, heads[id]!.y - y);
    const ids = Object.keys(heads);
    if (ids.length > 0) pencil.select(ids.reduce((best, id) => (far(id) < far(best) ? id : best)));
  };
  return (
    <svg
      viewBox={`0 ${-ROW} ${widthPx} ${heightPx + ROW}`}
      className={`absolute inset-0 text-pencil ${pencil.isOn ? 'z-10 cursor-crosshair' : 'pointer-events-none'}`}
      style={{ width: widthPx, height: heightPx + ROW }}
      onClick={(event) => {
        const box = event.currentTarget.getBoundingClientRect();
        const scale = box.width / widthPx;
        take((event.clientX - box.left) / scale, (event.clientY - box.top) / scale - ROW);
        event.stopPropagation();
      }}
    >
      {chosen && (
        <g className="stroke-spruce" fill="none" strokeWidth={1.5}>
          <circle cx={chosen.x} cy={chosen.y} r={HEAD + 4} strokeDasharray="3 2" />
          <path d={`M${chosen.x} ${chosen.y + HEAD + 5} v6`} />
        </g>
      )}
      {columns(marks, heads).map(({ x, top, marks: over }) =>
        over.map((mark, i) => (
          <Sign key={`${mark.target}${mark.kind}`} mark={mark} x={x} y={Math.min(staffTop, top) - OVER_STAFF - i * LINE} head={heads[mark.target]!} />
        )),
      )}
    </svg>
  );
}

const ORDER: ReadonlyArray<PencilMark['kind']> = ['circle', 'finger', 'bow', 'words', 'look'];

/** Marks at notes over one another, from the note upwards; a circle takes no room. */
function columns(marks: readonly PencilMark[], heads: StandPart['systems'][number]['heads']) {
  const byX = new Map<number, PencilMark[]>();
  for (const mark of marks) {
    const x = Math.round(heads[mark.target]!.x / 4);
    byX.set(x, [...(byX.get(x) ?? []), mark]);
  }
  return [...byX.values()].map((list) => {
    const circles = list.filter(({ kind }) => kind === 'circle');
    const signs = list
      .filter(({ kind }) => kind !== 'circle')
      .sort((a, b) => ORDER.indexOf(a.kind) - ORDER.indexOf(b.kind) || heads[b.target]!.y - heads[a.target]!.y);
    const { x } = heads[list[0]!.target]!;
    return { x, top: Math.min(...list.map(({ target }) => heads[target]!.y - HEAD)), marks: [...signs, ...circles] };
  });
}

function Sign({ mark: { kind, value }, x, y, head }: { mark: PencilMark; x: number; y: number; head: { x: number; y: number } }) {
  const text = 'fill-current [paint-order:stroke] stroke-sheet stroke-[3px] [stroke-linejoin:round]';
  const line = { fill: 'none', stroke: 'currentColor', strokeWidth: 1.4, strokeLinecap: 'round' as const };
  switch (kind) {
    case 'circle':
      return <ellipse cx={head.x} cy={head.y} rx={HEAD + 5} ry={HEAD + 4} {...line} transform={`rotate(-12 ${head.x} ${head.y})`} />;
    case 'finger':
      return (
        <text x={x} y={y} textAnchor="middle" fontSize={14} className={`${text} italic`}>
          {value}
        </text>
      );
    case 'words':
      return (
        <text x={x - 4} y={y} fontSize={11} className={`${text} italic`}>
          {value}
        </text>
      );
    case 'bow':
      return <path d={value === 'up' ? `M${x - 4} ${y - 10} l4 10 l4 -10` : `M${x - 5} ${y} v-8 h10 v8`} {...line} />;
    case 'look':
      return (
        <g {...line}>
          <circle cx={x - 5} cy={y - 4} r={3.6} />
          <circle cx={x + 5} cy={y - 4} r={3.6} />
          <path d={`M${x - 1.4} ${y - 5} q1.4 -1.4 2.8 0 M${x - 8.6} ${y - 5} l-2.4 -3 M${x + 8.6} ${y - 5} l2.4 -3`} />
        </g>
      );
  }
}
