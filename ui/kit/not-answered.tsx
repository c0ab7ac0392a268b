import { TextButton } from './button';
import type { Problem } from './problem';

/** A failed question, where its answer would stand. */
export function NotAnswered({ problem, onRetry }: { problem: Problem; onRetry(): void }) {
  return (
    <p role="alert" className="text-[13px] text-plum">
      {problem.what} <span className="text-soft">{problem.remedy}</span> <TextButton onClick={onRetry}>Try again</TextButton>
    </p>
  );
}
