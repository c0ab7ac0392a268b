// The deliberate faults of `npm run mutants`: where a file's constants, comparisons and branches can be made wrong.
import { createHash } from 'node:crypto';
import ts from 'typescript';

const SWAPPED = {
  '<': '<=',
  '<=': '<',
  '>': '>=',
  '>=': '>',
  '===': '!==',
  '!==': '===',
  '+': '-',
  '-': '+',
  '*': '/',
  '/': '*',
  '&&': '||',
  '||': '&&',
};
const KIND_OF_OPERATOR = (token) => (/^[<>]|^[!=]==/.test(token) ? 'comparison' : /&&|\|\|/.test(token) ? 'branch' : 'arithmetic');

/** `text` with one of its places made wrong. */
export const withMutant = (text, { start, end, to }) => text.slice(0, start) + to + text.slice(end);

/** Every mutant of a source file: {file, start, end, from, to, kind, line, key}; `key` stays the same while the line and those like it do. */
export function mutantsOf(file, text) {
  const tree = ts.createSourceFile(file, text, ts.ScriptTarget.ES2022, true);
  const found = [];
  const add = (node, kind, to, from = node.getText(tree)) => {
    const start = node.getStart(tree);
    found.push({ file, start, end: start + from.length, from, to, kind, line: tree.getLineAndCharacterOfPosition(start).line + 1 });
  };
  visit(tree, tree, add);
  const seen = new Map();
  for (const mutant of found) {
    const line = text.split('\n')[mutant.line - 1].trim();
    const same = `${file}\n${line}\n${mutant.from}\n${mutant.to}`;
    const nth = seen.get(same) ?? 0;
    seen.set(same, nth + 1);
    Object.assign(mutant, { text: line, key: createHash('sha1').update(`${same}\n${nth}`).digest('hex').slice(0, 10) });
  }
  return found;
}

function visit(node, tree, add) {
  if (ts.isTypeNode(node) || ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node) || ts.isImportDeclaration(node)) return;
  if (ts.isThrowStatement(node)) return;
  if (ts.isNumericLiteral(node)) number(node, add);
  else if (ts.isBinaryExpression(node)) operator(node, tree, add);
  else if (ts.isIfStatement(node)) {
    add(node.expression, 'branch', `(${node.expression.getText(tree)}) && false`);
    add(node.expression, 'branch', `(${node.expression.getText(tree)}) || true`);
  } else if (ts.isConditionalExpression(node)) {
    add(node.condition, 'branch', `!(${node.condition.getText(tree)})`);
  } else if (ts.isPropertyAccessExpression(node) && /^Math\.(min|max)$/.test(node.getText(tree))) {
    add(node, 'comparison', node.name.text === 'min' ? 'Math.max' : 'Math.min');
  }
  ts.forEachChild(node, (child) => visit(child, tree, add));
}

/** Numbers of indices and of `slice` say where, not how much: they are left alone. */
function number(node, add) {
  const place = ts.isPrefixUnaryExpression(node.parent) ? node.parent.parent : node.parent;
  if (ts.isElementAccessExpression(place) || (ts.isCallExpression(place) && /\.(slice|at|padStart|toFixed)$/.test(place.expression.getText()))) return;
  const value = Number(node.text);
  add(node, 'constant', value === 0 ? '1' : String(value * 2));
  if (value !== 0) add(node, 'constant', String(value / 2));
}

function operator(node, tree, add) {
  const token = node.operatorToken.getText(tree);
  if (!(token in SWAPPED)) return;
  const sentence = (side) => ts.isStringLiteralLike(side) || ts.isTemplateExpression(side);
  if (token === '+' && (sentence(node.left) || sentence(node.right))) return;
  add(node.operatorToken, KIND_OF_OPERATOR(token), SWAPPED[token], token);
}

/** `count` mutants, drawn by chance that only `seed` decides, with a third of them from the tables and as many of each kind as can be. */
export function sample(all, count, seed, isTable) {
  const order = (mutant) => createHash('sha1').update(`${seed} ${mutant.key}`).digest('hex');
  const drawn = [];
  const places = new Set();
  const draw = (from, wanted) => {
    for (const mutant of from
      .map((m) => [order(m), m])
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([, m]) => m)) {
      if (wanted <= 0) return;
      const place = `${mutant.file}:${mutant.start}`;
      if (places.has(place)) continue;
      places.add(place);
      drawn.push(mutant);
      wanted -= 1;
    }
  };
  draw(
    all.filter((m) => isTable(m.file)),
    Math.round(count / 3),
  );
  const kinds = ['constant', 'comparison', 'branch', 'arithmetic'];
  kinds.forEach((kind, i) =>
    draw(
      all.filter((m) => !isTable(m.file) && m.kind === kind),
      Math.round((count - drawn.length) / (kinds.length - i)),
    ),
  );
  return drawn;
}
