/** The sound recipe as a picture: the lane between bridge and fingerboard, weight as dots, vibrato as a wave. */
import { CONTACT_LIMITS, type SoundRecipe } from '@/core/bow-arm/sound';

const WIDTH = 220;
const LANE = { from: 12, to: 132 };

export function SoundPicture({ recipe }: { recipe: SoundRecipe }) {
  const { contact, weight, vibrato } = recipe;
  const share = (contact - CONTACT_LIMITS.nearest) / (CONTACT_LIMITS.farthest - CONTACT_LIMITS.nearest);
  const x = LANE.from + (LANE.to - LANE.from) * share;
  return (
    <svg
      width={WIDTH}
      height={40}
      role="img"
      className="mt-1 block"
      aria-label={`Contact ${recipe.lane}, weight ${recipe.weightWords}, vibrato ${vibrato.words}`}
    >
      <rect x={LANE.from} y={4} width={LANE.to - LANE.from} height={16} rx={8} fill="var(--rosin-pale)" />
      <line x1={LANE.from} x2={LANE.from} y1={2} y2={22} stroke="var(--soft)" strokeWidth={2} />
      <circle cx={x} cy={12} r={6} fill="var(--rosin)" />
      <text x={LANE.from} y={36} fontSize={12} fill="var(--soft)">
        bridge
      </text>
      <text x={LANE.to} y={36} fontSize={12} textAnchor="end" fill="var(--soft)">
        fingerboard
      </text>
      {[0, 1, 2, 3].map((i) => (
        <circle key={i} cx={148 + i * 9} cy={12} r={3} fill={i < weight ? 'var(--rosin)' : 'none'} stroke="var(--rosin)" />
      ))}
      <path d={wave(vibrato.width, vibrato.speed)} fill="none" stroke="var(--spruce)" strokeWidth={1.5} />
    </svg>
  );
}

/** From x 188 to 218: higher for wider, denser for quicker; a straight line for none. */
function wave(width: number, speed: number): string {
  const points = Array.from({ length: 31 }, (_, i) => `${188 + i} ${(12 + Math.sin((i / 30) * Math.PI * 2 * (1 + speed)) * width * 2.6).toFixed(1)}`);
  return `M${points.join(' L')}`;
}
