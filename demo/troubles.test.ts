/**
 * What the composer of the demo movement planted, and what else was reviewed and is right (troubles.json): does the check find
 * it, and does it find little else? Findings are for the players named there, at the printed tempo, with nothing marked.
 */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { demoScore } from '../tests/support/demo';
import { playerFrom, type PlayerDescription } from '../core/instruments/player';
import { checked, type CheckRequest } from '../core/checks/check';
import type { Finding } from '../core/checks/finding';
import { remediesFor } from '../core/checks/remedies';

interface Trouble {
  part: string;
  bar: string;
  kind: string;
  why: string;
}

const read = <T>(file: string): T => JSON.parse(readFileSync(path.join(process.cwd(), 'demo', file), 'utf8')) as T;
const troubles = read<{ score: 'mill-race-serenade'; players: Record<string, string>; planted: Trouble[]; reviewed: Trouble[] }>('troubles.json');
const people = read<{ players: PlayerDescription[] }>('people.json').players;
const { score } = demoScore(troubles.score);

const reports = score.parts.map((part) => {
  const described = people.find(({ name }) => name === troubles.players[part.name])!;
  const player = playerFrom({ ...described, tuning: null, thumbPosition: false });
  if (!player.ok) throw new Error(player.problem.what);
  const request: CheckRequest = { part, marking: {}, player: player.value, tempo: null, passages: [] };
  const { report, memories } = checked(request);
  return { request, memories, findings: report.findings };
});
const found = reports.flatMap(({ request, findings }) => findings.map((finding) => ({ part: request.part.name, finding })));
const is = ({ part, bar, kind }: Trouble) => found.some((each) => each.part === part && each.finding.bar === bar && each.finding.kind === kind);
const listed = (part: string, { bar, kind }: Finding) =>
  [...troubles.planted, ...troubles.reviewed].some((trouble) => trouble.part === part && trouble.bar === bar && trouble.kind === kind);

test('at least 25 troubles are planted, of at least five kinds', () => {
  expect(troubles.planted.length).toBeGreaterThanOrEqual(25);
  expect(new Set(troubles.planted.map(({ kind }) => kind)).size).toBeGreaterThanOrEqual(5);
});

test('at least 95 % of what was planted is found', () => {
  const missed = troubles.planted.filter((trouble) => !is(trouble)).map(({ part, bar, kind }) => `${part} ${bar}: ${kind}`);
  expect({ missed, recall: 1 - missed.length / troubles.planted.length >= 0.95 }).toMatchObject({ recall: true });
});

test('less than 20 % of what is found stands in neither list', () => {
  const others = found.filter(({ part, finding }) => !listed(part, finding)).map(({ part, finding }) => `${part} ${finding.bar}: ${finding.kind}`);
  expect({ others, few: others.length / found.length < 0.2 }).toMatchObject({ few: true });
});

test('every trouble that was reviewed is still found: the lists say what is', () => {
  expect(troubles.reviewed.filter((trouble) => !is(trouble)).map(({ part, bar, kind }) => `${part} ${bar}: ${kind}`)).toEqual([]);
});

test.each(reports.map(({ request, memories, findings }) => [request.part.name, { request, memories, findings }] as const))(
  '%s: every finding has a way to hear it or a remedy that measurably helps',
  (_name, { request, memories, findings }) => {
    const bare = findings.filter((finding) => {
      if (finding.hearIt || finding.hear?.length) return false;
      return !remediesFor(request, finding, memories[0]).some(
        ({ kind, before, after }) => kind !== 'advice' && before !== null && after !== null && after < before,
      );
    });
    expect(bare.map(({ bar, kind }) => `${bar}: ${kind}`)).toEqual([]);
  },
);
