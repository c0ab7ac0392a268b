import { readFileSync } from 'node:fs';
import { check } from '../checks/check';
import { FINDING_KINDS } from '../checks/kinds';
import { isSpot } from '../checks/finding';
import { readScoreBytes } from '../formats/read';
import { linesOf } from '../instruments/lines';
import { usualPlayer } from '../instruments/player';
import { planFingering } from '../left-hand/fingering';
import { clockFor } from '../score/time';
import { DRILL_NAMES } from './drill';
import { drillsAnswering, DRILLS_FOR } from './for-finding';
import { passageOf } from './passage';

test('every drill answers some finding or is a foundation; every finding has its list, without doubles', () => {
  const named = new Set(Object.values(DRILLS_FOR).flat());
  expect(DRILL_NAMES.filter((name) => !named.has(name))).toEqual(['bow variants']);
  for (const kind of FINDING_KINDS) expect(new Set(DRILLS_FOR[kind]).size).toBe(DRILLS_FOR[kind].length);
});

test('in the demo nearly every spot that practice can mend has a drill that fits the bars around it; others that fit come after', () => {
  const [answered, all] = [new Set<string>(), new Set<string>()];
  for (const name of ['the-heron', 'staircase']) {
    const read = readScoreBytes(readFileSync(`demo/scores/${name}.musicxml`));
    if (!read.ok) throw new Error(read.problem.what);
    const part = read.value.score.parts[0]!;
    const player = { ...usualPlayer(part.instrument!), level: 'intermediate' as const };
    const line = linesOf(part)[0]!;
    const fingering = planFingering({ part, line, marking: {}, player, clock: clockFor(part, null), alternatives: 1 }).alternatives[0]!;
    for (const { id, kind, barIndex } of check({ part, marking: {}, player, tempo: null, passages: [] }).findings.filter(isSpot)) {
      if (DRILLS_FOR[kind].length === 0) continue;
      const range = { fromBar: Math.max(0, barIndex - 1), toBar: Math.min(part.bars.length - 1, barIndex + 1) };
      const passage = passageOf({ part, line, range, marking: {}, player, fingering });
      if (!passage) continue;
      all.add(`${name} ${id}`);
      const { first, others } = drillsAnswering(kind, passage, { quartersPerMinute: 80 });
      if (first.length) answered.add(`${name} ${id}`);
      expect(first.map((drill) => drill.kind)).toEqual(DRILLS_FOR[kind].filter((each) => first.some((drill) => drill.kind === each)));
      expect(others.filter((drill) => DRILLS_FOR[kind].includes(drill.kind))).toEqual([]);
    }
  }
  expect(all.size).toBeGreaterThan(10);
  expect(answered.size / all.size).toBeGreaterThan(0.9);
});
