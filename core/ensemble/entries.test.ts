import { demoScore, demoText } from '../../tests/support/demo';
import { realScores } from '../../tests/support/real-scores';
import { parseCue } from '../score/cue-text';
import { letterIndex, midiOf, pitchName } from '../score/pitch';
import type { Part } from '../score/score';
import { readScoreBytes } from '../formats/read';
import { corrected } from '../formats/musicxml/corrected';
import { applyEdits } from '../formats/musicxml/edits';
import { readMusicXml, type ReadScore } from '../formats/musicxml/read';
import { linesOf } from '../instruments/lines';
import { applyChanges } from '../marking/change';
import { makeScore } from '../testing/make';
import { cueChanges, cuesBefore, entriesOf, hasCue, withoutCue, type Entry } from './entries';

const { score } = demoScore('mill-race-serenade');
const asOther = (part: Part) => ({ id: part.id, name: part.name, part });
const othersOf = (parts: readonly Part[], own: Part) => parts.filter((part) => part !== own).map(asOther);
const labelOf = (part: Part, { barIndex }: Pick<Entry, 'barIndex'>) => part.bars[barIndex]!.label;

describe('entries after a silence', () => {
  const violin = score.parts[0]!;
  const entries = entriesOf(violin, othersOf(score.parts, violin));
  test('each with its silence as it is counted, and what is heard before it', () => {
    expect(entries.map((entry) => [labelOf(violin, entry), entry.silence.bars])).toEqual([
      ['53', 4],
      ['66', 1],
    ]);
    expect(entries[0]!.cues[0]).toMatchObject({ bar: '52', begins: false });
  });
  test('nothing is an entry without an empty bar; the beginning of a part is one where it rests first', () => {
    const { part } = makeScore('violin', 'r/4 A4/4 r/2 B4/2 | C5/4');
    expect(entriesOf(part, []).map(({ barIndex, silence, cues }) => [barIndex, silence.bars, cues])).toEqual([[1, 1, []]]);
  });
  test('the tune goes before a figure that begins as late', () => {
    const { part: own } = makeScore('violin', 'r/4 r/4 A4/4');
    const phrase = makeScore('viola', 'r/4 r/1 D4 E4 F4 | G4/4').part;
    const others = ['a', 'b'].map((id) => ({ id, name: id, part: phrase }));
    const first = own.notes[0]!;
    expect(cuesBefore(first, own, others, (id) => id === 'b')[0]!.partId).toBe('b');
    expect(cuesBefore(first, own, others, (id) => id === 'a')[0]!.partId).toBe('a');
    expect(cuesBefore(first, own, others)[0]).toMatchObject({ bar: '2', beat: 2, pitch: 'D4', begins: true });
  });
});

/** Prints the best cue before each entry of a part, and reads the part anew. */
function printed(read: ReadScore, own: Part, all: readonly Part[]) {
  const others = othersOf(all, own);
  const taken = new Set<string>();
  const done = entriesOf(own, others).flatMap((entry) => {
    const [cue] = entry.cues;
    const changes = cue
      ? cueChanges(
          cue,
          entry,
          own,
          {},
          all.find(({ id }) => id === cue.partId)!,
        )
      : [];
    // Two entries within two bars share the room for one cue.
    if (changes.length === 0 || changes.some(({ target }) => taken.has(target))) return [];
    changes.forEach(({ target }) => taken.add(target));
    return [{ entry, cue: cue!, changes }];
  });
  const { marking } = applyChanges(
    {},
    done.flatMap(({ changes }) => changes),
  );
  const made = corrected(read, { [own.id]: marking });
  return { done, marking, after: made.read.score.parts.find(({ id }) => id === own.id)!, unplaced: made.unplaced[own.id] ?? [] };
}

/** What of another part is heard from the cue's beginning to the entry: onset, end and pitch class. */
const heard = (of: Part, from: number, to: number) =>
  linesOf(of)[0]!
    .events.filter(({ grace, onset }) => !grace && onset >= from && onset < to)
    .map(({ onset, end, notes }) => [onset, Math.min(end, to), midiOf(notes.at(-1)!.pitch) % 12]);

/** The small notes of a part, tied ones as one. */
function small(part: Part) {
  const notes: number[][] = [];
  for (const note of part.notes) {
    if (!note.cue) continue;
    const last = notes.at(-1);
    const [end, pitch] = [note.onset + note.duration, midiOf(note.pitch) % 12];
    if (last && note.tiedFrom && last[1] === note.onset && last[2] === pitch) last[1] = end;
    else notes.push([note.onset, end, pitch]);
  }
  return notes;
}

