'use client';

import { Check, ChevronDown } from 'lucide-react';
import { Menu, MenuItem, MenuLink, MenuRule } from '@/ui/kit/menu';
import { useDesk } from '../model/desk';

/** The parts of the piece, and what is known about this one. */
export function PartMenu() {
  const { data, setDialog, view, focus, passage } = useDesk();
  const bar = view.print?.bars[focus?.barIndex ?? passage.fromBar]?.label ?? '';
  return (
    <Menu
      className="inline-flex min-h-6 min-w-0 cursor-pointer items-center gap-1 rounded text-left font-semibold text-ink"
      label={`Part: ${data.part.name}. Choose another part`}
      trigger={
        <>
          <span className="min-w-0 truncate">{data.part.name}</span> <ChevronDown size={14} className="shrink-0" aria-hidden />
        </>
      }
    >
      {data.siblings.map((part) => (
        <MenuLink key={part.id} href={`/desk/${part.id}`}>
          {part.name}
          {part.id === data.part.id && <Check size={14} aria-hidden />}
        </MenuLink>
      ))}
      <MenuRule />
      {data.siblings.length > 1 && <MenuLink href={`/score/${data.pieceId}?bar=${encodeURIComponent(bar)}`}>All parts side by side</MenuLink>}
      <MenuLink href={`/hand-out/${data.pieceId}`}>Hand out …</MenuLink>
      <MenuItem onSelect={() => setDialog('part')}>About this part …</MenuItem>
    </Menu>
  );
}
