'use client';

import { IconButton } from '@/ui/kit/icon-button';
import { ChevronLeft, ChevronRight, Maximize2, RotateCw, Trash2, ZoomIn, ZoomOut } from 'lucide-react';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { TransformComponent, TransformWrapper, type ReactZoomPanPinchRef } from 'react-zoom-pan-pinch';
import { openPdf, type Pdf } from './pdf';
import { viewPlace, type Paper } from './papers';

interface View {
  page: number;
  /** Quarter turns clockwise. */
  turns: number;
  scale: number;
  x: number;
  y: number;
}

const FIRST_VIEW: View = { page: 1, turns: 0, scale: 1, x: 0, y: 0 };

function viewOf(key: string): View {
  try {
    return { ...FIRST_VIEW, ...(JSON.parse(window.localStorage.getItem(viewPlace(key)) ?? '{}') as Partial<View>) };
  } catch {
    return FIRST_VIEW;
  }
}

type Shown = { is: 'loading' } | { is: 'picture'; url: string } | { is: 'pdf'; pdf: Pdf } | { is: 'not shown'; why: string };

/** Width of a page that is drawn, in pixels: enough for small notes when it is looked at closely. */
const PAGE_PX = 2400;

/** One sheet: moved by dragging, nearer and farther by wheel, pinch or buttons, by arrow keys and + and - while it has the focus. */
export function PaperView({ paper, onRemove }: { paper: Paper; onRemove(): void }) {
  const [first] = useState(() => viewOf(paper.key));
  const [view, setView] = useState(first);
  const [shown, setShown] = useShown(paper);
  const canvas = useRef<HTMLCanvasElement>(null);
  const controls = useRef<ReactZoomPanPinchRef>(null);
  const pages = shown.is === 'pdf' ? shown.pdf.pages : 1;
  const page = Math.min(view.page, pages);

  function remember(change: Partial<View>) {
    setView((before) => {
      const next = { ...before, ...change };
      try {
        window.localStorage.setItem(viewPlace(paper.key), JSON.stringify(next));
      } catch {
        // Where the browser keeps nothing it is where it was until the page is left.
      }
      return next;
    });
  }

  useEffect(() => {
    if (shown.is === 'pdf' && canvas.current) void shown.pdf.draw(page, canvas.current, PAGE_PX).catch(() => undefined);
  }, [shown, page]);

  const upright = view.turns % 2 === 0;
  const turned = { rotate: `${view.turns * 90}deg`, ...(upright ? {} : { scale: '0.75' }) };
  return (
    <section aria-label={`Sheet: ${paper.name}`} className="grid min-h-0 grid-rows-[auto_1fr] gap-1">
      <Tools
        name={paper.name}
        page={page}
        pages={pages}
        zoom={controls}
        onPage={(next) => remember({ page: next })}
        onTurn={() => remember({ turns: (view.turns + 1) % 4 })}
        onRemove={onRemove}
      />
      <div className="min-h-40 overflow-hidden rounded-xl border border-line bg-line/40">
        {shown.is === 'loading' && <p className="p-4 text-[13px] text-soft">Opening {paper.name} …</p>}
        {shown.is === 'not shown' && (
          <p role="alert" className="p-4 text-[13px] text-plum">
            {shown.why}
          </p>
        )}
        {(shown.is === 'picture' || shown.is === 'pdf') && (
          <TransformWrapper
            ref={controls}
            initialScale={first.scale}
            initialPositionX={first.x}
            initialPositionY={first.y}
            minScale={0.5}
            maxScale={12}
            centerOnInit={false}
            doubleClick={{ mode: 'toggle', step: 2 }}
            keyboard={{ disabled: false, panStep: 60, zoomStep: 0.4 }}
            onTransform={(_, { scale, positionX, positionY }) => remember({ scale, x: positionX, y: positionY })}
          >
            <TransformComponent wrapperStyle={{ width: '100%', height: '100%' }} contentStyle={{ width: '100%' }}>
              {shown.is === 'picture' ? (
                // A file that the coach chose, in this browser: there is nothing that could be optimised.
                // eslint-disable-next-line @next/next/no-img-element
                <img
                  src={shown.url}
                  alt={`The sheet ${paper.name}`}
                  draggable={false}
                  onError={() => setShown(damaged(paper))}
                  className="block w-full"
                  style={turned}
                />
              ) : (
                <canvas ref={canvas} role="img" aria-label={`The sheet ${paper.name}, page ${page}`} className="block w-full bg-white" style={turned} />
              )}
            </TransformComponent>
          </TransformWrapper>
        )}
      </div>
    </section>
  );
}

