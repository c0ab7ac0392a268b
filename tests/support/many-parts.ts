/** A score of one part as a score of many: each is called like it, with its number. */
export function partsSide(text: string, count: number): string {
  const named = /<score-part id="([^"]+)">[\s\S]*?<\/score-part>/.exec(text)!;
  const id = named[1]!;
  const body = new RegExp(`<part id="${id}">[\\s\\S]*?</part>`).exec(text)![0];
  const each = (make: (i: number) => string) => Array.from({ length: count }, (_, i) => make(i + 1)).join('\n');
  const again = (of: string, i: number) => of.replaceAll(`"${id}`, `"${id}x${i}`).replace(/<part-name>([^<]*)/, `<part-name>$1 ${i}`);
  return text
    .replace(
      named[0],
      each((i) => again(named[0], i)),
    )
    .replace(
      body,
      each((i) => again(body, i)),
    );
}
