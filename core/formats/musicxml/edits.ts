/** Edits of a text by offset: everything that is not edited stays as it came. */
export interface TextEdit {
  start: number;
  /** Equal to start for an insertion. */
  end: number;
  text: string;
}

/** Applies edits to the range [from, to) of a text; edits outside it are left out. */
export function applyEdits(text: string, edits: readonly TextEdit[], from = 0, to = text.length): string {
  const inside = edits.filter((edit) => edit.start >= from && edit.end <= to);
  inside.sort((a, b) => a.start - b.start || a.end - b.end);
  let result = '';
  let at = from;
  for (const edit of inside) {
    if (edit.start < at) throw new Error(`edits overlap at offset ${edit.start}`);
    result += text.slice(at, edit.start) + edit.text;
    at = edit.end;
  }
  return result + text.slice(at, to);
}
