import type { StandPart } from '@/workers/server/stand';
import { PencilLayer } from './pencil-layer';
import { ShiftLines } from './shift-lines';
import { handoutName } from './stand-data';
import { GAP, MARGIN, ROW, type StandModel } from './use-stand';

interface Props {
  stand: StandModel;
  page: number;
  onBar(bar: number): void;
  onNote(): void;
}

/** One page: its systems, over each a row for signs of ours. */
export function Page({ stand, page, onBar, onNote }: Props) {
  const { sheet, music, pages, scale, atOnce } = stand;
  const shown = pages[page];
  return (
    <section
      className={`min-w-0 overflow-hidden ${atOnce === 2 ? 'w-1/2 first:border-r first:border-line' : 'w-full'}`}
      style={{ paddingInline: MARGIN.x }}
      aria-label={`page ${page + 1}`}
    >
      {page === 0 && <Heading sheet={sheet} />}
      {shown &&
        music!.systems
          .slice(shown.from, shown.to + 1)
          .map((system, i) => <System key={shown.from + i} stand={stand} system={system} scale={scale} onBar={onBar} onNote={onNote} />)}
    </section>
  );
}

function Heading({ sheet }: { sheet: StandModel['sheet'] }) {
  return (
    <header className="flex items-end justify-between gap-4" style={{ height: MARGIN.heading }}>
      <span className="min-w-0 pb-1">
        <span className="block truncate text-[13px]">{sheet.part}</span>
        <h1 className="truncate text-2xl leading-tight">{sheet.title}</h1>
      </span>
      <span className="min-w-0 pb-1 text-right text-[13px] text-soft">
        {sheet.composer && <span className="block truncate text-ink">{sheet.composer}</span>}
        {handoutName(sheet.number, sheet.madeAt)}
      </span>
    </header>
  );
}

interface SystemProps extends Omit<Props, 'page'> {
  system: StandPart['systems'][number];
  scale: number;
}

function System({ stand, system, scale, onBar, onNote }: SystemProps) {
  const { widthPx, heightPx, svg, bars, barIndices } = system;
  const changed = stand.which === 'latest' ? new Map(stand.sheet.changes?.bars.map((each) => [each.barIndex, each]) ?? []) : new Map<number | null, never>();
  const numbers = new Map(stand.music!.notes.map((note, i) => [note, i + 1]));
  return (
    <div style={{ width: widthPx * scale, height: (heightPx + ROW + GAP) * scale }}>
      <div className="relative origin-top-left" style={{ width: widthPx, height: heightPx + ROW, transform: `scale(${scale})` }}>
        <div className="engraving absolute inset-x-0" style={{ top: ROW }}>
          <Picture svg={svg} />
        </div>
        <ShiftLines shifts={stand.music!.shifts} system={system} />
        <PencilLayer stand={stand} system={system} />
        {barIndices.map((bar, i) => {
          const [range, next] = [bars[i], barIndices[i + 1] ?? system.lastBar + 1];
          if (!range) return null;
          const notes = stand.music!.notes.filter((note) => note.barIndex >= bar && note.barIndex < next);
          const isChanged = Array.from({ length: next - bar }, (_, k) => bar + k).some((each) => changed.has(each));
          const answered = stand.said.answers.filter((answer) => answer.bar !== null && answer.bar >= bar && answer.bar < next && !answer.isSettled);
          return (
            <div key={bar} className="absolute inset-y-0" style={{ left: range.from, width: range.to - range.from }}>
              {isChanged && <span className="pointer-events-none absolute inset-x-0.5 top-[18px] bottom-0 rounded-md border-2 border-rosin" />}
              <button
                type="button"
                data-bar={bar}
                aria-label={`Bar ${stand.music!.labels[bar]}${isChanged ? ', changed' : ''}: say something about it`}
                className="absolute inset-x-1 bottom-0 h-5 cursor-pointer rounded opacity-0 hover:opacity-100 focus-visible:opacity-100"
                onClick={() => onBar(bar)}
              >
                <span className="mx-auto block h-1 w-6 rounded-full bg-line" />
              </button>
              <span className="absolute top-0 left-0 flex gap-1">
                {notes.map((note) => (
                  <button
                    key={`${note.target}|${note.kind}`}
                    type="button"
                    aria-label={`Note ${numbers.get(note)}, ${note.at}: ${note.text}`}
                    title={note.text}
                    className="min-w-[18px] cursor-pointer rounded-full border border-spruce bg-sheet px-0.5 text-[12px] leading-[15px] text-spruce"
                    onClick={onNote}
                  >
                    {numbers.get(note)}
                  </button>
                ))}
                {answered.length > 0 && (
                  <span
                    title={answered.map(({ kind, words }) => words || kind).join('\n')}
                    className="rounded-sm bg-plum-pale px-1 text-[12px] leading-[17px] text-plum"
                  >
                    {answered[0]!.kind === 'words' ? 'said' : answered[0]!.kind}
                  </span>
                )}
              </span>
            </div>
          );
        })}
      </div>
    </div>
  );
}

function Picture({ svg }: { svg: string }) {
  return <div dangerouslySetInnerHTML={{ __html: svg }} />;
}