interface ToolsProps {
  name: string;
  page: number;
  pages: number;
  zoom: RefObject<ReactZoomPanPinchRef | null>;
  onPage(page: number): void;
  onTurn(): void;
  onRemove(): void;
}

function Tools({ name, page, pages, zoom, onPage, onTurn, onRemove }: ToolsProps) {
  return (
    <div className="flex flex-wrap items-center gap-1">
      <span className="min-w-0 grow truncate text-[13px] text-soft" title={name}>
        {name}
      </span>
      {pages > 1 && (
        <>
          <IconButton className="px-1.5" label="Page before" disabled={page <= 1} onClick={() => onPage(page - 1)}>
            <ChevronLeft size={15} />
          </IconButton>
          <span className="text-[13px]" aria-live="polite">
            page {page} of {pages}
          </span>
          <IconButton className="px-1.5" label="Next page" disabled={page >= pages} onClick={() => onPage(page + 1)}>
            <ChevronRight size={15} />
          </IconButton>
        </>
      )}
      <IconButton className="px-1.5" label="Farther" onClick={() => zoom.current?.zoomOut(0.5)}>
        <ZoomOut size={15} />
      </IconButton>
      <IconButton className="px-1.5" label="Nearer" onClick={() => zoom.current?.zoomIn(0.5)}>
        <ZoomIn size={15} />
      </IconButton>
      <IconButton className="px-1.5" label="As wide as there is room" onClick={() => zoom.current?.resetTransform()}>
        <Maximize2 size={15} />
      </IconButton>
      <IconButton className="px-1.5" label="Turn" onClick={onTurn}>
        <RotateCw size={15} />
      </IconButton>
      <IconButton className="px-1.5" label={`Take ${name} away`} onClick={onRemove}>
        <Trash2 size={15} />
      </IconButton>
    </div>
  );
}

const damaged = ({ name }: Paper): Shown => ({
  is: 'not shown',
  why: `${name} cannot be shown: the file is damaged, or not what its name says. It is kept as it came.`,
});

function useShown(paper: Paper): [Shown, (shown: Shown) => void] {
  const [shown, setShown] = useState<Shown>({ is: 'loading' });
  useEffect(() => {
    let gone = false;
    let close = () => undefined as void;
    void (async () => {
      try {
        const blob = await paper.load();
        const head = new TextDecoder('latin1').decode(await blob.slice(0, 5).arrayBuffer());
        const isPdf = head === '%PDF-';
        const url = isPdf ? '' : URL.createObjectURL(blob);
        const next: Shown = isPdf ? { is: 'pdf', pdf: await openPdf(await blob.arrayBuffer()) } : { is: 'picture', url };
        close = () => (next.is === 'pdf' ? next.pdf.close() : URL.revokeObjectURL(url));
        if (gone) close();
        else setShown(next);
      } catch (error) {
        const locked = (error as Error).name === 'PasswordException';
        if (gone) return;
        const why = `${paper.name} is locked with a password. Save it without one, then lay it here again.`;
        setShown(locked ? { is: 'not shown', why } : damaged(paper));
      }
    })();
    return () => {
      gone = true;
      close();
    };
  }, [paper]);
  return [shown, setShown];
}
