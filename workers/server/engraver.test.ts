/** The engraver itself is an ES module and runs in tests/database; here is what is read from its pictures. */
import { readSystem } from './picture';

const svg = (inner: string) => `<svg width="720px" height="100px" id="x">
<desc>Engraved by something</desc>
<svg class="definition-scale" color="black" viewBox="0 0 14400 2000"><g class="page-margin" transform="translate(200, 100)">${inner}</g></svg></svg>`;
const note = (id: string, x: number, y: number) =>
  `<g id="${id}" class="note"><g class="notehead"><use href="#E0A4" transform="translate(${x}, ${y}) scale(0.72, 0.72)" /></g></g>`;

test('note heads are placed in px, margins included', () => {
  const { heads, widthPx, heightPx } = readSystem(svg(note('n-P1-0-1-0-A4-0', 1800, 900) + note('n-P1-0-1-12-B4-0', 3800, 800)));
  expect([widthPx, heightPx]).toEqual([720, 100]);
  expect(heads['n-P1-0-1-0-A4-0']).toEqual({ x: 105.7, y: 50 });
  expect(heads['n-P1-0-1-12-B4-0']!.x - heads['n-P1-0-1-0-A4-0']!.x).toBeCloseTo(100, 6);
});

test('bars begin and end where their staves do; a second staff of the same bar counts once', () => {
  const staff = (from: number, to: number) => `<g class="staff">\n<path d="M${from} 500 L${to} 500" /></g>`;
  expect(readSystem(svg(staff(0, 4000) + staff(0, 4000) + staff(4000, 9000))).bars).toEqual([
    { from: 10, to: 210 },
    { from: 210, to: 460 },
  ]);
});

test("the engraver's note about itself is left out, ids of other things are no notes", () => {
  const system = readSystem(svg('<g id="n-P1-x" class="stem"><path d=""/></g>'));
  expect(system.svg).not.toContain('<desc>');
  expect(system.heads).toEqual({});
});

test('a picture of another kind is refused', () => expect(() => readSystem('<svg/>')).toThrow(/unknown/));