describe('a cue in the part', () => {
  const all = [
    ...(['mill-race-serenade', 'evening-barge'] as const).map((name) => [name, demoScore(name)] as const),
    ...realScores(/(Actor|MozartTrio|Dichter|Telemann).*\.xml$/).map(([name, bytes]) => {
      const read = readScoreBytes(bytes);
      if (!read.ok) throw new Error(read.problem.what);
      return [name, read.value] as const;
    }),
  ];
  test('is what is heard, small, up to the entry; every other note is as it was (demo and real scores)', () => {
    let count = 0;
    for (const [, read] of all) {
      for (const own of read.score.parts) {
        const { done, after, unplaced } = printed(read, own, read.score.parts);
        if (done.length === 0) continue;
        expect(unplaced).toEqual([]);
        const wanted = done.flatMap(({ cue, entry }) =>
          heard(
            read.score.parts.find(({ id }) => id === cue.partId)!,
            cue.from,
            own.notes.find(({ id }) => id === entry.noteId)!.onset,
          ),
        );
        const before = small(own);
        expect(small(after).filter((note) => !before.some((other) => String(other) === String(note)))).toEqual(wanted);
        const plain = (part: Part) => part.notes.filter(({ cue }) => !cue).map(({ source: _, ...note }) => note);
        expect(plain(after)).toEqual(plain(own));
        count += done.length;
      }
    }
    expect(count).toBeGreaterThan(25);
  });

  test('is said once by name, lies near the staff, and is taken away again', () => {
    const bass = score.parts[4]!;
    const { part: rests } = makeScore('bass', 'r/4 r/4 A2/4');
    const high = makeScore('violin', 'r/4 r/1 D6 E6 F6 | G5/4').part;
    const entry = entriesOf(rests, [asOther(high)])[0]!;
    const made = cueChanges(
      entry.cues[0]!,
      entry,
      { ...rests, clefs: [{ tick: 0, staff: 1, clef: { sign: 'F', line: 4, octave: 0 } }], soundsHalfSteps: -12 },
      {},
      high,
    );
    const said = parseCue(made[0]!.to!.value)!;
    expect(said.name).toBe('violin, 3 octaves lower');
    const letters = said.events.flatMap(({ heads }) => heads.map(({ pitch }) => letterIndex(pitch)));
    expect(Math.min(...letters)).toBeLessThanOrEqual(22 + 10);
    expect(said.events.map(({ heads }) => heads.map(({ pitch }) => pitchName(pitch)[0]).join())).toEqual(['', 'D', 'E', 'F']);
    const { marking } = applyChanges({}, made);
    expect(hasCue(entry, marking)).toBe(true);
    const gone = applyChanges(marking, withoutCue(entry, rests, marking)).marking;
    expect([gone, hasCue(entry, gone)]).toEqual([{}, false]);
    expect(hasCue(entry, {})).toBe(false);
    expect(bass.instrument).toBe('bass');
  });

  test('a rhythm that no note value says is no cue; a bar that is not there neither', () => {
    const { part: own } = makeScore('violin', 'r/4 A4/4');
    const odd = makeScore('viola', 'r/1 D4/.7 E4/1.3 F4 | G4/4').part;
    const entry = { noteId: own.notes[0]!.id, barIndex: 1 };
    const first = linesOf(odd)[0]!.events[0]!;
    expect(cueChanges({ partId: 'x', name: 'x', from: first.onset }, entry, own, {}, odd)).toEqual([]);
    expect(cueChanges({ partId: 'x', name: 'x', from: 0 }, { noteId: 'nothing', barIndex: 1 }, own, {}, odd)).toEqual([]);
    const read = demoScore('mill-race-serenade');
    const lost = { 'p:9000:0|cue': { value: 'Violin I | A4/4', origin: 'coach' as const } };
    expect(corrected(read, { P1: lost }).unplaced).toEqual(corrected(read, { P1: {} }).unplaced);
  });

  test('the file says it as the format has it: small, without a sounding tie, finer divisions for its bar alone', () => {
    const text = demoText('mill-race-serenade');
    const read = readMusicXml(text);
    if (!read.ok) throw new Error(read.problem.what);
    const own = read.value.score.parts[0]!;
    const { after } = printed(read.value, own, read.value.score.parts);
    expect(after.notes.filter(({ cue }) => cue).length).toBeGreaterThan(3);
    expect(after.bars.map(({ ticks }) => ticks)).toEqual(own.bars.map(({ ticks }) => ticks));
    expect(applyEdits('abc', [])).toBe('abc');
  });
});

test('a cue as text', () => {
  expect(parseCue('Violin I | x/2 A4/4 B4/4')!.events.map(({ what }) => what)).toEqual(['gap', 'note', 'note']);
  for (const bad of ['', 'Violin I', '| A4/4', 'Violin I | nothing', `${'x'.repeat(61)} | A4/4`, 'V | 1: A4/4; 2: B4/4']) expect(parseCue(bad)).toBeNull();
});
