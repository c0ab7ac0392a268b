/** Every constant of the models that a table exports, and the usual players: changed by mistake, it is seen in the record. */
import * as bowTables from '../../core/bow-arm/tables';
import * as checkTables from '../../core/checks/tables';
import * as findingKinds from '../../core/checks/kinds';
import * as handCosts from '../../core/left-hand/costs';
import * as handPreferences from '../../core/left-hand/preferences';
import { shapesOf } from '../../core/left-hand/hand-shapes';
import * as instruments from '../../core/instruments/instrument';
import { handOf, HAND_SIZES, LEVELS, usualPlayer } from '../../core/instruments/player';
import { positionNames, frameStop } from '../../core/instruments/positions';
import { usualBow } from '../../core/bow-arm/bow';
import * as values from '../../core/marking/values';

/** Tables by the name of their file; of what is no plain value (functions, shapes) nothing. */
const TABLES = {
  'bow-arm/tables': bowTables,
  'checks/tables': checkTables,
  'checks/kinds': findingKinds,
  'left-hand/costs': handCosts,
  'left-hand/preferences': handPreferences,
  'instruments/instrument': instruments,
  'marking/values': values,
};

const plain = (value: unknown): string | undefined =>
  typeof value === 'function'
    ? undefined
    : JSON.stringify(value, (_key, inner: unknown) => (inner instanceof Map || inner instanceof Set ? [...inner] : inner));

export const constantsNow = (): Record<string, string[]> => ({
  ...Object.fromEntries(
    Object.entries(TABLES).map(([file, table]) => [
      file,
      Object.entries(table).flatMap(([name, value]) => {
        const said = name.endsWith('Shape') ? undefined : plain(value);
        return said === undefined ? [] : [`${name}: ${said}`];
      }),
    ]),
  ),
  players: instruments.INSTRUMENT_KINDS.flatMap((kind) => [
    ...LEVELS.map((level) => `${kind} ${level}: ${plain({ ...usualPlayer(kind), level })}`),
    ...HAND_SIZES.map((size) => `${kind} ${size} hand: ${plain(handOf(size, kind))}`),
    `${kind} shapes: ${plain(shapesOf(usualPlayer(kind)))}`,
    `${kind} bow: ${plain(usualBow(kind))}`,
    `${kind} positions: ${plain(positionNames(kind))}`,
  ]),
  frames: [plain(Array.from({ length: 18 }, (_, i) => frameStop(i)))!],
});
