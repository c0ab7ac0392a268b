import { PLAIN_CONDITIONS } from '../tests/support/conditions';
import { demoScore, demoText } from '../tests/support/demo';
import { cutPart } from '../core/formats/musicxml/cut';
import { barTextOf } from '../core/marking/bar-correction';
import { applyChanges } from '../core/marking/change';
import { markKey } from '../core/marking/mark';
import { placeTarget } from '../core/marking/target';
import { automaticPassages } from '../core/score/passages';
import type { PlayerDescription } from '../core/instruments/player';
import { Analyst } from './analyst';
import { type Conditions } from './questions';

const plain = PLAIN_CONDITIONS;
const bars = { fromBar: 0, toBar: 15 };
const small: PlayerDescription = {
  name: 'Pia',
  instrument: 'cello',
  size: '3/4',
  tuning: 'orchestral',
  hand: 'small',
  level: 'intermediate',
  thumbPosition: true,
};

describe('the analyst of one part', () => {
  const analyst = new Analyst();
  const { part } = analyst.open(demoText('the-heron'));

  test('reads the part as the core does', () => {
    expect(part.notes).toEqual(demoScore('the-heron').score.parts[0]!.notes);
    expect(() => new Analyst().report(plain, [])).toThrow('no part is open');
    expect(() => new Analyst().open('<html/>')).toThrow(/not a MusicXML score/);
  });
  test('taking the best fingering makes the plan keep to it, and then nothing is left to write', () => {
    const best = analyst.suggestFingering(plain, bars)[0]!;
    const marking = applyChanges({}, best.changes).marking;
    const again = analyst.suggestFingering({ ...plain, marking }, bars)[0]!;
    expect(again.way.notes.map((note) => note.place)).toEqual(best.way.notes.map((note) => note.place));
    expect(again.changes).toEqual([]);
    expect(Object.values(marking).every((mark) => mark.origin === 'suggestion')).toBe(true);
  });
  test('taking another one afterwards leaves no mark of the first behind', () => {
    const [first, second] = analyst.suggestFingering(plain, bars);
    const marking = applyChanges({}, first!.changes).marking;
    const replaced = applyChanges(marking, analyst.suggestFingering({ ...plain, marking }, bars)[1]!.changes).marking;
    const fresh = applyChanges({}, second!.changes).marking;
    expect(Object.keys(fresh).length).toBeGreaterThan(0);
    expect(replaced).toEqual(fresh);
  });
  test('the best bowing, taken, is planned again', () => {
    const best = analyst.suggestBowing(plain, bars)[0]!;
    const marking = applyChanges({}, best.changes).marking;
    const again = analyst.suggestBowing({ ...plain, marking }, bars)[0]!;
    expect(again.plan.strokes.map((stroke) => [stroke.noteIds[0], stroke.direction])).toEqual(
      best.plan.strokes.map((stroke) => [stroke.noteIds[0], stroke.direction]),
    );
  });
  test('a report after other reports is the one that a new analyst makes', () => {
    const mark = (note: number, value: string): Conditions => ({ ...plain, marking: { [markKey(part.notes[note]!.id, 'bow')]: { value, origin: 'coach' } } });
    for (const conditions of [mark(3, 'up'), mark(20, 'down'), { ...plain, tempo: 70 }, mark(3, 'up')]) {
      const fresh = new Analyst();
      fresh.open(demoText('the-heron'));
      const [kept, anew] = [analyst.report(conditions, []), fresh.report(conditions, [])];
      expect(kept.findings).toEqual(anew.findings);
      expect(kept.bowing!.strokes.map(({ direction, from }) => direction + from.toFixed(3))).toEqual(
        anew.bowing!.strokes.map(({ direction, from }) => direction + from.toFixed(3)),
      );
    }
  });
  test('after notes were corrected the report is the one that a new analyst makes, and back again', () => {
    const text = barTextOf(part, 4)!;
    const [first] = text.split(' ');
    const corrected = (value: string): Conditions => ({ ...plain, marking: { [markKey(placeTarget(4, 0), 'bar')]: { value, origin: 'coach' } } });
    const rest = text.replace(first!, first!.replace(/^[^/]+/, 'r').replace('~', ''));
    expect(rest).not.toBe(text);
    for (const conditions of [corrected(rest), plain, corrected('r'), corrected(rest)]) {
      const fresh = new Analyst();
      fresh.open(demoText('the-heron'));
      const [kept, anew] = [analyst.report(conditions, []), fresh.report(conditions, [])];
      expect(kept).toEqual(anew);
    }
    expect(analyst.corrected(corrected(rest).marking).notes).toHaveLength(part.notes.length - 1);
    expect(analyst.corrected({})).toBe(part);
  });
  test('the bow at a note, a place that is only tried, and what else there is to say', async () => {
    const note = part.notes[8]!;
    const choices = await analyst.bowChoices(plain, note.id, bars);
    expect(choices.length).toBeGreaterThan(3);
    expect(await analyst.bowChoices(plain, 'nobody', bars)).toEqual([]);
    const first = choices[0]!.strokes.find((stroke) => stroke.noteIds.includes(note.id))!.noteIds[0]!;
    const tried = analyst.triedBow({ ...plain, marking: { [markKey(first, 'bow-to')]: { value: '90 %', origin: 'coach' } } }, bars);
    expect(tried.find((stroke) => stroke.noteIds[0] === first)!.to).toBeGreaterThan(0.75);
    const { openStrings } = analyst.bowOfPassage(plain, bars);
    expect(openStrings.length).toBeGreaterThan(20);
    for (const { strings } of openStrings) for (const string of strings) expect([1, 2, 3, 4]).toContain(string);
  });
  test('a report in steps is the report, with the passage answered in between; marked otherwise meanwhile it is given up', async () => {
    const [fresh, own] = [new Analyst(), new Analyst()];
    for (const each of [fresh, own]) each.open(demoText('the-heron'));
    const marked = (note: number): Conditions => ({ ...plain, marking: { [markKey(part.notes[note]!.id, 'bow')]: { value: 'up', origin: 'coach' } } });
    const [first, second] = [marked(3), marked(20)];
    const outdated = own.reportInSteps(first, []);
    const { notes } = own.near(second, [], bars);
    expect(await outdated).toBeNull();
    const report = await own.reportInSteps(second, []);
    expect(report!.findings).toEqual(fresh.report(second, []).findings);
    expect(report!.fingering!.notes.slice(0, notes.length).map(({ place }) => place.finger)).toEqual(notes.map(({ place }) => place.finger));
    // The same conditions again give nothing up.
    const again = own.reportInSteps(second, []);
    own.near(second, [], bars);
    expect((await again)!.findings).toEqual(report!.findings);
    const finding = report!.findings.find(({ kind }) => kind === 'out-of-tune risk')!;
    const remedies = own.remedies(second, finding);
    own.near(first, [], bars);
    await expect(remedies).rejects.toThrow('meanwhile');
  });
  test('another player, another report', () => {
    const passages = automaticPassages(part);
    const usual = analyst.report(plain, passages);
    const forPia = analyst.report({ ...plain, player: small }, passages);
    expect(forPia.tempo.ceiling!).toBeLessThan(usual.tempo.ceiling!);
    expect(forPia.passages.map((passage) => passage.name)).toEqual(['Opening', 'A']);
  });
  test('a player of an unknown size is taken for a usual adult rather than failing', () => {
    expect(analyst.report({ ...plain, player: { ...small, size: '9/9' } }, []).tempo).toEqual(analyst.report(plain, []).tempo);
  });
  test('whatever fingering of a passage is taken, it is what is planned then: the marks hold it', () => {
    for (const density of ['sparse', 'usual', 'every note'] as const) {
      for (const { way, changes } of analyst.suggestFingering({ ...plain, density }, bars)) {
        const { fingering } = analyst.report({ ...plain, marking: applyChanges({}, changes).marking }, []);
        const planned = new Map(fingering!.notes.map(({ id, place }) => [id, `${place.finger} on ${place.string}`]));
        for (const { id, place } of way.notes) expect(planned.get(id)).toBe(`${place.finger} on ${place.string}`);
      }
    }
  });
  test('what is worth knowing lies in the passage that was asked for', () => {
    const advice = analyst.handAdvice(plain, { fromBar: 0, toBar: 31 });
    expect(advice.length).toBeGreaterThan(3);
    for (const { barIndex, noteIds } of analyst.handAdvice(plain, bars)) {
      expect([barIndex >= 0 && barIndex <= 15, noteIds.length > 0]).toEqual([true, true]);
    }
  });
  test('a remedy that is tried is what the report has once it is taken', async () => {
    const conditions = { ...plain, player: small };
    const findings = analyst.report(conditions, []).findings.filter(({ severity, kind }) => severity > 1 && kind === 'shift late');
    const offered = await Promise.all(findings.map((finding) => analyst.remedies(conditions, finding)));
    const [remedy] = offered.flat().filter(({ kind, changes }) => kind === 'fingering' && changes?.length);
    const { notes, strokes } = analyst.tried(conditions, remedy!.changes!, { fromBar: 0, toBar: part.bars.length - 1 });
    const after = analyst.report({ ...conditions, marking: applyChanges({}, remedy!.changes!).marking }, []);
    expect(notes.map(({ place }) => [place.finger, place.string])).toEqual(after.fingering!.notes.map(({ place }) => [place.finger, place.string]));
    expect(strokes.map(({ direction }) => direction)).toEqual(after.bowing!.strokes.map(({ direction }) => direction));
  });
  test('how it fits a player is what the check for that player says; its tempi are of the marks that were checked last, or there are none', async () => {
    const passages = automaticPassages(part);
    const row = analyst.fit(plain, passages, small)!;
    const checkedFor = { ...plain, player: small };
    analyst.report(checkedFor, passages);
    expect(await analyst.tempi(plain, passages)).toBeNull();
    const tempi = (await analyst.tempi(checkedFor, passages))!;
    expect(row.whole.ceiling).toBe(tempi.tempo.ceiling);
    expect(row.passages.map(({ ceiling }) => ceiling)).toEqual(tempi.passages.map(({ ceiling }) => ceiling));
    expect(analyst.fit(plain, passages, { ...small, size: '9/9' })).toBeNull();
  });
  test('choices for a note, none for one that is not there', () => {
    expect(analyst.choices(plain, part.notes[5]!.id).length).toBeGreaterThan(2);
    expect(analyst.choices(plain, 'nobody')).toEqual([]);
  });
});

test('of divided violins every line has its choices', () => {
  const { document } = demoScore('mill-race-serenade');
  const analyst = new Analyst();
  const { part } = analyst.open(cutPart(document, 'P1'));
  const chord = part.notes.filter((note) => note.barIndex === 33);
  expect(chord).toHaveLength(2);
  for (const note of chord) expect(analyst.choices(plain, note.id).length).toBeGreaterThan(1);
  const report = analyst.report(plain, []);
  expect(chord.every((note) => report.fingering!.notes.some((fingered) => fingered.id === note.id))).toBe(true);
});
