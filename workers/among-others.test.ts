/** A part among the others of its piece, asked as the Desk asks. */
import { PLAIN_CONDITIONS } from '../tests/support/conditions';
import { demoScore } from '../tests/support/demo';
import { partDocument } from '../core/formats/musicxml/part-document';
import { NOTHING_TOLD } from '../core/instruments/as-told';
import { applyChanges } from '../core/marking/change';
import { pitchName } from '../core/score/pitch';
import { Analyst } from './analyst';
import { wantedTempi } from './among-others';

const { document, score } = demoScore('mill-race-serenade');
const musicOf = (id: string) => partDocument(document, id, score.timeLine);
const others = (tempi: Readonly<Record<string, number>> = {}) =>
  score.parts.slice(1).map(({ id, name }) => ({ id, name, markingId: id, music: musicOf(id), marking: {}, told: NOTHING_TOLD, tempo: tempi[id] ?? null }));

describe('the first violin', () => {
  const analyst = new Analyst();
  const { part } = analyst.open(musicOf('P1'));
  analyst.join(others({ P4: 100 }));
  const noteIn = (bar: string, pitch: string) => part.notes.find((note) => part.bars[note.barIndex]!.label === bar && pitchName(note.pitch) === pitch)!;

  test('knows who has the tune, what its note is, and whom to tune to', () => {
    const here = analyst.around(PLAIN_CONDITIONS, noteIn('33', 'B4').id)!;
    expect(here).toMatchObject({ role: { role: 'held' }, tune: ['Viola'], chord: 'G major' });
    expect(analyst.around(PLAIN_CONDITIONS, 'nothing')).toBeNull();
  });
  test('has entries, and a cue that stands small in the part once it is written', () => {
    const entry = analyst.entries(PLAIN_CONDITIONS).find(({ barIndex }) => part.bars[barIndex]!.label === '53')!;
    expect(entry.silence.bars).toBe(4);
    const changes = analyst.cue(PLAIN_CONDITIONS, entry.noteId, 0);
    const { marking } = applyChanges({}, changes);
    const small = analyst.corrected(marking).notes.filter(({ cue }) => cue);
    expect(small.length).toBeGreaterThan(1);
    expect(small.every(({ barIndex }) => barIndex === entry.barIndex - 1)).toBe(true);
    expect(analyst.cue(PLAIN_CONDITIONS, entry.noteId, 9)).toEqual([]);
    expect(analyst.cue(PLAIN_CONDITIONS, 'nothing', 0)).toEqual([]);
  });
  test('knows the tempo of the others, and who departs from it', () => {
    expect(analyst.wantedTempi(PLAIN_CONDITIONS)).toEqual({ own: 112, others: 112, departing: [{ name: 'Cello', tempo: 100 }] });
    expect(analyst.wantedTempi({ ...PLAIN_CONDITIONS, tempo: 80 })).toMatchObject({ own: 80, others: 112 });
    expect(wantedTempi(80, [])).toBeNull();
  });
});
