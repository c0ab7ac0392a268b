'use client';

import { ChevronDown, Download } from 'lucide-react';
import { buttonClass } from '@/ui/kit/button';
import { useMarkedFile } from '@/ui/kit/marked-file';
import { Menu, MenuDownload, MenuItem } from '@/ui/kit/menu';
import type { Problem } from '@/ui/kit/problem';
import { useUnsent } from '@/ui/unsent/browser';
import { saveState } from '@/ui/unsent/state';
import { useDesk } from '../model/desk';

const NOT_SAVED: Problem = {
  place: null,
  what: 'Your last marks are not saved yet, and would be missing in the file.',
  remedy: 'Wait until it says “saved”, then take the file.',
};

/** The marked part by one click, everything else from the menu beside it. With a player who has own marks the file has those. */
export function TakeOut() {
  const { data, own, player: chosen, setProblem } = useDesk();
  const player = own.differing ? chosen : null;
  const state = saveState(useUnsent());
  const markedFile = useMarkedFile();
  const marked = `/api/pieces/${data.pieceId}/marked`;
  const shown = `${marked}?part=${data.part.id}${player ? `&player=${player.id}` : ''}`;
  const files: ReadonlyArray<[href: string, label: string]> = [
    ...(player ? [[`${marked}?part=${data.part.id}`, 'Marked part, as everybody has it'] as [string, string]] : []),
    [`${marked}?part=${data.part.id}&words=yes`, 'Marked part, notes as words over the staff'],
    [`${marked}?part=${data.part.id}&compressed=yes`, 'Marked part, compressed (.mxl)'],
    [marked, 'Marked score, all parts'],
    [`${marked}?words=yes`, 'Marked score, notes as words over the staff'],
  ];
  const others: ReadonlyArray<[href: string, label: string]> = [
    [`/api/parts/${data.part.id}/midi`, 'MIDI, to listen elsewhere'],
    [`/api/parts/${data.part.id}/marks`, 'The marks alone (JSON)'],
  ];
  /** False, and said, while something is not saved yet that would be missing in a file. */
  function mayTake(): boolean {
    if (state !== 'saved') setProblem(NOT_SAVED);
    return state === 'saved';
  }
  const take = (href: string) => void (mayTake() && markedFile.take(href));
  return (
    <span className="flex">
      {markedFile.shown}
      <a
        className={buttonClass({ className: 'rounded-r-none' })}
        href={shown}
        download
        onClick={(event) => {
          event.preventDefault();
          take(shown);
        }}
        title="The file as it came, with these marks"
      >
        <Download size={15} aria-hidden /> Marked part{player ? ` for ${player.name}` : ''}
      </a>
      <Menu
        className={buttonClass({ className: 'rounded-l-none border-l-0 px-1.5' })}
        label="Other files to take out"
        align="end"
        trigger={<ChevronDown size={14} aria-hidden />}
      >
        {files.map(([href, label]) => (
          <MenuItem key={href} onSelect={() => take(href)}>
            {label}
          </MenuItem>
        ))}
        {others.map(([href, label]) => (
          <MenuDownload key={href} href={href} mayTake={mayTake}>
            {label}
          </MenuDownload>
        ))}
      </Menu>
    </span>
  );
}
